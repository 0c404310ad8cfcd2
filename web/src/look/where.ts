import { t as tr } from '@lingui/core/macro';
import { covers, type ZoneFace } from './zones';

/** Where touched zones lie, as the core's Spots reckons it. */
export type Where = { words: string; share: number; sides: string[]; edges: string[] };

type Touched = { row: number; column: number };

/** A side is named when at least this share of the touched area lies on it. */
const mostOnASide = 0.6;

/** What covers more of the columns than this says nothing about where on them. */
const allRound = 0.75;

const thrustFaces = ['thrust-side', 'anti-thrust-side'];

const sum = (of: readonly number[]) => of.reduce((a, b) => a + b, 0);

const unique = <T>(of: readonly T[]) => [...new Set(of)];

/** Share of the face that one zone of a row covers; the rings of a round face grow with the square of the radius. */
function area(face: ZoneFace, row: number) {
  const sizes = face.rows.map((r) => r.size);
  const whole = sum(sizes);
  if (face.shape === 'unwrapped') return sizes[row]! / whole / face.columns;
  const outer = sum(sizes.slice(row)) / whole;
  const inner = sum(sizes.slice(row + 1)) / whole;
  return (outer * outer - inner * inner) / face.columns;
}

/** Runs of numbers that follow each other; on a circle of so many the last runs on into the first. */
function runs(sorted: readonly number[], circle: number) {
  const all: [number, number][] = [];
  for (const n of sorted) {
    const last = all.at(-1);
    if (last && last[1] === n - 1) last[1] = n;
    else all.push([n, n]);
  }
  if (circle > 0 && all.length > 1 && all[0]![0] === 1 && all.at(-1)![1] === circle) {
    all.at(-1)![1] = all[0]![1];
    all.shift();
  }
  return all;
}

function sidesOf(face: ZoneFace, on: readonly Touched[]): string[] {
  if (unique(on.map((z) => z.column)).length > allRound * face.columns) return [];
  const whole = sum(on.map((z) => area(face, z.row)));
  const shares = face.features
    .filter((f) => f.isSide)
    .map((f) => ({
      ...f,
      share: sum(on.filter((z) => covers(face, f, z.column)).map((z) => area(face, z.row))) / whole,
    }));
  const one = shares.find((s) => s.share >= mostOnASide);
  if (one) return [one.words];
  const thrust = shares.filter((s) => thrustFaces.includes(s.id) && s.share > 0.2);
  return thrust.length === 2 && sum(thrust.map((s) => s.share)) >= mostOnASide ? [tr`both thrust faces`] : [];
}

function rowWords(face: ZoneFace, on: readonly Touched[]) {
  const rows = unique(on.map((z) => z.row)).sort((a, b) => a - b);
  if (rows.length === face.rows.length && rows.length > 1)
    return face.shape === 'round' ? tr`from edge to middle` : tr`from end to end`;
  const word = (row: number) => face.rows[row]!.words;
  return runs(rows, 0)
    .map(([first, last]) => (first === last ? word(first) : tr`${word(first)} to ${word(last)}`))
    .join(tr` and `);
}

function columnWords(face: ZoneFace, on: readonly Touched[]) {
  const columns = unique(on.map((z) => z.column)).sort((a, b) => a - b);
  if (columns.length === face.columns)
    return face.columnAxis === 'shellArc' ? tr`the whole arc` : tr`all round`;
  const word = (column: number) => face.columnWords[column - 1]!;
  return runs(columns, face.wraps ? face.columns : 0)
    .map(([first, last]) =>
      first === last
        ? word(first)
        : face.columns === 12
          ? tr`${first} to ${last} o’clock`
          : tr`${word(first)} to ${word(last)}`,
    )
    .join(tr` and `);
}

/**
 * The bench's copy of the core's Spots, so that zones are worded as they are touched and without a network; tests/zone-words.json holds
 * both to one list. Zones that the map does not have are passed over.
 */
export function whereOn(map: { faces: ZoneFace[] }, zones: readonly string[]): Where {
  const faces = map.faces
    .map((face) => ({
      face,
      on: unique(zones)
        .map((z) => ({ row: face.rows.findIndex((r) => r.letter === z[0]), column: Number(z.slice(1)) }))
        .filter((z) => z.row >= 0 && z.column >= 1 && z.column <= face.columns)
        .sort((a, b) => a.row - b.row || a.column - b.column),
    }))
    .filter((f) => f.on.length > 0);
  const told = faces.map(({ face, on }) => ({
    share: sum(on.map((z) => area(face, z.row))),
    sides: sidesOf(face, on),
    edges: on.map((z) => face.rows[z.row]!.edgeWords).filter((e) => e !== null),
    parts: [rowWords(face, on), columnWords(face, on)],
  }));
  return {
    words: told.map((t) => [...t.parts, ...t.sides].join(', ')).join('; '),
    share: Math.max(0, ...told.map((t) => t.share)),
    sides: unique(told.flatMap((t) => t.sides)),
    edges: unique(told.flatMap((t) => t.edges)),
  };
}
