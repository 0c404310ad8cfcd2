import { t as tr } from '@lingui/core/macro';
import { useQuery } from '@tanstack/react-query';
import { api, unwrap, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { useWrite, writes } from '../outbox/writes';

export type Step = Schemas['PlannedStep'];
export type SetLedger = Schemas['SetLedger'];
export type Move = Omit<Schemas['FastenerEntry'], 'id' | 'step'>;

export const attitudeWords: Record<Schemas['Attitude'], string> = {
  upright: tr`upright`,
  inverted: tr`upside down`,
  onEnd: tr`on its end`,
};

/** Writes to the strip of a case; ticks and counts wait in the queue where there is no network. */
export const useStripWrites = (caseId: string) => ({
  step: useWrite(caseId, writes.step),
  mark: useWrite(caseId, writes.stepMark),
  move: useWrite(caseId, writes.fastener),
  sign: useWrite(caseId, writes.signOff),
  back: useWrite(caseId, writes.stepBack),
});

export const useLessons = (script: string) =>
  useQuery({
    queryKey: [...keys.lessons, script],
    queryFn: () => unwrap(api.GET('/api/lessons', { params: { query: { script } } })),
    staleTime: 60_000,
  });

/** The part of an engine's name that tells its kind: “Hollin BG-6, 9.6 l inline six” is a Hollin BG-6. */
export const kindOf = (engineName: string) => engineName.split(',')[0]!.trim();

/** A running clock as one reads it; past an hour in hours, past a day in days, since then it was forgotten. */
export function clockText(minutes: number) {
  if (minutes >= 24 * 60) return tr`${Math.floor(minutes / (24 * 60))} days`;
  if (minutes >= 60) return minutesText(minutes);
  return `${Math.floor(minutes)}:${String(Math.floor((minutes * 60) % 60)).padStart(2, '0')}`;
}

/** Minutes as one says them. */
export const minutesText = (m: number) =>
  m < 60
    ? tr`${Math.round(m)} min`
    : `${Math.floor(m / 60)} h ${String(Math.round(m % 60)).padStart(2, '0')}`;
