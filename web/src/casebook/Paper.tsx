import { t as tr } from '@lingui/core/macro';
import type { ReactNode } from 'react';
import { useCaseContext } from './context';
import { printAs } from '../ui/printAs';
import { layoutWords } from '../ui/words';

/** A page for the printer, to be filled in by hand: of the screen only this is printed. */
export function Paper({ title, onEnd, children }: { title: string; onEnd: () => void; children: ReactNode }) {
  const { engineCase } = useCaseContext();
  return (
    <section className="mx-auto max-w-4xl">
      <div className="no-print mb-4 flex flex-wrap gap-2">
        <button className="key key-go" onClick={() => printAs(`${engineCase.title}, ${title}`)}>
          {tr`Print`}
        </button>
        <button className="key" onClick={onEnd}>
          {tr`Back to the screen`}
        </button>
      </div>
      <header className="mb-3 border-b-2 border-ink pb-2">
        <h2 className="text-2xl">{title}</h2>
        <p>
          <b>{engineCase.title}</b> · {engineCase.engineName} · {layoutWords(engineCase.layout)}
          {engineCase.serial && ` · ${engineCase.serial}`}
        </p>
        <p className="mt-3 grid grid-cols-3 gap-6 text-sm">
          {[tr`By`, tr`Date`, tr`Instruments`].map((w) => (
            <span key={w} className="border-b border-ink pb-0.5">
              {w}:
            </span>
          ))}
        </p>
      </header>
      {children}
    </section>
  );
}
