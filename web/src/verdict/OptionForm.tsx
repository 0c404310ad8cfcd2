import { t as tr } from '@lingui/core/macro';
import { useFieldArray, useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import { v7 } from 'uuid';
import type { Schemas } from '../api/client';
import { useSettings } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { percent, Trouble } from '../ui/basics';
import {
  asTyped,
  EntryForm,
  FigureField,
  KeysField,
  ListField,
  needed,
  numberNeeded,
  numberTyped,
  TextField,
  TickField,
  useEntryForm,
} from '../ui/form';
import { ratesAsTyped, ratesTyped } from '../ui/rates';

/** An option as it is entered; one that stands has an id. */
export type Begun = Omit<Schemas['OptionEntry'], 'id'> & { id: string | null };

const kindWords: Record<Schemas['LineKind'], string> = {
  part: tr`Part`,
  shopWork: tr`Shop work`,
  ownHours: tr`Own hours`,
  extra: tr`While in there`,
  credit: tr`Money back`,
  paid: tr`Paid already`,
};

const code = z.string().check(z.regex(/^[A-Za-z]{3}$/, tr`Three letters.`));

const schema = z.object({
  title: needed(tr`Call it what you would call it to the owner.`),
  scope: z.string(),
  base: code,
  rates: ratesTyped,
  lines: z.array(
    z.object({
      id: z.string(),
      kind: z.enum(['part', 'shopWork', 'ownHours', 'extra', 'credit', 'paid']),
      what: needed(tr`What is it for?`),
      quantity: numberNeeded({ min: 0, max: 100_000 }),
      price: numberNeeded({ min: 0, max: 1_000_000_000_000 }),
      currency: code,
      days: numberNeeded({ min: 0, max: 3650 }),
      group: z.string(),
      course: z.string(),
    }),
  ),
  failing: z.array(
    z.object({
      what: needed(tr`What would it cost for?`),
      amount: numberNeeded({ min: 0, max: 1_000_000_000_000 }),
      currency: code,
      far: z.boolean(),
      covered: z.boolean(),
    }),
  ),
  risks: z.array(z.string()),
  removes: z.array(z.string()),
  farOut: numberNeeded({ min: 0, max: 100 }),
  warranty: z.enum(['nobody', 'supplier', 'ownShop']),
  warrantyMonths: numberNeeded({ min: 0, max: 600, whole: true }),
  ownChance: numberTyped({ min: 0, max: 100 }),
  remarks: z.string(),
});

const fieldsOf = (o: Begun): z.input<typeof schema> => ({
  ...o,
  rates: ratesAsTyped(o.rates),
  lines: o.lines.map((l) => ({
    ...l,
    quantity: asTyped(l.quantity),
    price: asTyped(l.price),
    days: asTyped(l.days),
  })),
  failing: o.failing.map((f) => ({ ...f, amount: asTyped(f.amount) })),
  farOut: asTyped(Math.round(o.farOut * 1000) / 10),
  warrantyMonths: asTyped(o.warrantyMonths),
  ownChance: o.ownChance === null ? '' : asTyped(Math.round(o.ownChance * 1000) / 10),
});

/** An option: what it takes, what it removes, what may go wrong, and what that would cost. */
export function OptionForm({ begun, done }: { begun: Begun; done: () => void }) {
  const { engineCase, knowledge } = useCaseContext();
  const trace = useRoom(engineCase.id, 'trace');
  const settings = useSettings();
  const { form, settle, version } = useEntryForm(schema, fieldsOf(begun), {
    draft: `option/${engineCase.id}/${begun.id ?? 'new'}`,
    version: begun.version,
  });
  const lines = useFieldArray({ control: form.control, name: 'lines', keyName: 'key' });
  const failing = useFieldArray({ control: form.control, name: 'failing', keyName: 'key' });
  const base = useWatch({ control: form.control, name: 'base' });
  const write = useWrite(engineCase.id, writes.option, () => {
    settle(fieldsOf(begun));
    done();
  });
  const causes = [
    ...new Map(
      [
        ...trace.ranking
          .filter((r) => r.probability >= 0.02)
          .map((r) => [r.cause, `${r.name}, ${percent(r.probability)}`] as const),
        ...begun.removes.map((c) => [c, knowledge.causes.find((k) => k.id === c)?.name ?? c] as const),
      ].reverse(),
    ),
  ].reverse();
  const line = (kind: Schemas['LineKind']) =>
    lines.append({
      id: v7(),
      kind,
      what: '',
      quantity: '1',
      price: kind === 'ownHours' ? asTyped(settings.data?.hourRate ?? 0) : '',
      currency: base,
      days: '0',
      group: '',
      course: '',
    });
  return (
    <EntryForm
      form={form}
      className="card space-y-4 border-2 border-dye p-3 md:p-4"
      send={({ farOut, ownChance, ...values }) =>
        write.mutateAsync({
          ...values,
          id: begun.id,
          version: version(),
          farOut: farOut / 100,
          ownChance: ownChance === null ? null : ownChance / 100,
        })
      }
    >
      <div className="grid gap-3 md:grid-cols-[minmax(0,2fr)_minmax(0,1fr)_6rem_minmax(0,1fr)]">
        <TextField form={form} name="title" label={tr`What the option is called`} />
        <ListField
          form={form}
          name="scope"
          label={tr`For`}
          first={tr`The whole engine`}
          words={knowledge.groups.map((g) => [g.id, g.name] as const)}
        />
        <TextField form={form} name="base" label={tr`Told in`} className="fig" />
        <TextField
          form={form}
          name="rates"
          label={tr`One unit of another is`}
          placeholder={tr`CHF 1.06`}
          className="fig"
        />
      </div>
      <fieldset className="space-y-2">
        <legend className="font-bold">{tr`What it takes`}</legend>
        {lines.fields.map((f, i) => (
          <div
            key={f.key}
            className="grid grid-cols-2 items-start gap-2 border-t border-line pt-2 md:grid-cols-[9rem_minmax(0,1fr)_5rem_7rem_5rem_5rem_3rem]"
          >
            <ListField form={form} name={`lines.${i}.kind`} label={tr`Kind`} words={kindWords} />
            <TextField form={form} name={`lines.${i}.what`} label={tr`What for`} />
            <FigureField form={form} name={`lines.${i}.quantity`} label={tr`How many`} />
            <FigureField form={form} name={`lines.${i}.price`} label={tr`Price of one`} />
            <TextField form={form} name={`lines.${i}.currency`} label={tr`In`} className="fig" />
            <FigureField form={form} name={`lines.${i}.days`} label={tr`Days`} />
            <button
              type="button"
              className="key self-end px-0"
              aria-label={tr`Line ${i + 1} away`}
              onClick={() => lines.remove(i)}
            >
              ✕
            </button>
          </div>
        ))}
        <div className="flex flex-wrap gap-1.5">
          {(['part', 'shopWork', 'ownHours', 'extra', 'credit', 'paid'] as const).map((k) => (
            <button key={k} type="button" className="key" onClick={() => line(k)}>
              + {kindWords[k]}
            </button>
          ))}
        </div>
      </fieldset>
      <div className="grid gap-4 md:grid-cols-2">
        <Ticks
          form={form}
          name="removes"
          legend={tr`Causes that it removes`}
          options={causes}
          none={tr`Trace ranks no cause yet.`}
        />
        <Ticks
          form={form}
          name="risks"
          legend={tr`What may go wrong with it`}
          options={knowledge.reuseRisks
            .filter((r) => r.id !== 'cause-stays')
            .map((r) => [r.id, `${r.name}, ${often[r.often]}`] as const)}
          none=""
        />
      </div>
      <fieldset className="space-y-2">
        <legend className="font-bold">{tr`What a failure would cost`}</legend>
        {failing.fields.map((f, i) => (
          <div
            key={f.key}
            className="grid grid-cols-2 items-end gap-2 md:grid-cols-[minmax(0,1fr)_8rem_5rem_auto_auto_3rem]"
          >
            <TextField form={form} name={`failing.${i}.what`} label={tr`What for`} />
            <FigureField form={form} name={`failing.${i}.amount`} label={tr`Amount`} />
            <TextField form={form} name={`failing.${i}.currency`} label={tr`In`} className="fig" />
            <TickField form={form} name={`failing.${i}.far`} label={tr`only far out`} />
            <TickField form={form} name={`failing.${i}.covered`} label={tr`a warranty bears it`} />
            <button
              type="button"
              className="key px-0"
              aria-label={tr`Cost ${i + 1} away`}
              onClick={() => failing.remove(i)}
            >
              ✕
            </button>
          </div>
        ))}
        <div className="flex flex-wrap gap-1.5">
          {(
            [
              [tr`Second strip`, false],
              [tr`Lost use`, false],
              [tr`Customer’s claim`, false],
              [tr`Tow`, true],
              [tr`Rescue`, true],
            ] as const
          ).map(([what, far]) => (
            <button
              key={what}
              type="button"
              className="key"
              onClick={() => failing.append({ what, amount: '', currency: base, far, covered: false })}
            >
              + {what}
            </button>
          ))}
        </div>
      </fieldset>
      <div className="grid items-start gap-3 md:grid-cols-4">
        <FigureField form={form} name="farOut" label={tr`Of its time far out, %`} />
        <KeysField
          form={form}
          name="warranty"
          label={tr`Who bears it`}
          options={[
            ['nobody', tr`the owner`],
            ['supplier', tr`supplier`],
            ['ownShop', tr`we`],
          ]}
        />
        <FigureField form={form} name="warrantyMonths" label={tr`Warranty, months`} />
        <FigureField
          form={form}
          name="ownChance"
          label={tr`Your own chance of failing, %`}
          hint={tr`Empty takes the computation’s.`}
        />
      </div>
      <TextField form={form} name="remarks" label={tr`Remarks`} rows={2} />
      <Trouble problem={write.error} />
      <div className="flex gap-2">
        <button className="key key-go" disabled={write.isPending}>
          {begun.id ? tr`Change the option` : tr`Enter the option`}
        </button>
        <button
          type="button"
          className="key"
          onClick={() => {
            settle(fieldsOf(begun));
            done();
          }}
        >
          {tr`Leave it`}
        </button>
      </div>
    </EntryForm>
  );
}

const often: Record<Schemas['Frequency'], string> = {
  never: 'never',
  asGoodAsNever: tr`as good as never`,
  hardlyEver: tr`hardly ever`,
  almostNever: tr`almost never`,
  rarely: 'rarely',
  sometimes: 'sometimes',
  often: 'often',
  usually: 'usually',
  always: 'always',
};

function Ticks({
  form,
  name,
  legend,
  options,
  none,
}: {
  form: ReturnType<typeof useEntryForm<z.input<typeof schema>, z.output<typeof schema>>>['form'];
  name: 'risks' | 'removes';
  legend: string;
  options: readonly (readonly [string, string])[];
  none: string;
}) {
  const picked = useWatch({ control: form.control, name });
  return (
    <fieldset>
      <legend className="font-bold">{legend}</legend>
      {options.length === 0 && <p className="text-soft">{none}</p>}
      {options.map(([id, words]) => (
        <label key={id} className="flex min-h-9 items-center gap-3">
          <input
            type="checkbox"
            className="size-5 accent-dye"
            checked={picked.includes(id)}
            onChange={(e) =>
              form.setValue(name, e.target.checked ? [...picked, id] : picked.filter((p) => p !== id), {
                shouldDirty: true,
              })
            }
          />
          {words}
        </label>
      ))}
    </fieldset>
  );
}
