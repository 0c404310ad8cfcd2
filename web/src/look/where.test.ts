import { expect, it } from 'vitest';
import shared from '../../../tests/zone-words.json';
import type { Schemas } from '../api/client';
import { whereOn } from './where';

// The same file is read by tests/Core.Tests: zones are worded here as the server words them.
const maps = shared.maps as unknown as Record<string, Schemas['ZoneMap']>;

it.each(shared.cases)('$map $zones: $words', ({ map, zones, words, share, sides, edges }) => {
  const where = whereOn(maps[map]!, zones);
  expect(where.words).toBe(words);
  expect(where.share).toBeCloseTo(share, 9);
  expect(where.sides).toEqual(sides);
  expect(where.edges).toEqual(edges);
});
