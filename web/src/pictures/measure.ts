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
  wallShare: tr`Share of the wall`,
  wallGrown: tr`Patch of the wall by its light`,
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
  wallShare: tr`From above, the piston out: tap three points round the upper edge of the bore and three round its lower edge; then round the patch.`,
  wallGrown: tr`From above, the piston out: tap three points round the upper edge of the bore and three round its lower edge; then one point in the patch. It grows as far as it is as light, or as dark.`,
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
  wallShare: { least: 9, most: 106 },
  wallGrown: { least: 7, most: 7 },
  particles: { least: 2, most: 2 },
};

export const isEnough = (task: Task, points: readonly At[]) => points.length >= takes[task].least;

export const isFull = (task: Task, points: readonly At[]) => points.length >= takes[task].most;

/** Whether it is of the wall of a bore that is seen from above. */
export const ofAWall = (task: Task) => task === 'wallShare' || task === 'wallGrown';

/** How many points tell the face that a patch lies in; they are set first. */
const ofTheFace = (task: Task) => (ofAWall(task) ? 6 : task === 'share' || task === 'grown' ? 4 : 0);

/** Some points moved to the end, or of less than none from it to the front. */
const turned = <T>(list: readonly T[], by: number) => [...list.slice(by), ...list.slice(0, by)];

/** Points as the server takes them: of a share the patch comes first there, and the face behind it. */
export const sent = (task: Task, points: readonly At[]) =>
  turned(points, ofTheFace(task)).flatMap((p) => [p.x, p.y]);

/** The other way round. */
export function pointsOf(task: Task, flat: readonly number[]): At[] {
  const points = Array.from({ length: flat.length / 2 }, (_, i) => ({
    x: flat[2 * i]!,
    y: flat[2 * i + 1]!,
  }));
  return turned(points, -ofTheFace(task));
}

/** The lines that show a measure over its picture, each as points in turn. */
export function linesOf(task: Task, p: readonly At[], aspect = 1): { points: At[]; closed: boolean }[] {
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
    case 'wallShare':
    case 'wallGrown':
      return [round(p.slice(0, 3), aspect), round(p.slice(3, 6), aspect), p.slice(6)]
        .filter((l) => l.length > 1)
        .map((points) => ({ points, closed: points.length > 2 }));
    default:
      return [{ points: p.slice(0, task === 'across' ? 2 : p.length), closed: false }];
  }
}

/** Points along the circle through three: an edge of a bore as the hand has set it; the points themselves where there is none. */
function round(p: At[], aspect: number): At[] {
  const [a, b, c] = p.map((q) => ({ x: q.x * aspect, y: q.y }));
  if (!a || !b || !c) return p;
  const d = 2 * (a.x * (b.y - c.y) + b.x * (c.y - a.y) + c.x * (a.y - b.y));
  if (Math.abs(d) < 1e-6) return p;
  const [aa, bb, cc] = [a, b, c].map((q) => q.x * q.x + q.y * q.y) as [number, number, number];
  const x = (aa * (b.y - c.y) + bb * (c.y - a.y) + cc * (a.y - b.y)) / d;
  const y = (aa * (c.x - b.x) + bb * (a.x - c.x) + cc * (b.x - a.x)) / d;
  const r = Math.hypot(a.x - x, a.y - y);
  return Array.from({ length: 72 }, (_, i) => ({
    x: (x + r * Math.cos((i * Math.PI) / 36)) / aspect,
    y: y + r * Math.sin((i * Math.PI) / 36),
  }));
}

/** Of a, b, c, d, e, f the one that undoes it. */
export function undone([a, b, c, d, e, f]: readonly number[]) {
  const det = a! * d! - b! * c!;
  return [d! / det, -b! / det, -c! / det, a! / det, (c! * f! - d! * e!) / det, (b! * e! - a! * f!) / det];
}
