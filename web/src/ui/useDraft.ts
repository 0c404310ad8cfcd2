import { useCallback, useEffect, useState } from 'react';
import { draftOf } from './draft';

/**
 * What is being entered without a form of fields, kept in the browser until it is saved. Returns the draft, a setter and a function that drops it
 * once the server has it.
 */
export function useDraft<T extends object>(key: string, initial: T) {
  const [store] = useState(() => draftOf(key, initial, 0));
  const [kept] = useState(() => store.read());
  const [draft, setDraft] = useState<T>(kept?.values ?? initial);
  const [touched, setTouched] = useState(kept !== null);

  useEffect(() => {
    if (touched) store.write({ values: draft, version: 0 });
  }, [store, draft, touched]);

  const set = useCallback((change: Partial<T>) => {
    setTouched(true);
    setDraft((d) => ({ ...d, ...change }));
  }, []);

  const settle = useCallback(
    (value: T) => {
      store.drop();
      setTouched(false);
      setDraft(value);
    },
    [store],
  );

  return { draft, set, settle, touched };
}
