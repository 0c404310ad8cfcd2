import { i18n } from '@lingui/core';

/** By whose habits days and figures are written: of English those of Britain, where the day comes before the month. */
export const region = () => (i18n.locale === 'en' ? 'en-GB' : i18n.locale);

/** What stands before the decimals. */
export const decimalMark = () => (1.5).toLocaleString(region()).charAt(1);
