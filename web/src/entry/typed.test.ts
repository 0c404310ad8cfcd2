import { describe, expect, it } from 'vitest';
import shared from '../../../tests/typed-figures.json';
import type { EngineCase, Schemas } from '../api/client';
import { ledgerAfter } from '../outbox/ledger';
import { bounds as bounding, ranked, nominalOf, service } from '../gauge/limitRule';
import { expectedSize } from '../gauge/points';
import { readFigure, suspicion } from './typed';

// The same file is read by tests/Core.Tests: what the bench does by itself is what the server does.
describe('the bench without a network does as the server does', () => {
  it.each(shared.read)('reads $typed in $unit', ({ typed, unit, value, ...more }) => {
    const { quantity, relative, within } = more as { quantity?: string; relative?: boolean; within?: number };
    const read = readFigure(typed, unit, (quantity ?? 'length') as Schemas['Quantity']);
    if (value === null) expect(read).toBeNull();
    else {
      expect(read!.value).toBeCloseTo(value, 7);
      expect(read!.within).toBeCloseTo(within ?? 0, 7);
      expect(read!.relative).toBe(relative ?? false);
    }
  });

  it.each(shared.slips)('$typed against $expected', ({ typed, unit, expected, peers, asks, ...entry }) => {
    const asked = suspicion(typed, unit, { ...entry, quantity: 'length' }, expected, peers);
    if (asks === null) expect(asked).toBeNull();
    else expect(asked).toContain(asks);
  });

  it.each(shared.limits)('$says', ({ limits, kind, nominal, bounds }) => {
    const entered = limits.map((l) => ({
      ...l,
      withdrawnAt: l.withdrawn ? l.at : null,
    })) as unknown as (Schemas['Limit'] & { id: unknown })[];
    expect(nominalOf(entered, 'crankpin-diameter', kind)).toBe(nominal);
    const first = ranked(entered, 'crankpin-diameter', kind).find(bounding);
    expect(first?.id ?? null).toBe(bounds);
  });

  it.each(shared.service)('$says', ({ serviceLeast, serviceMost, ...limit }) => {
    expect(service(limit)).toEqual({ least: serviceLeast, most: serviceMost });
  });

  it.each(shared.expected)('$says', ({ readings, phase, median, ...more }) => {
    const c = {
      limits: [],
      readings: readings.map((r) => ({ ...r, withdrawnAt: r.withdrawn ? '2026-11-25' : null })),
    } as unknown as EngineCase;
    const cells = [1, 2, 3, 4].map((n) => ({
      address: `K${n}`,
      kind: 'crankpin',
      stratum: 'crankpin' as const,
    }));
    const corrects = (more as { corrects?: number }).corrects ?? null;
    expect(
      expectedSize(
        c,
        cells,
        'crankpin-diameter',
        'crankpin',
        phase as Schemas['Phase'],
        corrects as unknown as string | null,
      )?.size ?? null,
    ).toBe(median);
  });

  const bolts = (n: number, holes: number, lengths: number[]) =>
    ({
      set: { lengths },
      in: n,
      out: 0,
      broken: 0,
      keeping: null,
      where: '',
      holes: Array.from({ length: holes }, (_, i) => ({ number: i + 1, state: null, length: null })),
      mapMissing: false,
    }) as unknown as Schemas['SetLedger'];
  type Moves = { state: string; count: number; hole: number; length: number | null }[];
  const after = (ledger: Schemas['SetLedger'], moves: Moves) =>
    moves.reduce(
      (l, m) => ledgerAfter(l, { ...m, keeping: 'bag', where: '' } as Parameters<typeof ledgerAfter>[1]),
      ledger,
    );

  it.each(shared.sums)('fasteners: $says', ({ moves, says: _, ...sums }) =>
    expect(after(bolts(12, 0, [40]), moves)).toMatchObject(sums),
  );

  it.each(shared.holes)('fasteners: $says', ({ moves, holes }) =>
    expect(after(bolts(4, 4, [30, 55]), moves).holes.map((h) => [h.state, h.length])).toEqual(holes),
  );
});

const pin = { gap: false, least: 10, most: 300, quantity: 'length' } as const;
const gap = { gap: true, least: 0, most: 5, quantity: 'length' } as const;

it.each([
  ['717.4', 'ten times too large'],
  ['7.174', 'ten times too small'],
  ['2.824', 'meant in inches'],
  ['71740', 'a thousand times too large'],
  ['60', 'far from'],
])('asks about %s against 71.75', (typed, words) => {
  expect(suspicion(typed, 'mm', pin, 71.75)).toContain(words);
});

it('does not ask about an ordinary reading, a wide gap or a figure with a sign', () => {
  expect(suspicion('71.7', 'mm', pin, 71.75)).toBeNull();
  expect(suspicion('0.30', 'mm', gap, 0.05)).toBeNull();
  expect(suspicion('+.003', 'in', pin, 71.75)).toBeNull();
});

it('asks about what no engine has even without peers, and about what it cannot read', () => {
  expect(suspicion('2.8', 'mm', pin, null)).toContain('less than 10');
  expect(suspicion('6', 'mm', gap, null)).toContain('more than 5');
  expect(suspicion('five', 'mm', pin, null)).toContain('kept as typed');
});

it('never throws and never makes a number of what has no digit', () => {
  let seed = 7;
  const next = () => (seed = (seed * 1103515245 + 12345) % 2147483648);
  const letters = '0123456789.,+-/| "mintho°%';
  const typed = Array.from({ length: 2000 }, () =>
    Array.from({ length: 1 + (next() % 10) }, () => letters[next() % letters.length]).join(''),
  );
  const read = typed.flatMap((text) => {
    const figure = readFigure(text, 'mm');
    return figure === null ? [] : [{ text, value: figure.value }];
  });
  expect(read.length).toBeGreaterThan(50);
  expect(read.filter((r) => !Number.isFinite(r.value) || !/\d/.test(r.text))).toEqual([]);
});
