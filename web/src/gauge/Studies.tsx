import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { byId } from '../ui/byId';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useInstruments, useKnowledge, useMayWrite } from '../api/queries';
import { Choice, Field, percent, Trouble, Waiting } from '../ui/basics';
import { baseUnit, figure, uncertainty, unitWords } from '../ui/figures';
import { EntryForm, FigureField, ListField, needed, numberNeeded, TextField, useEntryForm } from '../ui/form';
import { unitOf } from '../ui/limits';
import { rounded, plainFigures } from '../ui/region';

type View = Schemas['StudyView'];

const namesOf = (text: string) =>
  text
    .split(/[\n,;]/)
    .map((n) => n.trim())
    .filter(Boolean);

const schema = z.object({
  name: needed(tr`Say what is measured, and with what.`),
  characteristic: needed(tr`Say what is measured.`),
  instrument: needed(tr`Pick the instrument.`),
  parts: needed(tr`Name the parts, one to a line.`),
  people: needed(tr`Name the people, one to a line.`),
  trials: numberNeeded({ min: 2, max: 10, whole: true }),
});

const blank: z.input<typeof schema> = {
  name: '',
  characteristic: '',
  instrument: '',
  parts: '',
  people: '',
  trials: '3',
};

/** How well this shop measures: several people, the same parts, one instrument. */
export function Studies() {
  const client = useQueryClient();
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState<string | null>(null);
  const studies = useQuery({
    queryKey: keys.studies,
    queryFn: () => unwrap(api.GET('/api/gauge-studies')),
  });
  const took = (view: View) =>
    client.setQueryData<View[]>(keys.studies, (all) =>
      all?.some((v) => v.study.id === view.study.id)
        ? all.map((v) => (v.study.id === view.study.id ? view : v))
        : [...(all ?? []), view],
    );
  const shown = studies.data?.find((v) => v.study.id === open) ?? studies.data?.[0];
  return (
    <main className="mx-auto max-w-6xl space-y-6 px-4 py-6">
      <header>
        <h1 className="text-2xl">{tr`Gauge studies`}</h1>
        <p className="max-w-3xl text-soft">
          {tr`Two people or more measure the same parts with one instrument, each several times, without seeing what the others read. It comes out how far one hand scatters and how far people differ; taken over, that goes into every figure read with the instrument.`}
        </p>
      </header>
      {studies.isPending && <Waiting what={tr`the studies`} />}
      <Trouble problem={studies.error as ApiProblem | null} />
      {(studies.data?.length ?? 0) > 1 && (
        <div className="flex flex-wrap gap-2" role="group" aria-label={tr`Study`}>
          {studies.data!.map((v) => (
            <button
              key={v.study.id}
              className="key"
              aria-pressed={v === shown}
              onClick={() => setOpen(v.study.id)}
            >
              {v.study.name}{' '}
              {v.missing === 0 ? (
                '✓'
              ) : (
                <span className="fig text-sm">
                  <Trans>{v.missing} left</Trans>
                </span>
              )}
            </button>
          ))}
        </div>
      )}
      {shown && <Study key={shown.study.id} view={shown} took={took} />}
      {mayWrite && (
        <Plan
          first={studies.data?.length === 0}
          took={(view) => {
            took(view);
            setOpen(view.study.id);
          }}
        />
      )}
    </main>
  );
}

function Plan({ first, took }: { first: boolean; took: (view: View) => void }) {
  const knowledge = useKnowledge();
  const instruments = useInstruments();
  const { form, settle } = useEntryForm(schema, blank, { draft: 'study' });
  const id = useRef(v7());
  const characteristic = useWatch({ control: form.control, name: 'characteristic' });
  const entry = byId(knowledge.data?.characteristics ?? []).get(characteristic);
  const save = useMutation<View, ApiProblem, z.output<typeof schema>>({
    mutationFn: (plan) =>
      unwrap(
        api.PUT('/api/gauge-studies/{id}', {
          params: { path: { id: id.current } },
          body: {
            ...plan,
            unit: entry ? entry.unit || baseUnit[entry.quantity] : '',
            parts: namesOf(plan.parts),
            people: namesOf(plan.people),
            version: 0,
          },
        }),
      ),
    onSuccess: (view) => {
      settle(blank);
      id.current = v7();
      took(view);
    },
  });
  return (
    <details className="card max-w-3xl p-4" open={first}>
      <summary className="min-h-11 cursor-pointer py-2 text-xl font-semibold">{tr`Plan a study`}</summary>
      <EntryForm form={form} send={save.mutateAsync} className="mt-3 space-y-3">
        <TextField
          form={form}
          name="name"
          label={tr`Name`}
          hint={tr`such as: crankpins with the 50–75 micrometer`}
        />
        <div className="grid gap-3 sm:grid-cols-2">
          <ListField
            form={form}
            name="characteristic"
            label={tr`What is measured`}
            first={tr`pick one`}
            words={(knowledge.data?.characteristics ?? [])
              .filter((c) => !c.derived)
              .map((c) => [c.id, c.name] as const)}
          />
          <ListField
            form={form}
            name="instrument"
            label={tr`With what`}
            first={tr`pick one`}
            words={(instruments.data ?? [])
              .filter((i) => i.withdrawnAt === null && (!entry || i.quantity === entry.quantity))
              .map((i) => [i.name, i.name] as const)}
          />
          <TextField
            form={form}
            name="parts"
            label={tr`Parts, one to a line`}
            hint={tr`Five to ten that differ as yours do: new and worn ones.`}
            rows={5}
          />
          <TextField
            form={form}
            name="people"
            label={tr`People, one to a line`}
            hint={tr`Two at least; three tell more.`}
            rows={5}
          />
        </div>
        <FigureField
          form={form}
          name="trials"
          label={tr`How often each measures each part`}
          className="max-w-32"
        />
        <Trouble problem={save.error} />
        <button className="key key-go" disabled={save.isPending}>
          {tr`Begin the study`}
        </button>
      </EntryForm>
    </details>
  );
}

const cellKey = (part: string, person: string, trial: number) => `${part}\n${person}\n${trial}`;

function Study({ view, took }: { view: View; took: (view: View) => void }) {
  const { study, answer, missing } = view;
  const knowledge = useKnowledge();
  const mayWrite = useMayWrite();
  const [person, setPerson] = useState<string | null>(null);
  const [again, setAgain] = useState<{ person: string; part: string; trial: number } | null>(null);
  const entry = byId(knowledge.data?.characteristics ?? []).get(study.characteristic);
  const quantity = entry?.quantity ?? 'length';
  const unit = knowledge.data ? unitOf(knowledge.data, study.characteristic, quantity) : baseUnit[quantity];
  const latest = new Map(study.readings.map((r) => [cellKey(r.part, r.person, r.trial), r]));
  const cells = Array.from({ length: study.trials }, (_, t) => t + 1).flatMap((trial) =>
    study.parts.map((part) => ({ part, trial })),
  );
  const empty = person ? cells.find((c) => !latest.has(cellKey(c.part, person, c.trial))) : undefined;
  const next = again ?? (person && empty ? { person, ...empty } : null);
  const readings = (
    <div
      className="max-w-full overflow-x-auto"
      tabIndex={0}
      role="region"
      aria-label={tr`Readings of the study`}
    >
      <table className="text-left">
        <thead className="text-sm text-soft">
          <tr>
            <th className="pr-4 font-semibold">{tr`Part`}</th>
            {study.people.map((p) => (
              <th key={p} className="px-3 font-semibold">
                {p}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {study.parts.map((part) => (
            <tr key={part} className="border-t border-line">
              <td className="pr-4 font-semibold">{part}</td>
              {study.people.map((p) => (
                <td key={p} className="fig px-3 py-1 whitespace-nowrap">
                  {Array.from({ length: study.trials }, (_, t) => t + 1).map((trial) => {
                    const r = latest.get(cellKey(part, p, trial));
                    // What others read is not shown before all is in: it would be read again.
                    const shown = !r ? '○' : answer ? figure(r.value, unit) : '●';
                    return r && mayWrite && (answer || p === person) ? (
                      <button
                        key={trial}
                        className="min-h-11 min-w-9 px-1 underline decoration-line underline-offset-4"
                        aria-label={tr`Type ${part} of ${p}, reading ${trial}, again`}
                        onClick={() => setAgain({ person: p, part, trial })}
                      >
                        {shown}
                      </button>
                    ) : (
                      <span key={trial} className="inline-block min-w-9 px-1 text-center">
                        {shown}
                      </span>
                    );
                  })}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {!answer && (
        <p className="mt-1 text-sm text-soft">
          {tr`● read, ○ not yet. Figures are shown when all are in. Press one of your own to type it again.`}
        </p>
      )}
    </div>
  );
  return (
    <section className="card space-y-5 p-4 md:p-6">
      <div>
        <h2 className="text-xl">{study.name}</h2>
        <p className="text-soft">
          {entry?.name ?? study.characteristic}{' '}
          <Trans>
            with {study.instrument}: {study.parts.length} parts, {study.people.length} people, {study.trials}{' '}
            times each
          </Trans>
        </p>
      </div>
      {missing > 0 && mayWrite && (
        <Choice
          label={tr`Who measures now?`}
          value={person}
          options={study.people.map((p) => [p, p] as const)}
          onChange={setPerson}
        />
      )}
      {next && (
        <OneReading
          key={`${next.person}/${next.part}/${next.trial}`}
          study={study}
          {...next}
          took={(taken) => {
            setAgain(null);
            took(taken);
          }}
        />
      )}
      {person && !next && missing > 0 && (
        <p className="rounded-lg border-2 border-oil bg-oil-tint p-3 text-lg font-bold">
          <Trans>
            {person} is through. {missing} readings of the others are left.
          </Trans>
        </p>
      )}
      {answer && <Answer view={view} answer={answer} unit={unit} />}
      {answer ? (
        <details>
          <summary className="min-h-11 cursor-pointer py-2 font-semibold">
            <Trans>The {study.parts.length * study.people.length * study.trials} readings</Trans>
          </summary>
          {readings}
        </details>
      ) : (
        readings
      )}
    </section>
  );
}

function OneReading({
  study,
  person,
  part,
  trial,
  took,
}: {
  study: Schemas['GaugeStudy'];
  person: string;
  part: string;
  trial: number;
  took: (view: View) => void;
}) {
  const [typed, setTyped] = useState('');
  const id = useRef(v7());
  const add = useMutation<View, ApiProblem, string>({
    mutationFn: (text) =>
      unwrap(
        api.POST('/api/gauge-studies/{id}/readings', {
          params: { path: { id: study.id } },
          body: { id: id.current, part, person, trial, typed: plainFigures(text) },
        }),
      ),
    onSuccess: took,
  });
  return (
    <form
      className="space-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (typed.trim() && !add.isPending) add.mutate(typed);
      }}
    >
      <p className="text-3xl font-extrabold">
        {part}{' '}
        <span className="text-lg font-normal text-soft">
          <Trans>
            reading {trial} of {study.trials}, {person}
          </Trans>
        </span>
      </p>
      <div className="flex flex-wrap items-end gap-3">
        <Field label={tr`Figure, ${unitWords(study.unit)} when no unit is typed`}>
          <input
            className="entry fig text-3xl"
            inputMode="decimal"
            autoComplete="off"
            autoFocus
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
        </Field>
        <button className="key key-go px-6 text-lg" disabled={add.isPending || !typed.trim()}>
          {tr`Save`}
        </button>
      </div>
      <Trouble problem={add.error} />
    </form>
  );
}

const rowWords: Record<string, string> = {
  parts: tr`Parts`,
  people: tr`People`,
  interaction: tr`People on parts`,
  repeats: tr`Repeats`,
};

function Answer({ view, answer, unit }: { view: View; answer: Schemas['StudyAnswer']; unit: string }) {
  const { study } = view;
  const client = useQueryClient();
  const mayWrite = useMayWrite();
  const instruments = useInstruments();
  const held = instruments.data
    ?.find((i) => i.name === study.instrument)
    ?.studied.find((s) => s.studyId === study.id);
  const take = useMutation<unknown, ApiProblem, void>({
    mutationFn: () =>
      unwrap(api.POST('/api/gauge-studies/{id}/take-over', { params: { path: { id: study.id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.instruments }),
  });
  const spread = (deviation: number) => `±${uncertainty(2 * deviation, unit)} ${unitWords(unit)}`;
  return (
    <div className="space-y-4">
      <dl className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        {(
          [
            [tr`One hand scatters`, spread(answer.repeatability), 'repeatability'],
            [tr`People differ`, spread(answer.reproducibility), 'reproducibility'],
            [tr`Both together`, spread(answer.both), tr`twice the standard deviation, about 95 %`],
            ...(answer.share === null
              ? []
              : [
                  [
                    tr`Of the whole spread`,
                    percent(answer.share),
                    tr`is the measuring’s, the rest the parts’`,
                  ] as const,
                ]),
          ] as const
        ).map(([name, value, hint]) => (
          <div key={name} className="rounded-lg border-2 border-line p-3">
            <dt className="font-semibold">{name}</dt>
            <dd className="fig text-2xl font-bold">{value}</dd>
            <dd className="text-sm text-soft">{hint}</dd>
          </div>
        ))}
      </dl>
      <ul className="list-disc space-y-1 pl-5">
        {answer.says.map((s) => (
          <li key={s}>{s}</li>
        ))}
        {answer.people.map((p) => (
          <li key={p.person}>
            <Trans>
              <b>{p.person}</b> reads{' '}
            </Trans>
            {!/[1-9]/.test(figure(Math.abs(p.bias), unit)) ? (
              tr`as all do in the mean`
            ) : (
              <>
                <span className="fig">{figure(Math.abs(p.bias), unit)}</span>{' '}
                {p.bias < 0 ? tr`less` : tr`more`}
                <Trans> than the mean of all</Trans>
              </>
            )}
            <Trans>
              , and scatters by <span className="fig">±{uncertainty(2 * p.scatter, unit)}</span>.
            </Trans>
          </li>
        ))}
      </ul>
      {mayWrite && (
        <div className="flex flex-wrap items-center gap-3">
          <button className="key key-go" disabled={take.isPending} onClick={() => take.mutate()}>
            {held ? tr`Give it to ${study.instrument} again` : tr`Give it to ${study.instrument}`}
          </button>
          <span className="text-soft">
            {held
              ? tr`It is in every figure read with it.`
              : tr`Then it goes into every figure of this kind that is read with it.`}
          </span>
        </div>
      )}
      <Trouble problem={take.error} />
      <details>
        <summary className="min-h-11 cursor-pointer py-2 font-semibold">{tr`How it was worked out`}</summary>
        <p className="text-sm text-soft">
          {study.parts.length > 1 ? tr`Two-way` : tr`One-way`} <Trans>analysis of variance, </Trans>
          {study.parts.length > 1 ? tr`parts and people` : tr`people`}{' '}
          <Trans>
            drawn at random; variance components after Montgomery, Introduction to Statistical Quality
            Control.{' '}
          </Trans>
          {study.parts.length === 1
            ? ''
            : answer.pooled
              ? tr`How people differ from part to part is no more than chance, and counts with the repeats.`
              : tr`People differ from part to part by more than chance; that counts with how people differ.`}
        </p>
        <table className="mt-2 text-left">
          <thead className="text-sm text-soft">
            <tr>
              {['', tr`Freedom`, tr`Sum of squares`, tr`Mean square`, 'F', tr`By chance`].map((h) => (
                <th key={h} className="pr-5 font-semibold">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="fig">
            {answer.rows.map((r) => (
              <tr key={r.id} className="border-t border-line">
                <td className="pr-5 font-sans">{rowWords[r.id]}</td>
                <td className="pr-5">{r.freedom}</td>
                <td className="pr-5">{rounded(r.squares, 5)}</td>
                <td className="pr-5">{rounded(r.meanSquare, 5)}</td>
                <td className="pr-5">{r.f === null ? '' : rounded(r.f, 4)}</td>
                <td className="pr-5">{r.p === null ? '' : percent(r.p)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </div>
  );
}
