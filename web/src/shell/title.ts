import { t as tr } from '@lingui/core/macro';
import { useEffect } from 'react';

/** Names the page in the tab and in the history: what it is first, then whose. */
export function useTitle(...parts: (string | null | undefined)[]) {
  const words = [...parts.filter(Boolean), tr`Vivid Sleuth`].join(' · ');
  useEffect(() => {
    document.title = words;
  }, [words]);
}
