import { useSyncExternalStore } from 'react';

/** How much this device can still keep. */
export interface Room {
  /** Bytes that are left, as far as the browser says; null where it does not. */
  left: number | null;
  /** Little is left: it is told before nothing fits any more. */
  low: boolean;
}

const little = 150 * 1024 * 1024;

let room: Room = { left: null, low: false };
const listeners = new Set<() => void>();

function tell(change: Partial<Room>) {
  const next = { ...room, ...change };
  if (next.left === room.left && next.low === room.low) return;
  room = next;
  for (const listener of listeners) listener();
}

/** Asks the browser how much is left, and that it keeps what is here when it makes room for other pages. */
export async function lookForRoom() {
  try {
    const { storage } = navigator;
    if (!(await storage.persisted())) void storage.persist().catch(() => undefined);
    const { usage, quota } = await storage.estimate();
    if (usage === undefined || quota === undefined) return;
    const left = Math.max(0, quota - usage);
    tell({ left, low: left < little });
  } catch {
    // A browser that does not say is taken at its word when it refuses.
  }
}

export const useRoom = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => room,
  );
