import { describe, expect, it } from 'vitest';
import type { CaseAnswers, EngineCase } from '../api/client';
import type { EntryKind, Kept } from './outbox';
import { placesWithWaiting, stripWithWaiting, withWaiting } from './overlay';

let seq = 0;
const kept = (kind: EntryKind, body: unknown, more: Partial<Kept> = {}): Kept => ({
  seq: ++seq,
  kind,
  body,
  caseId: 'c',
  path: '',
  words: '',
  place: '',
  by: 'tomas',
  at: '2026-11-25T08:00:00Z',
  numbering: 0,
  ...more,
});

const engineCase = {
  id: 'c',
  findings: [{ id: 'old', withdrawnAt: null }],
  photos: [],
  photoMarks: [],
  pictureMeasures: [],
  sounds: [],
  debris: [],
  stepMarks: [],
  fastenerMoves: [],
  readings: [],
} as unknown as EngineCase;

const seen = { id: 'f1', place: 'P3', sign: 'land-broken', seen: 'present', level: 2, spot: '', note: '' };

describe('what waits is laid over the case', () => {
  it('shows findings, pictures, marks and debris as not yet sent', () => {
    const c = withWaiting(engineCase, [
      kept('finding', seen),
      kept('findings', [
        { ...seen, id: 'f2', level: 0 },
        { ...seen, id: 'f3', level: 0 },
      ]),
      kept('photo', { id: 'p1', place: 'P3', step: '', shot: 'crown-up' }),
      kept('photoMark', { id: 'm1', photo: 'p1', kind: 'ring' }),
      kept('pictureMeasure', {
        id: 'w1',
        photo: 'p1',
        ask: { task: 'length', points: [0, 0, 1, 1], above: 0 },
      }),
      kept('sound', { id: 'o1', seconds: 8, channels: 1, rpm: null, cutOut: 2, load: 'pulls' }),
      kept('debris', { id: 'd1', place: 'PA' }),
      kept('stepMark', { id: 's1', step: 'pan', kind: 'ticked', item: 0 }),
      kept('fastener', { id: 'b1', step: 'pan', set: 'pan' }),
    ]);
    expect(c.findings.map((f) => f.id)).toEqual(['old', 'f1', 'f2', 'f3']);
    expect(c.findings[1]).toMatchObject({ version: 0, by: 'tomas', zones: [] });
    expect(c.photos[0]).toMatchObject({ id: 'p1', shot: 'crown-up', version: 0 });
    expect(c.pictureMeasures).toMatchObject([{ id: 'w1', photo: 'p1', task: 'length', version: 0 }]);
    expect(c.sounds).toMatchObject([{ id: 'o1', cutOut: 2, load: 'pulls', rpm: null, version: 0 }]);
    expect([c.photoMarks, c.debris, c.stepMarks, c.fastenerMoves].map((l) => l.length)).toEqual([1, 1, 1, 1]);
  });

  it('shows a reading that waits, with its figure as far as it can be read here', () => {
    const reading = {
      id: 'r1',
      place: 'K1',
      characteristic: 'crankpin-diameter',
      typed: '2.097',
      setUnit: 'in',
      instrument: 'mic',
      phase: 'asFound',
      station: 'free-end side',
    };
    const c = withWaiting(engineCase, [
      kept('reading', reading),
      kept('reading', { ...reading, id: 'r2', typed: '+.003' }),
    ]);
    expect(c.readings.map((r) => [r.typed, r.unit, r.station])).toEqual([
      ['2.097', 'in', 'free-end side'],
      ['+.003', 'in', 'free-end side'],
    ]);
    expect(c.readings[0]!.value).toBeCloseTo(53.2638, 6);
  });

  it('strikes out what is taken back', () => {
    const path = '/api/cases/c/findings/0194aaaa-bbbb-7ccc-8ddd-eeeeffff0000/withdraw';
    const c = withWaiting(
      {
        ...engineCase,
        findings: [{ id: '0194aaaa-bbbb-7ccc-8ddd-eeeeffff0000', withdrawnAt: null }],
      } as never,
      [kept('withdraw', { why: 'wrong part', version: 1 }, { path })],
    );
    expect(c.findings[0]).toMatchObject({ withdrawnWhy: 'wrong part' });
  });

  it('never doubles what the server already has, leaves out what it refused and what is of another case', () => {
    const had = { ...engineCase, findings: [{ id: 'f1', version: 1 }] } as never;
    expect(withWaiting(had, [kept('finding', seen)]).findings).toHaveLength(1);
    const refused = { status: 422, title: '', remedy: '', body: {} };
    expect(withWaiting(engineCase, [kept('finding', seen, { refused })])).toBe(engineCase);
    expect(withWaiting(engineCase, [kept('finding', seen, { caseId: 'other' })])).toBe(engineCase);
  });
});

const ledger = (id: string, more = {}) => ({
  set: { lengths: [], id },
  expected: 6,
  in: 6,
  out: 0,
  broken: 0,
  keeping: null,
  where: '',
  holes: [{ number: 1, state: null, length: null }],
  ...more,
});

const answers = {
  places: [{ place: 'P3', damage: null, photos: 0, appears: false }],
  strip: {
    fastenersOut: 10,
    broken: 0,
    steps: [
      { id: 'pan', ticked: [1], open: 6, spent: 0, runningSince: null, sets: [ledger('pan')] },
      {
        id: 'head',
        ticked: [],
        open: 6,
        spent: 0,
        runningSince: '2026-11-25T07:30:00Z',
        sets: [ledger('head')],
      },
    ],
  },
} as unknown as CaseAnswers;

const step = (a: CaseAnswers['strip'], id: string) => a.steps.find((s) => s.id === id)!;
const move = (state: string, more = {}) =>
  kept('fastener', {
    step: 'pan',
    set: 'pan',
    state,
    count: 1,
    hole: 0,
    length: null,
    keeping: 'bag',
    where: 'bag 2',
    ...more,
  });

describe('what waits is laid over what the server worked out', () => {
  it('ticks, unticks, starts and stops the clock', () => {
    const mark = (id: string, kind: string, item = 0) => kept('stepMark', { step: id, kind, item });
    const a = stripWithWaiting(answers.strip, 'c', [
      mark('pan', 'ticked', 0),
      mark('pan', 'unticked', 1),
      mark('pan', 'started'),
      mark('head', 'stopped'),
    ]);
    expect(step(a, 'pan')).toMatchObject({ ticked: [0], runningSince: '2026-11-25T08:00:00Z' });
    expect(step(a, 'head')).toMatchObject({ spent: 30, runningSince: null });
  });

  it('adds the bolts up as the server does', () => {
    const a = stripWithWaiting(answers.strip, 'c', [
      move('out', { count: 3, hole: 1, length: 20 }),
      move('broken'),
      move('soaked'),
      move('backIn'),
      move('restOut'),
    ]);
    const set = step(a, 'pan').sets[0]!;
    expect(set).toMatchObject({ out: 3, broken: 0, in: 3, keeping: 'bag', where: 'bag 2' });
    expect(set.in + set.out + set.broken).toBe(set.expected);
    expect(set.holes[0]).toMatchObject({ state: 'out', length: 20 });
    expect(step(a, 'pan').open).toBe(3);
    expect(a).toMatchObject({ fastenersOut: 13, broken: 0 });
    expect(step(a, 'head').open).toBe(6);
  });

  it('shows the worst level and the pictures in the section', () => {
    const a = placesWithWaiting(answers.places, 'c', [
      kept('finding', seen),
      kept('findings', [{ ...seen, level: 0 }]),
      kept('photo', { id: 'p', place: 'P3' }),
    ]);
    expect(a[0]).toMatchObject({ damage: 2, photos: 1, appears: true });
    expect(placesWithWaiting(answers.places, 'other', [])).toBe(answers.places);
    expect(stripWithWaiting(answers.strip, 'other', [move('out')])).toBe(answers.strip);
  });
});
