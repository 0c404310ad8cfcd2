import { describe, expect, it } from 'vitest';
import type { CaseAnswers, Schemas } from '../api/client';
import {
  around,
  broad,
  draw,
  fine,
  hasTwoBanks,
  leastWidth,
  neighbour,
  type Banks,
  type Cell,
  type Section,
} from './geometry';
import { legends, lensNames, sights, worst, type Lens } from './lenses';
import { partsOf, type Stations } from './Strip';

const cell = (address: string, kind: string, column: number | null, more: Partial<Cell> = {}): Cell => ({
  address,
  kind,
  words: kind,
  stratum: 'rod',
  scope: column === null ? 'engine' : kind.startsWith('main') ? 'main' : 'cylinder',
  station: 1,
  column,
  bank: 'a',
  end: null,
  drawn: true,
  ...more,
});

type Make = Section['make'];

/** An engine of `pins` crankpins with a main on either side of each, as the server would lay it out. */
function engine(pins: number, vee: boolean, make: Partial<Make> = {}, valves = 1): Section {
  const columns: Section['columns'] = [{ kind: 'main', number: 1, cylinderA: null, cylinderB: null }];
  const cells: Cell[] = [];
  const main = (n: number, at: number) =>
    ['main-journal', 'main-shell-upper', 'main-shell-lower', 'main-cap'].forEach((kind, i) =>
      cells.push(cell(`M${n}${['', 'U', 'L', 'C'][i]}`, kind, at, { station: n })),
    );
  main(1, 0);
  const cams = make.camsPerBank ?? 0;
  for (let pin = 1; pin <= pins; pin++) {
    const at = columns.length;
    const [a, b] = vee ? [2 * pin - 1, 2 * pin] : [pin, null];
    columns.push({ kind: 'crankpin', number: pin, cylinderA: a, cylinderB: b });
    columns.push({ kind: 'main', number: pin + 1, cylinderA: null, cylinderB: null });
    main(pin + 1, at + 1);
    cells.push(cell(`K${pin}`, 'crankpin', at, { scope: 'crankpin', station: pin }));
    for (const n of b === null ? [a] : [a, b]) {
      const of = (code: string, kind: string) =>
        cells.push(cell(code, kind, at, { station: n, bank: n === b ? 'b' : 'a' }));
      const kinds: [string, string][] = [
        ['C', 'bore'],
        ['P', 'piston'],
        ['PT', 'ring-top'],
        ['PN', 'ring-second'],
        ['PL', 'ring-oil'],
        ['W', 'wrist-pin'],
        ['R', 'rod'],
        ['RC', 'rod-cap'],
        ['RU', 'rod-shell-upper'],
        ['RL', 'rod-shell-lower'],
        ['N', 'spark-plug'],
      ];
      for (const [code, kind] of kinds) of(code[0] + `${n}` + code.slice(1), kind);
      for (let v = 1; v <= valves; v++)
        for (const [letter, way] of [
          ['A', 'inlet'],
          ['E', 'exhaust'],
        ] as const) {
          of(`V${n}${letter}${v}`, `valve-${way}`);
          of(`L${n}${letter}${v}`, `lobe-${way}`);
        }
    }
  }
  for (const bank of vee ? (['a', 'b'] as const) : (['a'] as const)) {
    const h = bank === 'a' ? 1 : 2;
    cells.push(cell(`H${h}`, 'head', null, { scope: 'bank', station: h, bank }));
    cells.push(cell(`H${h}J`, 'head-joint', null, { scope: 'bank', station: h, bank }));
    for (let c = 1; c <= cams; c++) {
      const n = (h - 1) * cams + c;
      cells.push(cell(`CM${n}`, 'camshaft', null, { scope: 'camshaft', station: n, bank }));
    }
  }
  if (cams === 0) cells.push(cell('CM1', 'camshaft', null, { scope: 'camshaft' }));
  cells.push(cell('PA', 'pan', null), cell('FW', 'flywheel', null, { end: 'driveEnd' }));
  cells.push(
    cell('KP', 'crank-pulley', null, { end: 'freeEnd' }),
    cell('X', 'shim-inlet', null, { drawn: false }),
  );
  return {
    numberOneEnd: 'freeEnd',
    columns,
    cells,
    make: {
      valves: 'pushrod',
      camsPerBank: 0,
      camDrive: 'chain',
      timing: 'freeEnd',
      flywheel: 'driveEnd',
      bores: 'parent',
      ports: false,
      built: false,
      ...make,
    },
  };
}

const engines: [string, Section][] = [
  ['inline six, pushrods', engine(6, false)],
  ['inline six, two camshafts, four valves', engine(6, false, { valves: 'twinOverhead', camsPerBank: 2 }, 2)],
  ['side-valve four', engine(4, false, { valves: 'side' })],
  ['vee eight, pushrods', engine(4, true)],
  ['vee sixteen, one camshaft to a bank', engine(8, true, { valves: 'overhead', camsPerBank: 1 })],
  ['twenty-four in two banks', engine(12, true)],
];

/** Corners of a path of straight lines, curves taken by their ends. */
function bounds(path: string) {
  const [xs, ys]: [number[], number[]] = [[], []];
  for (const [, command, rest] of path.matchAll(/([MLHVQ])([^MLHVQZ]*)/g)) {
    const n = rest!.trim().split(/[ ,]+/).map(Number);
    if (command === 'H') xs.push(n[0]!);
    else if (command === 'V') ys.push(n[0]!);
    else n.forEach((v, i) => (i % 2 ? ys : xs).push(v));
  }
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}

describe.each(engines)('the drawing of an %s', (_, section) => {
  const drawn = (width: number, size = fine, banks: Banks = 'both') => draw(section, width, size, banks);
  const vee = hasTwoBanks(section);

  it('has every drawn part once: over the crank, or at an end', () => {
    const { shapes, ends } = drawn(900);
    const all = [
      ...shapes.map((s) => s.cell.address),
      ...[...ends.left, ...ends.right].map((c) => c.address),
    ];
    expect(all.sort()).toEqual(
      section.cells
        .filter((c) => c.drawn)
        .map((c) => c.address)
        .sort(),
    );
    expect(ends.left.map((c) => c.address)).toContain('KP');
    expect(ends.right.map((c) => c.address)).toContain('FW');
  });

  it.each([
    ['fine', fine],
    ['broad', broad],
  ])(
    'has no part smaller than its %s size, none over the middle of another, and all within its frame',
    (_, size) => {
      const { shapes, width, height } = drawn(0, size);
      shapes.forEach((s, i) => {
        const b = bounds(s.hit ?? s.path);
        expect(Math.round(b.right - b.left), s.cell.address).toBeGreaterThanOrEqual(size);
        expect(Math.round(b.bottom - b.top), s.cell.address).toBeGreaterThanOrEqual(size);
        expect(b.left).toBeGreaterThanOrEqual(0);
        expect(b.right).toBeLessThanOrEqual(width);
        expect(b.top).toBeGreaterThanOrEqual(0);
        expect(b.bottom).toBeLessThanOrEqual(height);
        if (['head', 'camshaft'].includes(s.cell.kind)) return;
        for (const over of shapes.slice(i + 1)) {
          if (over.cell.kind === 'head-joint') continue;
          const o = bounds(over.hit ?? over.path);
          const hides = s.x > o.left && s.x < o.right && s.y > o.top && s.y < o.bottom;
          expect(hides, `${over.cell.address} over ${s.cell.address}`).toBe(false);
        }
      });
    },
  );

  it('grows to the width there is, and scrolls where there is less', () => {
    const least = leastWidth(section, fine, 'both');
    expect(drawn(0).width).toBe(least);
    expect(drawn(least + 100).width).toBeGreaterThan(least + 60);
    expect(drawn(least + 100).width).toBeLessThanOrEqual(least + 100);
  });

  it('shows one bank alone upright, with all of it and nothing of the other', () => {
    const { shapes, height } = drawn(900, fine, 'b');
    const banks = new Set(shapes.filter((s) => s.cell.scope === 'cylinder').map((s) => s.cell.bank));
    expect([...banks]).toEqual([vee ? 'b' : 'a']);
    if (vee) expect(height).toBeLessThan(drawn(900).height);
    const rod = shapes.find((s) => s.cell.kind === 'rod')!;
    const piston = shapes.find((s) => s.cell.kind === 'piston')!;
    expect(piston.y).toBeLessThan(rod.y);
  });
});

describe('the drawing', () => {
  const at = (section: Section, address: string) => {
    const shape = draw(section, 900).shapes.find((s) => s.cell.address === address);
    if (!shape) throw new Error(address);
    return shape;
  };
  const eight = engine(4, true);

  it('mirrors the second bank below the crank, and gives two rods on one pin room of their own', () => {
    const middle = at(eight, 'K1').y;
    expect(at(eight, 'P1').y - middle).toBe(middle - at(eight, 'P2').y);
    expect(at(eight, 'R1').x).toBeLessThan(at(eight, 'K1').x);
    expect(at(eight, 'R2').x).toBeGreaterThan(at(eight, 'K1').x);
  });

  it('puts the camshaft where it is: over the valves, or behind the rods', () => {
    const [overhead, block] = [engine(4, false, { valves: 'overhead', camsPerBank: 1 }), engine(4, false)];
    expect(at(overhead, 'CM1').y).toBeLessThan(at(overhead, 'V1A1').y);
    expect(at(block, 'CM1').y).toBeGreaterThan(at(block, 'P1').y);
  });

  it('stands side valves beside the bore, heads up, under the head', () => {
    const side = engine(4, false, { valves: 'side' });
    expect(at(side, 'V1A1').y).toBeGreaterThan(at(side, 'H1').y);
  });

  it('cuts windows into the bores of a two-stroke, and gives barrels their fins', () => {
    const fills = (make: Partial<Make>) => draw(engine(2, false, make), 900).behind.map((b) => b.fill);
    expect(fills({ ports: true })).toContain('paper');
    expect(fills({ bores: 'barrel' })).toContain('line');
    expect(fills({})).not.toContain('line');
  });

  it('is told around one station', () => {
    const near = around(engine(6, false), 7);
    expect(near.columns.map((c) => c.number)).toEqual([4, 4, 5]);
    const { shapes, width } = draw(near, 0, broad);
    expect(shapes.filter((s) => s.cell.scope === 'cylinder').every((s) => s.cell.station === 4)).toBe(true);
    expect(width).toBeLessThan(360);
  });

  it('is walked by direction', () => {
    const { shapes } = draw(eight, 900);
    const from = (address: string) => shapes.find((s) => s.cell.address === address)!;
    expect(neighbour(shapes, from('M1'), 1, 0)?.cell.address).toBe('K1');
    expect(neighbour(shapes, from('M1'), -1, 0)).toBeNull();
  });
});

describe('the low section', () => {
  it('counts a crankpin to each cylinder whose rod runs on it', () => {
    const eight = engine(4, true);
    const stations = [1, 2].map((number) => ({
      scope: 'cylinder',
      number,
      bank: number === 1 ? 'a' : 'b',
      places: [`P${number}`, 'K1'],
    }));
    const mains = { scope: 'main', number: 2, bank: 'a', places: ['M2', 'M2U', 'M2L', 'M2C'] };
    const all = [...stations, mains] as Stations;
    for (const n of [1, 2])
      expect(partsOf(eight, all, `cylinder-${n}`).map((c) => c.address)).toEqual(
        expect.arrayContaining([`P${n}`, 'K1']),
      );
    expect(partsOf(eight, all, 'main-2').map((c) => c.address)).toEqual(['M2', 'M2U', 'M2L', 'M2C']);
  });

  it('shows a station by its worst part, and tags by their number', () => {
    const of = ['calm', 'heavy', 'light'].map((tone, i) => ({
      tone: tone as 'calm',
      mark: ['·', '3', '1'][i]!,
      words: tone,
    }));
    expect(worst('damage', of, 9)?.mark).toBe('3');
    expect(worst('tags', of, 9)?.mark).toBe('3/9');
    expect(worst('damage', [], 9)).toBeUndefined();
  });
});

const place = (address: string, more: Partial<Schemas['PlaceState']> = {}): Schemas['PlaceState'] => ({
  place: address,
  tagged: false,
  marked: false,
  custody: null,
  damage: null,
  share: null,
  shareAfter: null,
  loud: false,
  verdict: null,
  photos: 0,
  readings: 0,
  appears: false,
  ...more,
});

const sign = (at: string, seen: 'present' | 'absent' | null) => ({
  sign: 's',
  name: 'Scored',
  place: at,
  strength: 0.5,
  seen,
});

const answers = {
  places: [
    place('R1', { tagged: true, marked: true, damage: 0, share: 0.4 }),
    place('R2', { tagged: true, damage: 3, share: 1.24 }),
    place('R3', { loud: true, share: 0.5, verdict: 'replace' }),
    place('R4', { share: -0.1 }),
  ],
  trace: {
    ranking: [
      { chain: [{ signs: [sign('R1', null), sign('R2', 'absent')] }, { signs: [sign('R1', 'present')] }] },
    ],
  },
} as unknown as CaseAnswers;

describe('the lenses', () => {
  it('tell state by mark and word as well as by tone', () => {
    expect(sights(answers.places, answers.trace, 'tags', 0).get('R2')).toMatchObject({
      mark: '○',
      words: 'tagged, no mark',
    });
    expect(sights(answers.places, answers.trace, 'damage', 0).get('R2')).toMatchObject({
      mark: '3',
      words: 'severe',
    });
    expect(sights(answers.places, answers.trace, 'damage', 0).get('R3')?.mark).toBe('');
    expect(sights(answers.places, answers.trace, 'verdict', 0).get('R3')).toMatchObject({
      mark: '×',
      words: 'replace',
    });
  });

  it('show the share of the limit, and a wrong size louder than any share', () => {
    const limit = sights(answers.places, answers.trace, 'limit', 0);
    expect(limit.get('R1')?.mark).toBe('40');
    expect(limit.get('R2')?.mark).toBe('1.2×');
    expect(limit.get('R3')).toMatchObject({ mark: '!', words: 'wrong size' });
    expect(limit.get('R4')?.words).toBe('below the least');
  });

  it('show before and after work apart', () => {
    const worked = [{ ...answers.places[0]!, share: 1.2, shareAfter: 0.3 }];
    expect(sights(worked, answers.trace, 'limit', 0).get(worked[0]!.place)?.mark).toBe('1.2×');
    expect(sights(worked, answers.trace, 'after', 0).get(worked[0]!.place)).toMatchObject({
      tone: 'calm',
      mark: '30',
      words: '30 % of the limit used after work',
    });
    expect(sights(answers.places, answers.trace, 'after', 0).get('R1')?.mark).toBe('');
  });

  it('let what was found stand before what is only predicted', () => {
    const cause = sights(answers.places, answers.trace, 'cause', 0);
    expect(cause.get('R1')?.words).toBe('Scored: found');
    expect(cause.get('R2')?.words).toContain('not there');
    expect(sights(answers.places, answers.trace, 'cause', 7).size).toBe(0);
  });

  it('have a legend for every mark but numbers', () => {
    for (const lens of Object.keys(lensNames) as Lens[]) {
      const words = legends[lens].map((l) => l.words);
      expect(new Set(words).size).toBe(words.length);
      expect(words.every((w) => w.length > 0)).toBe(true);
    }
  });
});
