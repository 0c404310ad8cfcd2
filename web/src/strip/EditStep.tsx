import { useState } from 'react';
import { useFieldArray } from 'react-hook-form';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { type Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import {
  asTyped,
  EntryForm,
  FigureField,
  KeysField,
  needed,
  numberNeeded,
  oneOf,
  TextField,
  TickField,
  useEntryForm,
} from '../ui/form';
import { anyEngine, entriesOf } from '../ui/words';
import { attitudeWords, type Step } from './useStrip';

type StripStep = Schemas['StripStep'];
type FastenerSet = Schemas['FastenerSet'];

const schema = z.object({
  name: needed('Name the step.'),
  does: z.string(),
  attitude: oneOf(attitudeWords),
  minutes: numberNeeded({ min: 0, max: 10_000 }),
  parts: z.boolean(),
  holdPoint: z.boolean(),
  after: z.array(z.object({ step: z.string(), why: z.string() })),
  fasteners: z.array(
    z.object({
      // What the form does not show of a set stays as it is.
      set: z.custom<FastenerSet>(),
      name: z.string(),
      count: numberNeeded({ whole: true, min: 1, max: 500 }),
      thread: z.string(),
      hidden: z.string(),
    }),
  ),
  mayHold: z.string(),
  reason: needed('Say why it differs; it stays with the case.'),
});

const bare: StripStep = {
  id: '',
  name: '',
  provenance: '',
  does: '',
  ticks: [],
  after: {},
  attitude: 'upright',
  end: null,
  crank: '',
  pistonsDown: false,
  fasteners: [],
  pattern: '',
  minutes: 10,
  minutesEach: 0,
  per: 'inAll',
  oneAtATime: false,
  helper: false,
  tools: [],
  photos: [],
  exposes: [],
  releases: [],
  readFirst: [],
  acts: [],
  parts: false,
  mayHold: [],
  cautions: [],
  holdPoint: false,
  applies: anyEngine,
};

const perWords: Record<Schemas['FastenerCount'], string> = {
  inAll: ' in all',
  perCylinder: ' for each cylinder',
  perMain: ' for each main bearing',
  perBank: ' for each bank',
  perCamshaft: ' for each camshaft',
};

const lines = (text: string) =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean);

const bareSet: FastenerSet = {
  id: '',
  name: '',
  count: 1,
  per: 'inAll',
  thread: '',
  head: '',
  lengths: [],
  washers: '',
  locking: '',
  leftHand: false,
  leftHandOnSome: false,
  oneTime: false,
  hidden: '',
  holes: [],
  needsMap: false,
};

const setFields = (set: FastenerSet) => ({
  set,
  name: set.name,
  count: asTyped(set.count),
  thread: set.thread,
  hidden: set.hidden,
});

const fieldsOf = (s: StripStep): z.input<typeof schema> => ({
  name: s.name,
  does: s.does,
  attitude: s.attitude,
  minutes: asTyped(s.minutes),
  parts: s.parts,
  holdPoint: s.holdPoint,
  after: Object.entries(s.after).map(([step, why]) => ({ step, why })),
  fasteners: s.fasteners.map(setFields),
  mayHold: s.mayHold.join('\n'),
  reason: '',
});

/** The first number that no set of the step has in its id: one that was taken out must not be met again. */
const freeId = (sets: readonly { set: FastenerSet }[]) => {
  let n = 1;
  while (sets.some((s) => s.set.id === `own-${n}`)) n++;
  return `own-${n}`;
};

/** A step added to this strip, or one of the script's as it is done here, with the reason. */
export function EditStep({ step, onEnd }: { step: Step | null; onEnd: (id: string | null) => void }) {
  const { engineCase } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const names = new Map(strip.steps.map((s) => [s.id, s.name]));
  const source = step?.source ?? bare;
  const { form, settle } = useEntryForm(schema, fieldsOf(source), {
    draft: `step/${engineCase.id}/${step?.id ?? 'new'}`,
  });
  const before = useFieldArray({ control: form.control, name: 'after' });
  const fasteners = useFieldArray({ control: form.control, name: 'fasteners' });
  const [suffix] = useState(() => v7().slice(-4));
  const leave = (id: string | null) => {
    settle(fieldsOf(source));
    onEnd(id);
  };
  const save = useWrite(engineCase.id, writes.ownStep, (_, entry) => leave(entry.step.id));
  const send = ({ reason, after, fasteners: sets, mayHold, ...fields }: z.output<typeof schema>) => {
    const id =
      source.id ||
      `own-${fields.name
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .slice(0, 40)}-${suffix}`;
    return save.mutateAsync({
      step: {
        ...source,
        ...fields,
        id,
        after: Object.fromEntries(after.map((a) => [a.step, a.why])),
        fasteners: sets.map(({ set, ...typed }) => ({ ...set, ...typed })),
        mayHold: lines(mayHold),
      },
      reason,
    });
  };
  return (
    <section className="card mx-auto max-w-3xl p-5">
      <EntryForm form={form} send={send} className="space-y-4">
        <h2 className="text-2xl">{step ? `Change “${step.name}”` : 'A step of your own'}</h2>
        <p className="text-soft">Only in this case. What is done stays done.</p>
        <TextField form={form} name="name" label="Name" />
        <TextField form={form} name="does" label="What to do" rows={2} />
        <div className="flex flex-wrap gap-x-6 gap-y-3">
          <KeysField form={form} name="attitude" label="Engine" options={entriesOf(attitudeWords)} />
          <FigureField form={form} name="minutes" label="Minutes" className="w-28" />
          <TickField
            form={form}
            name="parts"
            label="Two pieces part: locked until the count agrees"
            className="self-end"
          />
          <TickField form={form} name="holdPoint" label="Hold point" className="self-end" />
        </div>
        <fieldset>
          <legend className="label">What must come first, and why</legend>
          <ul className="space-y-1.5">
            {before.fields.map((a, i) => (
              <li key={a.id} className="flex flex-wrap items-center gap-2">
                <span className="basis-52 font-semibold">{names.get(a.step) ?? a.step}</span>
                <TextField
                  form={form}
                  name={`after.${i}.why`}
                  label={`Why after ${names.get(a.step) ?? a.step}`}
                  unseen
                  className="min-w-40 flex-1"
                />
                <button
                  type="button"
                  className="key"
                  aria-label={`Not after ${names.get(a.step) ?? a.step}`}
                  onClick={() => before.remove(i)}
                >
                  ✕
                </button>
              </li>
            ))}
          </ul>
          <select
            className="entry mt-2"
            aria-label="Add a step that must come first"
            value=""
            onChange={(e) => e.target.value && before.append({ step: e.target.value, why: '' })}
          >
            <option value="">Add a step that must come first …</option>
            {strip.steps
              .filter((s) => s.id !== source.id && !before.fields.some((a) => a.step === s.id))
              .map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
          </select>
        </fieldset>
        <fieldset>
          <legend className="label">Fasteners</legend>
          <ul className="space-y-2">
            {fasteners.fields.map((f, i) => (
              <li key={f.id} className="flex flex-wrap items-end gap-2">
                <FigureField
                  form={form}
                  name={`fasteners.${i}.count`}
                  label={`How many${perWords[f.set.per]}`}
                  className="w-36"
                />
                <TextField
                  form={form}
                  name={`fasteners.${i}.name`}
                  label="What they are"
                  unseen
                  placeholder="cover bolts"
                  className="min-w-36 flex-1"
                />
                <TextField
                  form={form}
                  name={`fasteners.${i}.thread`}
                  label="Thread"
                  unseen
                  placeholder="M8×1.25"
                  className="w-28"
                />
                <TextField
                  form={form}
                  name={`fasteners.${i}.hidden`}
                  label="Hidden where"
                  unseen
                  placeholder="hidden where, if so"
                  className="min-w-36 flex-1"
                />
                <button
                  type="button"
                  className="key"
                  aria-label={`Without ${f.name || 'this set'}`}
                  onClick={() => fasteners.remove(i)}
                >
                  ✕
                </button>
              </li>
            ))}
          </ul>
          <button
            type="button"
            className="key mt-2"
            onClick={() => fasteners.append(setFields({ ...bareSet, id: freeId(fasteners.fields) }))}
          >
            Add a set
          </button>
        </fieldset>
        <TextField form={form} name="mayHold" label="What may still hold it, one a line" rows={2} />
        <TextField form={form} name="reason" label="Why it differs; it stays with the case" />
        <Trouble problem={save.error} />
        <div className="flex gap-2">
          <button className="key key-go" disabled={save.isPending}>
            Put it in the strip
          </button>
          <button type="button" className="key" onClick={() => leave(null)}>
            Leave it as it was
          </button>
        </div>
      </EntryForm>
    </section>
  );
}
