import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';

export type Task = Schemas['PictureTask'];

export interface At {
  x: number;
  y: number;
}

/** What can be measured in a picture, and how its points are set. */
export const taskWords: Record<Task, string> = {
  length: tr`Length`,
  across: tr`Strip or gap`,
  pitch: tr`Pitch`,
  angle: tr`Angle`,
  radius: tr`Arc`,
  hatch: tr`Hatch`,
  area: tr`Area`,
  share: tr`Share of a face`,
  grown: tr`Patch by its light`,
  particles: tr`Particles`,
};

export const taskSays: Record<Task, string> = {
  length: tr`Tap both ends.`,
  across: tr`Tap outside one edge, then outside the other, straight across. A third tap tells how far along it is measured.`,
  pitch: tr`Tap the beginning and the end of a line straight across several grooves.`,
  angle: tr`Tap two points on one line, then two on the other.`,
  radius: tr`Tap three points or more along the arc.`,
  hatch: tr`Tap two opposite corners of a patch of the hatch, the bore upright.`,
  area: tr`Tap round the patch.`,
  share: tr`Tap the four corners of the face first, left upper, right upper, right lower, left lower; then round the patch.`,
  grown: tr`Tap the four corners of the face first, left upper, right upper, right lower, left lower; then one point in the patch. It grows as far as it is as light, or as dark.`,
  particles: tr`Tap two opposite corners of the ground they lie on, without the card in it.`,
};

/** How many points a task takes, and when it can be reckoned. */
const takes: Record<Task, { least: number; most: number }> = {
  length: { least: 2, most: 2 },
  across: { least: 2, most: 3 },
  pitch: { least: 2, most: 2 },
  angle: { least: 4, most: 4 },
  radius: { least: 3, most: 40 },
  hatch: { least: 2, most: 2 },
  area: { least: 3, most: 100 },
  share: { least: 7, most: 104 },
  grown: { least: 5, most: 5 },
  particles: { least: 2, most: 2 },
};

export const isEnough = (task: Task, points: readonly At[]) => points.length >= takes[task].least;

export const isFull = (task: Task, points: readonly At[]) => points.length >= takes[task].most;

/** Whether it is of a patch in a face, whose corners are set first. */
const inAFace = (task: Task) => task === 'share' || task === 'grown';

/** Points as the server takes them: of a share the patch comes first there, and the face behind it. */
export const sent = (task: Task, points: readonly At[]) =>
  (inAFace(task) ? [...points.slice(4), ...points.slice(0, 4)] : points).flatMap((p) => [p.x, p.y]);

/** The other way round. */
export function pointsOf(task: Task, flat: readonly number[]): At[] {
  const points = Array.from({ length: flat.length / 2 }, (_, i) => ({
    x: flat[2 * i]!,
    y: flat[2 * i + 1]!,
  }));
  return inAFace(task) ? [...points.slice(-4), ...points.slice(0, -4)] : points;
}

/** The lines that show a measure over its picture, each as points in turn. */
export function linesOf(task: Task, p: readonly At[]): { points: At[]; closed: boolean }[] {
  const box = (a: At, b: At) => [a, { x: b.x, y: a.y }, b, { x: a.x, y: b.y }];
  switch (task) {
    case 'hatch':
    case 'particles':
      return p.length === 2 ? [{ points: box(p[0]!, p[1]!), closed: true }] : [];
    case 'angle':
      return [p.slice(0, 2), p.slice(2, 4)]
        .filter((l) => l.length === 2)
        .map((points) => ({ points, closed: false }));
    case 'area':
      return [{ points: [...p], closed: p.length > 2 }];
    case 'share':
    case 'grown':
      return [p.slice(0, 4), p.slice(4)]
        .filter((l) => l.length > 1)
        .map((points) => ({ points, closed: points.length > 2 }));
    default:
      return [{ points: p.slice(0, task === 'across' ? 2 : p.length), closed: false }];
  }
}

/** Of a, b, c, d, e, f the one that undoes it. */
export function undone([a, b, c, d, e, f]: readonly number[]) {
  const det = a! * d! - b! * c!;
  return [d! / det, -b! / det, -c! / det, a! / det, (c! * f! - d! * e!) / det, (b! * e! - a! * f!) / det];
}
