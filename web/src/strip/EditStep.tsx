import { useState } from 'react';
import { v7 } from 'uuid';
import { type Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { Choice, Field, Trouble } from '../ui/basics';
import { anyEngine, entriesOf } from '../ui/words';
import { attitudeWords, type Step } from './useStrip';
import { NumberField } from '../ui/NumberField';

type Draft = Schemas['StripStep'];

const bare: Draft = {
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

/** A step added to this strip, or one of the script's as it is done here, with the reason. */
export function EditStep({ step, onEnd }: { step: Step | null; onEnd: (id: string | null) => void }) {
  const { engineCase } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const names = new Map(strip.steps.map((s) => [s.id, s.name]));
  const [draft, setDraft] = useState<Draft>(step?.source ?? bare);
  const [reason, setReason] = useState('');
  const [added, setAdded] = useState('');
  const [suffix] = useState(() => v7().slice(-4));
  const set = (change: Partial<Draft>) => setDraft((d) => ({ ...d, ...change }));
  const setFastener = (i: number, change: Partial<Schemas['FastenerSet']>) =>
    set({ fasteners: draft.fasteners.map((f, k) => (k === i ? { ...f, ...change } : f)) });
  const save = useWrite(engineCase.id, writes.ownStep, (_, entry) => onEnd(entry.step.id));
  const send = () => {
    const stepId =
      draft.id ||
      `own-${draft.name
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .slice(0, 40)}-${suffix}`;
    save.mutate({ step: { ...draft, id: stepId }, reason });
  };
  const before = Object.entries(draft.after);
  return (
    <form
      className="card mx-auto max-w-3xl space-y-4 p-5"
      onSubmit={(e) => {
        e.preventDefault();
        if (!save.isPending) send();
      }}
    >
      <h2 className="text-2xl">{step ? `Change “${step.name}”` : 'A step of your own'}</h2>
      <p className="text-soft">Only in this case. What is done stays done.</p>
      <Field label="Name">
        <input
          className="entry"
          value={draft.name}
          onChange={(e) => set({ name: e.target.value })}
          required
        />
      </Field>
      <Field label="What to do">
        <textarea
          className="entry"
          rows={2}
          value={draft.does}
          onChange={(e) => set({ does: e.target.value })}
        />
      </Field>
      <div className="flex flex-wrap gap-x-6 gap-y-3">
        <Choice
          label="Engine"
          value={draft.attitude}
          options={entriesOf(attitudeWords)}
          onChange={(attitude) => set({ attitude })}
        />
        <NumberField
          label="Minutes"
          className="w-28"
          required
          min={0}
          max={10_000}
          value={draft.minutes}
          onChange={(minutes) => set({ minutes: minutes ?? 0 })}
        />
        <label className="flex min-h-11 items-center gap-3 self-end">
          <input
            type="checkbox"
            className="size-6"
            checked={draft.parts}
            onChange={(e) => set({ parts: e.target.checked })}
          />
          Two pieces part: locked until the count agrees
        </label>
        <label className="flex min-h-11 items-center gap-3 self-end">
          <input
            type="checkbox"
            className="size-6"
            checked={draft.holdPoint}
            onChange={(e) => set({ holdPoint: e.target.checked })}
          />
          Hold point
        </label>
      </div>
      <fieldset>
        <legend className="label">What must come first, and why</legend>
        <ul className="space-y-1.5">
          {before.map(([other, why]) => (
            <li key={other} className="flex flex-wrap items-center gap-2">
              <span className="basis-52 font-semibold">{names.get(other) ?? other}</span>
              <input
                className="entry min-w-40 flex-1"
                aria-label={`Why after ${names.get(other) ?? other}`}
                value={why}
                onChange={(e) => set({ after: { ...draft.after, [other]: e.target.value } })}
              />
              <button
                type="button"
                className="key"
                aria-label={`Not after ${names.get(other) ?? other}`}
                onClick={() => set({ after: Object.fromEntries(before.filter(([k]) => k !== other)) })}
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
        <select
          className="entry mt-2"
          aria-label="Add a step that must come first"
          value={added}
          onChange={(e) => {
            if (e.target.value) set({ after: { ...draft.after, [e.target.value]: '' } });
            setAdded('');
          }}
        >
          <option value="">Add a step that must come first …</option>
          {strip.steps
            .filter((s) => s.id !== draft.id && !(s.id in draft.after))
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
          {draft.fasteners.map((f, i) => (
            <li key={f.id} className="flex flex-wrap gap-2">
              <NumberField
                label={`How many${perWords[f.per]}`}
                className="w-36"
                required
                whole
                min={1}
                max={500}
                value={f.count}
                onChange={(count) => setFastener(i, { count: count ?? 0 })}
              />
              {f.per !== 'inAll' && <span className="self-center text-sm text-soft">{perWords[f.per]}</span>}
              <input
                className="entry min-w-36 flex-1"
                aria-label="What they are"
                placeholder="cover bolts"
                value={f.name}
                onChange={(e) => setFastener(i, { name: e.target.value })}
              />
              <input
                className="entry fig w-28"
                aria-label="Thread"
                placeholder="M8×1.25"
                value={f.thread}
                onChange={(e) => setFastener(i, { thread: e.target.value })}
              />
              <input
                className="entry min-w-36 flex-1"
                aria-label="Hidden where"
                placeholder="hidden where, if so"
                value={f.hidden}
                onChange={(e) => setFastener(i, { hidden: e.target.value })}
              />
              <button
                type="button"
                className="key"
                aria-label={`Without ${f.name}`}
                onClick={() => set({ fasteners: draft.fasteners.filter((_, k) => k !== i) })}
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
        <button
          type="button"
          className="key mt-2"
          onClick={() =>
            set({
              fasteners: [
                ...draft.fasteners,
                {
                  id: `own-${draft.fasteners.length + 1}`,
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
                },
              ],
            })
          }
        >
          Add a set
        </button>
      </fieldset>
      <Field label="What may still hold it, one a line">
        <textarea
          className="entry"
          rows={2}
          value={draft.mayHold.join('\n')}
          onChange={(e) => set({ mayHold: lines(e.target.value) })}
        />
      </Field>
      <Field label="Why it differs; it stays with the case">
        <input className="entry" value={reason} onChange={(e) => setReason(e.target.value)} required />
      </Field>
      <Trouble problem={save.error} />
      <div className="flex gap-2">
        <button className="key key-go" disabled={save.isPending}>
          Put it in the strip
        </button>
        <button type="button" className="key" onClick={() => onEnd(null)}>
          Leave it as it was
        </button>
      </div>
    </form>
  );
}
