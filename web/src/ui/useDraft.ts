import { useCallback, useEffect, useState } from 'react';

let owner = '';

/** Says whose drafts are shown: on a shared device nobody finds another's in the form. */
export const draftsBelongTo = (person: string) => {
  owner = person;
};

/**
 * What is being typed, kept in the browser until it is saved: a reload, a dead battery or a closed tab loses nothing.
 * Returns the draft, a setter and a function that drops it once the server has it.
 */
export function useDraft<T>(key: string, initial: T) {
  const name = `draft/${owner}/${key}`;
  const [draft, setDraft] = useState<T>(() => {
    const kept = localStorage.getItem(name);
    try {
      return kept ? (JSON.parse(kept) as T) : initial;
    } catch {
      return initial;
    }
  });
  const [touched, setTouched] = useState(() => localStorage.getItem(name) !== null);

  useEffect(() => {
    if (touched) localStorage.setItem(name, JSON.stringify(draft));
  }, [name, draft, touched]);

  const set = useCallback((change: Partial<T>) => {
    setTouched(true);
    setDraft((d) => ({ ...d, ...change }));
  }, []);

  const settle = useCallback(
    (value: T) => {
      localStorage.removeItem(name);
      setTouched(false);
      setDraft(value);
    },
    [name],
  );

  return { draft, set, settle, touched };
}
