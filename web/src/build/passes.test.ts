import { expect, test } from 'vitest';
import { passWords, readOrder, readPasses } from './passes';

const p = (torque: number | null, angle: number | null = null, loosen = false) => ({ torque, angle, loosen });

test.each([
  ['30, 60, 90°', 'Nm', [p(30), p(60), p(null, 90)]],
  ['30 + 90°', 'Nm', [p(30, 90)]],
  ['40 loosen, 40; 90 deg', 'Nm', [p(40, null, true), p(40), p(null, 90)]],
  ['20', 'ftlb', [p(27.116)]],
  ['25 ft lb, 10 Nm', 'Nm', [p(33.895), p(10)]],
  ['90deg', 'Nm', [p(null, 90)]],
  ['', 'Nm', []],
])('%s', (text, unit, passes) => expect(readPasses(text, unit)).toEqual(passes));

test.each(['30,60', 'tight', '90° + 30', '30 60', 'loosen', '1e3', '-3'])(
  '%s is refused, not guessed',
  (text) => expect(readPasses(text, 'Nm')).toBeNull(),
);

test('a pass is told in the unit in which it was typed', () => {
  expect(passWords(readPasses('20 + 60°', 'ftlb')![0]!, 'ftlb')).toBe('20 ft lb + 60°');
  expect(passWords(p(40, null, true), 'Nm')).toBe('40 N·m then loosened');
  expect(passWords(p(null, 90), '')).toBe('90°');
});

test('the order of holes is a list of their numbers', () => {
  expect(readOrder('1 5-3, 7')).toEqual([1, 5, 3, 7]);
  expect(readOrder('')).toEqual([]);
  expect(readOrder('1 x 3')).toBeNull();
});
