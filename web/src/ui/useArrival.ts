import { useEffect, useRef } from 'react';

/**
 * A heading that somebody arrives at: what is opened has it at the top of the screen and the focus on it. It must take the focus (tabIndex −1).
 * @param of What is open; each change of it is an arrival, and so is the first where `atOnce`.
 */
export function useArrival<T extends HTMLElement>(of: string | null | undefined, atOnce = false) {
  const heading = useRef<T>(null);
  const was = useRef(atOnce ? null : of);
  useEffect(() => {
    if (was.current === of) return;
    was.current = of;
    if (!of || heldElsewhere(heading.current)) return;
    heading.current?.focus({ preventScroll: true });
    heading.current?.scrollIntoView({ block: 'start' });
  }, [of]);
  return heading;
}

/** Somebody types in a dialog that opened meanwhile: whatever arrives behind it does not take the keys from his hands. */
export function heldElsewhere(arrived: HTMLElement | null): boolean {
  const typing = arrived?.ownerDocument.activeElement;
  if (!typing?.matches('input, textarea, select')) return false;
  const dialog = typing.closest('[role="dialog"]');
  return dialog !== null && !dialog.contains(arrived);
}
