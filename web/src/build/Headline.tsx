import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import * as z from 'zod/mini';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { percent, Trouble } from '../ui/basics';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';
import { WhyForm } from '../ui/WhyForm';
import { dateKey, dayWords, type Plan } from './bars';

/** The date: likely and safe, against what was promised. */
export function Headline({ plan }: { plan: Plan }) {
  return (
    <section aria-label={tr`When it runs again`}>
      <h2 className="text-xl">{tr`Runs again`}</h2>
      <div className="mt-1 flex flex-wrap gap-x-8 gap-y-1">
        <p>
          <span className="label">{tr`as likely sooner as later`}</span>
          <b className="fig text-3xl">{plan.likely && dayWords(plan.likely)}</b>
        </p>
        <p>
          <span className="label">{tr`safe, nine times in ten`}</span>
          <b className="fig text-3xl">{plan.safe && dayWords(plan.safe)}</b>
        </p>
      </div>
      <Promise plan={plan} />
    </section>
  );
}

/** What the date hangs on, and what of it nobody knows. */
export function Hangs({ plan, pick }: { plan: Plan; pick: (key: string) => void }) {
  if (plan.worth.length + plan.told.length === 0) return null;
  return (
    <section aria-label={tr`What it hangs on`}>
      {plan.worth.length > 0 && <Worth plan={plan} pick={pick} />}
      {plan.told.length > 0 && (
        <ul className="mt-3 space-y-1 text-sm text-soft">
          {plan.told.map((t) => (
            <li key={t}>{t}</li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** When it runs, should each wait end on one of some days: the days side by side, what moves the date in bold. */
function Worth({ plan, pick }: { plan: Plan; pick: (key: string) => void }) {
  const today = dateKey(plan.at, plan.zone);
  const names = new Map(plan.tasks.map((t) => [t.key, t.name]));
  const days = [...new Set(plan.worth.flatMap((w) => w.ends.map((e) => e.comes)))].sort();
  return (
    <>
      <h2 className="text-xl">{tr`What it hangs on`}</h2>
      <table className="mt-1 w-full text-sm max-md:block">
        <thead className="max-md:sr-only">
          <tr className="align-bottom text-left text-soft">
            <th className="pr-3 pb-1 font-semibold">{tr`If it comes`}</th>
            {days.map((d) => (
              <th key={d} className="pb-1 pl-3 font-semibold whitespace-nowrap">
                {d === today ? tr`today` : dayWords(d)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="max-md:block">
          {plan.worth.map((w) => (
            <tr key={w.key} className="border-t border-line align-top max-md:block max-md:pb-2">
              <th className="py-1 pr-3 text-left max-md:block">
                <button
                  className="min-h-8 text-left font-bold underline underline-offset-4"
                  onClick={() => pick(w.key)}
                >
                  {names.get(w.key)}
                </button>
              </th>
              {days.map((d) => {
                const end = w.ends.find((e) => e.comes === d)?.ends;
                const moves = end && plan.likely && end > plan.likely;
                return (
                  <td
                    key={d}
                    className={`py-2 pl-3 whitespace-nowrap max-md:block max-md:py-0 ${moves ? 'font-bold text-lead' : ''} ${end ? '' : 'max-md:hidden'}`}
                  >
                    <span className="text-soft md:hidden" aria-hidden>
                      {d === today ? tr`today` : dayWords(d)} →{' '}
                    </span>
                    {end ? dayWords(end) : ''}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

const schema = z.object({ day: needed(tr`Give the day.`), to: z.string() });

function Promise({ plan }: { plan: Plan }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [asks, setAsks] = useState<'new' | 'back' | null>(null);
  const { form, settle } = useEntryForm(schema, { day: '', to: '' }, { draft: `promise/${engineCase.id}` });
  const promise = useWrite(engineCase.id, writes.buildPromise, () => {
    settle({ day: '', to: '' });
    setAsks(null);
  });
  const back = useWrite(engineCase.id, writes.buildPromiseBack, () => setAsks(null));
  const told = plan.promise;
  const tone =
    !told || told.chance >= 0.9
      ? 'border-oil bg-oil-tint'
      : told.chance >= 0.5
        ? 'border-brass bg-brass-tint'
        : 'border-lead bg-lead-tint';
  return (
    <div className="mt-3">
      {told && (
        <p className={`rounded-lg border-2 px-3 py-2 ${tone}`}>
          {told.chance >= 0.9 ? '✓ ' : '! '}
          {told.to ? tr`Promised to ${told.to}` : tr`Promised`}{' '}
          <Trans>
            for <b>{dayWords(told.day)}</b>: kept with <b className="fig">{percent(told.chance)}</b>.
          </Trans>
          {told.chance < 0.9 && tr` Tell them now, not on the day.`}
        </p>
      )}
      {mayWrite && asks !== 'new' && (
        <div className="mt-2 flex flex-wrap gap-2">
          <button className="key text-sm" onClick={() => setAsks('new')}>
            {told ? tr`Promise another day` : tr`A day was promised`}
          </button>
          {told && (
            <button className="key text-sm" onClick={() => setAsks('back')}>
              {tr`Take the promise back`}
            </button>
          )}
        </div>
      )}
      {asks === 'back' && told && (
        <WhyForm
          press={tr`Take back`}
          send={(why) => back.mutateAsync({ id: told.record, version: told.version, why })}
        />
      )}
      {asks === 'new' && (
        <EntryForm
          form={form}
          send={(values) => promise.mutateAsync({ ...values, note: '' })}
          className="mt-2 flex flex-wrap items-end gap-2"
        >
          <TextField form={form} name="day" label={tr`Day`} type="date" />
          <TextField form={form} name="to" label={tr`To whom`} className="least-40 flex-1" />
          <button className="key key-go">{tr`Keep`}</button>
          <button type="button" className="key" onClick={() => setAsks(null)}>
            {tr`Leave it`}
          </button>
        </EntryForm>
      )}
      <Trouble problem={promise.error ?? back.error} />
    </div>
  );
}
