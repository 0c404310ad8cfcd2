import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useFieldArray, useWatch, type UseFormReturn } from 'react-hook-form';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Knowledge, type Schemas } from '../api/client';
import { Trouble } from '../ui/basics';
import { EntryForm, ListField, TextField, useEntryForm } from '../ui/form';
import { entriesOf } from '../ui/words';
import { anchorWords, oftenWords, relationWords, severityWords, slug } from './causeWords';

type Cause = Schemas['KnownCause'];

const schema = z.object({
  cause: z
    .custom<Cause>()
    .check(z.refine((c) => c.name.trim() !== '', { message: tr`Name the cause.`, path: ['name'] })),
  why: z.string(),
});

type CauseEntry = UseFormReturn<z.input<typeof schema>, unknown, z.output<typeof schema>>;

// A word of how often something is met; what is never met is not written.
const often = entriesOf(oftenWords).filter(([w]) => w !== 'never');

/** Writes a cause of the shop's own, or the shop's version of one that came with the program. Kept while it is typed. */
export function CauseForm({
  cause: given,
  view,
  knowledge,
  onDone,
}: {
  cause: Cause;
  view: Schemas['CausesView'];
  knowledge: Knowledge;
  onDone: (id: string | null) => void;
}) {
  const client = useQueryClient();
  const own = view.own.find((o) => o.causeId === given.id && given.id !== '');
  const fresh = given.id === '';
  const blank = { cause: given, why: '' };
  const { form, settle } = useEntryForm(schema, blank, {
    draft: `cause/${given.id || 'new'}/${own?.version ?? 0}/${given.base}${given.chain.map((l) => l.predicts.map((p) => p.often + (p.how ?? '')).join('')).join('')}`,
    version: own?.version ?? 0,
  });
  const chain = useFieldArray({ control: form.control, name: 'cause.chain' });
  const name = useWatch({ control: form.control, name: 'cause.name' });
  const [id] = useState(() => own?.id ?? v7());
  const save = useMutation<Schemas['ShopCause'], ApiProblem, z.output<typeof schema>>({
    mutationFn: ({ cause, why }) =>
      unwrap(
        api.PUT('/api/causes/{id}', {
          params: { path: { id } },
          body: {
            cause: { ...cause, id: fresh ? slug(cause.name) : cause.id },
            why,
            version: own?.version ?? 0,
          },
        }),
      ),
    onSuccess: async (saved) => {
      settle(blank);
      // The whole of what is worked out hangs on the causes.
      await client.invalidateQueries();
      onDone(saved.causeId);
    },
  });
  const families = [...new Set(view.causes.map((s) => s.family))];
  return (
    <EntryForm form={form} send={save.mutateAsync} className="space-y-5">
      <h1 className="text-3xl">{fresh ? tr`A new cause` : tr`${name}, as this shop knows it`}</h1>
      <div className="grid gap-x-4 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
        <TextField form={form} name="cause.name" label={tr`Name`} />
        <div>
          <TextField form={form} name="cause.family" label={tr`Family`} list="families" />
          <datalist id="families">
            {families.map((f) => (
              <option key={f} value={f} />
            ))}
          </datalist>
        </div>
        <ListField form={form} name="cause.anchor" label={tr`Begins at`} words={anchorWords} />
        <ListField
          form={form}
          name="cause.seat"
          label={tr`Sits at the`}
          first={tr`choose a part`}
          words={knowledge.kinds.map((k) => [k.id, k.name] as const)}
        />
        <ListField
          form={form}
          name="cause.base"
          label={tr`How often met among engines on a bench`}
          words={often}
        />
        <ListField
          form={form}
          name="cause.how"
          label={tr`How bad what it leaves is`}
          words={entriesOf(severityWords)}
        />
        <ListField
          form={form}
          name="cause.applies.cycle"
          label={tr`Strokes`}
          first={tr`any engine`}
          orNull
          words={[
            ['fourStroke', tr`four-strokes only`],
            ['twoStroke', tr`two-strokes only`],
          ]}
        />
        <ListField
          form={form}
          name="cause.applies.bearings"
          label={tr`Bearings`}
          first="any"
          orNull
          words={[
            ['plain', tr`plain only`],
            ['rolling', tr`rolling only`],
          ]}
        />
        <ListField
          form={form}
          name="cause.applies.fuel"
          label={tr`Fuel`}
          first="any"
          orNull
          words={[
            ['diesel', tr`diesel only`],
            ['carburettor', tr`carburettor only`],
            ['injected', tr`injected petrol or gas only`],
          ]}
        />
      </div>
      <section>
        <h2 className="text-xl">{tr`How it goes, and what each step leaves`}</h2>
        <ol className="mt-2 space-y-4">
          {chain.fields.map((link, i) => (
            <li key={link.id} className="card p-3">
              <div className="flex items-end gap-3">
                <span className="mb-1.5 flex size-8 shrink-0 items-center justify-center rounded-full bg-dye font-bold text-paper">
                  {i + 1}
                </span>
                <div className="flex-1">
                  <TextField
                    form={form}
                    name={`cause.chain.${i}.says`}
                    label={i === 0 ? tr`What happens first` : tr`What follows`}
                  />
                </div>
                {chain.fields.length > 1 && (
                  <button type="button" className="key" onClick={() => chain.remove(i)}>
                    {tr`Take out`}
                  </button>
                )}
              </div>
              <Predictions knowledge={knowledge} form={form} link={i} />
            </li>
          ))}
        </ol>
        <button type="button" className="key mt-2" onClick={() => chain.append({ says: '', predicts: [] })}>
          {tr`Add a step`}
        </button>
      </section>
      <div className="grid gap-x-4 gap-y-3 lg:grid-cols-2">
        {(
          [
            ['prove', tr`How to prove it`],
            ['prevent', tr`What to change so that it does not return`],
            ['caution', tr`Caution, where somebody may get hurt`],
            ['provenance', tr`Where it comes from`],
          ] as const
        ).map(([field, label]) => (
          <TextField key={field} form={form} name={`cause.${field}`} label={label} rows={2} />
        ))}
      </div>
      <TextField
        form={form}
        name="why"
        label={tr`Why the shop says so`}
        hint={tr`Which engines, whose experience; it is kept with every version.`}
      />
      <Trouble problem={save.error} />
      <div className="flex flex-wrap gap-3">
        <button className="key key-go" disabled={save.isPending}>
          {tr`Use it from now on`}
        </button>
        <button
          type="button"
          className="key"
          onClick={() => {
            settle(blank);
            onDone(null);
          }}
        >
          {tr`Leave it as it was`}
        </button>
      </div>
    </EntryForm>
  );
}

function Predictions({ knowledge, form, link }: { knowledge: Knowledge; form: CauseEntry; link: number }) {
  const [adding, setAdding] = useState('');
  const at = `cause.chain.${link}.predicts` as const;
  const list = useWatch({ control: form.control, name: at });
  const put = (predicts: Schemas['Prediction'][]) => form.setValue(at, predicts, { shouldDirty: true });
  const kind = (id: string) => knowledge.kinds.find((k) => k.id === id)?.name ?? id;
  return (
    <div className="mt-2">
      <ul className="divide-y divide-line">
        {list.map((p, i) => {
          const sign = knowledge.signs.find((s) => s.id === p.sign);
          const kinds = sign?.on ?? p.on;
          const change = (part: Partial<Schemas['Prediction']>) =>
            put(list.map((old, k) => (k === i ? { ...old, ...part } : old)));
          return (
            <li
              key={i}
              className="grid grid-cols-2 items-center gap-2 py-2 lg:grid-cols-[9rem_minmax(0,1fr)_13rem_12rem_auto]"
            >
              <div className="col-span-2 lg:order-2 lg:col-span-1">
                <b>{sign?.name ?? p.sign}</b>
                {kinds.length === 1 ? (
                  <span className="text-soft">
                    {' '}
                    <Trans>on {kind(kinds[0]!)}</Trans>
                  </span>
                ) : (
                  <span className="flex flex-wrap gap-x-4">
                    {kinds.map((k) => (
                      <label key={k} className="flex min-h-11 items-center gap-1.5">
                        <input
                          type="checkbox"
                          className="size-5 accent-dye"
                          checked={p.on.includes(k)}
                          onChange={(e) =>
                            change({ on: e.target.checked ? [...p.on, k] : p.on.filter((o) => o !== k) })
                          }
                        />
                        {kind(k)}
                      </label>
                    ))}
                  </span>
                )}
              </div>
              <Words
                className="lg:order-1"
                label={tr`How often it leaves ${sign?.name ?? p.sign}`}
                value={p.often}
                words={often}
                onChange={(value) => change({ often: value })}
              />
              {p.on.join() === 'engine' ? (
                <span className="hidden lg:order-3 lg:block" />
              ) : (
                <Words
                  className="lg:order-3"
                  label={tr`Where it leaves ${sign?.name ?? p.sign}`}
                  value={p.at}
                  words={entriesOf(relationWords)}
                  onChange={(value) => change({ at: value })}
                />
              )}
              <Words
                className="lg:order-4"
                label={tr`How bad ${sign?.name ?? p.sign} is`}
                value={p.how ?? ''}
                words={[['', tr`as its cause`], ...entriesOf(severityWords)]}
                onChange={(value) => change({ how: value || null })}
              />
              <button
                type="button"
                className="key justify-self-start lg:order-5"
                aria-label={tr`Take ${sign?.name ?? p.sign} out`}
                onClick={() => put(list.filter((_, k) => k !== i))}
              >
                {tr`Take out`}
              </button>
            </li>
          );
        })}
      </ul>
      <label className="mt-1 block max-w-md">
        <span className="sr-only">{tr`Add a sign that it leaves`}</span>
        <input
          className="entry"
          list="signs"
          placeholder={tr`Add a sign that it leaves`}
          value={adding}
          onChange={(e) => {
            const sign = knowledge.signs.find((s) => s.name === e.target.value);
            setAdding(sign ? '' : e.target.value);
            if (sign)
              put([
                ...list,
                { sign: sign.id, on: sign.on.slice(0, 1), at: 'same', often: 'sometimes', how: null },
              ]);
          }}
        />
      </label>
      <datalist id="signs">
        {knowledge.signs.map((s) => (
          <option key={s.id} value={s.name} />
        ))}
      </datalist>
    </div>
  );
}

function Words<W extends string>({
  label,
  value,
  words,
  onChange,
  className,
}: {
  label: string;
  value: W;
  words: readonly (readonly [W, string])[];
  onChange: (value: W) => void;
  className: string;
}) {
  return (
    <select
      className={`entry ${className}`}
      aria-label={label}
      value={value}
      onChange={(e) => onChange(e.target.value as W)}
    >
      {words.map(([w, text]) => (
        <option key={w} value={w}>
          {text}
        </option>
      ))}
    </select>
  );
}
