import { experimental_createQueryPersister, type PersistedQuery } from '@tanstack/query-persist-client-core';
import { reads } from './database';

export const twoWeeks = 14 * 24 * 3600_000;

// The script's own name holds the hash of the build: what another build read may have another shape.
const build = import.meta.url;

/**
 * Keeps what is read, each answer by itself as soon as it has come, and brings it back when it is first asked for again. A browser that keeps
 * nothing only costs a fetch.
 */
export const { persisterFn, persistQueryByKey } = experimental_createQueryPersister<PersistedQuery>({
  storage: {
    getItem: async (key) => (await reads.get(key).catch(() => undefined)) as PersistedQuery | undefined,
    // That nobody is signed in is not worth keeping, and would stand in the way of who is.
    setItem: (key, value) =>
      (value.state.data === null ? reads.remove(key) : reads.put(key, value)).catch(() => undefined),
    removeItem: (key) => reads.remove(key).catch(() => undefined),
  },
  serialize: (query) => query,
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
  await reads.clear().catch(() => undefined);
  if ('caches' in window) await caches.delete('pictures');
}
