import { QueryClient } from '@tanstack/react-query';
import { ApiProblem } from './client';

const twoWeeks = 14 * 24 * 3600_000;

export const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      // What was read is kept for the bench without a network.
      gcTime: twoWeeks,
      retry: (count, error) => count < 2 && !(error instanceof ApiProblem && error.status >= 400),
    },
    mutations: { networkMode: 'always' },
  },
});
