import { expect, it } from 'vitest';
import { clockText, kindOf, minutesText } from './useStrip';

it('shows a clock to the second, and a forgotten one in days', () => {
  expect(clockText(0)).toBe('0:00');
  expect(clockText(7.5)).toBe('7:30');
  expect(clockText(59.99)).toBe('59:59');
  expect(clockText(83)).toBe('1 h 23');
  expect(clockText(12353)).toBe('8 days');
});

it('says minutes as one says them', () => {
  expect(minutesText(8)).toBe('8 min');
  expect(minutesText(188)).toBe('3 h 08');
});

it('takes the kind of an engine from its name', () => {
  expect(kindOf('Hollin BG-6, 9.6 l inline six')).toBe('Hollin BG-6');
  expect(kindOf('Test six')).toBe('Test six');
});
