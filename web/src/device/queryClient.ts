import { QueryClient } from '@tanstack/react-query';
import { persisterFn, twoWeeks } from './persist';
import { ApiProblem } from '../api/client';

export const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      // What was read is kept for the bench without a network.
      gcTime: twoWeeks,
      persister: persisterFn,
      // What is kept is brought back without asking whether there is a network.
      networkMode: 'offlineFirst',
      retry: (count, error) => count < 2 && !(error instanceof ApiProblem && error.status >= 400),
    },
    mutations: { networkMode: 'always' },
  },
});
