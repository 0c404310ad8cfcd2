/**
 * An update of the program reaches an open tab when its service worker takes over. The tab goes on with what it has, and begins anew at the next
 * page that is opened: there nothing is half typed that is not kept.
 */
let stale = false;

const reloaded = 'reloaded';

/** Begins anew; not twice within half a minute, so that a program that cannot be fetched is told and not tried for ever. */
function again() {
  try {
    if (Date.now() - Number(sessionStorage.getItem(reloaded) ?? 0) < 30_000) return false;
    sessionStorage.setItem(reloaded, String(Date.now()));
  } catch {
    return false;
  }
  location.reload();
  return true;
}

/** Watches for updates. */
export function watchForUpdates() {
  // A part of the page that cannot be fetched belongs to a build that is gone.
  addEventListener('vite:preloadError', (event) => {
    if (navigator.onLine && again()) event.preventDefault();
  });
  if (!('serviceWorker' in navigator)) return;
  let controlled = navigator.serviceWorker.controller !== null;
  navigator.serviceWorker.addEventListener('controllerchange', () => {
    // The first one takes over a page that is new already.
    stale = controlled;
    controlled = true;
  });
}

/** Where another page is opened: the moment to begin anew, if there is something new and the browser keeps what waits. */
export function arriveAt(keeps: boolean) {
  if (stale && keeps && navigator.onLine) again();
}
