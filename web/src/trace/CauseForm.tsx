import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v7 } from 'uuid';
import { api, unwrap, type ApiProblem, type Knowledge, type Schemas } from '../api/client';
import { Field, Trouble } from '../ui/basics';
import { useDraft } from '../ui/useDraft';
import { entriesOf } from '../ui/words';
import { anchorWords, oftenWords, relationWords, slug } from './causeWords';

type Cause = Schemas['KnownCause'];
type Link = Schemas['ChainLink'];

const words = entriesOf(oftenWords).filter(([w]) => w !== 'never');

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
  const { draft, set, settle } = useDraft(
    `cause/${given.id || 'new'}/${own?.version ?? 0}/${given.base}${given.chain.map((l) => l.predicts.map((p) => p.often).join('')).join('')}`,
    blank,
  );
  const { cause, why } = draft;
  const change = (part: Partial<Cause>) => set({ cause: { ...cause, ...part } });
  const [id] = useState(() => own?.id ?? v7());
  const save = useMutation<Schemas['ShopCause'], ApiProblem, void>({
    mutationFn: () =>
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
  const setLink = (i: number, part: Partial<Link>) =>
    change({ chain: cause.chain.map((l, k) => (k === i ? { ...l, ...part } : l)) });
  return (
    <form
      className="space-y-5"
      onSubmit={(e) => {
        e.preventDefault();
        if (!save.isPending) save.mutate();
      }}
    >
      <h1 className="text-3xl">{fresh ? 'A new cause' : `${cause.name}, as this shop knows it`}</h1>
      <div className="grid gap-x-4 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
        <Field label="Name">
          <input className="entry" value={cause.name} onChange={(e) => change({ name: e.target.value })} />
        </Field>
        <Field label="Family">
          <input
            className="entry"
            list="families"
            value={cause.family}
            onChange={(e) => change({ family: e.target.value })}
          />
          <datalist id="families">
            {families.map((f) => (
              <option key={f} value={f} />
            ))}
          </datalist>
        </Field>
        <Field label="Begins at">
          <select
            className="entry"
            value={cause.anchor}
            onChange={(e) => change({ anchor: e.target.value as Cause['anchor'] })}
          >
            {entriesOf(anchorWords).map(([a, w]) => (
              <option key={a} value={a}>
                {w}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Sits at the">
          <select className="entry" value={cause.seat} onChange={(e) => change({ seat: e.target.value })}>
            <option value="">choose a part</option>
            {knowledge.kinds.map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
          </select>
        </Field>
        <Often
          label="How often met among engines on a bench"
          value={cause.base}
          onChange={(base) => change({ base })}
        />
        <Field label="Strokes">
          <select
            className="entry"
            value={cause.applies.cycle ?? ''}
            onChange={(e) =>
              change({
                applies: {
                  ...cause.applies,
                  cycle: (e.target.value || null) as Cause['applies']['cycle'],
                },
              })
            }
          >
            <option value="">any engine</option>
            <option value="fourStroke">four-strokes only</option>
            <option value="twoStroke">two-strokes only</option>
          </select>
        </Field>
        <Field label="Bearings">
          <select
            className="entry"
            value={cause.applies.bearings ?? ''}
            onChange={(e) =>
              change({
                applies: {
                  ...cause.applies,
                  bearings: (e.target.value || null) as Cause['applies']['bearings'],
                },
              })
            }
          >
            <option value="">any</option>
            <option value="plain">plain only</option>
            <option value="rolling">rolling only</option>
          </select>
        </Field>
        <Field label="Fuel">
          <select
            className="entry"
            value={cause.applies.fuel ?? ''}
            onChange={(e) =>
              change({
                applies: { ...cause.applies, fuel: (e.target.value || null) as Cause['applies']['fuel'] },
              })
            }
          >
            <option value="">any</option>
            <option value="diesel">diesel only</option>
            <option value="carburettor">carburettor only</option>
            <option value="injected">injected petrol or gas only</option>
          </select>
        </Field>
      </div>
      <section>
        <h2 className="text-xl">How it goes, and what each step leaves</h2>
        <ol className="mt-2 space-y-4">
          {cause.chain.map((link, i) => (
            <li key={i} className="card p-3">
              <div className="flex items-end gap-3">
                <span className="mb-1.5 flex size-8 shrink-0 items-center justify-center rounded-full bg-dye font-bold text-paper">
                  {i + 1}
                </span>
                <div className="flex-1">
                  <Field label={i === 0 ? 'What happens first' : 'What follows'}>
                    <input
                      className="entry"
                      value={link.says}
                      onChange={(e) => setLink(i, { says: e.target.value })}
                    />
                  </Field>
                </div>
                {cause.chain.length > 1 && (
                  <button
                    type="button"
                    className="key"
                    onClick={() => change({ chain: cause.chain.filter((_, k) => k !== i) })}
                  >
                    Take out
                  </button>
                )}
              </div>
              <Predictions
                knowledge={knowledge}
                list={link.predicts}
                onChange={(predicts) => setLink(i, { predicts })}
              />
            </li>
          ))}
        </ol>
        <button
          type="button"
          className="key mt-2"
          onClick={() => change({ chain: [...cause.chain, { says: '', predicts: [] }] })}
        >
          Add a step
        </button>
      </section>
      <div className="grid gap-x-4 gap-y-3 lg:grid-cols-2">
        {(
          [
            ['prove', 'How to prove it'],
            ['prevent', 'What to change so that it does not return'],
            ['caution', 'Caution, where somebody may get hurt'],
            ['provenance', 'Where it comes from'],
          ] as const
        ).map(([field, label]) => (
          <Field key={field} label={label}>
            <textarea
              className="entry"
              rows={2}
              value={cause[field]}
              onChange={(e) => change({ [field]: e.target.value })}
            />
          </Field>
        ))}
      </div>
      <Field
        label="Why the shop says so"
        hint="Which engines, whose experience; it is kept with every version."
      >
        <input className="entry" value={why} onChange={(e) => set({ why: e.target.value })} />
      </Field>
      <Trouble problem={save.error} />
      <div className="flex flex-wrap gap-3">
        <button className="key key-go" disabled={save.isPending}>
          Use it from now on
        </button>
        <button
          type="button"
          className="key"
          onClick={() => {
            settle(blank);
            onDone(null);
          }}
        >
          Leave it as it was
        </button>
      </div>
    </form>
  );
}

function Often({
  label,
  value,
  onChange,
}: {
  label: string;
  value: Schemas['Frequency'];
  onChange: (value: Schemas['Frequency']) => void;
}) {
  return (
    <Field label={label}>
      <select
        className="entry"
        value={value}
        onChange={(e) => onChange(e.target.value as Schemas['Frequency'])}
      >
        {words.map(([w, text]) => (
          <option key={w} value={w}>
            {text}
          </option>
        ))}
      </select>
    </Field>
  );
}

function Predictions({
  knowledge,
  list,
  onChange,
}: {
  knowledge: Knowledge;
  list: Schemas['Prediction'][];
  onChange: (list: Schemas['Prediction'][]) => void;
}) {
  const [adding, setAdding] = useState('');
  const kind = (id: string) => knowledge.kinds.find((k) => k.id === id)?.name ?? id;
  const put = (i: number, part: Partial<Schemas['Prediction']>) =>
    onChange(list.map((p, k) => (k === i ? { ...p, ...part } : p)));
  return (
    <div className="mt-2">
      <ul className="divide-y divide-line">
        {list.map((p, i) => {
          const sign = knowledge.signs.find((s) => s.id === p.sign);
          const kinds = sign?.on ?? p.on;
          return (
            <li
              key={i}
              className="grid grid-cols-2 items-center gap-2 py-2 lg:grid-cols-[9rem_minmax(0,1fr)_15rem_auto]"
            >
              <div className="col-span-2 lg:order-2 lg:col-span-1">
                <b>{sign?.name ?? p.sign}</b>
                {kinds.length === 1 ? (
                  <span className="text-soft"> on {kind(kinds[0]!)}</span>
                ) : (
                  <span className="flex flex-wrap gap-x-4">
                    {kinds.map((k) => (
                      <label key={k} className="flex min-h-11 items-center gap-1.5">
                        <input
                          type="checkbox"
                          className="size-5 accent-dye"
                          checked={p.on.includes(k)}
                          onChange={(e) =>
                            put(i, { on: e.target.checked ? [...p.on, k] : p.on.filter((o) => o !== k) })
                          }
                        />
                        {kind(k)}
                      </label>
                    ))}
                  </span>
                )}
              </div>
              <select
                className="entry lg:order-1"
                aria-label={`How often it leaves ${sign?.name ?? p.sign}`}
                value={p.often}
                onChange={(e) => put(i, { often: e.target.value as Schemas['Frequency'] })}
              >
                {words.map(([w, text]) => (
                  <option key={w} value={w}>
                    {text}
                  </option>
                ))}
              </select>
              {p.on.join() === 'engine' ? (
                <span className="hidden lg:order-3 lg:block" />
              ) : (
                <select
                  className="entry lg:order-3"
                  aria-label={`Where it leaves ${sign?.name ?? p.sign}`}
                  value={p.at}
                  onChange={(e) => put(i, { at: e.target.value as Schemas['Relation'] })}
                >
                  {entriesOf(relationWords).map(([r, text]) => (
                    <option key={r} value={r}>
                      {text}
                    </option>
                  ))}
                </select>
              )}
              <button
                type="button"
                className="key justify-self-start lg:order-4"
                aria-label={`Take ${sign?.name ?? p.sign} out`}
                onClick={() => onChange(list.filter((_, k) => k !== i))}
              >
                Take out
              </button>
            </li>
          );
        })}
      </ul>
      <label className="mt-1 block max-w-md">
        <span className="sr-only">Add a sign that it leaves</span>
        <input
          className="entry"
          list="signs"
          placeholder="Add a sign that it leaves"
          value={adding}
          onChange={(e) => {
            const sign = knowledge.signs.find((s) => s.name === e.target.value);
            setAdding(sign ? '' : e.target.value);
            if (sign)
              onChange([...list, { sign: sign.id, on: sign.on.slice(0, 1), at: 'same', often: 'sometimes' }]);
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
