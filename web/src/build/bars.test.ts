import { describe, expect, it } from 'vitest';
import {
  dateKey,
  dayMs,
  daysLater,
  daysOf,
  dayWords,
  doneAt,
  grouped,
  lengthWords,
  midnight,
  nowList,
  spellWords,
  type Plan,
  type Task,
} from './bars';

const task = (over: Partial<Task>): Task =>
  ({
    key: 'strip/pan',
    kind: 'strip',
    name: 'Pan off',
    least: 0.5,
    likely: 1,
    most: 2,
    hands: 1,
    byItself: false,
    ready: true,
    begun: false,
    hangs: 0,
    places: [],
    ...over,
  }) as Task;

describe('days by the clock of the shop', () => {
  // Berlin puts its clock back on 25 October 2026: that day has 25 hours.
  const zone = 'Europe/Berlin';

  it('begin at its midnight, also where the clock is put back', () => {
    expect(new Date(midnight('2026-10-24T22:30:00Z', zone)).toISOString()).toBe('2026-10-24T22:00:00.000Z');
    expect(new Date(midnight('2026-10-26T10:00:00Z', zone)).toISOString()).toBe('2026-10-25T23:00:00.000Z');
    expect(dateKey('2026-10-24T22:30:00Z', zone)).toBe('2026-10-25');
  });

  it('are each there once, with the hours in which the shop works', () => {
    const plan = {
      at: '2026-10-24T08:00:00Z',
      zone,
      ends: '2026-10-27T10:00:00Z',
      safe: '2026-10-27',
      open: [{ from: '2026-10-26T07:00:00Z', to: '2026-10-26T11:00:00Z' }],
      tasks: [],
    } as unknown as Plan;
    const days = daysOf(plan);
    expect(days.map((d) => d.key)).toEqual(['2026-10-24', '2026-10-25', '2026-10-26', '2026-10-27']);
    expect(days.map((d) => d.open)).toEqual([false, false, true, false]);
    expect(days[1]!.to - days[1]!.at).toBe(dayMs + dayMs / 24);
  });

  it('are said with their weekday', () => {
    expect(dayWords('2026-12-04')).toBe('Fri 4 Dec');
    expect(daysLater('2026-12-31', 1)).toBe('2027-01-01');
  });
});

it('lengths are told in what they are counted in', () => {
  expect(lengthWords(0.33, false)).toBe('20 min');
  expect(lengthWords(1.5, false)).toBe('1.5 h');
  expect(lengthWords(30, false)).toBe('30 h');
  expect(lengthWords(96, true)).toBe('4 days');
  expect(spellWords(task({}))).toBe('1 h, 30 min to 2 h');
  expect(spellWords(task({ least: 1, most: 1 }))).toBe('1 h');
});

it('now: what is short enough for the time and the hands, what is begun first, then what most hangs on', () => {
  const tasks = [
    task({ key: 'a', likely: 0.2 }),
    task({ key: 'b', likely: 0.5, hangs: 0.9 }),
    task({ key: 'c', likely: 0.5, begun: true }),
    task({ key: 'd', likely: 3 }),
    task({ key: 'e', likely: 0.2, hands: 2 }),
    task({ key: 'f', likely: 0.1, ready: false }),
  ];
  const { fits, longer } = nowList(tasks, 40, 1);
  expect(fits.map((t) => t.key)).toEqual(['c', 'b', 'a']);
  expect(longer.map((t) => t.key)).toEqual(['e', 'd']);
  expect(nowList(tasks, 480, 2).fits).toHaveLength(5);
});

it('tasks stand by what they are, and lead to where they are done', () => {
  const groups = grouped([
    task({ kind: 'run', key: 'run' }),
    task({}),
    task({ kind: 'owner', key: 'own/1' }),
  ]);
  expect(groups.map((g) => g.id)).toEqual(['waits', 'strip', 'run']);
  expect(doneAt(task({ key: 'measure/crankpin-diameter/bigend' }))).toBe('gauge?round=crankpin-diameter');
  expect(doneAt(task({ key: 'decide/bores' }))).toBe('verdict?group=bores');
  expect(doneAt(task({ key: 'check/line/1' }))).toBe('verdict?view=order');
  expect(doneAt(task({ key: 'away/welder/dunn', places: ['K1'] }))).toBe('index?part=K1');
  expect(doneAt(task({ key: 'work/clean/pistons' }))).toBeNull();
});
