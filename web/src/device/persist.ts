import { experimental_createQueryPersister, type PersistedQuery } from '@tanstack/query-persist-client-core';
import { answerTags } from '../api/again';
import { reads } from './database';
import { remember, remembered } from './remember';
import { whileRestoring } from './quiet';

export const twoWeeks = 14 * 24 * 3600_000;

// The script's own name holds the hash of the build: what another build read may have another shape.
const build = import.meta.url;

/** What lies on the shelf as it is on the screen, and since when: what was read again and is the same needs no writing. */
const shelved = new Map<string, { data: unknown; at: number; tag: string | undefined }>();
/** Whether this device ever kept anything: on one that is new, the first page does not wait for a shelf that is empty. */
const everKept = 'vivid-sleuth.kept';
const neverKept = () => typeof localStorage !== 'undefined' && remembered(everKept) === null;

/** With the tag by which the server is asked whether it is still so. */
type Tagged = PersistedQuery & { tag?: string | undefined };
const aDay = 24 * 3600_000;

/**
 * Keeps what is read, each answer by itself as soon as it has come, and brings it back when it is first asked for again. A browser that keeps
 * nothing only costs a fetch.
 */
export const { persisterFn, persistQueryByKey } = experimental_createQueryPersister<Tagged>({
  storage: {
    getItem: async (key) => {
      if (neverKept()) return undefined;
      const kept = await whileRestoring(reads.get(key).catch(() => undefined) as Promise<Tagged | undefined>);
      if (kept?.buster !== build) return kept;
      shelved.set(key, { data: kept.state.data, at: kept.state.dataUpdatedAt, tag: kept.tag });
      if (kept.tag) answerTags.set(kept.queryHash, kept.tag);
      return kept;
    },
    // That nobody is signed in is not worth keeping, and would stand in the way of who is.
    setItem: (key, value) => {
      const { data, dataUpdatedAt: at } = value.state;
      const { tag } = value;
      const before = shelved.get(key);
      if (before && before.data === data && before.tag === tag && at - before.at < aDay)
        return Promise.resolve();
      shelved.set(key, { data, at, tag });
      if (neverKept()) remember(everKept, 'yes');
      return (data === null ? reads.remove(key) : reads.put(key, value)).catch(
        () => void shelved.delete(key),
      );
    },
    removeItem: (key) => {
      shelved.delete(key);
      return reads.remove(key).catch(() => undefined);
    },
  },
  serialize: (query) => ({ ...query, tag: answerTags.get(query.queryHash) }),
  deserialize: (query) => query,
  buster: build,
  maxAge: twoWeeks,
  // A code that lets somebody in, and who belongs to the shop, are nothing for a shared device to keep.
  filters: { predicate: (q) => !['invitation', 'people', 'door', 'changes'].includes(String(q.queryKey[0])) },
  // It is shown at once, and read again as soon as the server answers.
  refetchOnRestore: 'always',
});

/** Forgets what was read; what waits to be sent stays. */
export async function forget() {
  shelved.clear();
  await reads.clear().catch(() => undefined);
  if ('caches' in window) await caches.delete('pictures');
}
