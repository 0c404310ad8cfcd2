import { QueryClient } from '@tanstack/react-query';
import { persisterFn, twoWeeks } from './persist';
import { quiet } from './quiet';
import { askedAnew } from '../api/again';
import { ApiProblem } from '../api/client';

/** What is shown already is asked for anew once the page is quiet. */
const kept: typeof persisterFn = (ask, context, query) => {
  askedAnew(query.queryHash);
  return persisterFn(
    async (c) => {
      if (query.state.data !== undefined) await quiet();
      return ask(c);
    },
    context,
    query,
  );
};

export const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      // What was read is kept for the bench without a network.
      gcTime: twoWeeks,
      persister: kept,
      // What is kept is brought back without asking whether there is a network.
      networkMode: 'offlineFirst',
      retry: (count, error) => count < 2 && !(error instanceof ApiProblem && error.status >= 400),
    },
    mutations: { networkMode: 'always' },
  },
});
