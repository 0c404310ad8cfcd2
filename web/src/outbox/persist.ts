import { dehydrate, hydrate, type DehydratedState, type QueryClient } from '@tanstack/react-query';
import { reads } from './browser';

interface Saved {
  build: string;
  state: DehydratedState;
}

// The script's own name holds the hash of the build: what another build read may have another shape.
const build = import.meta.url;
const shelf = 'queries';

/** Brings back what was read before the page was closed. A browser that keeps nothing only costs a fetch. */
export async function restore(client: QueryClient) {
  const saved = (await reads.get(shelf).catch(() => undefined)) as Saved | undefined;
  if (saved?.build !== build) return;
  hydrate(client, saved.state);
  // It is shown at once and read again as soon as the server answers.
  await client.invalidateQueries({ refetchType: 'none' });
}

/** Keeps what is read, a moment after it came. */
export function keep(client: QueryClient) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  return client.getQueryCache().subscribe((event) => {
    if (event.type !== 'updated' && event.type !== 'removed') return;
    clearTimeout(timer);
    timer = setTimeout(() => {
      const state = dehydrate(client, {
        shouldDehydrateQuery: (q) => q.state.status === 'success' && q.state.data !== null,
      });
      reads.put(shelf, { build, state } satisfies Saved).catch(() => undefined);
    }, 500);
  });
}

/** Forgets what was read; what waits to be sent stays. */
export async function forget() {
  await reads.clear().catch(() => undefined);
  if ('caches' in window) await caches.delete('pictures');
}
