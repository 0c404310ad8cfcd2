import { t as tr } from '@lingui/core/macro';
import type { CaseAnswers, Schemas } from '../api/client';

export type ZoneFace = Schemas['ZoneFace'];
export type ZoneMap = Schemas['ZoneMap'];

/** The map of a part, or undefined where its kind has none. */
export function mapOf(
  address: string,
  section: CaseAnswers['section'],
  look: CaseAnswers['look'],
): ZoneMap | undefined {
  const cell = section.cells.find((c) => c.address === address);
  const maps = look.maps.filter((m) => m.kind === cell?.kind);
  return maps.find((m) => m.bank === cell?.bank) ?? maps[0];
}

/** A laid-flat clock begins at 12, so that both thrust sides stand whole in it. */
export const columnOrder = (face: ZoneFace) =>
  face.columns === 12
    ? [12, ...Array.from({ length: 11 }, (_, i) => i + 1)]
    : Array.from({ length: face.columns }, (_, i) => i + 1);

/** What stands over a column. */
export const columnHead = (face: ZoneFace, column: number) =>
  face.columns === 12 ? String(column) : (face.columnWords[column - 1]?.split(' ')[0] ?? '');

export const zoneName = (face: ZoneFace, row: number, column: number) =>
  `${face.rows[row]!.words}, ${face.columnWords[column - 1]}`;

/** Adds or takes away one zone. */
export const toggled = (zones: readonly string[], zone: string, on: boolean) =>
  on ? (zones.includes(zone) ? zones : [...zones, zone]) : zones.filter((z) => z !== zone);

/** A sector of a ring, in the picture of a round face: angle 0 points up, clockwise, in turns of one column. */
export function sector(inner: number, outer: number, column: number, columns: number) {
  const at = (r: number, c: number) => {
    const a = ((c - 0.5) / columns) * 2 * Math.PI - Math.PI / 2;
    return `${(100 + r * Math.cos(a)).toFixed(2)} ${(100 + r * Math.sin(a)).toFixed(2)}`;
  };
  const c = column % columns;
  const back = inner > 0 ? `L${at(inner, c + 1)}A${inner} ${inner} 0 0 0 ${at(inner, c)}` : 'L100 100';
  return `M${at(outer, c)}A${outer} ${outer} 0 0 1 ${at(outer, c + 1)}${back}Z`;
}

/** Columns that a feature covers. */
export const covers = (
  face: { columns: number; wraps: boolean },
  feature: { column: number; width: number },
  column: number,
) => {
  const away = Math.abs(column - feature.column);
  return Math.min(away, face.wraps ? face.columns - away : away) <= feature.width / 2;
};

/** Runs of columns that a feature covers, as places in the order in which they are drawn. */
export function featureRuns(
  face: ZoneFace,
  feature: { column: number; width: number },
  order: readonly number[],
): [number, number][] {
  const runs: [number, number][] = [];
  order.forEach((column, i) => {
    if (!covers(face, feature, column)) return;
    const last = runs.at(-1);
    if (last && last[1] === i - 1) last[1] = i;
    else runs.push([i, i]);
  });
  return runs.length > 0 ? runs : [[0, 0]];
}

const faceOf: Record<string, string> = { crown: tr`Crown`, back: tr`Back`, shell: tr`Running face` };

/** The face on which a sign is usually seen, by the outline that it is drawn on. */
export const faceFor = (draw: string) => faceOf[draw.split(':')[0]!.trim()];
