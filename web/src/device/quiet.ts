/** What still comes from the shelf of this device. */
let restoring = 0;
const after: (() => void)[] = [];

/** Marks that something is being brought back from this device, and is drawn before anything is asked of the server. */
export async function whileRestoring<T>(reading: Promise<T>): Promise<T> {
  restoring++;
  try {
    return await reading;
  } finally {
    restoring--;
    if (restoring === 0) after.splice(0).forEach((go) => go());
  }
}

/** At the longest, for a page that is never quiet, in ms. */
const longest = 1500;
let next: Promise<void> | null = null;

/**
 * The next moment in which the page has drawn what it has and has nothing else to do. What is on the screen already is asked for anew only then: on
 * a slow device, taking apart the answers would keep it from being drawn.
 */
export function quiet(): Promise<void> {
  return (next ??= new Promise((resolve) => {
    const done = () => {
      next = null;
      resolve();
    };
    const wait = () =>
      'requestIdleCallback' in window
        ? requestIdleCallback(done, { timeout: longest })
        : setTimeout(done, 200);
    if (restoring === 0) wait();
    else after.push(wait);
  }));
}

/** When all that was asked of this device has been brought back. */
export async function restored(): Promise<void> {
  // What was asked for in this moment has begun with the next.
  await new Promise((go) => setTimeout(go));
  if (restoring > 0) await new Promise<void>((go) => after.push(go));
}
