import { t as tr } from '@lingui/core/macro';
import { useSyncExternalStore } from 'react';

/** Something just written that one key takes back, for as long as it stands there. */
export interface Undo {
  n: number;
  words: string;
  run: () => Promise<unknown>;
}

/** How long one may take it back without a reason, in ms. Later it is undone where it stands, with a reason. */
export const undoFor = 10_000;

/** What the record says of it: it was noticed at once. */
export const atOnce = tr`a slip, undone at once`;

let offered: Undo | null = null;
let count = 0;
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

function set(undo: Undo | null) {
  offered = undo;
  for (const listener of listeners) listener();
}

/** Offers the last thing written to be taken back; what was offered before is offered no more. */
export function offerUndo(words: string, run: Undo['run']) {
  clearTimeout(timer);
  set({ n: ++count, words, run });
  timer = setTimeout(() => set(null), undoFor);
}

/** Stays while somebody is on it: a hand in a glove is slow. */
export function holdUndo(held: boolean) {
  clearTimeout(timer);
  if (!held && offered) timer = setTimeout(() => set(null), undoFor);
}

/** Takes it back, once. */
export async function undoNow() {
  const undo = offered;
  if (!undo) return;
  clearTimeout(timer);
  set(null);
  await undo.run();
}

const subscribe = (on: () => void) => {
  listeners.add(on);
  return () => listeners.delete(on);
};

export const useUndo = () => useSyncExternalStore(subscribe, () => offered);
