import { t as tr } from '@lingui/core/macro';
import { useRoomSoon } from '../casebook/caseQueries';
import type { Lens } from '../section/lenses';
import type { CaseAnswers } from '../api/client';

/** The stages of a case, with what the engine is shown by in each. */
export const stages = [
  ['arrival', tr`Arrival`, 'tags'],
  ['strip', tr`Strip`, 'tags'],
  ['index', tr`Index`, 'tags'],
  ['look', tr`Look`, 'damage'],
  ['gauge', tr`Gauge`, 'limit'],
  ['trace', tr`Trace`, 'cause'],
  ['verdict', tr`Verdict`, 'verdict'],
  ['build', tr`Build`, 'verdict'],
  ['dossier', tr`Dossier`, 'damage'],
] as const satisfies readonly (readonly [string, string, Lens])[];

export type Stage = (typeof stages)[number][0];

/** What a stage still wants: how many of what. */
export type Wants = Partial<Record<Stage, string>>;

type Soon<R extends keyof CaseAnswers> = CaseAnswers[R] | undefined;

const loose = new Set([
  'nowhere',
  'unplaced',
  'unmarked',
  'overdue',
  'twoPlaces',
  'oldMark',
  'wrongWayRound',
]);

/** What each stage still wants, from what is known so far. */
export function wantsOf(
  strip: Soon<'strip'>,
  progress: Soon<'progress'>,
  places: Soon<'places'>,
  gauge: Soon<'gauge'>,
  verdict: Soon<'verdict'>,
  order: Soon<'order'>,
): Wants {
  const told = (count: number, words: string) => (count > 0 ? `${count} ${words}` : undefined);
  const undecided = verdict?.groups.reduce(
    (n, g) => n + Math.max(0, g.places.length - g.untouched.length - g.decided),
    0,
  );
  const arrived = order?.lines.filter((l) => l.stage === 'arrived').length ?? 0;
  const wants: Record<string, string | undefined> = {
    strip: told((strip?.fastenersOut ?? 0) + (strip?.broken ?? 0), tr`out`),
    index: told(progress?.looseEnds.filter((l) => loose.has(l.kind)).length ?? 0, tr`loose`),
    look: told(places?.filter((p) => p.appears && p.damage === null).length ?? 0, tr`unread`),
    gauge: told(gauge?.figures.filter((f) => f.conformity === 'outside').length ?? 0, tr`outside`),
    verdict: arrived > 0 ? told(arrived, tr`to check`) : told(undecided ?? 0, tr`undecided`),
  };
  return Object.fromEntries(Object.entries(wants).filter(([, w]) => w !== undefined));
}

export function useWants(caseId: string): Wants {
  return wantsOf(
    useRoomSoon(caseId, 'strip'),
    useRoomSoon(caseId, 'progress'),
    useRoomSoon(caseId, 'places'),
    useRoomSoon(caseId, 'gauge'),
    useRoomSoon(caseId, 'verdict'),
    useRoomSoon(caseId, 'order'),
  );
}
