import { t as tr } from '@lingui/core/macro';
import { useEffect, useState } from 'react';
import { ApiProblem } from '../api/client';
import { holdUndo, undoNow, useUndo } from '../outbox/undo';
import { Trouble } from '../ui/basics';
import { isKey, keyOf } from './hotkeys';

/**
 * The last thing written, and one key that takes it back; it goes by itself. On a phone over the title: the keys that the thumb is on stay free.
 */
export function UndoBar() {
  const undo = useUndo();
  const [wrong, setWrong] = useState<ApiProblem | null>(null);
  const back = () => {
    setWrong(null);
    undoNow().catch((e: unknown) => setWrong(e instanceof ApiProblem ? e : null));
  };
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (!isKey(e, 'undo')) return;
      e.preventDefault();
      back();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  });
  return (
    <div
      aria-live="polite"
      className="no-print pointer-events-none fixed inset-x-2 top-2 z-40 flex justify-center md:top-auto md:right-auto md:bottom-4 md:left-4 md:justify-start"
    >
      {wrong && (
        <div className="pointer-events-auto max-w-md">
          <Trouble problem={wrong} />
          <button className="key" onClick={() => setWrong(null)}>
            {tr`Close`}
          </button>
        </div>
      )}
      {undo && (
        <p
          key={undo.n}
          className="pointer-events-auto flex max-w-lg min-w-0 items-center gap-3 rounded-lg border-2 border-dye bg-paper py-1 pr-1 pl-3 shadow-lg"
          onPointerEnter={() => holdUndo(true)}
          onPointerLeave={() => holdUndo(false)}
          onFocus={() => holdUndo(true)}
          onBlur={() => holdUndo(false)}
        >
          <span className="line-clamp-2 min-w-0 leading-tight">
            <b>{tr`Saved.`}</b> {undo.words}
          </span>
          <button className="key shrink-0" onClick={back}>
            {tr`Undo`}{' '}
            <span className="fig hidden text-sm font-normal text-soft md:inline">{keyOf('undo')}</span>
          </button>
        </p>
      )}
    </div>
  );
}
