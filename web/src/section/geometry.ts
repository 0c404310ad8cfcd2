import type { Schemas } from '../api/client';

export type Section = Schemas['LongSection'];
export type Cell = Schemas['SectionCell'];

/** A part's shape in the drawing, in drawing units; y grows downward, the crank's centre line is y = 0. */
export interface Shape {
  cell: Cell;
  path: string;
  /** Middle of the shape, for its mark and for walking with the arrow keys. */
  x: number;
  y: number;
  /** Room for a mark: the smaller side of the shape. */
  room: number;
}

export interface Drawing {
  shapes: Shape[];
  width: number;
  top: number;
  bottom: number;
  /** Crank webs and block outline: drawn, but no part of their own. */
  webs: string[];
  /** Cylinder blocks behind the bores, one per bank. */
  blocks: string[];
  columns: { x: number; width: number; column: Schemas['SectionColumn'] }[];
}

const MAIN = 46;
const CYLINDER = 104;
const MARGIN = 30;
const CASE_TOP = 64;
const CASE_ROW = 30;

const rect = (x0: number, y0: number, x1: number, y1: number) =>
  `M${x0} ${Math.min(y0, y1)}H${x1}V${Math.max(y0, y1)}H${x0}Z`;

type Placed = Omit<Shape, 'cell'>;

function box(x0: number, y0: number, x1: number, y1: number): Placed {
  return {
    path: rect(x0, y0, x1, y1),
    x: (x0 + x1) / 2,
    y: (y0 + y1) / 2,
    room: Math.min(x1 - x0, Math.abs(y1 - y0)),
  };
}

/**
 * Shape of a part that belongs to one cylinder. `up` is −1 for a bank drawn above the crank and 1 for the one mirrored below;
 * `left` and `right` bound the rod where two share a pin.
 */
function cylinderPart(kind: string, cx: number, up: number, left: number, right: number): Placed | null {
  const y = (d: number) => up * d;
  const mid = (left + right) / 2;
  switch (kind) {
    case 'rod-shell-upper':
      return box(left, y(14), right, y(22));
    case 'rod-shell-lower':
      return box(left, y(-14), right, y(-22));
    case 'rod-cap':
      return box(left, y(-23), right, y(-40));
    case 'rod-bearing':
      return box(left, y(14), right, y(24));
    case 'rod': {
      const half = Math.min(9, (right - left) / 3);
      return {
        path: `M${left} ${y(23)}H${right}V${y(34)}L${mid + half} ${y(46)}V${y(100)}H${mid - half}V${y(46)}L${left} ${y(34)}Z`,
        x: mid,
        y: y(64),
        room: 18,
      };
    }
    case 'wrist-pin':
      return box(cx - 30, y(101), cx + 30, y(113));
    case 'piston': {
      const [a, b] = [cx - 36, cx + 36];
      return {
        path: `M${a} ${y(92)}H${a + 14}V${y(118)}H${b - 14}V${y(92)}H${b}V${y(164)}H${a}Z`,
        x: cx,
        y: y(126),
        room: 16,
      };
    }
    case 'ring-top':
      return box(cx - 39, y(153), cx + 39, y(159));
    case 'ring-second':
      return box(cx - 39, y(143), cx + 39, y(149));
    case 'ring-oil':
      return box(cx - 39, y(132), cx + 39, y(139));
    case 'bore': {
      const wall = (x: number) => rect(x, y(70), x + 8, y(186));
      return { path: wall(cx - 48) + wall(cx + 40), x: cx - 44, y: y(176), room: 8 };
    }
    case 'spark-plug':
      return box(cx - 7, y(182), cx + 7, y(222));
    case 'valve-inlet':
    case 'valve-exhaust': {
      const x = cx + (kind === 'valve-inlet' ? -24 : 24);
      return {
        path: `M${x - 13} ${y(187)}H${x + 13}L${x + 4} ${y(198)}V${y(238)}H${x - 4}V${y(198)}Z`,
        x,
        y: y(216),
        room: 8,
      };
    }
    case 'lobe-inlet':
    case 'lobe-exhaust':
      return box(
        cx + (kind === 'lobe-inlet' ? -34 : 14),
        y(241),
        cx + (kind === 'lobe-inlet' ? -14 : 34),
        y(259),
      );
    default:
      return null;
  }
}

function mainPart(kind: string, cx: number): Placed | null {
  switch (kind) {
    case 'main-journal':
      return box(cx - 23, -15, cx + 23, 15);
    case 'main-shell-upper':
      return box(cx - 19, -24, cx + 19, -16);
    case 'main-shell-lower':
      return box(cx - 19, 16, cx + 19, 24);
    case 'main-cap':
      return box(cx - 19, 25, cx + 19, 44);
    case 'main-bearing':
      return box(cx - 19, -28, cx + 19, -16);
    default:
      return null;
  }
}

/** Lays the section out as a drawing. */
export function draw(section: Section): Drawing {
  const columns: Drawing['columns'] = [];
  let x = MARGIN;
  for (const column of section.columns) {
    const width = column.kind === 'main' ? MAIN : CYLINDER;
    columns.push({ x: x + width / 2, width, column });
    x += width;
  }
  const width = x + MARGIN;
  const below = section.cells.some((c) => c.bank === 'b');
  const above = -292;
  const caseTop = below ? 298 : CASE_TOP;

  const shapes: Shape[] = [];
  const caseCells: Cell[] = [];
  const camshafts = { a: 0, b: 0 };
  for (const cell of section.cells.filter((c) => c.drawn)) {
    const up = cell.bank === 'b' ? 1 : -1;
    const nth = cell.kind === 'camshaft' ? camshafts[cell.bank]++ : 0;
    const place = placeOf(cell, columns, up, width, nth);
    if (place) shapes.push({ cell, ...place });
    else caseCells.push(cell);
  }
  const perRow = Math.max(4, Math.min(caseCells.length, Math.floor((width - 2 * MARGIN) / 62)));
  const step = (width - 2 * MARGIN) / perRow;
  caseCells.forEach((cell, i) => {
    const [col, row] = [i % perRow, Math.floor(i / perRow)];
    const x0 = MARGIN + col * step;
    const y0 = caseTop + row * (CASE_ROW + 4);
    shapes.push({ cell, ...box(x0 + 2, y0, x0 + step - 2, y0 + CASE_ROW) });
  });
  const rows = Math.ceil(caseCells.length / perRow);

  const webs = columns
    .filter((c) => c.column.kind === 'crankpin')
    .flatMap((c) => [rect(c.x - 46, -34, c.x - 34, 34), rect(c.x + 34, -34, c.x + 46, 34)]);
  const blocks = (below ? [-1, 1] : [-1]).map((up) =>
    rect(MARGIN + MAIN / 2, up * 56, width - MARGIN - MAIN / 2, up * 186),
  );
  // Larger shapes first, so that what lies on them can be pressed.
  const area = (s: Shape) => (s.cell.kind === 'piston' || s.cell.scope === 'bank' ? 1 : 0);
  shapes.sort((a, b) => area(b) - area(a));
  return { shapes, width, top: above, bottom: caseTop + rows * (CASE_ROW + 4) + 8, webs, blocks, columns };
}

function placeOf(
  cell: Cell,
  columns: Drawing['columns'],
  up: number,
  width: number,
  nth: number,
): Placed | null {
  if (cell.scope === 'bank') {
    const [x0, x1] = [MARGIN + MAIN / 2, width - MARGIN - MAIN / 2];
    return cell.kind === 'head' ? box(x0, up * 194, x1, up * 228) : box(x0, up * 187, x1, up * 193);
  }
  // The second camshaft of a head lies behind the first: a little higher, so that both can be pressed.
  const lift = 247 + 17 * nth;
  if (cell.kind === 'camshaft') return box(MARGIN + 12, up * lift, width - MARGIN - 12, up * (lift + 6));
  const at = cell.column === null ? undefined : columns[cell.column];
  if (!at) return null;
  if (cell.scope === 'main') return mainPart(cell.kind, at.x);
  if (cell.kind === 'crankpin') return box(at.x - 34, -13, at.x + 34, 13);
  const shared = at.column.cylinderA !== null && at.column.cylinderB !== null;
  const [left, right] = shared ? (up < 0 ? [-28, -1] : [1, 28]) : [-26, 26];
  return cylinderPart(cell.kind, at.x, up, at.x + left, at.x + right);
}

/** The shape nearest in a direction, for the arrow keys. */
export function neighbour(shapes: Shape[], from: Shape, dx: number, dy: number): Shape | null {
  let best: Shape | null = null;
  let least = Infinity;
  for (const s of shapes) {
    const along = (s.x - from.x) * dx + (s.y - from.y) * dy;
    if (along < 1) continue;
    const across = Math.abs((s.x - from.x) * dy) + Math.abs((s.y - from.y) * dx);
    const cost = along + 3 * across;
    if (cost < least) [best, least] = [s, cost];
  }
  return best;
}
