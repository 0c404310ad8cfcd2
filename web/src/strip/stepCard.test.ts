import { expect, it } from 'vitest';
import type { Step } from './useStrip';
import { holdsWords } from './StepCard';

const step = (more: Partial<Step>) =>
  ({ obstacles: [], open: 0, expected: 0, parts: false, ...more }) as unknown as Step;
const obstacle = (says: string) =>
  ({ lock: 'order', of: says, says }) as unknown as Step['obstacles'][number];

it('what keeps a step from being done is said beside the key, the first in full', () => {
  expect(holdsWords(step({}))).toBe('Nothing holds it.');
  expect(holdsWords(step({ open: 2, expected: 14 }))).toBe('Nothing holds it.');
  expect(holdsWords(step({ parts: true, open: 2, expected: 14 }))).toBe('2 of 14 fasteners are still in.');
  expect(holdsWords(step({ obstacles: [obstacle('Rocker gear first.')] }))).toBe('Rocker gear first.');
  expect(
    holdsWords(
      step({
        parts: true,
        open: 2,
        obstacles: [obstacle('Rocker gear first.'), obstacle('b'), obstacle('c')],
      }),
    ),
  ).toBe('Rocker gear first. And 2 more.');
});
