import { remember, remembered } from './remember';
import { useSyncExternalStore } from 'react';
import { asked } from '../api/client';
import type { LengthUnit } from '../ui/figures';

const heard = new Set<() => void>();
const stored = remembered('lengths');
let chosen: LengthUnit | null = stored === 'in' || stored === 'mm' ? stored : null;
asked.lengths = chosen;

const subscribe = (on: () => void) => {
  heard.add(on);
  return () => heard.delete(on);
};

/** Unit of lengths that this person chose on this device; null where they are told as the engine or the shop has it. */
export const useChosenLengths = () => useSyncExternalStore(subscribe, () => chosen);

/** What the server says afterwards is told in this unit too; what it said before is to be asked for again. */
export function chooseLengths(unit: LengthUnit | null) {
  chosen = unit;
  asked.lengths = unit;
  remember('lengths', unit ?? '');
  for (const on of heard) on();
}
