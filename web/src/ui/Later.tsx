import { startTransition, useEffect, useState, type ReactNode } from 'react';
import { useNavigationType } from 'react-router';

/** Whether this page was gone on from since it was opened: only then is going back one to a page that stood somewhere. */
export const trip = { gone: false };

/**
 * What lies below the first screen, or behind what was pressed: drawn in slices once the rest has been painted, so that a press is answered at once. A
 * page that is gone back to stands where it stood, and so is drawn whole.
 */
export function Later({ children }: { children: ReactNode }) {
  const back = useNavigationType() === 'POP' && trip.gone;
  const [painted, setPainted] = useState(back);
  useEffect(() => {
    if (painted) return;
    // A page that is not seen is not painted.
    const anyway = setTimeout(() => setPainted(true), 500);
    const frame = requestAnimationFrame(() => setTimeout(() => startTransition(() => setPainted(true))));
    return () => {
      clearTimeout(anyway);
      cancelAnimationFrame(frame);
    };
  }, [painted]);
  return painted ? children : null;
}
