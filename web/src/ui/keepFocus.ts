/**
 * Keeps the focus from falling to the page. Where what one was on is gone, as a form that was sent, or a key that did its work, the focus goes to what
 * surrounded it, so that the next tab is where the hand was; where it was only shut while something was sent, it comes back. A place that knows better
 * what comes next sets the focus itself.
 */
export function keepFocus(root: Document = document): () => void {
  let last: HTMLElement | null = null;
  let around: HTMLElement[] = [];
  /** It lost the focus by being shut, not because somebody went elsewhere. */
  let shut = false;

  const note = (event: FocusEvent) => {
    last = event.target as HTMLElement;
    shut = false;
    around = [];
    for (let e = last.parentElement; e && e !== root.body; e = e.parentElement) around.push(e);
  };
  const mend = () => {
    if (!last || (root.activeElement !== root.body && root.activeElement !== null)) return;
    if (last.isConnected) {
      if (last.matches(':disabled')) shut = true;
      else if (shut) last.focus({ preventScroll: true });
      return;
    }
    const here = around.find((e) => e.isConnected);
    last = null;
    if (!here) return;
    const stops = here.hasAttribute('tabindex');
    if (!stops) {
      here.tabIndex = -1;
      here.addEventListener('blur', () => here.removeAttribute('tabindex'), { once: true });
    }
    here.focus({ preventScroll: true });
  };
  // A press beside it is meant to leave it.
  const leave = (event: Event) => {
    if (!last?.contains(event.target as Node)) last = null;
  };
  const seen = new MutationObserver(mend);
  root.addEventListener('focusin', note);
  root.addEventListener('pointerdown', leave);
  seen.observe(root.body, {
    childList: true,
    subtree: true,
    attributes: true,
    attributeFilter: ['disabled'],
  });
  return () => {
    seen.disconnect();
    root.removeEventListener('focusin', note);
    root.removeEventListener('pointerdown', leave);
  };
}
