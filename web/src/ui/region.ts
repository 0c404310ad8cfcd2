import { i18n } from '@lingui/core';

/** By whose habits days and figures are written: of English those of Britain, where the day comes before the month. */
export const region = () => (i18n.locale === 'en' ? 'en-GB' : i18n.locale);

/** What stands before the decimals. */
export const decimalMark = () => (1.5).toLocaleString(region()).charAt(1);

/** A number with so many decimals, as it is written here. */
export const fixed = (n: number, decimals: number) => n.toFixed(decimals).replace('.', decimalMark());

/** A number with as many decimals as it has. */
export const plain = (n: number) => String(n).replace('.', decimalMark());

/** A number with so many digits that count. */
export const rounded = (n: number, digits: number) => n.toPrecision(digits).replace('.', decimalMark());

/** Figures as the server reads them: where a comma is the decimal sign it parts no thousands, so that nobody is asked which it is. */
export const plainFigures = (typed: string) =>
  decimalMark() === ',' ? typed.replace(/(\d),(?=\d)/g, '$1.').replace(/(^|\s),(?=\d)/g, '$10.') : typed;
