import { i18n } from '@lingui/core';
import { afterEach, expect, it } from 'vitest';
import { figure, fine, told, uncertainty } from './figures';

const before = i18n.locale;
afterEach(() => i18n.activate(before));

it('a length in inches has a place more than in millimetres, and three at least', () => {
  expect(figure(0.3326, 'mm')).toBe('0.333');
  expect(figure(0.3326, 'in')).toBe('0.0131');
  expect(told(25.4, 'in', 1)).toBe('1.000 in');
  expect(told(71.7347, 'in', 3)).toBe('2.8242 in');
});

it('a scale is told as fine as it is, with its unit, in inches where lengths are', () => {
  expect(fine(0.001, 'length', 'mm')).toBe('0.001 mm');
  expect(fine(0.0254, 'length', 'in')).toBe('0.001 in');
  expect(fine(0.003, 'length', 'in')).toBe('0.00012 in');
  expect(fine(10, 'pressure', 'in')).toBe('10 kPa');
});

it('a comma parts decimals where it does so, and a figure keeps its places', () => {
  i18n.load('de', {});
  i18n.activate('de');
  expect(figure(71.98, 'mm')).toBe('71,980');
  expect(uncertainty(0.24, 'g')).toBe('0,2');
  expect(uncertainty(0.0004, 'mm')).toBe('0,0004');
  expect(fine(0.001, 'length', 'mm')).toBe('0,001 mm');
});
