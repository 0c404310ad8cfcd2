import { t as tr } from '@lingui/core/macro';
import { useSyncExternalStore } from 'react';
import { remember, remembered } from './remember';

/** What the keys of a phone are: our own in a round, with the decimal sign of this person's language, or the device's. */
export type Keypad = 'point' | 'comma' | 'device';

export const keypadWords: Record<Keypad, string> = {
  point: tr`our own keys, 0.5`,
  comma: tr`our own keys, 0,5`,
  device: tr`the device’s keyboard`,
};

const isKeypad = (kept: string | null): kept is Keypad => kept !== null && kept in keypadWords;

/** A device that writes a half as 0,5 has a comma until somebody chooses. */
const usual = (): Keypad => ((0.5).toLocaleString(navigator.language).includes(',') ? 'comma' : 'point');

let chosen: Keypad = (() => {
  const kept = remembered('keypad');
  return isKeypad(kept) ? kept : usual();
})();

const heard = new Set<() => void>();

const subscribe = (on: () => void) => {
  heard.add(on);
  return () => heard.delete(on);
};

export const useKeypad = () => useSyncExternalStore(subscribe, () => chosen);

export function chooseKeypad(keypad: Keypad) {
  chosen = keypad;
  remember('keypad', keypad);
  for (const on of heard) on();
}
