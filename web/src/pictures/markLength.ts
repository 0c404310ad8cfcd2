import type { Schemas } from '../api/client';

export type MarkPoints = Pick<Schemas['PhotoMark'], 'kind' | 'x1' | 'y1' | 'x2' | 'y2'>;

const span = (m: MarkPoints, aspect: number) => Math.hypot((m.x2 - m.x1) * aspect, m.y2 - m.y1);

/** Width of a ring in mm by the scale on the same picture, in the scale's plane; as the core's MarkRules.Length says it. */
export function lengthOf(mark: MarkPoints, scale: Schemas['PhotoMark'] | undefined, aspect: number) {
  if (!scale?.length || mark.kind !== 'ring') return null;
  return (span(mark, aspect) / span(scale, aspect)) * scale.length * 2;
}
