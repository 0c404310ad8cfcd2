import { useRef } from 'react';
import { v7 } from 'uuid';

/** An id that is made once for each thing written, so that a double press or a repeated send writes it once. */
export function useWriteId() {
  const id = useRef(v7());
  return {
    get: () => id.current,
    settle: () => {
      id.current = v7();
    },
  };
}
