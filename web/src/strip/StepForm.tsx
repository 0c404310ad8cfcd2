import { t as tr } from '@lingui/core/macro';
import { useFieldArray, useWatch, type UseFormReturn } from 'react-hook-form';
import * as z from 'zod/mini';
import { type Schemas } from '../api/client';
import {
  asTyped,
  FigureField,
  KeysField,
  ListField,
  needed,
  numberNeeded,
  oneOf,
  TextField,
  TickField,
} from '../ui/form';
import { anyEngine, entriesOf } from '../ui/words';
import { attitudeWords } from './useStrip';

type StripStep = Schemas['StripStep'];
type FastenerSet = Schemas['FastenerSet'];

const perWords: Record<Schemas['FastenerCount'], string> = {
  inAll: tr`in all`,
  perCylinder: tr`for each cylinder`,
  perMain: tr`for each main bearing`,
  perBank: tr`for each bank`,
  perCamshaft: tr`for each camshaft`,
};

const handWords = {
  right: tr`right-hand`,
  check: tr`check: left-hand on some`,
  left: tr`left-hand`,
} as const;

const endWords = { '': tr`does not matter`, freeEnd: tr`free end`, driveEnd: tr`drive end` } as const;

const closesWords = {
  auto: tr`as what it does says`,
  yes: tr`keeps closed what follows`,
  no: tr`closes nothing`,
} as const;

export const stepSchema = z.object({
  name: needed(tr`Name the step.`),
  does: z.string(),
  section: z.string(),
  attitude: oneOf(attitudeWords),
  end: oneOf(endWords),
  crank: z.string(),
  pistonsDown: z.boolean(),
  minutes: numberNeeded({ min: 0, max: 10_000 }),
  minutesEach: numberNeeded({ min: 0, max: 10_000 }),
  per: oneOf(perWords),
  oneAtATime: z.boolean(),
  helper: z.boolean(),
  parts: z.boolean(),
  holdPoint: z.boolean(),
  closes: oneOf(closesWords),
  pattern: z.string(),
  after: z.array(z.object({ step: z.string(), why: z.string(), usual: z.boolean() })),
  ticks: z.array(z.object({ text: z.string(), must: z.boolean() })),
  fasteners: z.array(
    z.object({
      // What the form does not show of a set stays as it is.
      set: z.custom<FastenerSet>(),
      name: z.string(),
      count: numberNeeded({ whole: true, min: 1, max: 500 }),
      counted: z.boolean(),
      per: oneOf(perWords),
      thread: z.string(),
      hand: oneOf(handWords),
      lengths: z.string(),
      washers: z.string(),
      locking: z.string(),
      oneTime: z.boolean(),
      hidden: z.string(),
    }),
  ),
  tools: z.string(),
  photos: z.string(),
  manual: z.string(),
  cautions: z.string(),
  mayHold: z.string(),
  exposes: z.array(z.string()),
  releases: z.array(z.string()),
  readFirst: z.array(z.string()),
  needs: z.array(z.string()),
  reason: needed(tr`Say why it differs; it stays with it.`),
});

type In = z.input<typeof stepSchema>;
type Out = z.output<typeof stepSchema>;
type StepEntry = UseFormReturn<In, unknown, Out>;

export const bareStep: StripStep = {
  id: '',
  name: '',
  provenance: '',
  does: '',
  section: '',
  ticks: [],
  must: [],
  staysClosed: null,
  needs: [],
  drains: [],
  manual: [],
  after: {},
  usually: {},
  precedes: {},
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

const bareSet: FastenerSet = {
  id: '',
  name: '',
  count: 1,
  counted: true,
  per: 'inAll',
  thread: '',
  head: '',
  lengths: [],
  washers: '',
  locking: '',
  leftHand: false,
  leftHandOnSome: false,
  oneTime: false,
  part: '',
  hidden: '',
  holes: [],
  needsMap: false,
};

const setFields = (set: FastenerSet) => ({
  set,
  name: set.name,
  count: asTyped(set.count),
  counted: set.counted,
  per: set.per,
  thread: set.thread,
  hand: set.leftHand ? ('left' as const) : set.leftHandOnSome ? ('check' as const) : ('right' as const),
  lengths: set.lengths.join(', '),
  washers: set.washers,
  locking: set.locking,
  oneTime: set.oneTime,
  hidden: set.hidden,
});

/** A step as the fields of its form show it. */
export const stepFields = (s: StripStep): In => ({
  name: s.name,
  does: s.does,
  section: s.section,
  attitude: s.attitude,
  end: s.end ?? '',
  crank: s.crank,
  pistonsDown: s.pistonsDown,
  minutes: asTyped(s.minutes),
  minutesEach: asTyped(s.minutesEach),
  per: s.per,
  oneAtATime: s.oneAtATime,
  helper: s.helper,
  parts: s.parts,
  holdPoint: s.holdPoint,
  closes: s.staysClosed === null ? 'auto' : s.staysClosed ? 'yes' : 'no',
  pattern: s.pattern,
  after: [
    ...Object.entries(s.after).map(([step, why]) => ({ step, why, usual: false })),
    ...Object.entries(s.usually).map(([step, why]) => ({ step, why, usual: true })),
  ],
  ticks: s.ticks.map((text) => ({ text, must: s.must.includes(text) })),
  fasteners: s.fasteners.map(setFields),
  tools: s.tools.join('\n'),
  photos: s.photos.join('\n'),
  manual: s.manual.join('\n'),
  cautions: s.cautions.join('\n'),
  mayHold: s.mayHold.join('\n'),
  exposes: s.exposes,
  releases: s.releases,
  readFirst: s.readFirst,
  needs: s.needs,
  reason: '',
});

const lines = (text: string) =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean);

/** Lengths as they are typed, in mm: “30, 45” or “30 45”. */
export const lengthsTyped = (text: string) =>
  text
    .split(/[\s;]+|,(?=\s|$)/)
    .map((l) => Number(l.replace(',', '.')))
    .filter((l) => Number.isFinite(l) && l > 0);

/** What the form holds, as a step. */
export function stepOf(source: StripStep, id: string, typed: Out): StripStep {
  const { after, ticks, fasteners, closes, end, reason: _, ...fields } = typed;
  const said = ticks.filter((t) => t.text.trim());
  return {
    ...source,
    ...fields,
    id,
    end: end === '' ? null : end,
    staysClosed: closes === 'auto' ? null : closes === 'yes',
    after: Object.fromEntries(after.filter((a) => !a.usual).map((a) => [a.step, a.why])),
    usually: Object.fromEntries(after.filter((a) => a.usual).map((a) => [a.step, a.why])),
    ticks: said.map((t) => t.text.trim()),
    must: said.filter((t) => t.must).map((t) => t.text.trim()),
    fasteners: fasteners.map(({ set, hand, lengths, ...of }) => ({
      ...set,
      ...of,
      leftHand: hand === 'left',
      leftHandOnSome: hand === 'check',
      lengths: lengthsTyped(lengths),
    })),
    tools: lines(fields.tools),
    photos: lines(fields.photos),
    manual: lines(fields.manual),
    cautions: lines(fields.cautions),
    mayHold: lines(fields.mayHold),
  };
}

/** An id for a new step, from its name. */
export const stepId = (name: string, suffix: string) =>
  `own-${name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .slice(0, 40)}-${suffix}`;

/** The first number that no set of the step has in its id: one that was taken out must not be met again. */
const freeId = (sets: readonly { set: FastenerSet }[]) => {
  let n = 1;
  while (sets.some((s) => s.set.id === `own-${n}`)) n++;
  return `own-${n}`;
};

/** Everything that a step says, in the order in which one thinks of it; what is seldom changed is folded. */
export function StepFields({
  form,
  self,
  steps,
  kinds,
}: {
  form: StepEntry;
  /** Id of the step itself, which waits for no other of that id. */
  self: string;
  steps: readonly { id: string; name: string }[];
  kinds: readonly { id: string; name: string }[];
}) {
  const ticks = useFieldArray({ control: form.control, name: 'ticks' });
  const per = useWatch({ control: form.control, name: 'per' });
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField form={form} name="name" label={tr`Name`} />
        <TextField form={form} name="section" label={tr`Section of the strip`} placeholder={tr`Top end`} />
      </div>
      <TextField form={form} name="does" label={tr`What to do`} rows={3} />
      <div className="flex flex-wrap gap-x-6 gap-y-3">
        <KeysField form={form} name="attitude" label={tr`Engine`} options={entriesOf(attitudeWords)} />
        <FigureField form={form} name="minutes" label={tr`Minutes`} className="w-28" />
        <TickField
          form={form}
          name="parts"
          label={tr`Parts come apart: locked until the count agrees`}
          className="self-end"
        />
        <TickField form={form} name="holdPoint" label={tr`Sign-off`} className="self-end" />
      </div>
      <After form={form} self={self} steps={steps} />
      <fieldset>
        <legend className="label">{tr`To tick off`}</legend>
        <ul className="space-y-1.5">
          {ticks.fields.map((t, i) => (
            <li key={t.id} className="flex flex-wrap items-center gap-2">
              <TextField
                form={form}
                name={`ticks.${i}.text`}
                label={tr`Tick ${i + 1}`}
                unseen
                className="least-52 flex-1"
              />
              <TickField form={form} name={`ticks.${i}.must`} label={tr`not done without`} />
              <button
                type="button"
                className="key"
                aria-label={tr`Without tick ${i + 1}`}
                onClick={() => ticks.remove(i)}
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
        <button type="button" className="key mt-2" onClick={() => ticks.append({ text: '', must: false })}>
          {tr`Add a tick`}
        </button>
      </fieldset>
      <Sets form={form} />
      <TextField form={form} name="mayHold" label={tr`What may still hold it, one a line`} rows={2} />
      <TextField form={form} name="photos" label={tr`Pictures to take first, one a line`} rows={2} />
      <details>
        <summary className="key inline-flex cursor-pointer items-center">
          {tr`Tools, cautions, the manual, how it is reached`}
        </summary>
        <div className="mt-3 space-y-4">
          <TextField
            form={form}
            name="tools"
            label={tr`Tools, one a line; the first is taken up for it`}
            rows={2}
          />
          <TextField form={form} name="cautions" label={tr`Cautions, one a line`} rows={2} />
          <TextField
            form={form}
            name="manual"
            label={tr`From the maker’s manual, one a line`}
            hint={tr`What must be looked up there: an order, a figure, whether a bolt serves again.`}
            rows={2}
          />
          <TextField form={form} name="pattern" label={tr`Order of loosening`} />
          <div className="grid gap-3 sm:grid-cols-2">
            <ListField form={form} name="end" label={tr`One stands at the`} words={endWords} />
            <TextField form={form} name="crank" label={tr`Crankshaft stands at`} />
          </div>
          <TickField
            form={form}
            name="pistonsDown"
            label={tr`No piston near the top: the angle is worked out`}
          />
          <TickField form={form} name="helper" label={tr`Two people`} />
          <div className="grid items-end gap-3 sm:grid-cols-3">
            <ListField form={form} name="per" label={tr`It is done`} words={perWords} />
            <FigureField form={form} name="minutesEach" label={tr`Minutes more for each`} />
            {per !== 'inAll' && <TickField form={form} name="oneAtATime" label={tr`One alone can be done`} />}
          </div>
          <ListField form={form} name="closes" label={tr`Left out, it`} words={closesWords} />
        </div>
      </details>
      <details>
        <summary className="key inline-flex cursor-pointer items-center">{tr`Which parts it is about`}</summary>
        <div className="mt-3 space-y-4">
          <Kinds form={form} name="exposes" label={tr`Lays open to the eye`} kinds={kinds} />
          <Kinds form={form} name="releases" label={tr`Takes off`} kinds={kinds} />
          <Kinds
            form={form}
            name="readFirst"
            label={tr`Spoils the evidence of: looked at first`}
            kinds={kinds}
          />
          <Kinds form={form} name="needs" label={tr`Needs still in place, as a test does`} kinds={kinds} />
        </div>
      </details>
    </>
  );
}

function After({
  form,
  self,
  steps,
}: {
  form: StepEntry;
  self: string;
  steps: readonly { id: string; name: string }[];
}) {
  const before = useFieldArray({ control: form.control, name: 'after' });
  const nameOf = (id: string) => steps.find((s) => s.id === id)?.name ?? id;
  return (
    <fieldset>
      <legend className="label">{tr`What must come first, and why`}</legend>
      <ul className="space-y-1.5">
        {before.fields.map((a, i) => (
          <li key={a.id} className="flex flex-wrap items-center gap-2">
            <span className="basis-52 font-semibold">{nameOf(a.step)}</span>
            <TextField
              form={form}
              name={`after.${i}.why`}
              label={tr`Why after ${nameOf(a.step)}`}
              unseen
              className="least-40 flex-1"
            />
            <TickField form={form} name={`after.${i}.usual`} label={tr`only usual`} />
            <button
              type="button"
              className="key"
              aria-label={tr`Not after ${nameOf(a.step)}`}
              onClick={() => before.remove(i)}
            >
              ✕
            </button>
          </li>
        ))}
      </ul>
      <select
        className="entry mt-2"
        aria-label={tr`Add a step that must come first`}
        value=""
        onChange={(e) => e.target.value && before.append({ step: e.target.value, why: '', usual: false })}
      >
        <option value="">{tr`Add a step that must come first …`}</option>
        {steps
          .filter((s) => s.id !== self && !before.fields.some((a) => a.step === s.id))
          .map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
      </select>
    </fieldset>
  );
}

function Sets({ form }: { form: StepEntry }) {
  const fasteners = useFieldArray({ control: form.control, name: 'fasteners' });
  return (
    <fieldset>
      <legend className="label">{tr`Fasteners`}</legend>
      <ul className="space-y-3">
        {fasteners.fields.map((f, i) => (
          <li key={f.id} className="space-y-2 rounded-lg border-2 border-line p-3">
            <div className="flex flex-wrap items-end gap-2">
              <FigureField form={form} name={`fasteners.${i}.count`} label={tr`How many`} className="w-24" />
              <ListField form={form} name={`fasteners.${i}.per`} label={tr`Counted`} words={perWords} />
              <TextField
                form={form}
                name={`fasteners.${i}.name`}
                label={tr`What they are`}
                placeholder={tr`cover bolts`}
                className="least-36"
              />
              <TickField
                form={form}
                name={`fasteners.${i}.counted`}
                label={tr`counted on this kind of engine`}
              />
              <button
                type="button"
                className="key ml-auto"
                aria-label={tr`Without ${f.name || tr`this set`}`}
                onClick={() => fasteners.remove(i)}
              >
                ✕
              </button>
            </div>
            <div className="grid gap-2 sm:grid-cols-3">
              <TextField
                form={form}
                name={`fasteners.${i}.thread`}
                label={tr`Thread`}
                placeholder="M8×1.25"
              />
              <ListField form={form} name={`fasteners.${i}.hand`} label={tr`It is`} words={handWords} />
              <TextField
                form={form}
                name={`fasteners.${i}.lengths`}
                label={tr`Lengths, mm`}
                placeholder="30, 45"
              />
              <TextField form={form} name={`fasteners.${i}.washers`} label={tr`Washers`} />
              <TextField form={form} name={`fasteners.${i}.locking`} label={tr`Locked by`} />
              <TextField form={form} name={`fasteners.${i}.hidden`} label={tr`Hidden where, if so`} />
            </div>
            <TickField form={form} name={`fasteners.${i}.oneTime`} label={tr`Used once: ordered new`} />
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="key mt-2"
        onClick={() => fasteners.append(setFields({ ...bareSet, id: freeId(fasteners.fields) }))}
      >
        {tr`Add a set`}
      </button>
    </fieldset>
  );
}

function Kinds({
  form,
  name,
  label,
  kinds,
}: {
  form: StepEntry;
  name: 'exposes' | 'releases' | 'readFirst' | 'needs';
  label: string;
  kinds: readonly { id: string; name: string }[];
}) {
  const chosen = useWatch({ control: form.control, name });
  const nameOf = (id: string) => kinds.find((k) => k.id === id)?.name ?? id;
  const put = (ids: string[]) => form.setValue(name, ids, { shouldDirty: true });
  return (
    <fieldset>
      <legend className="label">{label}</legend>
      <div className="flex flex-wrap items-center gap-1.5">
        {chosen.map((id) => (
          <button
            key={id}
            type="button"
            className="key text-sm"
            aria-label={tr`Without ${nameOf(id)}`}
            onClick={() => put(chosen.filter((k) => k !== id))}
          >
            {nameOf(id)} ✕
          </button>
        ))}
        <select
          className="entry w-auto"
          aria-label={tr`Add a part: ${label}`}
          value=""
          onChange={(e) => e.target.value && put([...chosen, e.target.value])}
        >
          <option value="">{tr`Add a part …`}</option>
          {kinds
            .filter((k) => !chosen.includes(k.id))
            .map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
        </select>
      </div>
    </fieldset>
  );
}
