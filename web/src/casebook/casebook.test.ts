import { expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { since } from '../ui/basics';
import { megabytes } from '../ui/words';
import { othersOf } from './Casebook';
import { firingOf } from './LayoutFields';

const line = (more: Partial<Schemas['CaseLine']>) =>
  ({
    toSign: 0,
    away: 0,
    coming: 0,
    with: [],
    due: null,
    promised: null,
    likely: null,
    ...more,
  }) as Schemas['CaseLine'];

it('a case says what it waits for from others, what is late before what is to be signed', () => {
  expect(othersOf(line({}), '2026-11-27')).toEqual([]);
  expect(
    othersOf(
      line({ toSign: 1, away: 2, coming: 1, with: ['Linden Grinding', 'a supplier'], due: '2026-11-26' }),
      '2026-11-27',
    ),
  ).toEqual([
    {
      words: '2 parts away, 1 line on order with Linden Grinding, a supplier, was due 26 Nov 2026',
      late: true,
    },
    { words: '1 hold point to sign' },
  ]);
  expect(othersOf(line({ coming: 3, due: '2026-11-27' }), '2026-11-27')).toEqual([
    { words: '3 lines on order, due 27 Nov 2026', late: false },
  ]);
  const promised = (day: string, likely: string | null) =>
    othersOf(line({ promised: day, likely }), '2026-11-27');
  expect(promised('2026-12-04', '2026-12-04')).toEqual([
    { words: 'promised 4 Dec 2026, likely 4 Dec 2026', late: false },
  ]);
  expect(promised('2026-12-04', '2026-12-05')[0]!.late).toBe(true);
  expect(promised('2026-11-26', null)).toEqual([{ words: 'promised 26 Nov 2026', late: true }]);
});

it('how long ago is told in minutes, hours, then days', () => {
  const now = Date.parse('2026-11-27T12:00:00Z');
  expect(
    ['2026-11-27T11:59:50Z', '2026-11-27T11:20:00Z', '2026-11-26T02:00:00Z', '2026-11-24T11:00:00Z'].map(
      (t) => since(t, now),
    ),
  ).toEqual(['just now', '40 min ago', '34 h ago', '3 days ago']);
  // A clock that goes behind.
  expect(since('2026-11-27T12:05:00Z', now)).toBe('just now');
});

it('a firing order is read with and without what stands between its numbers', () => {
  expect(firingOf('1342')).toEqual([1, 3, 4, 2]);
  expect(firingOf(' 1-3-4-2 ')).toEqual([1, 3, 4, 2]);
  expect(firingOf('1, 5, 3, 6, 2, 4')).toEqual([1, 5, 3, 6, 2, 4]);
  // Ten and above cannot be told apart.
  expect(firingOf('1 10 9 4')).toEqual([1, 10, 9, 4]);
  expect(firingOf('1')).toEqual([1]);
});

it('a file is told in megabytes, however small it is', () => {
  expect([12_340_000, 900].map(megabytes)).toEqual(['12.3', '0.1']);
});
