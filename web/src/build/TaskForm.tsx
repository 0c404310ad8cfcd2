import { t as tr } from '@lingui/core/macro';
import { useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import {
  asTyped,
  dayGiven,
  EntryForm,
  FigureField,
  ListField,
  LostRace,
  numberTyped,
  oneOf,
  sending,
  TextField,
  TickField,
  useEntryForm,
} from '../ui/form';
import { useArrival } from '../ui/useArrival';
import { WhyForm } from '../ui/WhyForm';
import { Marks } from './Marks';
import { BackStep } from './BackStep';
import { bodyOf } from './record';
import { dayWords, lengthWords, spellWords, type Plan, type Task } from './bars';

export const addedWords = {
  own: tr`Work of your own`,
  away: tr`A shop, a welder, somebody else`,
  owner: tr`The owner’s answer`,
  helper: tr`A second pair of hands`,
  tool: tr`A tool, a bottle, a hired crane`,
  signature: tr`A signature`,
  onPurpose: tr`Left undone on purpose until it comes`,
} satisfies Partial<Record<Schemas['TaskKind'], string>>;

const most = 17_520;
const hours = numberTyped({ min: 0, max: most });
const schema = z.object({
  kind: oneOf(addedWords),
  name: z.string(),
  least: hours,
  likely: hours,
  most: hours,
  hands: numberTyped({ min: 0, max: 50, whole: true }),
  tools: z.string(),
  after: z.array(z.string()),
  holds: z.array(z.string()),
  notBefore: dayGiven,
  expected: dayGiven,
  byItself: z.boolean(),
  dry: z.boolean(),
  warmerThan: numberTyped({ min: -90, max: 60 }),
  note: z.string(),
});

type Fields = z.input<typeof schema>;

const fieldsOf = (b: ReturnType<typeof bodyOf>): Fields => ({
  kind: b.kind in addedWords ? (b.kind as Fields['kind']) : 'own',
  name: b.name,
  least: asTyped(b.least),
  likely: asTyped(b.likely),
  most: asTyped(b.most),
  hands: asTyped(b.hands),
  tools: b.tools.join(', '),
  after: b.after,
  holds: b.holds,
  notBefore: b.notBefore ?? '',
  expected: b.expected ?? '',
  byItself: b.byItself,
  dry: b.dry,
  warmerThan: asTyped(b.warmerThan),
  note: b.note,
});

const fromWords: Record<Schemas['SpellFrom'], (t: Task) => string> = {
  thumb: () => tr`a rule of thumb`,
  script: () => tr`by the script’s minutes`,
  clocks: (t) => tr`by ${t.clocked === 1 ? tr`one clock` : tr`${t.clocked} clocks`} of this shop`,
  typed: () => tr`as typed here`,
  promised: () => tr`by the day that was named`,
};

/** A task of one's own is added; or one that is there is changed: how long it takes, what it waits for, when it is begun. */
export function TaskForm({ plan, task, done }: { plan: Plan; task: Task | null; done: () => void }) {
  const { engineCase } = useCaseContext();
  const heading = useArrival<HTMLHeadingElement>(task?.key, true);
  const body = bodyOf(engineCase, task);
  const own = body.of === '';
  const entry = useEntryForm(schema, fieldsOf(body), {
    draft: `task/${engineCase.id}/${task?.key ?? 'new'}`,
    version: body.version,
  });
  const { form } = entry;
  const write = useWrite(engineCase.id, writes.buildTask, (saved) => {
    entry.settle(task ? fieldsOf({ ...body, ...saved }) : fieldsOf(bodyOf(engineCase, null)), saved.version);
    done();
  });
  const send =
    (version: number) =>
    ({ tools, kind, ...values }: z.output<typeof schema>) =>
      write.mutateAsync({
        ...body,
        ...values,
        kind: own ? kind : body.kind,
        tools: tools
          .split(',')
          .map((t) => t.trim())
          .filter(Boolean),
        version,
      });
  const theirs =
    write.error?.status === 409 ? (write.error.theirs as Schemas['BuildTask'] | undefined) : undefined;
  const kind = useWatch({ control: form.control, name: 'kind' });
  const byItself = useWatch({ control: form.control, name: 'byItself' });
  const waits = own ? kind !== 'own' : (task?.byItself ?? false);
  const fields = (
    <EntryForm form={form} send={send(entry.version())} className="space-y-3">
      {own && (
        <>
          {!task && <ListField form={form} name="kind" label={tr`What`} words={addedWords} />}
          <TextField
            form={form}
            name="name"
            label={waits ? tr`What is waited for` : tr`What is to be done`}
            placeholder={
              waits ? tr`gas bottle filled, plug kit, crane` : tr`wash the case, paint, make a puller`
            }
          />
        </>
      )}
      {waits && (
        <TextField
          form={form}
          name="expected"
          label={tr`Named for`}
          type="date"
          hint={tr`The day that somebody said. Empty: nobody did, and a rule of thumb counts.`}
        />
      )}
      <div className="grid grid-cols-3 gap-3">
        <FigureField form={form} name="least" label={tr`At least, h`} />
        <FigureField form={form} name="likely" label={tr`Likely, h`} />
        <FigureField form={form} name="most" label={tr`At most, h`} />
      </div>
      <p className="text-sm text-soft">
        {waits || byItself ? tr`Hours that pass, by night too.` : tr`Hours of work.`}{' '}
        {tr`Empty: as it is told elsewhere.`}
      </p>
      <Keys form={form} name="after" label={tr`Waits for`} plan={plan} self={task?.key} />
      {own && <Keys form={form} name="holds" label={tr`What waits for it`} plan={plan} self={task?.key} />}
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField form={form} name="notBefore" label={tr`Not before`} type="date" />
        {!waits && <TextField form={form} name="tools" label={tr`Tools of the shop, commas between`} />}
      </div>
      {!waits && (
        <div className="grid gap-x-3 sm:grid-cols-2">
          <FigureField form={form} name="hands" label={tr`Pairs of hands`} />
          <FigureField form={form} name="warmerThan" label={tr`Only warmer than, °C, by its maker’s sheet`} />
          <TickField form={form} name="byItself" label={tr`Goes on by itself: cures, soaks, dries`} />
          <TickField form={form} name="dry" label={tr`Only on a dry day`} />
        </div>
      )}
      <TextField form={form} name="note" label={tr`Note`} />
      {theirs ? (
        <LostRace
          says={tr`${theirs.by} changed it meanwhile.`}
          theirs={told(theirs)}
          yours={tr`what stands in the fields`}
          onKeep={() => void sending(form, send(theirs.version))()}
          onTake={() => {
            entry.settle(fieldsOf({ ...body, ...theirs }), theirs.version);
            write.reset();
          }}
        />
      ) : (
        <Trouble problem={write.error} />
      )}
      <div className="flex flex-wrap gap-2">
        <button className="key key-go" disabled={write.isPending || (task !== null && !entry.touched)}>
          {task ? tr`Write the change` : tr`Add it`}
        </button>
        {task && !task.way && <Marks task={task} />}
        <button type="button" className="key" onClick={done}>
          {entry.touched ? tr`Leave it for now` : tr`Close`}
        </button>
      </div>
    </EntryForm>
  );
  return (
    <div className={`card my-2 space-y-3 border-2 border-dye p-4 ${task?.way ? 'max-w-4xl' : 'max-w-3xl'}`}>
      {task && (
        <h3 ref={heading} tabIndex={-1} className="scroll-mt-4 text-xl outline-none">
          {task.name}
        </h3>
      )}
      {task && <Facts plan={plan} task={task} />}
      {task?.way && <BackStep plan={plan} task={task} way={task.way} />}
      {task?.way ? (
        <>
          <div className="flex flex-wrap gap-2">
            <Marks task={task} />
            <button type="button" className="key" onClick={done}>
              {tr`Close`}
            </button>
          </div>
          <details open={entry.touched || undefined}>
            <summary className="min-h-11 cursor-pointer py-2 text-sm font-semibold">
              {tr`How long it takes, what else it waits for`}
            </summary>
            {fields}
          </details>
        </>
      ) : (
        fields
      )}
      {task && <Away body={body} done={done} />}
    </div>
  );
}

const told = (t: Schemas['BuildTask']) =>
  [
    t.likely !== null && tr`${t.least!} to ${t.most!} h, likely ${t.likely}`,
    t.notBefore && tr`not before ${dayWords(t.notBefore)}`,
    t.expected && tr`named for ${dayWords(t.expected)}`,
    t.mark !== 'open' && t.mark,
    t.note,
  ]
    .filter(Boolean)
    .join(', ') || tr`as it arises`;

/** As many waits are named; the bars show the others. */
const shown = 6;

function Facts({ plan, task }: { plan: Plan; task: Task }) {
  const names = new Map(plan.tasks.map((t) => [t.key, t.name]));
  const slack = (Date.parse(task.latest) - Date.parse(task.starts)) / 3_600_000;
  return (
    <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-4 gap-y-1 text-sm">
      <dt className="text-soft">{tr`Takes`}</dt>
      <dd>
        {spellWords(task)}, {fromWords[task.from](task)}
      </dd>
      <dt className="text-soft">{tr`Room to move`}</dt>
      <dd>
        {slack < 0.5
          ? tr`none: begun later, it all ends later`
          : tr`may begin ${lengthWords(slack, true)} later and the end stays`}
        {task.hangs > 0.01 && tr`; the end hangs on it in ${Math.round(task.hangs * 100)} of 100 draws`}
      </dd>
      {task.after.length > 0 && (
        <>
          <dt className="text-soft">{tr`Waits for`}</dt>
          <dd>
            {task.after
              .slice(0, shown)
              .map((k) => names.get(k) ?? k)
              .join(' · ')}
            {task.after.length > shown && tr` and ${task.after.length - shown} more`}
          </dd>
        </>
      )}
      {task.places.length > 0 && !task.way && (
        <>
          <dt className="text-soft">{tr`Parts`}</dt>
          <dd className="fig">{task.places.join(' ')}</dd>
        </>
      )}
    </dl>
  );
}

/** Tasks that it waits for, or that wait for it: each with a key that takes it out, and a list to add from. */
function Keys({
  form,
  name,
  label,
  plan,
  self,
}: {
  form: ReturnType<typeof useEntryForm<Fields, z.output<typeof schema>>>['form'];
  name: 'after' | 'holds';
  label: string;
  plan: Plan;
  self: string | undefined;
}) {
  const chosen = useWatch({ control: form.control, name });
  const set = (keys: string[]) => form.setValue(name, keys, { shouldDirty: true });
  const names = new Map(plan.tasks.map((t) => [t.key, t.name]));
  return (
    <div>
      <label className="block">
        <span className="label">
          {label}
          {name === 'after' && self ? tr`, besides what it waits for anyway` : ''}
        </span>
        <select
          className="entry"
          value=""
          onChange={(e) => e.target.value && set([...chosen, e.target.value])}
        >
          <option value="">{chosen.length > 0 ? tr`add another …` : tr`nothing`}</option>
          {plan.tasks
            .filter((t) => t.key !== self && !chosen.includes(t.key))
            .map((t) => (
              <option key={t.key} value={t.key}>
                {t.name}
              </option>
            ))}
        </select>
      </label>
      {chosen.length > 0 && (
        <ul className="mt-1 flex flex-wrap gap-1.5">
          {chosen.map((k) => (
            <li key={k}>
              <button
                type="button"
                className="key text-sm"
                onClick={() => set(chosen.filter((c) => c !== k))}
                aria-label={tr`No longer: ${names.get(k) ?? tr`what is through`}`}
              >
                {names.get(k) ?? tr`what is through`} ✕
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** Left out of the plan, or taken out of the record. */
function Away({ body, done }: { body: ReturnType<typeof bodyOf>; done: () => void }) {
  const { engineCase } = useCaseContext();
  const out = useWrite(engineCase.id, writes.buildTask, done);
  const back = useWrite(engineCase.id, writes.buildTaskBack, done);
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-2 text-sm font-semibold">{tr`Leave it out`}</summary>
      <p className="text-sm">
        {tr`Not done at all: nothing waits for it any more. The reason stays in the record.`}
      </p>
      <WhyForm
        press={tr`Leave it out`}
        send={(why) => out.mutateAsync({ ...body, mark: 'leftOut', note: why })}
      />
      {body.standing !== null && (
        <>
          <p className="mt-2 text-sm">
            {body.of === ''
              ? tr`Or it was a slip and never was a task.`
              : tr`Or as it arises by itself again.`}
          </p>
          <WhyForm
            press={tr`Take back`}
            send={(why) => back.mutateAsync({ id: body.standing!, version: body.version, why })}
          />
        </>
      )}
      <Trouble problem={out.error ?? back.error} />
    </details>
  );
}
