/** Tells all tabs of this browser that somebody signed in or out: they share one cookie. */
const channel =
  typeof window !== 'undefined' && 'BroadcastChannel' in window ? new BroadcastChannel('person') : null;

export const personChanged = () => channel?.postMessage('changed');

/** Hears of it from the other tabs. */
export function onPersonChanged(listener: () => void) {
  channel?.addEventListener('message', listener);
  return () => channel?.removeEventListener('message', listener);
}
