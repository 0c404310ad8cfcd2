import { expect, it } from 'vitest';
import { beyond, limitOf } from './Live';

const limit = (more: object) => ({
  least: null,
  most: null,
  wear: null,
  nominal: null,
  source: 'makersManual' as const,
  sourceText: 'p. 4',
  ...more,
});

it('tells by how much a figure lies over or under, and nothing between', () => {
  const pin = limit({ least: 71.965, most: 71.985 });
  expect(beyond(71.97, pin)).toBe(0);
  expect(beyond(71.95, pin)).toBeCloseTo(-0.015);
  expect(beyond(72, pin)).toBeCloseTo(0.015);
});

it('holds a worn part to its wear limit, on the side on which it wears', () => {
  expect(beyond(71.95, limit({ least: 71.965, most: 71.985, wear: 71.93 }))).toBe(0);
  expect(beyond(88.08, limit({ least: 88, most: 88.02, wear: 88.1 }))).toBe(0);
  expect(beyond(88.12, limit({ least: 88, most: 88.02, wear: 88.1 }))).toBeCloseTo(0.02);
});

it('goes by the limit that the server told of this place before any that was entered', () => {
  const entered = [
    {
      ...limit({ least: 72 }),
      characteristic: 'crankpin-diameter',
      on: '',
      at: '2026-11-01T00:00:00Z',
      withdrawnAt: null,
    },
  ];
  const ground = { characteristic: 'crankpin-diameter', place: 'K4', limit: limit({ least: 71.75 }) };
  const of = (place: string) =>
    limitOf([ground] as never, entered as never, 'crankpin-diameter', place, 'crankpin')?.least;
  expect(of('K4')).toBe(71.75);
  expect(of('K1')).toBe(72);
});
