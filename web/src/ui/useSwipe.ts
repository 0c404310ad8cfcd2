import { useRef, type PointerEvent } from 'react';

/** How far a finger goes across before it is a swipe, in px, and how much farther across than down. */
const far = 60;
const flat = 2;

/** What a finger is drawn over that has a use of its own for it. */
const taken = 'input, textarea, select, [role="slider"], [data-face], .touch-none';

/** Whether something between the finger and the swiped scrolls sideways by itself. */
function scrolls(from: Element, upTo: Element) {
  for (let e: Element | null = from; e && e !== upTo; e = e.parentElement)
    if (e.scrollWidth > e.clientWidth + 1 && getComputedStyle(e).overflowX !== 'visible') return true;
  return false;
}

/** Handlers for what is swiped through with a finger: to the left is on, to the right is back. A mouse has keys for it. */
export function useSwipe(on: (() => void) | null, back: (() => void) | null) {
  const began = useRef<{ x: number; y: number } | null>(null);
  return {
    onPointerDown: (e: PointerEvent) => {
      const from = e.target as Element;
      const free = e.pointerType === 'touch' && e.isPrimary && !from.closest(taken);
      began.current = free && !scrolls(from, e.currentTarget) ? { x: e.clientX, y: e.clientY } : null;
    },
    onPointerUp: (e: PointerEvent) => {
      if (!began.current) return;
      const [x, y] = [e.clientX - began.current.x, e.clientY - began.current.y];
      began.current = null;
      if (Math.abs(x) < far || Math.abs(x) < flat * Math.abs(y)) return;
      (x < 0 ? on : back)?.();
    },
    onPointerCancel: () => (began.current = null),
  };
}
