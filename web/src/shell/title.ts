import { useEffect } from 'react';

/** Names the page in the tab and in the history: what it is first, then whose. */
export function useTitle(...parts: (string | null | undefined)[]) {
  const words = [...parts.filter(Boolean), 'Vivid Sleuth'].join(' · ');
  useEffect(() => {
    document.title = words;
  }, [words]);
}
