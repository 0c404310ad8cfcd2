import { hashKey, type QueryClient, type QueryKey } from '@tanstack/react-query';
import { ApiProblem, unwrap } from './client';

/** What the answers that this screen holds were worked out of, as the server names it, by the hash of their query. */
export const answerTags = new Map<string, string>();

/**
 * Which question of each query was begun last: the answer to an earlier one is thrown away when it comes, and its tag with it. A tag that was kept without
 * its answer would have the server say that what is here is still so.
 */
const lastAsked = new Map<string, number>();
let questions = 0;

/** Told when a query is to be asked anew, also where it waits a while before it does: what is still on its way for it is thrown away. */
export const askedAnew = (hash: string) => void lastAsked.set(hash, ++questions);

type Asked<T> = { data?: T; error?: unknown; response: Response };

/**
 * Asks only for what has become another since it was read. What is the same is not sent, not taken apart and not laid over what is here, which on a
 * phone takes longer than the way to the server.
 * @param queries Under which the answer, or each of its parts, is held.
 * @param ask Sends the question with these headers.
 * @returns Null where all of it is still so.
 */
export async function ifAnother<T>(
  client: QueryClient,
  queries: readonly QueryKey[],
  ask: (headers: Record<string, string>) => Promise<Asked<T>>,
): Promise<T | null> {
  const hashes = queries.map((q) => hashKey(q));
  const [tag, ...others] = new Set(
    queries.map((q, i) => (client.getQueryData(q) === undefined ? undefined : answerTags.get(hashes[i]!))),
  );
  const mine = ++questions;
  for (const hash of hashes) lastAsked.set(hash, mine);
  const asked = await ask(tag && others.length === 0 ? { 'If-None-Match': tag } : {});
  if (asked.response.status === 304) {
    if (queries.every((q) => client.getQueryData(q) !== undefined)) return null;
    // It was thrown away while the question was on its way.
    throw new ApiProblem(0, {});
  }
  const data = await unwrap(Promise.resolve(asked));
  const now = asked.response.headers.get('ETag');
  for (const hash of hashes) {
    if (lastAsked.get(hash) !== mine) continue;
    if (now) answerTags.set(hash, now);
    else answerTags.delete(hash);
  }
  return data;
}

/** The same for a query that holds the whole answer. */
export const again = async <T>(
  client: QueryClient,
  query: QueryKey,
  ask: (headers: Record<string, string>) => Promise<Asked<T>>,
): Promise<T> => (await ifAnother(client, [query], ask)) ?? client.getQueryData<T>(query)!;
