import { t as tr } from '@lingui/core/macro';
import * as z from 'zod/mini';
import { parseNumber } from './number';
import { region } from './region';

/** Rates as they are typed: CHF 1.06, GBP 1.17. */
export const ratesTyped = z.pipe(
  z.string(),
  z.transform((text: string, context) => {
    const rates: Record<string, number> = {};
    for (const part of text
      .split(/[,;]+\s*(?=[A-Za-z])/)
      .map((p) => p.trim())
      .filter(Boolean)) {
      const [, code, number] = /^([A-Za-z]{3})\s+(\S+)$/.exec(part) ?? [];
      const read = parseNumber(number ?? '', { min: 0.000001, max: 1_000_000 });
      if (!code || read.kind !== 'number') {
        context.issues.push({
          code: 'custom',
          message: tr`“${part}” cannot be read. Enter a code and a rate, such as CHF 1.06.`,
          input: text,
        });
        return z.NEVER;
      }
      rates[code.toUpperCase()] = read.value;
    }
    return rates;
  }),
);

export const ratesAsTyped = (rates: Record<string, number>) =>
  Object.entries(rates)
    .map(([code, rate]) => `${code} ${rate}`)
    .join(', ');

const digits: Record<string, number> = {
  JPY: 0,
  KRW: 0,
  ISK: 0,
  VND: 0,
  CLP: 0,
  KWD: 3,
  BHD: 3,
  TND: 3,
  OMR: 3,
  JOD: 3,
};

/** An amount with its currency, as it stands on a bill. */
export const money = (amount: number, currency: string) =>
  `${amount.toLocaleString(region(), {
    minimumFractionDigits: digits[currency] ?? 2,
    maximumFractionDigits: digits[currency] ?? 2,
  })} ${currency}`;
