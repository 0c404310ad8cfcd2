import { describe, expect, it } from 'vitest';
import type { EngineCase, Schemas } from '../api/client';
import { opened, scales, startFor, sum } from '../entry/Thimble';
import { drawn } from './ReckonerArt';
import {
  expectedSize,
  readingsByPoint,
  roundsOf,
  pointsOf,
  active,
  twoSpots,
  walkOf,
  type Characteristic,
} from './points';

const cell = (address: string, kind: string, station: number, stratum: string) =>
  ({ address, kind, station, stratum, words: `${kind} ${station}` }) as unknown as Schemas['SectionCell'];

const cells = [
  cell('K2', 'crankpin', 2, 'crankpin'),
  cell('K1', 'crankpin', 1, 'crankpin'),
  cell('R1L', 'rod-shell-lower', 1, 'bigEnd'),
  cell('R1U', 'rod-shell-upper', 1, 'bigEnd'),
  cell('R2U', 'rod-shell-upper', 2, 'bigEnd'),
  cell('M1U', 'main-shell-upper', 1, 'main'),
];

const entry = (more: Partial<Characteristic>): Characteristic =>
  ({ id: 'x', name: 'X', on: [], stations: [], directions: {}, derived: false, ...more }) as Characteristic;

const pins = entry({
  id: 'crankpin-diameter',
  name: 'Crankpin diameter',
  on: ['crankpin'],
  stations: ['free-end side', 'drive-end side'],
  directions: { 'in line with the throw': 0, 'across the throw': 90 },
});
const walls = entry({
  id: 'shell-wall',
  name: 'Shell wall',
  on: ['rod-shell-upper', 'rod-shell-lower', 'main-shell-upper'],
});

const read = (id: string, place: string, value: number, more: Partial<Schemas['Reading']> = {}) =>
  ({
    id,
    place,
    characteristic: 'crankpin-diameter',
    station: '',
    direction: '',
    phase: 'asFound',
    value,
    corrects: null,
    withdrawnAt: null,
    ...more,
  }) as Schemas['Reading'];

describe('two spots of each part', () => {
  const spots = (e: Partial<Characteristic>) =>
    twoSpots(walkOf(cells, entry({ on: ['crankpin'], ...e }))).map((p) => [p.place, p.station, p.direction]);

  it('are both directions at the first level, where a bore wears first', () => {
    expect(spots({ stations: ['top', 'middle', 'below'], directions: { along: 0, across: 90 } })).toEqual([
      ['K1', 'top', 'along'],
      ['K1', 'top', 'across'],
      ['K2', 'top', 'along'],
      ['K2', 'top', 'across'],
    ]);
  });

  it('are the first level and the last where there is one direction, and what there is where there is no more', () => {
    expect(spots({ stations: ['top', 'middle', 'end'] })).toEqual([
      ['K1', 'top', ''],
      ['K1', 'end', ''],
      ['K2', 'top', ''],
      ['K2', 'end', ''],
    ]);
    expect(spots({})).toEqual([
      ['K1', '', ''],
      ['K2', '', ''],
    ]);
  });
});

describe('rounds', () => {
  it('walk station by station, upper shell before lower, level by level, direction by direction', () => {
    expect(walkOf(cells, pins).map((s) => [s.place, s.station, s.direction].join(' '))).toEqual([
      'K1 free-end side in line with the throw',
      'K1 free-end side across the throw',
      'K1 drive-end side in line with the throw',
      'K1 drive-end side across the throw',
      'K2 free-end side in line with the throw',
      'K2 free-end side across the throw',
      'K2 drive-end side in line with the throw',
      'K2 drive-end side across the throw',
    ]);
    expect(walkOf(cells, walls, ['rod-shell-upper', 'rod-shell-lower']).map((s) => s.place)).toEqual([
      'R1U',
      'R1L',
      'R2U',
    ]);
  });

  it('keep big ends and mains apart and leave out what the engine has not', () => {
    const rounds = roundsOf(cells, [pins, walls], ['crankpin-diameter', 'shell-wall']);
    expect(rounds.map((r) => r.name)).toEqual([
      'Crankpin diameter',
      'Shell wall, big ends',
      'Shell wall, mains',
    ]);
    expect(new Set(rounds.map((r) => r.id)).size).toBe(3);
    expect(roundsOf(cells, [pins, walls], ['shell-wall'])).toHaveLength(2);
    // A round of one kind beside another is called by its part.
    const runOut = entry({ id: 'run-out', name: 'Run-out', on: ['crankpin', 'main-shell-upper'] });
    expect(roundsOf(cells, [runOut], ['run-out'], { crankpin: 'crankpin' }).map((r) => r.name)).toEqual([
      'Run-out, crankpin',
      'Run-out, mains',
    ]);
  });

  it('have one point where there is neither level nor direction', () => {
    expect(pointsOf(cells[3]!, walls)).toHaveLength(1);
  });
});

const limit = (characteristic: string, nominal: number, on: string) => ({
  characteristic,
  nominal,
  on,
  least: null,
  most: null,
  wear: null,
  source: 'makersManual',
  at: '2026-11-24T08:00:00Z',
  withdrawnAt: null,
});

describe('readings', () => {
  const engineCase = {
    readings: [
      read('a', 'K1', 71.84, { station: 'free-end side' }),
      read('b', 'K1', 71.48, { station: 'free-end side', corrects: 'a' }),
      read('c', 'K2', 71.5),
      read('d', 'K2', 71.46, { withdrawnAt: '2026-11-25' }),
      read('e', 'K2', 71.52, { phase: 'afterWork' }),
      read('f', 'K1', 71.49),
    ],
    limits: [
      limit('bore-diameter', 88, ''),
      limit('shell-wall', 1.5, ''),
      limit('shell-wall', 2.5, 'main-shell-upper'),
    ],
  } as unknown as EngineCase;

  it('stand unless they are corrected or taken back', () => {
    expect(active(engineCase.readings).map((r) => r.id)).toEqual(['b', 'c', 'e', 'f']);
    const by = readingsByPoint(engineCase.readings, 'crankpin-diameter', 'asFound');
    expect([...by.keys()]).toEqual(['K1/free-end side/', 'K2//', 'K1//']);
  });

  it('make the size that is expected; where they are few the nominal of the kind does', () => {
    expect(expectedSize(engineCase, cells, 'crankpin-diameter', 'crankpin')).toEqual({
      size: 71.49,
      peers: true,
    });
    expect(expectedSize(engineCase, cells, 'crankpin-diameter', 'crankpin', 'afterWork')).toBeNull();
    expect(expectedSize(engineCase, cells, 'shell-wall', 'main-shell-upper')).toEqual({
      size: 2.5,
      peers: false,
    });
    expect(expectedSize(engineCase, cells, 'shell-wall', 'rod-shell-upper')).toEqual({
      size: 1.5,
      peers: false,
    });
    expect(expectedSize(engineCase, cells, 'ring-end-gap', 'ring-top')).toBeNull();
  });
});

describe('a micrometer', () => {
  // 2.000 + 0.075 + 0.022 = 2.097 in (common practice, value from memory).
  it('adds up its lines', () => {
    expect(sum({ start: 2, lines: 3, divisions: 22, fine: 0 }, 'in')).toBeCloseTo(2.097, 9);
    expect(sum({ start: 50, lines: 43, divisions: 48, fine: 5 }, 'mm')).toBeCloseTo(71.985, 9);
  });

  it('opens near the size expected and leaves the reading to the thimble', () => {
    expect(opened(71.98, 'mm')).toEqual({ start: 50, lines: 43, divisions: 0, fine: 0 });
    expect(opened(53.2638, 'in')).toEqual({ start: 2, lines: 3, divisions: 0, fine: 0 });
    expect(startFor(null, 'mm')).toBe(50);
    for (const unit of ['mm', 'in'] as const)
      for (let mm = 5; mm < 300; mm += 3.7) {
        const size = mm / (unit === 'in' ? 25.4 : 1);
        const at = sum(opened(mm, unit), unit);
        expect(at).toBeLessThanOrEqual(size + 1e-9);
        expect(size - at).toBeLessThan(scales[unit].line + 1e-9);
      }
  });
});

it('has a drawing for what a reckoner measures', () => {
  expect(drawn.length).toBeGreaterThan(15);
});
