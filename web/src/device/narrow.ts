import { useSyncExternalStore } from 'react';

/** Where styles.css has its step from phone to desk. */
const desk = typeof window.matchMedia === 'function' ? window.matchMedia('(min-width: 48rem)') : null;

const subscribe = (on: () => void) => {
  desk?.addEventListener('change', on);
  return () => desk?.removeEventListener('change', on);
};

/** The screen is a phone's. */
export const useNarrow = () => useSyncExternalStore(subscribe, () => desk !== null && !desk.matches);
