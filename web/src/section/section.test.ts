import { describe, expect, it } from 'vitest';
import type { CaseAnswers, Schemas } from '../api/client';
import { draw, neighbour, type Cell, type Section } from './geometry';
import { legends, lensNames, sights, type Lens } from './lenses';

const cell = (address: string, kind: string, column: number | null, more: Partial<Cell> = {}): Cell => ({
  address,
  kind,
  words: kind,
  stratum: 'rod',
  scope: column === null ? 'engine' : kind.startsWith('main') ? 'main' : 'cylinder',
  station: 1,
  column,
  bank: 'a',
  drawn: true,
  ...more,
});

/** A vee twin between two mains, as the server would lay it out. */
const vee: Section = {
  numberOneEnd: 'freeEnd',
  columns: [
    { kind: 'main', number: 1, cylinderA: null, cylinderB: null },
    { kind: 'crankpin', number: 1, cylinderA: 1, cylinderB: 2 },
    { kind: 'main', number: 2, cylinderA: null, cylinderB: null },
  ],
  cells: [
    cell('M1', 'main-journal', 0),
    cell('M2', 'main-journal', 2),
    cell('K1', 'crankpin', 1, { scope: 'crankpin' }),
    cell('R1', 'rod', 1),
    cell('P1', 'piston', 1),
    cell('R2', 'rod', 1, { bank: 'b' }),
    cell('P2', 'piston', 1, { bank: 'b' }),
    cell('PA', 'pan', null),
  ],
};

describe('the drawing', () => {
  const drawing = draw(vee);
  const at = (address: string) => drawing.shapes.find((s) => s.cell.address === address)!;

  it('has a shape for every part, inside its frame', () => {
    expect(drawing.shapes.map((s) => s.cell.address).sort()).toEqual(vee.cells.map((c) => c.address).sort());
    for (const s of drawing.shapes) {
      expect(s.x).toBeGreaterThan(0);
      expect(s.x).toBeLessThan(drawing.width);
      expect(s.y).toBeGreaterThan(drawing.top);
      expect(s.y).toBeLessThan(drawing.bottom);
    }
  });

  it('mirrors the second bank below the crank', () => {
    expect(at('P1').y).toBeLessThan(0);
    expect(at('P2').y).toBe(-at('P1').y);
  });

  it('gives two rods on one pin room of their own', () => {
    expect(at('R1').x).toBeLessThan(at('K1').x);
    expect(at('R2').x).toBeGreaterThan(at('K1').x);
  });

  it('is walked by direction', () => {
    expect(neighbour(drawing.shapes, at('M1'), 1, 0)?.cell.address).toBe('K1');
    expect(neighbour(drawing.shapes, at('R1'), 0, -1)?.cell.address).toBe('P1');
    expect(neighbour(drawing.shapes, at('M1'), -1, 0)).toBeNull();
  });
});

const place = (address: string, more: Partial<Schemas['PlaceState']> = {}): Schemas['PlaceState'] => ({
  place: address,
  tagged: false,
  marked: false,
  custody: null,
  damage: null,
  share: null,
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
