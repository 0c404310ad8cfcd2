import { expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { figure, limitWords, standWords } from './format';

const limit = (more: Partial<Schemas['AppliedLimit']>): Schemas['AppliedLimit'] => ({
  least: 0.036,
  most: 0.092,
  source: 'makersManual',
  sourceText: 'manual, page 4',
  isRuleOfThumb: false,
  ...more,
});

it('never calls a rule of thumb a limit', () => {
  const f = {
    conformity: 'outside',
    limit: limit({ source: 'ruleOfThumb', isRuleOfThumb: true }),
  } as Schemas['SheetFigure'];
  expect(standWords(f)).toBe('unusual');
  expect(standWords({ ...f, limit: limit({}) })).toBe('✕ outside');
  expect(standWords({ ...f, conformity: null })).toBe('');
});

it('tells a limit with its source, whichever side is missing', () => {
  expect(limitWords(limit({}))).toBe('0.036–0.092 · manual, page 4');
  expect(limitWords(limit({ least: null }))).toBe('at most 0.092 · manual, page 4');
  expect(limitWords(limit({ most: null }))).toBe('at least 0.036 · manual, page 4');
  expect(limitWords(limit({ least: null, most: null }))).toBe('');
  expect(limitWords(limit({ source: 'ruleOfThumb' }))).toMatch(/^about /);
});

it('shows pressures whole and lengths to the micrometre', () => {
  expect(figure(1210.4, 'compression')).toBe('1210');
  expect(figure(71.98, 'crankpin-diameter')).toBe('71.980');
});
