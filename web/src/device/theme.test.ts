import { expect, test } from 'vitest';
import { shown } from './theme';

test('the evening is dark and the day is not', () => {
  const at = (hour: number, minute = 0) => shown('evening', new Date(2026, 10, 27, hour, minute));
  expect([at(6, 29), at(6, 30), at(12), at(18, 59), at(19), at(23)]).toEqual([
    'dark',
    'light',
    'light',
    'light',
    'dark',
    'dark',
  ]);
  expect(shown('sun', new Date(2026, 10, 27, 22))).toBe('sun');
});
