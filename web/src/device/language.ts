import { i18n } from '@lingui/core';
import { remember, remembered } from './remember';

/** Languages of the screens, each by its own name. */
export const languages = { en: 'English', de: 'Deutsch' } as const;

export type Language = keyof typeof languages;

/** English stands in the program. */
const catalogues: Record<Exclude<Language, 'en'>, () => Promise<{ messages: Record<string, string> }>> = {
  de: () => import('virtual:messages/de'),
};

const known = (name: string) => {
  const of = remembered(name);
  return of !== null && of in languages ? (of as Language) : null;
};

/** By a person on this device. */
const own = known('language');
const chosen: Language = own ?? known('shop-language') ?? 'en';

/** The language of this page: of this person on this device, else of the shop. */
export const language = () => chosen;

const names: Record<string, Language> = { english: 'en', german: 'de' };

/** Whether the shop is told in another language than this page, and nobody chose one on this device: it holds from the next page on. */
export function followShop(of: string): boolean {
  const to = names[of] ?? 'en';
  if (own !== null || to === chosen) return false;
  remember('shop-language', to);
  return known('shop-language') === to;
}

/** The server tells in it too, also what a browser fetches by itself. */
const tellServer = (to: Language) => {
  document.cookie = `language=${to}; path=/; max-age=34560000; samesite=lax`;
};

/** Once, before anything else of the program is read. */
export async function speak() {
  if (own) tellServer(own);
  const { messages } = chosen === 'en' ? { messages: {} } : await catalogues[chosen]();
  i18n.loadAndActivate({ locale: chosen, messages });
  document.documentElement.lang = chosen;
}

/** Words are said when the program is read: they hold from the next page on. */
export function chooseLanguage(to: Language) {
  remember('language', to);
  tellServer(to);
}
