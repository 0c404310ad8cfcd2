import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';

export type Section = Schemas['LongSection'];
export type Cell = Schemas['SectionCell'];
export type Bank = Schemas['Bank'];

/** What is shown of an engine with two banks: one above the other, or one of them unrolled. */
export type Banks = 'both' | Bank;

/** Least side of what is touched, in pixels: with a mouse, and with a thumb in a glove. */
export const fine = 24;
export const broad = 44;

/** A part's shape in the drawing, in pixels. */
export interface Shape {
  cell: Cell;
  path: string;
  /** Middle of the shape, for its mark and for walking with the arrow keys. */
  x: number;
  y: number;
  /** Room for a mark: the smaller side of the box around the mark. */
  room: number;
  /** What is touched, where that is more than what is drawn. */
  hit?: string;
  /** Balls or rollers, drawn into a bearing that rolls. */
  balls?: { x: number; y: number; r: number }[];
}

/** A station of the drawing: a cylinder's column or a main's. */
export interface Station {
  x: number;
  width: number;
  column: Schemas['SectionColumn'];
}

export interface Drawing {
  shapes: Shape[];
  width: number;
  height: number;
  /** Block, webs, fins and ports: drawn, but no part of their own. */
  behind: { d: string; fill: 'block' | 'crank' | 'paper' | 'line' }[];
  stations: Station[];
  /** What the rows are, for who does not know the drawing. */
  rows: { name: string; y: number }[];
  /** Parts that hang on the left end, on the right end, and those that belong to neither. */
  ends: { left: Cell[]; right: Cell[] };
  /** Numbers of the cylinders, over their columns. */
  numbers: { cylinder: number; x: number; y: number; bank: Bank }[];
}

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

/** A bearing that rolls, cut through: a ball at either side, and the mark between. */
function rolling(x0: number, y0: number, x1: number, y1: number): Placed {
  const r = Math.min(Math.abs(y1 - y0) / 2 - 4, (x1 - x0) / 6);
  const y = (y0 + y1) / 2;
  return {
    ...box(x0, y0, x1, y1),
    balls: [
      { x: x0 + r + 3, y, r },
      { x: x1 - r - 3, y, r },
    ],
  };
}

const rings = ['ring-top', 'ring-second', 'ring-third', 'ring-fourth', 'ring-oil'];
const valves = ['valve-inlet', 'valve-exhaust'];
const lobes = ['lobe-inlet', 'lobe-exhaust'];

/** Height of each row of one bank, counted from the crank's centre line outward; 0 where the engine has no such row. */
interface Rows {
  shell: number;
  rod: number;
  pin: number;
  rings: string[];
  valvesBeside: number;
  joint: number;
  head: number;
  cams: number;
}

/** The rows that this engine has, in cells of one size. */
function rowsOf(section: Section, cell: number): Rows {
  const has = (...kinds: string[]) => section.cells.some((c) => c.drawn && kinds.includes(c.kind));
  return {
    shell: has('rod-shell-upper', 'main-shell-upper', 'rod-bearing', 'main-bearing') ? cell : 0,
    rod: cell + 4,
    pin: cell + 2,
    rings: rings
      .flatMap((kind) => {
        const nth = section.cells.filter((c) => c.kind === kind && c.station === firstOf(section)).length;
        return Array.from({ length: nth }, (_, i) => `${kind}/${i}`);
      })
      .reverse(),
    valvesBeside: section.make.valves === 'side' ? cell : 0,
    joint: 7,
    head: Math.round(cell * 1.3),
    cams: section.make.camsPerBank * cell,
  };
}

/** Distances of the rows from the middle of the crankpin, nearest first. */
function reach(rows: Rows, cell: number) {
  const shell = cell / 2;
  const rod = shell + rows.shell;
  const pin = rod + rows.rod;
  const ring = pin + rows.pin;
  const valve = ring + rows.rings.length * cell;
  const joint = valve + rows.valvesBeside;
  const head = joint + rows.joint;
  const cam = head + rows.head;
  return { shell, rod, pin, ring, valve, joint, head, cam, top: cam + rows.cams };
}

/** Any cylinder of it: all are made alike. */
const firstOf = (section: Section) => section.cells.find((c) => c.scope === 'cylinder')?.station;

/** Widths that the narrowest cylinder and main may have. */
function least(section: Section, cell: number, banks: Banks): { cylinder: number; main: number } {
  const one = section.cells.filter(
    (c) => c.scope === 'cylinder' && c.station === firstOf(section) && c.drawn,
  );
  const count = (kinds: string[]) => one.filter((c) => kinds.includes(c.kind)).length;
  const overhead = section.make.camsPerBank;
  const shared =
    banks === 'both' && section.columns.some((c) => c.cylinderA !== null && c.cylinderB !== null);
  const gear = count(valves) + count(['spark-plug']);
  const cams = overhead > 0 ? Math.ceil(count(lobes) / overhead) : 0;
  const beside = overhead === 0 ? count(lobes) + 1.2 : 1.5;
  return {
    cylinder: Math.ceil(
      Math.max(cell * Math.max(4.5, gear, cams, beside), shared ? 2 * beside * cell + 24 : 0),
    ),
    main: cell + 6,
  };
}

/** How wide the drawing must be at the least. */
export function leastWidth(section: Section, cell: number, banks: Banks): number {
  const by = least(section, cell, banks);
  return shownColumns(section, banks).reduce(
    (sum, c) => sum + (c.kind === 'main' ? by.main : by.cylinder),
    0,
  );
}

/** One bank alone leaves out the crankpins on which it has no rod. */
function shownColumns(section: Section, banks: Banks) {
  return section.columns.filter(
    (c) => c.kind === 'main' || banks === 'both' || (banks === 'a' ? c.cylinderA : c.cylinderB) !== null,
  );
}

export const hasTwoBanks = (section: Section) => section.columns.some((c) => c.cylinderB !== null);

/** Lays the section out. `cell` is the least side of what is touched; `width` is what there is, and is exceeded where it does not do. */
export function draw(section: Section, width: number, cell = fine, banks: Banks = 'both'): Drawing {
  const shown: Banks = hasTwoBanks(section) ? banks : 'a';
  const mirrored = shown === 'both' && hasTwoBanks(section);
  const stations = place(section, width, cell, shown);
  const right = stations.at(-1)!;
  const full = right.x + right.width / 2;
  const rows = rowsOf(section, cell);
  const at = reach(rows, cell);
  const sump = bottomOf(section, rows, cell);
  const label = cell;
  const middle = label + at.top;
  const height = Math.round(mirrored ? 2 * middle : middle + sump + 6);

  const context: Context = { section, stations, cell, rows, at, middle, full, shown, mirrored };
  const shapes: Shape[] = [];
  const left: Cell[] = [];
  const rightEnd: Cell[] = [];
  const neither: Cell[] = [];
  for (const part of section.cells.filter((c) => c.drawn)) {
    if (part.end !== null && part.scope !== 'cylinder') (part.end === 'freeEnd' ? left : rightEnd).push(part);
    else if (part.scope === 'engine') neither.push(part);
    else {
      const placed = placeOf(part, context);
      if (placed) shapes.push({ cell: part, ...placed });
    }
  }
  for (const part of neither) (left.length <= rightEnd.length ? left : rightEnd).push(part);
  // What lies in front of another is drawn after it.
  const behind = ['head', 'camshaft', 'bore', 'piston', 'rod'];
  const depth = (s: Shape) => (behind.includes(s.cell.kind) ? behind.indexOf(s.cell.kind) : behind.length);
  shapes.sort((a, b) => depth(a) - depth(b));

  const ups = mirrored ? [-1, 1] : [-1];
  return {
    shapes,
    width: full,
    height,
    behind: ups
      .flatMap((up) => block(context, up))
      .concat(webs(context), ports(context, ups), fins(context, ups)),
    stations,
    rows: ups.flatMap((up) => rowNames(context, up)),
    ends: { left, right: rightEnd },
    numbers: section.cells
      .filter((c) => c.kind === 'bore' && (shown === 'both' || c.bank === shown))
      .flatMap((c) => {
        const station = stationOf(c, context);
        const up = mirrored && c.bank === 'b' ? 1 : -1;
        return station
          ? [{ cylinder: c.station, x: station.x, y: middle + up * (at.top + label / 2), bank: c.bank }]
          : [];
      }),
  };
}

interface Context {
  section: Section;
  stations: Station[];
  cell: number;
  rows: Rows;
  at: ReturnType<typeof reach>;
  /** The crank's centre line. */
  middle: number;
  full: number;
  shown: Banks;
  mirrored: boolean;
}

function place(section: Section, width: number, cell: number, banks: Banks): Station[] {
  const columns = shownColumns(section, banks);
  const by = least(section, cell, banks);
  const mains = columns.filter((c) => c.kind === 'main').length;
  const cylinders = columns.length - mains;
  const spare = Math.max(0, width - mains * by.main - cylinders * by.cylinder);
  // A main grows to half of what a cylinder grows by, and neither without end.
  const share = spare / (cylinders + mains / 2);
  const cylinder = Math.floor(Math.min(by.cylinder + share, cell * 12));
  const main = Math.floor(Math.min(by.main + share / 2, cell * 4));
  let x = 0;
  return columns.map((column) => {
    const w = column.kind === 'main' ? main : cylinder;
    x += w;
    return { x: x - w / 2, width: w, column };
  });
}

/** How far the lowest row lies under the crank's centre line. */
function bottomOf(section: Section, rows: Rows, cell: number) {
  const caps = section.cells.some((c) => c.drawn && (c.kind === 'rod-cap' || c.kind === 'main-cap'));
  const lower = section.cells.some(
    (c) => c.drawn && (c.kind === 'rod-shell-lower' || c.kind === 'main-shell-lower'),
  );
  return cell / 2 + (lower ? rows.shell : cell / 2) + (caps ? cell : 0);
}

const stationOf = (part: Cell, { section, stations }: Context) =>
  part.column === null ? undefined : stations.find((s) => s.column === section.columns[part.column!]);

function placeOf(part: Cell, context: Context): Placed | null {
  const { cell, at, rows, middle, full, shown, mirrored, stations } = context;
  const otherBank = shown !== 'both' && part.bank !== shown;
  const up = mirrored && part.bank === 'b' ? 1 : -1;
  const y = (d: number) => middle + up * d;
  if (part.scope === 'bank') {
    if (otherBank) return null;
    if (part.kind === 'head') return box(0, y(at.head), full, y(at.cam));
    if (part.kind !== 'head-joint') return null;
    // The joint is a line, with a tab over the last main for whoever wants to touch it.
    const tab = full - stations.at(-1)!.width;
    return {
      path: `M0 ${y(at.head)}H${full}V${y(at.head - cell)}H${tab}V${y(at.joint)}H0Z`,
      x: (tab + full) / 2,
      y: y(at.head - cell / 2),
      room: Math.min(cell, full - tab),
    };
  }

  if (part.scope === 'camshaft') {
    if (part.kind !== 'camshaft') return null;
    if (context.section.make.camsPerBank === 0)
      return {
        ...box(0, y(at.rod + 7), full, y(at.rod + rows.rod - 7)),
        hit: rect(0, y(at.rod), full, y(at.rod + rows.rod)),
      };
    if (otherBank) return null;
    const nth = (part.station - 1) % context.section.make.camsPerBank;
    const low = at.cam + nth * cell;
    return {
      ...box(0, y(low + 5), full, y(low + cell - 5)),
      hit: rect(0, y(low), full, y(low + cell)),
    };
  }

  const station = stationOf(part, context);
  if (!station) return null;
  if (part.scope === 'main') return mainPart(part.kind, station, context);
  const half = station.width / 2;
  if (part.kind === 'crankpin')
    return box(station.x - half + 9, middle - cell / 2, station.x + half - 9, middle + cell / 2);
  if (part.scope !== 'cylinder' || otherBank) return null;
  // Two rods on one pin stand beside each other, that of bank A toward the free end.
  const shared = mirrored && station.column.cylinderA !== null && station.column.cylinderB !== null;
  const [x0, x1] = [station.x - half, station.x + half];
  const [left, right] = shared
    ? part.bank === 'a'
      ? [x0 + 11, station.x - 1]
      : [station.x + 1, x1 - 11]
    : [x0 + 11, x1 - 11];
  return bigEnd(part, left, right, y, context) ?? upperPart(part, x0, x1, y, context);
}

function mainPart(kind: string, { x, width }: Station, { cell, at, middle, rows }: Context): Placed | null {
  const [x0, x1] = [x - width / 2 + 1, x + width / 2 - 1];
  const half = cell / 2;
  switch (kind) {
    case 'main-journal':
      return box(x0, middle - half, x1, middle + half);
    case 'main-shell-upper':
      return box(x0, middle - at.rod, x1, middle - half);
    case 'main-bearing':
      return rolling(x0, middle - at.rod, x1, middle - half);
    case 'main-shell-lower':
      return box(x0, middle + half, x1, middle + half + rows.shell);
    case 'main-cap':
      return box(x0, middle + half + rows.shell, x1, middle + half + rows.shell + cell);
    default:
      return null;
  }
}

/** The parts around a crankpin, between `left` and `right`. */
function bigEnd(
  part: Cell,
  left: number,
  right: number,
  y: (d: number) => number,
  { cell, at, rows, section, mirrored }: Context,
): Placed | null {
  const mid = (left + right) / 2;
  switch (part.kind) {
    case 'rod-shell-upper':
      return box(left, y(at.shell), right, y(at.rod));
    case 'rod-bearing':
      return rolling(left, y(at.shell), right, y(at.rod));
    case 'rod-shell-lower':
      return box(left, y(-at.shell), right, y(-at.shell - rows.shell));
    case 'rod-cap': {
      const shell = section.cells.some((c) => c.kind === 'rod-shell-lower') ? rows.shell : 0;
      return box(left, y(-at.shell - shell), right, y(-at.shell - shell - (mirrored ? rows.rod : cell)));
    }
    case 'rod': {
      const stem = cell * 0.55;
      const [low, foot, top] = [at.rod, at.rod + 6, at.pin];
      // A rod in one piece goes round its pin.
      const eye = section.make.built ? `M${left} ${y(-at.shell)}H${right}V${y(-at.shell - 7)}H${left}Z` : '';
      return {
        path: `${eye}M${left} ${y(low)}H${right}V${y(foot)}L${mid + stem} ${y(foot + 6)}V${y(top)}H${mid - stem}V${y(foot + 6)}L${left} ${y(foot)}Z`,
        x: mid,
        y: y(at.rod + rows.rod / 2 + 2),
        room: cell,
      };
    }
    default:
      return null;
  }
}

/** Piston, rings, bore and the valve gear of a cylinder between `x0` and `x1`. */
function upperPart(
  part: Cell,
  x0: number,
  x1: number,
  y: (d: number) => number,
  context: Context,
): Placed | null {
  const { cell, at, rows, section } = context;
  const wide = x1 - x0;
  // One wall may be slim where there is no room: the other is wide enough to be touched.
  const wall = Math.min(cell, (wide - 3 * cell) / 2) < cell ? Math.max(8, wide - 4.1 * cell) : cell;
  const [a, b] = [x0 + cell + 1, x1 - wall - 1];
  const mid = (a + b) / 2;
  switch (part.kind) {
    case 'bore': {
      const low = at.pin;
      const flange = section.make.bores === 'wetLiner' || section.make.bores === 'dryLiner' ? 3 : 0;
      return {
        path: rect(x0, y(low), x0 + cell, y(at.joint)) + rect(x1 - wall, y(low), x1 - flange, y(at.joint)),
        x: x0 + cell / 2,
        y: y((low + at.joint) / 2),
        room: cell,
      };
    }
    case 'piston':
      return {
        path: `M${a} ${y(at.pin)}H${b}V${y(at.valve)}H${a}Z`,
        x: (a + mid - cell * 0.7) / 2,
        y: y(at.pin + rows.pin / 2),
        room: cell - 4,
      };
    case 'wrist-pin': {
      // The piston must keep a touch's width beside its pin.
      const pin = Math.max(cell / 2, Math.min((b - a) / 2 - cell, cell * 1.6));
      return box(mid - pin, y(at.pin + 1), mid + pin, y(at.ring - 1));
    }
    case 'spark-plug': {
      const slot = slots(part, x0, x1, context);
      return {
        ...box(slot - 6, y(at.head), slot + 6, y(at.cam)),
        hit: rect(slot - cell / 2, y(at.head), slot + cell / 2, y(at.cam)),
      };
    }
    case 'valve-inlet':
    case 'valve-exhaust':
      return section.make.valves === 'side'
        ? valve(slots(part, x0, x1, context), y(at.valve), y(at.joint), cell, -1)
        : valve(slots(part, x0, x1, context), y(at.head), y(at.cam), cell, 1);
    case 'lobe-inlet':
    case 'lobe-exhaust':
      return lobe(part, x0, x1, y, context);
    default: {
      const nth = section.cells
        .filter((c) => c.kind === part.kind && c.station === part.station)
        .findIndex((c) => c.address === part.address);
      const row = rows.rings.indexOf(`${part.kind}/${nth}`);
      if (row < 0) return null;
      const low = at.ring + row * cell;
      return {
        ...box(a - 1, y(low + 3), b + 1, y(low + cell - 3)),
        hit: rect(a, y(low), b, y(low + cell)),
      };
    }
  }
}

/** Where a valve or a plug stands between the walls: inlets toward one side, exhausts toward the other, the plug between. */
function slots(part: Cell, x0: number, x1: number, { section, cell }: Context) {
  const order = ['valve-inlet', 'spark-plug', 'valve-exhaust'];
  const kinds = section.make.valves === 'side' ? order.filter((k) => k !== 'spark-plug') : order;
  const row =
    section.make.valves === 'side' && part.kind === 'spark-plug'
      ? [part]
      : kinds.flatMap((k) => section.cells.filter((c) => c.kind === k && c.station === part.station));
  const n = row.findIndex((c) => c.address === part.address);
  const pitch = Math.min((x1 - x0) / row.length, cell * 1.7);
  return (x0 + x1) / 2 + (n - (row.length - 1) / 2) * pitch;
}

/** A poppet valve from its head at `face` to the end of its stem. */
function valve(x: number, face: number, stem: number, cell: number, way: 1 | -1): Placed {
  const [from, to] = way > 0 ? [face, stem] : [stem, face];
  const wide = cell / 2;
  const step = (to - from) * 0.3;
  return {
    path: `M${x - wide} ${from}H${x + wide}L${x + 5} ${from + step}V${to}H${x - 5}V${from + step}Z`,
    x,
    y: from + (to - from) * 0.42,
    room: 14,
    hit: rect(x - wide, from, x + wide, to),
  };
}

function lobe(part: Cell, x0: number, x1: number, y: (d: number) => number, context: Context): Placed {
  const { section, cell, at, rows, mirrored } = context;
  const kin = (kinds: string[]) =>
    section.cells.filter((c) => kinds.includes(c.kind) && c.station === part.station);
  const cams = section.make.camsPerBank;
  if (cams > 0) {
    const row = kin(cams > 1 ? [part.kind] : lobes);
    const n = row.findIndex((c) => c.address === part.address);
    const pitch = Math.min((x1 - x0) / row.length, cell * 1.7);
    const x = (x0 + x1) / 2 + (n - (row.length - 1) / 2) * pitch;
    const low = at.cam + (cams > 1 && part.kind === 'lobe-exhaust' ? cell : 0);
    return egg(x, y(low), y(low + cell), cell);
  }
  // A camshaft in the block lies behind the rods: lobes stand on either side of the rod.
  const row = kin(lobes);
  const n = row.findIndex((c) => c.address === part.address);
  const shared = mirrored && section.columns[part.column!]!.cylinderB !== null;
  const both = shared && section.columns[part.column!]!.cylinderA !== null;
  const mid = both
    ? part.bank === 'a'
      ? (x0 + 10 + x1) / 2 - (x1 - x0) / 4
      : (x0 + x1 - 10) / 2 + (x1 - x0) / 4
    : (x0 + x1) / 2;
  const before = Math.ceil(row.length / 2);
  const x = n < before ? mid - (before - n - 0.5 + 0.58) * cell : mid + (n - before + 0.5 + 0.58) * cell;
  return egg(x, y(at.rod + 2), y(at.rod + rows.rod - 2), cell);
}

/** A cam's lobe seen on its edge: a block with a rounded nose. */
function egg(x: number, y0: number, y1: number, cell: number): Placed {
  const wide = cell / 2;
  const [top, low] = [Math.min(y0, y1), Math.max(y0, y1)];
  return {
    path: `M${x - wide} ${low}V${top + 5}Q${x - wide} ${top} ${x - wide + 5} ${top}H${x + wide - 5}Q${x + wide} ${top} ${x + wide} ${top + 5}V${low}Z`,
    x,
    y: (top + low) / 2,
    room: Math.min(2 * wide, low - top),
  };
}

function block({ at, middle, full }: Context, up: number): Drawing['behind'] {
  return [{ d: rect(0, middle + up * (at.shell + 4), full, middle + up * at.joint), fill: 'block' }];
}

/** The webs of the crank beside each pin. */
function webs({ stations, cell, at, rows, middle }: Context): Drawing['behind'] {
  const [up, down] = [at.shell + rows.shell * 0.8, at.shell + Math.max(rows.shell, cell * 0.6)];
  return stations
    .filter((s) => s.column.kind === 'crankpin')
    .flatMap((s) => [
      rect(s.x - s.width / 2 + 1, middle - up, s.x - s.width / 2 + 9, middle + down),
      rect(s.x + s.width / 2 - 9, middle - up, s.x + s.width / 2 - 1, middle + down),
    ])
    .map((d) => ({ d, fill: 'crank' as const }));
}

/** Windows in the bores of an engine that breathes through them. */
function ports(context: Context, ups: number[]): Drawing['behind'] {
  if (!context.section.make.ports) return [];
  const { at, middle, cell } = context;
  return ups.flatMap((up) =>
    context.stations
      .filter((s) => has(s, up, context.shown))
      .flatMap((s) => [s.x - s.width / 2 - 3, s.x + s.width / 2 - 3])
      .map((x) => ({
        d: rect(x, middle + up * (at.ring - cell * 0.6), x + 6, middle + up * (at.ring + cell * 0.2)),
        fill: 'paper' as const,
      })),
  );
}

/** Fins of barrels, and the flange by which a liner hangs. */
function fins(context: Context, ups: number[]): Drawing['behind'] {
  const { at, middle, section, stations } = context;
  const bores = section.make.bores;
  if (bores === 'parent') return [];
  return ups.flatMap((up) =>
    stations
      .filter((s) => has(s, up, context.shown))
      .flatMap((s) => {
        const [x0, x1] = [s.x - s.width / 2, s.x + s.width / 2];
        if (bores !== 'barrel')
          return [x0 - 3, x1 - 3].map((x) =>
            ground(rect(x, middle + up * (at.joint - 7), x + 6, middle + up * at.joint), 'crank'),
          );
        const many = Math.floor((at.joint - at.pin) / 8);
        return Array.from({ length: many }, (_, i) => {
          const y = middle + up * (at.pin + 4 + i * 8);
          return ground(`M${x0 - 7} ${y}H${x0}M${x1} ${y}H${x1 + 7}`, 'line');
        });
      }),
  );
}

const ground = (d: string, fill: Drawing['behind'][number]['fill']) => ({ d, fill });

/** Whether a cylinder stands over this pin on the side that is drawn. */
const has = (s: Station, up: number, shown: Banks) =>
  s.column.kind === 'crankpin' &&
  (shown === 'b' || up > 0 ? s.column.cylinderB : s.column.cylinderA) !== null;

/** The part of an engine around one station, for a screen that has room for no more. */
export function around(section: Section, column: number): Section {
  const near = section.columns.flatMap((_, i) => (Math.abs(i - column) <= 1 ? [i] : []));
  return {
    ...section,
    columns: near.map((i) => section.columns[i]!),
    cells: section.cells.flatMap((c) =>
      c.column === null ? [c] : near.includes(c.column) ? [{ ...c, column: near.indexOf(c.column) }] : [],
    ),
  };
}

function rowNames({ at, rows, cell, section, middle, mirrored }: Context, up: number): Drawing['rows'] {
  const y = (d: number) => middle + up * d;
  const make = section.make;
  const names: [string, number][] = [];
  if (make.camsPerBank > 0) names.push([make.camsPerBank > 1 ? tr`cams` : tr`cam`, at.cam + rows.cams / 2]);
  names.push([tr`head`, at.head + rows.head / 2]);
  if (rows.valvesBeside) names.push([tr`valves`, at.valve + rows.valvesBeside / 2]);
  names.push([tr`rings`, at.ring + (rows.rings.length * cell) / 2], [tr`piston`, at.pin + rows.pin / 2]);
  names.push([make.camsPerBank === 0 && make.valves ? tr`rod, cam` : tr`rod`, at.rod + rows.rod / 2]);
  if (!mirrored && rows.shell) names.push([tr`shells`, at.shell + rows.shell / 2]);
  if (up < 0) names.push([tr`crank`, 0]);
  return names.map(([name, d]) => ({ name, y: y(d) }));
}

/** The shape nearest in a direction, for the arrow keys. */
export function neighbour<T extends { x: number; y: number }>(
  shapes: readonly T[],
  from: T,
  dx: number,
  dy: number,
): T | null {
  let best: T | null = null;
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
