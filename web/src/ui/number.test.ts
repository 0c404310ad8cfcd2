import { describe, expect, it } from 'vitest';
import { numberOrNull, parseNumber } from './number';

describe('a number in a field', () => {
  it.each([
    ['21,5', 21.5],
    ['21.5', 21.5],
    [' 7 ', 7],
    ['.5', 0.5],
    [',5', 0.5],
    ['−4', -4],
    ['–4', -4],
    ['+3', 3],
    ['0,045', 0.045],
    ['12.', 12],
  ])('%s is %d', (text, value) => expect(parseNumber(text)).toEqual({ kind: 'number', value }));

  it.each(['abc', '1.2.3', '5 mm', '1e5', 'NaN', 'Infinity', '--4', '.', '0x10', '1,234'])(
    '%s is told, never dropped and never 0',
    (text) => {
      const read = parseNumber(text);
      expect(read.kind).toBe('bad');
      expect(read.kind === 'bad' && read.text).toContain(text);
      expect(numberOrNull(text)).toBeNull();
    },
  );

  it('knows nothing from nothing', () => expect(parseNumber('  ')).toEqual({ kind: 'empty' }));

  it('holds to its bounds by saying them', () => {
    expect(parseNumber('-5', { min: 0, max: 2 })).toMatchObject({ kind: 'bad', remedy: 'Give 0 to 2.' });
    expect(parseNumber('2,6', { whole: true })).toMatchObject({ kind: 'bad' });
    expect(parseNumber('2', { min: 0, max: 2, whole: true })).toEqual({ kind: 'number', value: 2 });
  });
});
