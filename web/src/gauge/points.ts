import { t as tr } from '@lingui/core/macro';
import type { EngineCase, Schemas } from '../api/client';
import type { Characteristic, Expected } from '../entry/typed';

export type { Characteristic } from '../entry/typed';
import { called } from '../ui/called';
import { stands } from '../ui/words';
import { nominalOf } from './limitRule';

type Cell = Schemas['SectionCell'];

/** One place to put the instrument: part, level and direction. */
export interface MeasuringPoint {
  place: string;
  words: string;
  kind: string;
  station: string;
  direction: string;
}

/** Level and direction of a point, as they are called here. */
export const pointWords = (
  p: { station: string; direction: string },
  knowledge: Parameters<typeof called>[0],
) => [p.station, p.direction].filter(Boolean).map(called(knowledge));

export const pointKey = (s: { place: string; station: string; direction: string }) =>
  `${s.place}/${s.station}/${s.direction}`;

/** Measuring points of a part in the order in which the hand meets them: level by level, direction by direction. */
export function pointsOf(
  cell: Pick<Cell, 'address' | 'kind' | 'words'>,
  entry: Characteristic,
): MeasuringPoint[] {
  const stations = entry.stations.length > 0 ? entry.stations : [''];
  const directions = Object.keys(entry.directions);
  return stations.flatMap((station) =>
    (directions.length > 0 ? directions : ['']).map((direction) => ({
      place: cell.address,
      words: cell.words,
      kind: cell.kind,
      station,
      direction,
    })),
  );
}

/**
 * Two spots of each part instead of all: both directions where the part wears first, which is the first level, or the first level and the last.
 * Common practice, no source: enough to tell worn from sound, and not enough for taper.
 */
export function twoSpots(walk: readonly MeasuringPoint[]): MeasuringPoint[] {
  const places = [...new Set(walk.map((p) => p.place))];
  return places.flatMap((place) => {
    const points = walk.filter((p) => p.place === place);
    const first = points.filter((p) => p.station === points[0]!.station);
    return first.length > 1 ? first.slice(0, 2) : points.length > 2 ? [points[0]!, points.at(-1)!] : points;
  });
}

/** A round: one characteristic on parts that lie together, big ends apart from mains. */
export interface RoundPlan {
  id: string;
  entry: Characteristic;
  kinds: string[];
  name: string;
}

/** The rounds that an engine of these parts has, in the order of the knowledge base. */
export function roundsOf(
  cells: readonly Cell[],
  characteristics: readonly Characteristic[],
  measurable: readonly string[],
  names: Readonly<Record<string, string>> = {},
): RoundPlan[] {
  return characteristics
    .filter((c) => measurable.includes(c.id))
    .flatMap((entry) => {
      const here = cells.filter((c) => entry.on.includes(c.kind));
      const strata = [...new Set(here.map((c) => c.stratum))];
      return strata.map((stratum) => {
        const of = here.filter((c) => c.stratum === stratum);
        const kinds = [...new Set(of.map((c) => c.kind))];
        const together = { bigEnd: tr`big ends`, main: tr`mains` }[stratum as string];
        const what =
          (kinds.every((k) => k.includes('shell')) ? together : undefined) ??
          names[kinds[0]!] ??
          of[0]!.words.replace(/[ ,].*\d.*$/, '');
        return {
          id: strata.length > 1 ? `${entry.id}@${kinds[0]}` : entry.id,
          entry,
          kinds,
          name: strata.length > 1 ? `${entry.name}, ${what}` : entry.name,
        };
      });
    });
}

/** All measuring points of a round in walking order: station by station along the engine. */
export function walkOf(
  cells: readonly Cell[],
  entry: Characteristic,
  kinds: readonly string[] = entry.on,
): MeasuringPoint[] {
  const rank = (kind: string) => entry.on.indexOf(kind);
  return cells
    .filter((c) => kinds.includes(c.kind))
    .sort((a, b) => a.station - b.station || rank(a.kind) - rank(b.kind))
    .flatMap((c) => pointsOf(c, entry));
}

type Readings = EngineCase['readings'];

/** What a list of readings comes to: it is gone through once, however many ask. */
interface Ordered {
  active: Readings;
  /** By characteristic and phase, and in that by point. */
  points: Map<string, Map<string, Readings>>;
}

const ordered = new WeakMap<Readings, Ordered>();

function inOrder(readings: Readings): Ordered {
  const known = ordered.get(readings);
  if (known) return known;
  const corrected = new Set(readings.filter(stands).map((r) => r.corrects));
  const active = readings.filter((r) => stands(r) && !corrected.has(r.id));
  const points: Ordered['points'] = new Map();
  for (const r of active) {
    const name = `${r.characteristic} ${r.phase}`;
    const by = points.get(name) ?? new Map<string, Readings>();
    points.set(name, by);
    const key = pointKey(r);
    by.set(key, [...(by.get(key) ?? []), r]);
  }
  const made = { active, points };
  ordered.set(readings, made);
  return made;
}

/** Readings that count: neither taken back nor corrected by a later one. */
export const active = (readings: Readings) => inOrder(readings).active;

const none: ReadonlyMap<string, Readings> = new Map();

/** Active readings of one characteristic and phase, by point; one that names no level or direction stands at its place alone. */
export const readingsByPoint = (
  readings: Readings,
  characteristic: string,
  phase: Schemas['Phase'],
): ReadonlyMap<string, Readings> => inOrder(readings).points.get(`${characteristic} ${phase}`) ?? none;

/** How many points of a round have been measured. */
export function progress(
  cells: readonly Cell[],
  readings: Readings,
  round: RoundPlan,
  phase: Schemas['Phase'] = 'asFound',
) {
  const walk = walkOf(cells, round.entry, round.kinds);
  const by = readingsByPoint(readings, round.entry.id, phase);
  const loose = new Set([...by.keys()].filter((k) => k.endsWith('//')).map((k) => k.split('/')[0]!));
  return {
    of: walk.length,
    done: walk.filter((s) => by.has(pointKey(s)) || loose.has(s.place)).length,
  };
}

/**
 * The size about which a figure is expected: median of its peers measured in the same phase, else the nominal that counts; null where
 * neither is known. What a journal was before it was ground says nothing of what it should be after.
 * @param corrects Id of a reading that is about to be corrected, and does not count any more.
 */
export function expectedSize(
  { readings, limits }: Pick<EngineCase, 'readings' | 'limits'>,
  cells: readonly Pick<Cell, 'kind' | 'stratum' | 'address'>[],
  characteristic: string,
  kind: string,
  phase: Schemas['Phase'] = 'asFound',
  corrects: string | null = null,
): Expected | null {
  const stratum = cells.find((c) => c.kind === kind)?.stratum;
  const peers = new Set(cells.filter((c) => c.stratum === stratum).map((c) => c.address));
  const values = active(readings)
    .filter(
      (r) =>
        r.characteristic === characteristic &&
        r.phase === phase &&
        r.id !== corrects &&
        peers.has(r.place) &&
        Number.isFinite(r.value),
    )
    .map((r) => r.value)
    .sort((a, b) => a - b);
  if (values.length >= 3) {
    const half = values.length >> 1;
    return {
      size: values.length % 2 ? values[half]! : (values[half - 1]! + values[half]!) / 2,
      peers: true,
    };
  }
  const nominal = nominalOf(limits, characteristic, kind);
  return nominal === null ? null : { size: nominal, peers: false };
}
