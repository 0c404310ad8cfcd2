import { expect, it } from 'vitest';
import { money, ratesAsTyped, ratesTyped } from './rates';

it('rates are read as they are typed, and told where one cannot be', () => {
  expect(ratesTyped.parse('chf 1.06, GBP 1,17; JPY 0.0061')).toEqual({ CHF: 1.06, GBP: 1.17, JPY: 0.0061 });
  expect(ratesTyped.parse('')).toEqual({});
  expect(ratesTyped.safeParse('CHF').success).toBe(false);
  expect(ratesTyped.safeParse('CHF nothing').success).toBe(false);
  expect(ratesTyped.parse(ratesAsTyped({ CHF: 1.06, GBP: 1.17 }))).toEqual({ CHF: 1.06, GBP: 1.17 });
});

it('money is told with the coins that it has', () => {
  expect(money(1234.5, 'EUR')).toBe('1,234.50 EUR');
  expect(money(1234.5, 'JPY')).toBe('1,235 JPY');
});
