import { i18n } from '@lingui/core';
import { remember, remembered } from './remember';

/** Languages of the screens, each by its own name. */
export const languages = { en: 'English', de: 'Deutsch' } as const;

export type Language = keyof typeof languages;

/** English stands in the program. */
const catalogues: Record<Exclude<Language, 'en'>, () => Promise<{ messages: Record<string, string> }>> = {
  de: () => import('virtual:messages/de'),
};

const stored = remembered('language');
const chosen: Language = stored !== null && stored in languages ? (stored as Language) : 'en';

/** The language of this person on this device. */
export const language = () => chosen;

/** Once, before anything else of the program is read. */
export async function speak() {
  const { messages } = chosen === 'en' ? { messages: {} } : await catalogues[chosen]();
  i18n.loadAndActivate({ locale: chosen, messages });
  document.documentElement.lang = chosen;
}

/** Words are said when the program is read, so it is read anew; what was typed and not sent is kept over that. */
export function chooseLanguage(to: Language) {
  remember('language', to);
  if (to !== chosen) location.reload();
}
