import { t as tr } from '@lingui/core/macro';
import { decimalMark } from './region';

/** What a person typed into a field for a number. */
export type Typed =
  { kind: 'empty' } | { kind: 'number'; value: number } | { kind: 'bad'; text: string; remedy: string };

/** What a field allows. */
export interface Bounds {
  min?: number;
  max?: number;
  whole?: boolean;
}

const shape = /^[+-]?(?:\d{1,12}(?:[.,]\d{0,9})?|[.,]\d{1,9})$/;

/**
 * Reads a number as people write it: point or comma for the decimal, a proper minus. Rubbish is told as such: it never becomes 0 and is
 * never dropped.
 */
export function parseNumber(text: string, { min, max, whole }: Bounds = {}): Typed {
  const clean = text.trim().replace(/[\u2212\u2013]/g, '-');
  if (clean === '') return { kind: 'empty' };
  if (!shape.test(clean))
    return {
      kind: 'bad',
      text: tr`“${text.trim()}” is no number.`,
      remedy: tr`Type digits, such as 21.5 or 21,5.`,
    };
  if (decimalMark() !== ',' && /^[+-]?[1-9]\d{0,2},\d{3}$/.test(clean))
    return {
      kind: 'bad',
      text: tr`“${text.trim()}”: is the comma a decimal comma or a thousands mark?`,
      remedy: tr`Type a point for the decimal, or leave the comma out.`,
    };
  const value = Number(clean.replace(',', '.'));
  if (whole && !Number.isInteger(value))
    return { kind: 'bad', text: tr`${text.trim()} is no whole number.`, remedy: tr`Give a whole number.` };
  if ((min !== undefined && value < min) || (max !== undefined && value > max))
    return {
      kind: 'bad',
      text: tr`${text.trim()} is out of range.`,
      remedy:
        min !== undefined && max !== undefined
          ? tr`Give ${min} to ${max}.`
          : min !== undefined
            ? tr`Give ${min} or more.`
            : tr`Give ${max!} or less.`,
    };
  return { kind: 'number', value };
}

/** The number, or null where there is none that can be read. */
export const numberOrNull = (text: string, bounds?: Bounds) => {
  const typed = parseNumber(text, bounds);
  return typed.kind === 'number' ? typed.value : null;
};

/** Numbers up to this name something to practise on. */
const mostDrawn = 1_000_000;

/** The number of anything to practise on. */
export const anyNumber = () => 1 + Math.floor(Math.random() * mostDrawn);
