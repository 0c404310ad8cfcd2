import { t as tr } from '@lingui/core/macro';
import { useState } from 'react';
import * as z from 'zod/mini';
import type { Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { EntryForm, FigureField, needed, numberNeeded, TextField, useEntryForm } from '../ui/form';

type Step = Schemas['AssemblyStep'];

const lines = (text: string) =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean);

/**
 * What assembly adds to the strip in reverse: as it came, as this shop does it, or not done here. One that is changed is this shop’s and stands in its
 * place.
 */
export function WayBackList({
  known,
  own,
  drops,
  scriptId,
  applies,
  onOwn,
  onDrops,
}: {
  known: Step[];
  own: Step[];
  drops: string[];
  /** Engines that the script is for. */
  applies: Step['applies'];
  scriptId: string;
  onOwn: (next: Step[]) => void;
  onDrops: (next: string[]) => void;
}) {
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState<string | null>(null);
  const ours = new Map(own.map((s) => [s.id, s]));
  // What is for other engines than the script is not among them.
  const fits = (of: Step['applies']) =>
    (Object.keys(of) as (keyof typeof of)[]).every(
      (k) => of[k] === null || applies[k] === null || of[k] === applies[k],
    );
  const all = [
    ...known.filter((s) => fits(s.applies)).map((s) => ours.get(s.id) ?? s),
    ...own.filter((s) => known.every((k) => k.id !== s.id)),
  ];
  const editing = all.find((s) => s.id === open);
  return (
    <details className="mt-6">
      <summary className="min-h-11 cursor-pointer text-xl font-bold">
        {tr`On the way back`}
        {own.length + drops.length > 0 && tr`: ${own.length} of our own, ${drops.length} left out`}
      </summary>
      <p className="text-sm text-soft">
        {tr`What is looked at, measured and ticked when it goes together, beside the strip in reverse. Each fits only engines that have such parts.`}
      </p>
      <ul className="card mt-2 divide-y divide-line">
        {all.map((s) => (
          <li key={s.id} className="px-3 py-1">
            <div className="flex items-center gap-2">
              <button
                type="button"
                className={`min-h-11 min-w-0 flex-1 text-left leading-tight ${drops.includes(s.id) ? 'text-soft line-through' : ''}`}
                disabled={!mayWrite}
                aria-expanded={open === s.id}
                onClick={() => setOpen(open === s.id ? null : s.id)}
              >
                <b>{s.name}</b>
                <span className="block text-sm text-soft">
                  {[
                    ours.has(s.id) && tr`as this shop does it`,
                    s.figures.length > 0 && s.figures.map((f) => f.of).join(', '),
                    s.ticks.length > 0 && tr`${s.ticks.length} to tick`,
                    s.hours !== null && tr`after ${s.hours} h`,
                    s.days !== null && tr`after ${s.days} days`,
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </span>
              </button>
              {mayWrite && (
                <button
                  type="button"
                  className="key text-sm"
                  aria-pressed={drops.includes(s.id)}
                  onClick={() =>
                    onDrops(drops.includes(s.id) ? drops.filter((d) => d !== s.id) : [...drops, s.id])
                  }
                >
                  {drops.includes(s.id) ? tr`Do it again` : tr`Not here`}
                </button>
              )}
            </div>
            {editing?.id === s.id && (
              <StepFields
                step={s}
                scriptId={scriptId}
                isOwn={ours.has(s.id)}
                onEnd={(changed) => {
                  setOpen(null);
                  if (changed === 'back') onOwn(own.filter((o) => o.id !== s.id));
                  else if (changed) onOwn([...own.filter((o) => o.id !== s.id), changed]);
                }}
              />
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}

const schema = z.object({
  name: needed(tr`Name it.`),
  does: z.string(),
  ticks: z.string(),
  covers: z.string(),
  cautions: z.string(),
  minutes: numberNeeded({ min: 0, max: 10_000 }),
});

function StepFields({
  step,
  scriptId,
  isOwn,
  onEnd,
}: {
  step: Step;
  scriptId: string;
  isOwn: boolean;
  onEnd: (changed: Step | 'back' | null) => void;
}) {
  const { form, settle } = useEntryForm(
    schema,
    {
      name: step.name,
      does: step.does,
      ticks: step.ticks.join('\n'),
      covers: step.covers.join('\n'),
      cautions: step.cautions.join('\n'),
      minutes: String(step.minutes),
    },
    { draft: `assembly/${scriptId}/${step.id}` },
  );
  return (
    <EntryForm
      form={form}
      className="space-y-3 py-2"
      send={async ({ ticks, covers, cautions, ...rest }) => {
        settle(form.getValues());
        onEnd({
          ...step,
          ...rest,
          ticks: lines(ticks),
          covers: lines(covers),
          cautions: lines(cautions),
          provenance: tr`this shop’s own`,
        });
        return Promise.resolve();
      }}
    >
      <TextField form={form} name="name" label={tr`Name`} />
      <TextField form={form} name="does" label={tr`What is done`} rows={2} />
      <TextField form={form} name="ticks" label={tr`Looked at, one in a line`} rows={4} />
      <TextField form={form} name="covers" label={tr`Covered or plugged, one in a line`} rows={2} />
      <TextField form={form} name="cautions" label={tr`Cautions, one in a line`} rows={2} />
      <FigureField form={form} name="minutes" label={tr`Minutes`} />
      <div className="flex flex-wrap gap-2">
        <button className="key key-go">{tr`As this shop does it`}</button>
        {isOwn && (
          <button type="button" className="key" onClick={() => onEnd('back')}>
            {tr`As it came`}
          </button>
        )}
        <button type="button" className="key" onClick={() => onEnd(null)}>
          {tr`Close`}
        </button>
      </div>
    </EntryForm>
  );
}
