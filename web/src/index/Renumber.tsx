import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Choice, Field, moment, Trouble } from '../ui/basics';
import { stands } from '../ui/words';
import { useMayWrite } from '../api/queries';

/** Number one turned out to be at the other end: once for all records, with the marks on the metal kept in mind. */
export function Renumber() {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const { layout } = engineCase;
  const [open, setOpen] = useState(false);
  const [end, setEnd] = useState(layout.numberOneEnd);
  const [scheme, setScheme] = useState(layout.numbering);
  const [left, setLeft] = useState(layout.bankAOnTheLeft);
  const [why, setWhy] = useState('');
  const twoBanks = layout.arrangement === 'vee' || layout.arrangement === 'flat';
  const path = { caseId: engineCase.id };
  const entry = () => ({
    version: engineCase.version,
    numberOneEnd: end,
    numbering: scheme,
    bankAOnTheLeft: left,
    why,
  });
  const preview = useMutation<Schemas['RenumberPreview'], ApiProblem, void>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/cases/{caseId}/renumber/preview', {
          params: { path },
          body: { id: v7(), ...entry() },
        }),
      ),
  });
  const change = useWrite(engineCase.id, writes.renumber, () => {
    setOpen(false);
    setWhy('');
    preview.reset();
  });
  const earlier = engineCase.renumberings.filter(stands);
  const touch = (act: () => void) => {
    act();
    preview.reset();
  };
  return (
    <section className="card p-4">
      <h2 className="text-xl">Numbering</h2>
      <p>
        Number one is at the <b>{layout.numberOneEnd === 'freeEnd' ? 'free end' : 'drive end'}</b>, firing
        order <span className="fig">{layout.firingOrder.join('-')}</span>.
      </p>
      {earlier.map((r) => (
        <details key={r.id} className="mt-2">
          <summary className="cursor-pointer py-1">
            Changed by {r.by}, {moment(r.at)}: {r.why}
          </summary>
          <Table map={Object.entries(r.map).map(([old, now]) => ({ old, new: now }))} />
        </details>
      ))}
      {mayWrite && !open && (
        <button className="key mt-2" onClick={() => setOpen(true)}>
          Number one is at the wrong end
        </button>
      )}
      {open && (
        <form
          className="mt-3 space-y-3 border-t border-line pt-3"
          onSubmit={(e) => {
            e.preventDefault();
            if (preview.data) {
              if (!change.isPending) change.mutate(entry());
            } else preview.mutate();
          }}
        >
          <Choice
            label="Number one is at the"
            value={end}
            onChange={(e) =>
              touch(() => {
                // In a flat engine the bank nearer to an end carries number one there.
                if (layout.arrangement === 'flat' && e !== end) setLeft(!left);
                setEnd(e);
              })
            }
            options={[
              ['freeEnd', 'Free end'],
              ['driveEnd', 'Drive end'],
            ]}
          />
          {twoBanks && (
            <>
              <Choice
                label="Numbering"
                value={scheme}
                onChange={(s) => touch(() => setScheme(s))}
                options={[
                  ['oddEven', 'Odd and even banks'],
                  ['bankAfterBank', 'Bank after bank'],
                ]}
              />
              <Choice
                label="Bank with number one, from the free end"
                value={left ? 'left' : 'right'}
                onChange={(s) => touch(() => setLeft(s === 'left'))}
                options={[
                  ['left', 'Left'],
                  ['right', 'Right'],
                ]}
              />
            </>
          )}
          <Trouble problem={preview.error ?? change.error} />
          {preview.data && (
            <>
              <p>
                <b>{preview.data.map.length} addresses change.</b> Nothing recorded is lost. What is written
                on {preview.data.marked.length} marked parts stays until they are marked anew, and both
                numbers show.
              </p>
              <Table map={preview.data.marked.length > 0 ? preview.data.marked : preview.data.map} />
              <Field label="Who settled it, and by what">
                <input className="entry" value={why} onChange={(e) => setWhy(e.target.value)} required />
              </Field>
            </>
          )}
          <div className="flex flex-wrap gap-2">
            <button className="key key-go" disabled={preview.isPending || change.isPending}>
              {preview.data ? 'Change the numbering' : 'See what would change'}
            </button>
            <button type="button" className="key" onClick={() => setOpen(false)}>
              Leave it
            </button>
          </div>
        </form>
      )}
    </section>
  );
}

function Table({ map }: { map: Schemas['Renumbered'][] }) {
  return (
    <ul
      className="mt-1 flex max-h-48 flex-wrap gap-x-5 gap-y-0.5 overflow-y-auto"
      tabIndex={0}
      aria-label="Old and new addresses"
    >
      {map.map((r) => (
        <li key={r.old} className="whitespace-nowrap">
          <Addr code={r.old} /> → <Addr code={r.new} />
        </li>
      ))}
    </ul>
  );
}
