import { expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { limitWords, standWords, unitOf } from './limits';
import { uncertainty, figure } from './figures';

const limit = (more: Partial<Schemas['AppliedLimit']>): Schemas['AppliedLimit'] => ({
  least: 0.036,
  most: 0.092,
  source: 'makersManual',
  sourceText: 'manual, page 4',
  isRuleOfThumb: false,
  nominal: null,
  wear: null,
  unit: '',
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

it('tells what is as new from what is worn and may stay', () => {
  const f = { conformity: 'inside', limit: limit({ wear: 0.14 }), asNew: 'inside' } as Schemas['SheetFigure'];
  expect(standWords(f)).toBe('✓ as new');
  expect(standWords({ ...f, asNew: 'outside' })).toBe('✓ worn, inside');
});

it('tells a limit with its source, whichever side is missing, in the unit asked for', () => {
  expect(limitWords(limit({}))).toBe('0.036 to 0.092 · manual, page 4');
  expect(limitWords(limit({ least: null }))).toBe('at most 0.092 · manual, page 4');
  expect(limitWords(limit({ most: null }))).toBe('at least 0.036 · manual, page 4');
  expect(limitWords(limit({ least: null, most: null }))).toBe('');
  expect(limitWords(limit({ wear: 0.14 }))).toBe('0.036 to 0.092, wear to 0.140 · manual, page 4');
  expect(limitWords(limit({ source: 'ruleOfThumb' }))).toMatch(/^about /);
  expect(limitWords(limit({ least: 25.4, most: 50.8 }), 'in')).toBe('1.0000 to 2.0000 · manual, page 4');
});

it('shows each quantity in the unit in which it is told', () => {
  const knowledge = {
    characteristics: [{ id: 'compression', unit: 'bar' }],
  } as unknown as Parameters<typeof unitOf>[0];
  expect(unitOf(knowledge, 'compression', 'pressure')).toBe('bar');
  expect(unitOf(knowledge, 'crankpin-diameter', 'length', 'in')).toBe('in');
  expect(unitOf(knowledge, 'part-weight', 'mass')).toBe('g');
  expect(figure(1210.4, 'bar')).toBe('12.1');
  expect(figure(71.98, 'mm')).toBe('71.980');
  expect(figure(53.2638, 'in')).toBe('2.0970');
});

it('never shows a uncertainty of nothing', () => {
  expect(uncertainty(0.0004, 'mm')).toBe('0.0004');
  expect(uncertainty(0.003, 'mm')).toBe('0.003');
});
