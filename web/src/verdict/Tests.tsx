import { t as tr } from '@lingui/core/macro';
import { useState } from 'react';
import * as z from 'zod/mini';
import { useMayWrite } from '../api/queries';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Trouble } from '../ui/basics';
import { EntryForm, given, KeysField, needed, oneOf, TextField, useEntryForm } from '../ui/form';
import { PlaceRow } from './PlaceRow';

const outcome = { passed: tr`Passed`, failed: tr`Failed` } as const;

const schema = z.object({
  came: given(z.nullable(oneOf(outcome)), tr`Say how it came out.`),
  testedBy: needed(tr`Name who tested it.`),
  remarks: z.string(),
});

/** Tests that must come first, each with the places that it is asked of. */
export function Tests({ asks }: { asks: Schemas['VerdictAdvice'][] }) {
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState<{ check: string; place: string } | null>(null);
  const checks = new Map<
    string,
    { ask: Schemas['AskedExamination']; places: [string, Schemas['AskedExamination']][] }
  >();
  for (const a of asks)
    for (const ask of a.asks) {
      const entry = checks.get(ask.check) ?? { ask, places: [] };
      entry.places.push([a.place, ask]);
      checks.set(ask.check, entry);
    }
  return (
    <div className="card p-3 md:p-4">
      <h3 className="text-lg">{tr`Tests first`}</h3>
      <ul className="divide-y divide-line">
        {[...checks.values()].map(({ ask, places }) => (
          <li key={ask.check} className="py-2">
            <p>
              <b>{ask.name}</b> <span className="text-soft">{ask.how}</span>
            </p>
            {places
              .filter(([, a]) => a.passed !== null)
              .map(([p, a]) => (
                <p key={p}>
                  <Addr code={p} /> {a.passed ? tr`✓ passed` : <b className="text-lead">{tr`✕ failed`}</b>}:{' '}
                  {a.answer}
                </p>
              ))}
            <div className="mt-1 flex flex-wrap gap-1.5">
              {places
                .filter(([, a]) => a.passed === null)
                .map(([p]) =>
                  mayWrite ? (
                    <button
                      key={p}
                      className="key px-2"
                      aria-label={tr`${ask.name} of ${p}`}
                      aria-pressed={open?.check === ask.check && open.place === p}
                      onClick={() =>
                        setOpen(
                          open?.check === ask.check && open.place === p
                            ? null
                            : { check: ask.check, place: p },
                        )
                      }
                    >
                      <Addr code={p} />
                    </button>
                  ) : (
                    <PlaceRow key={p} codes={[p]} />
                  ),
                )}
            </div>
            {open?.check === ask.check && (
              <Result key={open.place} check={ask} place={open.place} done={() => setOpen(null)} />
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

function Result({
  check,
  place,
  done,
}: {
  check: Schemas['AskedExamination'];
  place: string;
  done: () => void;
}) {
  const { engineCase } = useCaseContext();
  const blank = { came: null, testedBy: '', remarks: '' };
  const { form, settle } = useEntryForm(schema, blank, {
    draft: `examination/${engineCase.id}/${place}/${check.check}`,
  });
  const write = useWrite(engineCase.id, writes.examination, () => {
    settle(blank);
    done();
  });
  return (
    <EntryForm
      form={form}
      className="mt-2 grid gap-2 md:grid-cols-[auto_minmax(0,1fr)_minmax(0,1fr)_auto] md:items-end"
      send={({ came, testedBy, remarks }) =>
        write.mutateAsync({ place, check: check.check, passed: came === 'passed', testedBy, remarks })
      }
    >
      <KeysField
        form={form}
        name="came"
        label={`${check.name}, ${place}`}
        options={[
          ['passed', outcome.passed],
          ['failed', outcome.failed],
        ]}
      />
      <TextField form={form} name="testedBy" label={tr`Tested by`} placeholder={tr`shop or person`} />
      <TextField form={form} name="remarks" label={tr`How, and the number of the sheet`} />
      <button className="key key-go">{tr`Record`}</button>
      <div className="md:col-span-4">
        <Trouble problem={write.error} />
      </div>
    </EntryForm>
  );
}
