import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ApiProblem, unwrap, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { NextUp, useCaseContext } from '../casebook/CaseShell';
import { Addr, Trouble } from '../ui/basics';
import { custodyText, facingWords, methodWords, stands } from '../ui/words';

export function Index() {
  const { engineCase, answers, openPart } = useCaseContext();
  const order = new Map(answers.section.cells.map((c, i) => [c.address, i]));
  const parts = engineCase.parts
    .filter(stands)
    .sort((a, b) => (order.get(a.place) ?? 0) - (order.get(b.place) ?? 0));
  const untagged = answers.section.cells.filter(
    (c) =>
      ['rod', 'rod-cap', 'rod-shell-upper', 'rod-shell-lower', 'piston'].includes(c.kind) &&
      !parts.some((p) => p.place === c.address),
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
      <section className="order-2 lg:order-1">
        <h2 className="text-xl">Tagged parts</h2>
        <p className="mb-2 text-soft">
          Press a part in the section, or one of these. Mark both halves before they part; the cap goes back
          on its rod at once.
        </p>
        {untagged.length > 0 && (
          <p className="mb-3 flex flex-wrap items-center gap-1.5">
            <span className="text-sm font-semibold text-soft">Not tagged:</span>
            {untagged.slice(0, 24).map((c) => (
              <button key={c.address} className="key px-2" onClick={() => openPart(c.address)}>
                <Addr code={c.address} />
              </button>
            ))}
          </p>
        )}
        {parts.length > 0 && (
          <div className="sheet overflow-x-auto">
            <table className="w-full text-left">
              <thead className="text-sm text-soft">
                <tr>
                  {['Part', 'Mark', 'Faces', 'Stamped', 'Where'].map((h) => (
                    <th key={h} className="px-3 py-2">
                      {h}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {parts.map((p) => (
                  <tr key={p.id} className="border-t border-line hover:bg-dye-tint">
                    <td className="px-3">
                      <button className="min-h-11 text-lg" onClick={() => openPart(p.place)}>
                        <Addr code={p.place} />
                      </button>
                    </td>
                    <td className="px-3">
                      <span className="fig font-bold">{p.mark}</span>{' '}
                      <span className={p.method === 'none' ? 'font-bold text-lead' : 'text-soft'}>
                        {methodWords[p.method].toLowerCase()}
                      </span>
                    </td>
                    <td className="px-3">{facingWords[p.facing].toLowerCase()}</td>
                    <td className="fig px-3">{p.gradeStamped || '—'}</td>
                    <td className="px-3">{custodyText(p)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </section>
      <div className="order-1 space-y-5 lg:order-2">
        <MateCheck caseId={engineCase.id} />
        <NextUp />
      </div>
    </div>
  );
}

const answerLook: Record<Schemas['MateAnswer'], string> = {
  match: 'border-oil bg-oil-tint',
  mayBeMixed: 'border-oil bg-oil-tint',
  wrongWayRound: 'border-lead bg-lead-tint',
  notMates: 'border-lead bg-lead-tint',
  notProven: 'border-brass bg-brass-tint',
};

/** Two tags in, one large word out. */
function MateCheck({ caseId }: { caseId: string }) {
  const [first, setFirst] = useState('');
  const [second, setSecond] = useState('');
  const [pair, setPair] = useState<[string, string] | null>(null);
  const check = useQuery({
    queryKey: [...keys.case(caseId), 'mates', pair],
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/mates', {
          params: { path: { caseId }, query: { first: pair![0], second: pair![1] } },
        }),
      ),
    enabled: pair !== null,
    retry: false,
  });
  return (
    <section className="sheet p-4">
      <h2 className="text-xl">Do these two belong together?</h2>
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          setPair([first, second]);
        }}
      >
        <label className="min-w-0 flex-1">
          <span className="label">One tag</span>
          <input
            className="entry fig text-xl uppercase"
            placeholder="R4"
            value={first}
            onChange={(e) => setFirst(e.target.value)}
            required
          />
        </label>
        <label className="min-w-0 flex-1">
          <span className="label">The other</span>
          <input
            className="entry fig text-xl uppercase"
            placeholder="R4C"
            value={second}
            onChange={(e) => setSecond(e.target.value)}
            required
          />
        </label>
        <button className="key key-go">Check</button>
      </form>
      <div aria-live="polite" className="mt-3">
        {check.error && <Trouble problem={check.error as ApiProblem} />}
        {check.data && !check.error && (
          <div className={`rounded-lg border-4 p-3 ${answerLook[check.data.answer]}`}>
            <p className="text-3xl font-extrabold">{check.data.word}</p>
            <p className="mt-1">{check.data.why}</p>
          </div>
        )}
      </div>
    </section>
  );
}
