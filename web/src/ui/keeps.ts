import { useSyncExternalStore } from 'react';

/** Whether the browser keeps what is typed; one that is full, or keeps nothing, is told of once, above all pages. */
let keeps = true;
const listeners = new Set<() => void>();

export function draftsKept(kept: boolean) {
  if (keeps === kept) return;
  keeps = kept;
  for (const listener of listeners) listener();
}

export const useDraftsKept = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => keeps,
  );
