import { expect, it } from 'vitest';
import cases from '../../../tests/typed-figures.json';
import { roughly, suspicion } from './typed';

it.each(cases)('reads $typed as the server does', ({ typed, unit, mm }) => {
  const read = roughly(typed, unit);
  if (mm === null) expect(read).toBeNull();
  else expect(read).toBeCloseTo(mm, 7);
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

it('asks about what no engine has even without fellows, and about what it cannot read', () => {
  expect(suspicion('2.8', 'mm', pin, null)).toContain('less than 10');
  expect(suspicion('6', 'mm', gap, null)).toContain('more than 5');
  expect(suspicion('five', 'mm', pin, null)).toContain('kept as typed');
});

it('never throws and never makes a number of what has no digit', () => {
  let seed = 7;
  const next = () => (seed = (seed * 1103515245 + 12345) % 2147483648);
  const letters = '0123456789.,+-/| "mintho°%';
  for (let i = 0; i < 2000; i++) {
    const text = Array.from({ length: 1 + (next() % 10) }, () => letters[next() % letters.length]).join('');
    const read = roughly(text, 'mm');
    if (read !== null) {
      expect(Number.isFinite(read)).toBe(true);
      expect(text).toMatch(/\d/);
    }
  }
});
