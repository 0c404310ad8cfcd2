import { t as tr } from '@lingui/core/macro';
import { useSyncExternalStore } from 'react';
import { remember, remembered } from './remember';

/** How bright the screen is: by day, by night, by the clock, or of the highest contrast for the sun in the bay door. */
export type Screen = 'light' | 'dark' | 'evening' | 'sun';

export const screenWords: Record<Screen, string> = {
  light: tr`Light`,
  dark: tr`Dark`,
  evening: tr`Dark in the evening`,
  sun: tr`In the sun`,
};

const heard = new Set<() => void>();
const stored = remembered('theme');
let chosen: Screen = stored !== null && stored in screenWords ? (stored as Screen) : 'light';

/** From seven in the evening until half past six the screen is dark. */
const isEvening = (now: Date) => {
  const minutes = now.getHours() * 60 + now.getMinutes();
  return minutes >= 19 * 60 || minutes < 6 * 60 + 30;
};

/** What is shown for a choice at a time of day. */
export const shown = (screen: Screen, now: Date) =>
  screen === 'evening' ? (isEvening(now) ? 'dark' : 'light') : screen;

const apply = () => {
  document.documentElement.dataset.theme = shown(chosen, new Date());
};

/** Once, before the first page is drawn. */
export function watchScreen() {
  apply();
  setInterval(apply, 60_000);
}

export const useScreen = () =>
  useSyncExternalStore(
    (on) => {
      heard.add(on);
      return () => heard.delete(on);
    },
    () => chosen,
  );

export function chooseScreen(screen: Screen) {
  chosen = screen;
  remember('theme', screen);
  apply();
  for (const on of heard) on();
}
