import { t as tr } from '@lingui/core/macro';
import type { CaseAnswers } from '../api/client';
import { moment } from '../ui/basics';
import type { Sight } from './lenses';

type Strip = Pick<CaseAnswers['strip'], 'off' | 'steps'>;

/** A moment of the strip at which something came off. */
export interface Moment {
  /** ISO; null is how the engine came. */
  at: string | null;
  step: string;
  /** How many parts are off from then on. */
  off: number;
}

/** The moments of the strip, how the engine came first. Parts that one record takes off come off together. */
export function moments({ off }: Strip): Moment[] {
  const found: Moment[] = [{ at: null, step: '', off: off.filter((o) => o.at === null).length }];
  for (const o of off) {
    if (o.at === null) continue;
    const last = found.at(-1)!;
    if (last.at === o.at && last.step === o.step) last.off++;
    else found.push({ at: o.at, step: o.step, off: last.off + 1 });
  }
  return found;
}

/** A moment as one says it. */
export function momentWords(strip: Strip, of: Moment, parts: number): string {
  const name = strip.steps.find((s) => s.id === of.step)?.name ?? of.step;
  const when = of.at === null ? tr`As it came` : tr`After “${name}”, ${moment(of.at)}`;
  return tr`${when}: ${of.off === 0 ? 'nothing' : of.off} of ${parts} parts off`;
}

/** What is on and what is off at a moment; null is now. */
export function offSights(strip: Strip, places: readonly string[], at: Moment | null): Map<string, Sight> {
  const names = new Map(strip.steps.map((s) => [s.id, s.name]));
  const off = new Map(strip.off.map((o) => [o.place, o]));
  return new Map(
    places.map((place): [string, Sight] => {
      const o = off.get(place);
      if (!o || (at && o.at !== null && (at.at === null || o.at > at.at)))
        return [place, { tone: 'calm', mark: '', words: tr`on the engine` }];
      const by = names.get(o.step) ?? o.step;
      const words = o.at === null ? tr`was off when it came` : tr`off since ${moment(o.at)}, “${by}”`;
      return [place, { tone: 'none', mark: '', words, open: true }];
    }),
  );
}
