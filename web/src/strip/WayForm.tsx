import { t as tr } from '@lingui/core/macro';
import { useState } from 'react';
import * as z from 'zod/mini';
import type { Schemas } from '../api/client';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';

type Script = Schemas['StripScript'];
export type Way = Script['variants'][number];

const schema = z.object({ name: needed(tr`Name the way.`), says: needed(tr`Say when one goes it.`) });

export const bareWay = (id: string, applies: Way['applies']): Way => ({
  id,
  name: '',
  provenance: tr`this shop’s own`,
  says: '',
  applies,
  excludes: [],
  drops: [],
  alters: {},
  steps: [],
  until: [],
});

/** Ways that stay possible when a step is taken out of the script. */
export const waysWithout = (ways: readonly Way[], step: string): Way[] =>
  ways.map((w) => ({
    ...w,
    drops: w.drops.filter((s) => s !== step),
    until: w.until.filter((s) => s !== step),
    alters: Object.fromEntries(Object.entries(w.alters).filter(([s]) => s !== step)),
  }));

/** Another way through a script: what it leaves out, where it ends, what is done otherwise, and what it cannot be had with. */
export function WayForm({
  way,
  scriptId,
  steps,
  others,
  onStep,
  onChange,
  onEnd,
}: {
  way: Way;
  scriptId: string;
  steps: Script['steps'];
  others: readonly Way[];
  /** Opens a step as it is done this way. */
  onStep: (way: Way, step: string) => void;
  onChange: (way: Way) => void;
  onEnd: (way: Way | null) => void;
}) {
  const { form, settle } = useEntryForm(
    schema,
    { name: way.name, says: way.says },
    { draft: `script-way/${scriptId}/${way.id}` },
  );
  const [otherwise, setOtherwise] = useState('');
  const named = (id: string) => steps.find((s) => s.id === id)?.name ?? id;
  const typed = () => ({ ...way, ...form.getValues() });
  const end = (changed: Way | null) => {
    settle(changed ? { name: changed.name, says: changed.says } : { name: way.name, says: way.says });
    onEnd(changed);
  };
  return (
    <section className="card mx-auto max-w-3xl p-5">
      <EntryForm form={form} send={async (fields) => end({ ...way, ...fields })} className="space-y-4">
        <h2 className="text-2xl">{way.name || tr`Another way`}</h2>
        <TextField form={form} name="name" label={tr`Name`} />
        <TextField form={form} name="says" label={tr`When one goes it, and what it costs`} rows={2} />
        <Several
          label={tr`Leaves out`}
          all={steps.map((s) => [s.id, s.name])}
          chosen={way.drops}
          onChange={(drops) => onChange({ ...typed(), drops })}
        />
        <Several
          label={tr`Ends at; nothing chosen goes on to the bare block`}
          all={steps.map((s) => [s.id, s.name])}
          chosen={way.until}
          onChange={(until) => onChange({ ...typed(), until })}
        />
        {others.length > 0 && (
          <Several
            label={tr`Cannot be had with`}
            all={others.map((o) => [o.id, o.name])}
            chosen={way.excludes}
            onChange={(excludes) => onChange({ ...typed(), excludes })}
          />
        )}
        <div>
          <p className="label">{tr`Done otherwise, or besides`}</p>
          <ul className="space-y-1">
            {way.steps.map((s) => (
              <li key={s.id} className="flex items-center gap-2">
                <button
                  type="button"
                  className="min-h-11 flex-1 text-left font-semibold underline decoration-line"
                  onClick={() => onStep(typed(), s.id)}
                >
                  {s.name}
                </button>
                <button
                  type="button"
                  className="key"
                  aria-label={tr`As in the script: ${s.name}`}
                  onClick={() => onChange({ ...typed(), steps: way.steps.filter((o) => o.id !== s.id) })}
                >
                  ✕
                </button>
              </li>
            ))}
            {Object.keys(way.alters).map((id) => (
              <li key={id} className="flex items-center gap-2">
                <span className="flex-1">
                  <b>{named(id)}</b>: {way.alters[id]?.does ?? tr`in another order`}
                </span>
                <button
                  type="button"
                  className="key"
                  aria-label={tr`As in the script: ${named(id)}`}
                  onClick={() =>
                    onChange({
                      ...typed(),
                      alters: Object.fromEntries(Object.entries(way.alters).filter(([k]) => k !== id)),
                    })
                  }
                >
                  ✕
                </button>
              </li>
            ))}
          </ul>
          <div className="mt-1 flex gap-2">
            <select
              className="entry"
              aria-label={tr`Which step is done otherwise`}
              value={otherwise}
              onChange={(e) => setOtherwise(e.target.value)}
            >
              <option value="">{tr`a step of its own`}</option>
              {steps
                .filter((s) => !way.steps.some((o) => o.id === s.id))
                .map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.name}
                  </option>
                ))}
            </select>
            <button type="button" className="key shrink-0" onClick={() => onStep(typed(), otherwise)}>
              {tr`Write how`}
            </button>
          </div>
        </div>
        <div className="flex gap-2">
          <button className="key key-go">{tr`Into the script`}</button>
          <button type="button" className="key" onClick={() => end(null)}>
            {tr`Leave it as it was`}
          </button>
        </div>
      </EntryForm>
    </section>
  );
}

function Several({
  label,
  all,
  chosen,
  onChange,
}: {
  label: string;
  all: readonly (readonly [string, string])[];
  chosen: readonly string[];
  onChange: (chosen: string[]) => void;
}) {
  return (
    <fieldset>
      <legend className="label">{label}</legend>
      <div className="flex flex-wrap gap-1.5">
        {all.map(([id, name]) => (
          <button
            key={id}
            type="button"
            className="key min-h-9 px-2 text-sm"
            aria-pressed={chosen.includes(id)}
            onClick={() => onChange(chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id])}
          >
            {name}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
