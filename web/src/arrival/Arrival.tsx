import { plural, t as tr } from '@lingui/core/macro';
import { lazy, Suspense, useState } from 'react';
import { useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import { type EngineCase } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { NextUp } from '../casebook/NextUp';
import { ReadingEntry } from '../entry/ReadingEntry';
import { useWrite, writes } from '../outbox/writes';
import { Choice, Trouble } from '../ui/basics';
import {
  asTyped,
  EntryForm,
  FigureField,
  KeysField,
  LostRace,
  numberTyped,
  TextField,
  sending,
  useEntryForm,
} from '../ui/form';
import { figure } from '../ui/figures';
import { useIsStudent, useMayWrite } from '../api/queries';
import { Before } from './Before';
import { CorrectLayout } from './CorrectLayout';
import { OfKind, WhileOpen } from './OfKind';
import { Standing } from './Standing';
import { FileKey } from '../ui/FileKey';
import { fileName, stands } from '../ui/words';

const schema = z.object({
  title: z.string(),
  owner: z.string(),
  engineName: z.string(),
  serial: z.string(),
  prefix: z.string(),
  hours: numberTyped({ min: 0 }),
  complaint: z.string(),
  past: z.string(),
  risks: z.record(z.string(), z.boolean()),
  lengths: z.pipe(
    z.enum(['shop', 'mm', 'inch']),
    z.transform((unit) => (unit === 'shop' ? null : unit)),
  ),
});

const fieldsOf = (c: EngineCase): z.input<typeof schema> => ({
  title: c.title,
  owner: c.owner,
  engineName: c.engineName,
  serial: c.serial,
  prefix: c.prefix,
  hours: asTyped(c.hours),
  complaint: c.complaint,
  past: c.past,
  risks: c.risks,
  lengths: c.lengths ?? 'shop',
});

export function Arrival() {
  const { engineCase, knowledge } = useCaseContext();
  const mayWrite = useMayWrite();
  const student = useIsStudent();
  const entry = useEntryForm(schema, fieldsOf(engineCase), {
    draft: `arrival/${engineCase.id}`,
    version: engineCase.version,
  });
  const { form, touched } = entry;
  const save = useWrite(engineCase.id, writes.arrival, (saved) =>
    entry.settle(fieldsOf(saved), saved.version),
  );
  const send = (version: number) => (values: z.output<typeof schema>) =>
    save.mutateAsync({ ...values, version });
  const theirs = save.error?.status === 409 ? (save.error.theirs as EngineCase | undefined) : undefined;
  const risks = useWatch({ control: form.control, name: 'risks' });
  const answer = (risk: string, value: 'yes' | 'no' | 'unknown') => {
    const rest = Object.entries(risks).filter(([r]) => r !== risk);
    form.setValue(
      'risks',
      Object.fromEntries(value === 'unknown' ? rest : [...rest, [risk, value === 'yes']]),
      { shouldDirty: true },
    );
  };
  const [complaint, past] = form.getValues(['complaint', 'past']);

  return (
    <div className="grid gap-6 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]">
      <section>
        {!student && (
          <>
            <Before />
            <OfKind />
            <WhileOpen />
          </>
        )}
        <h2 className="mb-4 text-xl">{tr`Why it is here`}</h2>
        <EntryForm form={form} send={send(entry.version())} className="space-y-4" disabled={!mayWrite}>
          <TextField form={form} name="complaint" label={tr`Complaint, in the customer’s words`} rows={3} />
          <TextField
            form={form}
            name="past"
            label={tr`Its past`}
            hint={tr`Untouched since new, or has someone been in it? What oil, what load?`}
            rows={2}
          />
          <div className="grid gap-4 sm:grid-cols-3">
            <TextField form={form} name="serial" label={tr`Serial number`} className="fig" />
            <FigureField form={form} name="hours" label={tr`Running hours`} />
            <TextField form={form} name="owner" label={tr`Owner`} />
          </div>
          <TextField
            form={form}
            name="prefix"
            label={tr`Its tags and marks begin with`}
            hint={tr`One to four letters or digits, so that a part that strayed to another bench tells whose it is. Empty where no other engine is near.`}
            className="fig max-w-40 uppercase"
          />
          <KeysField
            form={form}
            name="lengths"
            label={tr`Lengths of this engine are told in`}
            options={[
              ['shop', tr`what the shop uses`],
              ['mm', tr`millimetres`],
              ['inch', tr`inches`],
            ]}
          />
          <div>
            <h3 className="mb-1 text-lg">{tr`What went before`}</h3>
            <p className="mb-2 text-sm text-soft">
              {tr`Not evidence in itself, but it makes some causes likelier. Leave open what nobody knows.`}
            </p>
            <ul className="divide-y divide-line border-y border-line">
              {knowledge.risks.map((risk) => {
                const value = risk.id in risks ? (risks[risk.id] ? 'yes' : 'no') : 'unknown';
                return (
                  <li
                    key={risk.id}
                    className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 py-1.5"
                  >
                    <span className="flex-1 basis-56">{risk.question}</span>
                    <div className="flex gap-1" role="group" aria-label={risk.name}>
                      {(['yes', 'no', 'unknown'] as const).map((v) => (
                        <button
                          key={v}
                          type="button"
                          className="key px-3 text-sm"
                          aria-pressed={value === v}
                          onClick={() => answer(risk.id, v)}
                        >
                          {v === 'unknown' ? tr`Not known` : v === 'yes' ? tr`Yes` : tr`No`}
                        </button>
                      ))}
                    </div>
                  </li>
                );
              })}
            </ul>
          </div>
          {theirs ? (
            <LostRace
              says={tr`${theirs.by} changed this page while you were typing.`}
              theirs={`“${theirs.complaint}” ${theirs.past}`}
              yours={`“${complaint}” ${past}`}
              onKeep={() => void sending(form, send(theirs.version))()}
              onTake={() => {
                entry.settle(fieldsOf(theirs), theirs.version);
                save.reset();
              }}
            />
          ) : (
            <Trouble problem={save.error} />
          )}
          {mayWrite && (
            <div className="flex items-center gap-3">
              <button className="key key-go" disabled={!touched || save.isPending}>
                {tr`Save`}
              </button>
              <span role="status" className="text-soft">
                {touched ? tr`Not written yet; kept on this device.` : tr`All written.`}
              </span>
            </div>
          )}
        </EntryForm>
      </section>
      <div className="space-y-5">
        <NextUp />
        <Compression />
        <Sound />
        <CaseFileTools />
        <CorrectLayout />
        <Standing />
      </div>
    </div>
  );
}

function Compression() {
  const { engineCase } = useCaseContext();
  const compression = useRoom(engineCase.id, 'compression');
  const mayWrite = useMayWrite();
  const [unit, setUnit] = useState<'bar' | 'psi'>('bar');
  const test = compression;
  const highest = Math.max(...test.cylinders.map((c) => c.kpa ?? 0), 1);
  const next = test.cylinders.find((c) => c.kpa === null) ?? test.cylinders[0]!;
  const [picked, setPicked] = useState<number | null>(null);
  const at = picked ?? next.number;
  return (
    <section className="card p-4">
      <h2 className="text-xl">{tr`Compression`}</h2>
      <p className="text-sm text-soft">
        {tr`All plugs out, throttle open, the same turns each. Press a bar to measure that cylinder.`}
      </p>
      <div className="mt-3 flex items-end gap-2 overflow-x-auto pb-1" style={{ height: 154 }}>
        {test.cylinders.map((c) => {
          const height = c.kpa === null ? 0 : Math.max(8, (c.kpa / highest) * 96);
          return (
            <button
              key={c.number}
              type="button"
              className={`flex h-full min-w-11 flex-1 flex-col items-center justify-end rounded-lg ${at === c.number ? 'bg-dye-tint' : ''}`}
              aria-pressed={at === c.number}
              aria-label={tr`Cylinder ${c.number}, ${c.words}`}
              onClick={() => setPicked(c.number)}
            >
              <span className="fig text-sm">
                {c.kpa === null ? '—' : unit === 'bar' ? figure(c.kpa, 'bar') : figure(c.kpa, 'psi', 0)}
              </span>
              <span
                className={`w-full max-w-12 rounded-t border-2 border-b-0 ${c.low ? 'border-lead bg-lead-tint' : 'border-oil bg-oil-tint'}`}
                style={{ height, visibility: c.kpa === null ? 'hidden' : 'visible' }}
              />
              <span className={`fig font-bold ${c.number === 6 || c.number === 9 ? 'underline' : ''}`}>
                {c.number}
                {c.low && <span className="text-lead"> {tr`low`}</span>}
              </span>
            </button>
          );
        })}
      </div>
      <ul className="mt-2 space-y-1">
        {test.says.map((s) => (
          <li key={s}>{s}</li>
        ))}
      </ul>
      {mayWrite && (
        <div className="mt-3 space-y-2 border-t border-line pt-3">
          <Choice
            label={tr`Gauge reads in`}
            value={unit}
            onChange={setUnit}
            options={[
              ['bar', 'bar'],
              ['psi', 'psi'],
            ]}
          />
          <ReadingEntry
            key={at}
            task={{
              caseId: engineCase.id,
              place: `C${at}`,
              characteristic: 'compression',
              unit,
              instrument: tr`Compression gauge`,
            }}
            about={tr`Compression`}
            label={tr`Cylinder ${at}, ${unit}`}
            onDone={() => setPicked(null)}
          />
        </div>
      )}
    </section>
  );
}

// The sounds come with their own reckoning of files, and few cases have one.
const Listen = lazy(() => import('./Listen').then((m) => ({ default: m.Listen })));

function Sound() {
  const { engineCase } = useCaseContext();
  const [open, setOpen] = useState(false);
  const kept = engineCase.sounds.filter((s) => stands(s)).length;
  return (
    <section className="card p-4">
      <h2 className="text-xl">{tr`Sound of the engine`}</h2>
      <p className="mb-2 text-sm text-soft">
        {tr`A recording tells how often something knocks, at which angle, and by that of which cylinder it may be.`}
      </p>
      {open ? (
        <Suspense>
          <Listen />
        </Suspense>
      ) : (
        <div className="flex flex-wrap items-center gap-3">
          <button type="button" className="key" onClick={() => setOpen(true)}>
            {tr`Listen to it`}
          </button>
          {kept > 0 && (
            <span className="text-soft">{plural(kept, { one: '# recording', other: '# recordings' })}</span>
          )}
        </div>
      )}
    </section>
  );
}

function CaseFileTools() {
  const { engineCase } = useCaseContext();
  return (
    <section className="card p-4">
      <h2 className="text-lg">{tr`The whole case as a file`}</h2>
      <p className="mb-2 text-sm text-soft">
        {tr`Open format, with pictures; recordings go with the sealed bag. It can be read in again as a new case.`}
      </p>
      <FileKey href={`/api/cases/${engineCase.id}/export`} name={fileName(engineCase.title, 'case.json')}>
        {tr`Save the case file`}
      </FileKey>
    </section>
  );
}
