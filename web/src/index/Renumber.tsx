import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Choice, moment, Trouble } from '../ui/basics';
import { EntryForm, KeysField, TextField, useEntryForm } from '../ui/form';
import { stands, writerOf } from '../ui/words';
import { useMayWrite } from '../api/queries';

const schema = z.object({
  numberOneEnd: z.enum(['freeEnd', 'driveEnd']),
  numbering: z.enum(['alongTheCrank', 'oddEven', 'bankAfterBank']),
  bankAOnTheLeft: z.boolean(),
  // Asked for once it shows what would change.
  why: z.string(),
});

/** Number one turned out to be at the other end: once for all records, with the marks on the metal kept in mind. */
export function Renumber() {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const { layout } = engineCase;
  const [open, setOpen] = useState(false);
  const given = {
    numberOneEnd: layout.numberOneEnd,
    numbering: layout.numbering,
    bankAOnTheLeft: layout.bankAOnTheLeft,
    why: '',
  };
  const { form, settle, version } = useEntryForm(schema, given, { version: engineCase.version });
  const [end, left] = useWatch({ control: form.control, name: ['numberOneEnd', 'bankAOnTheLeft'] });
  const twoBanks = layout.arrangement === 'vee' || layout.arrangement === 'flat';
  const path = { caseId: engineCase.id };
  const preview = useMutation<Schemas['RenumberPreview'], ApiProblem, z.output<typeof schema>>({
    mutationFn: (entry) =>
      unwrap(
        api.POST('/api/cases/{caseId}/renumber/preview', {
          params: { path },
          body: { id: v7(), version: version(), ...entry },
        }),
      ),
  });
  const change = useWrite(engineCase.id, writes.renumber, () => {
    setOpen(false);
    preview.reset();
  });
  const earlier = engineCase.renumberings.filter(stands);
  const leave = () => {
    settle(given);
    setOpen(false);
    preview.reset();
  };
  return (
    <section className="card p-4">
      <h2 className="text-xl">{tr`Numbering`}</h2>
      <p>
        {tr`Number one is at the`} <b>{layout.numberOneEnd === 'freeEnd' ? tr`free end` : tr`drive end`}</b>
        <Trans>
          , firing order <span className="fig">{layout.firingOrder.join('-')}</span>.
        </Trans>
      </p>
      {earlier.map((r) => (
        <details key={r.id} className="mt-2">
          <summary className="cursor-pointer py-1">
            <Trans>
              Changed by {writerOf(r)}, {moment(r.at)}: {r.why}
            </Trans>
          </summary>
          <Table map={Object.entries(r.map).map(([old, now]) => ({ old, new: now }))} />
        </details>
      ))}
      {mayWrite && !open && (
        <button className="key mt-2" onClick={() => setOpen(true)}>
          {tr`Number one is at the wrong end`}
        </button>
      )}
      {open && (
        <EntryForm
          form={form}
          send={(entry) => {
            if (!preview.data) return preview.mutateAsync(entry);
            if (entry.why.trim() !== '') return change.mutateAsync({ version: version(), ...entry });
            form.setError('why', { message: tr`Say who settled it, and by what.` }, { shouldFocus: true });
            return Promise.resolve();
          }}
          className="mt-3 space-y-3 border-t border-line pt-3"
        >
          <Choice
            label={tr`Number one is at the`}
            value={end}
            onChange={(e) => {
              // In a flat engine the bank nearer to an end carries number one there.
              if (layout.arrangement === 'flat' && e !== end) form.setValue('bankAOnTheLeft', !left);
              form.setValue('numberOneEnd', e, { shouldDirty: true });
              preview.reset();
            }}
            options={[
              ['freeEnd', tr`Free end`],
              ['driveEnd', tr`Drive end`],
            ]}
          />
          {twoBanks && (
            <>
              <KeysField
                form={form}
                name="numbering"
                label={tr`Numbering`}
                options={[
                  ['oddEven', tr`Odd and even banks`],
                  ['bankAfterBank', tr`Bank after bank`],
                ]}
                onPicked={preview.reset}
              />
              <Choice
                label={tr`Bank with number one, from the free end`}
                value={left ? 'left' : 'right'}
                onChange={(s) => {
                  form.setValue('bankAOnTheLeft', s === 'left', { shouldDirty: true });
                  preview.reset();
                }}
                options={[
                  ['left', tr`Left`],
                  ['right', tr`Right`],
                ]}
              />
            </>
          )}
          <Trouble problem={preview.error ?? change.error} />
          {preview.data && (
            <>
              <p>
                <Trans>
                  <b>{preview.data.map.length} addresses change.</b> Nothing recorded is lost. What is written
                  on {preview.data.marked.length} marked parts stays until they are marked anew, and both
                  numbers show.
                </Trans>
              </p>
              <Table map={preview.data.marked.length > 0 ? preview.data.marked : preview.data.map} />
              <TextField form={form} name="why" label={tr`Who settled it, and by what`} />
            </>
          )}
          <div className="flex flex-wrap gap-2">
            <button className="key key-go" disabled={preview.isPending || change.isPending}>
              {preview.data ? tr`Change the numbering` : tr`See what would change`}
            </button>
            <button type="button" className="key" onClick={leave}>
              {tr`Leave it`}
            </button>
          </div>
        </EntryForm>
      )}
    </section>
  );
}

function Table({ map }: { map: Schemas['Renumbered'][] }) {
  return (
    <ul
      className="mt-1 flex max-h-48 flex-wrap gap-x-5 gap-y-0.5 overflow-y-auto"
      tabIndex={0}
      aria-label={tr`Old and new addresses`}
    >
      {map.map((r) => (
        <li key={r.old} className="whitespace-nowrap">
          <Addr code={r.old} /> → <Addr code={r.new} />
        </li>
      ))}
    </ul>
  );
}
