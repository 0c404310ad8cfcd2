import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useInstruments, useKnowledge, useMe } from '../api/queries';
import { Field, Trouble } from '../ui/basics';
import { byId } from '../ui/byId';
import { baseUnit, figure, uncertainty, unitWords } from '../ui/figures';
import { EntryForm, FigureField, ListField, needed, numberNeeded, TextField, useEntryForm } from '../ui/form';
import { useWriteId } from '../ui/useWriteId';

type View = Schemas['ClassStudyView'];

/** One part that everybody of the class measures: nobody sees another’s figure before all are in. */
export function ClassStudies({ id, teaches }: { id: string; teaches: boolean }) {
  const client = useQueryClient();
  const studies = useQuery({
    queryKey: [...keys.class(id), 'studies'],
    queryFn: () => unwrap(api.GET('/api/classes/{classId}/studies', { params: { path: { classId: id } } })),
  });
  const again = () => client.invalidateQueries({ queryKey: [...keys.class(id), 'studies'] });
  const [adding, setAdding] = useState(false);
  return (
    <section className="card space-y-3 p-4" aria-labelledby="studies">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2 id="studies" className="text-xl">
          {tr`Measuring the same part`}
        </h2>
        {teaches && (
          <button className="key" aria-expanded={adding} onClick={() => setAdding(!adding)}>
            {adding ? tr`Close` : tr`Hand round a part`}
          </button>
        )}
      </div>
      {adding && (
        <StudyForm
          id={id}
          done={() => {
            setAdding(false);
            void again();
          }}
        />
      )}
      <Trouble problem={studies.error as ApiProblem | null} />
      {studies.data?.length === 0 && (
        <p className="text-soft">
          {teaches
            ? tr`None yet. Each measures one part several times, without seeing what the others read; then the spread is drawn.`
            : tr`None is set.`}
        </p>
      )}
      {studies.data?.map((v) => (
        <One key={v.id} of={v} classId={id} again={again} />
      ))}
    </section>
  );
}

const schema = z.object({
  name: needed(tr`Say what is handed round.`),
  part: needed(tr`Say which part it is.`),
  characteristic: needed(tr`Say what is measured.`),
  instrument: needed(tr`Pick the instrument.`),
  trials: numberNeeded({ min: 2, max: 10, whole: true }),
});

const blank = { name: '', part: '', characteristic: '', instrument: '', trials: '3' };

function StudyForm({ id, done }: { id: string; done: () => void }) {
  const write = useWriteId();
  const knowledge = useKnowledge();
  const instruments = useInstruments();
  const { form, settle } = useEntryForm(schema, blank, { draft: `class-study/${id}` });
  const characteristic = useWatch({ control: form.control, name: 'characteristic' });
  const entry = byId(knowledge.data?.characteristics ?? []).get(characteristic);
  const save = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (plan) =>
      unwrap(
        api.PUT('/api/classes/{classId}/studies/{id}', {
          params: { path: { classId: id, id: write.get() } },
          body: { ...plan, unit: entry ? entry.unit || baseUnit[entry.quantity] : '', version: 0 },
        }),
      ),
    onSuccess: () => {
      settle(blank);
      write.settle();
      done();
    },
  });
  return (
    <EntryForm form={form} send={save.mutateAsync} className="max-w-3xl space-y-3">
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          form={form}
          name="name"
          label={tr`Name`}
          hint={tr`such as: first pin with the micrometer`}
        />
        <TextField form={form} name="part" label={tr`The part`} hint={tr`such as: pin 2 of the old crank`} />
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
          label={tr`With`}
          first={tr`pick one`}
          words={(instruments.data ?? []).map((i) => [i.name, i.name] as const)}
        />
        <FigureField form={form} name="trials" label={tr`Times each`} />
      </div>
      <button className="key key-go">{tr`Hand it round`}</button>
    </EntryForm>
  );
}

function One({ of: v, classId, again }: { of: View; classId: string; again: () => Promise<unknown> }) {
  const knowledge = useKnowledge();
  const entry = byId(knowledge.data?.characteristics ?? []).get(v.characteristic);
  const unit = v.unit || (entry ? baseUnit[entry.quantity] : 'mm');
  const answer = v.whole?.answer ?? null;
  return (
    <article className="rounded-lg border-2 border-line p-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <b className="flex-1 text-lg">{v.name}</b>
        <span className="text-soft">
          {v.part}, {entry?.name ?? v.characteristic}
          <Trans>, with {v.instrument}</Trans>
        </span>
      </div>
      {v.measures && v.mine.length < v.trials && (
        <OwnReading of={v} classId={classId} unit={unit} again={again} />
      )}
      {v.mine.length > 0 && answer === null && (
        <p className="mt-1">
          <Trans>
            Yours: <span className="fig">{v.mine.map((r) => r.typed).join(' · ')}</span>
          </Trans>
        </p>
      )}
      {answer && v.whole ? (
        <Spread of={v.whole} answer={answer} unit={unit} />
      ) : (
        <p className="mt-1 text-sm text-soft">
          <span className="fig">{v.missing}</span>{' '}
          {plural(v.missing, { one: 'reading is', other: 'readings are' })}{' '}
          {tr`missing; the spread is drawn when all are in.`}
        </p>
      )}
    </article>
  );
}

function OwnReading({
  of: v,
  classId,
  unit,
  again,
}: {
  of: View;
  classId: string;
  unit: string;
  again: () => Promise<unknown>;
}) {
  const [typed, setTyped] = useState('');
  const write = useWriteId();
  const add = useMutation<unknown, ApiProblem, void>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/classes/{classId}/studies/{id}/readings', {
          params: { path: { classId, id: v.id } },
          body: { id: write.get(), trial: v.mine.length + 1, typed },
        }),
      ),
    onSuccess: () => {
      setTyped('');
      write.settle();
      return again();
    },
  });
  return (
    <form
      className="mt-2 space-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate();
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        <Field label={tr`Your reading ${v.mine.length + 1} of ${v.trials}, ${unitWords(unit)}`}>
          <input
            className="entry fig text-2xl"
            inputMode="decimal"
            autoComplete="off"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
        </Field>
        <button className="key key-go" disabled={add.isPending || typed.trim() === ''}>
          {tr`Save`}
        </button>
      </div>
      <Trouble problem={add.error} />
    </form>
  );
}

const [wide, row, left] = [640, 26, 150];

/** Every reading as a dot on one scale, a line to a person, the mean of all through them. */
function Spread({
  of,
  answer,
  unit,
}: {
  of: Schemas['StudyView'];
  answer: Schemas['StudyAnswer'];
  unit: string;
}) {
  const me = useMe().data?.name;
  const { study } = of;
  const values = study.readings.map((r) => r.value);
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const span = most - least || 1;
  const x = (v: number) => left + 20 + ((v - least) / span) * (wide - left - 40);
  const people = answer.people.toSorted((a, b) => a.bias - b.bias);
  const tall = people.length * row + 34;
  return (
    <figure className="mt-2">
      <svg
        viewBox={`0 0 ${wide} ${tall}`}
        className="w-full max-w-3xl"
        role="img"
        aria-label={tr`Readings of ${people.length} people from ${figure(least, unit)} to ${figure(most, unit)} ${unitWords(unit)}`}
      >
        <line
          x1={x(answer.mean)}
          x2={x(answer.mean)}
          y1={4}
          y2={tall - 26}
          stroke="var(--color-dye)"
          strokeWidth={2}
        />
        {people.map((p, n) => {
          const y = n * row + 16;
          return (
            <g key={p.person}>
              <line x1={left} x2={wide} y1={y} y2={y} stroke="var(--color-line)" />
              <text
                x={left - 8}
                y={y + 5}
                textAnchor="end"
                fontSize={15}
                fontWeight={p.person === me ? 700 : 400}
                fill="var(--color-ink)"
              >
                {p.person}
              </text>
              {study.readings
                .filter((r) => r.person === p.person)
                .map((r) => (
                  <circle
                    key={r.id}
                    cx={x(r.value)}
                    cy={y}
                    r={6}
                    fill="var(--color-ink)"
                    fillOpacity={p.person === me ? 1 : 0.55}
                  />
                ))}
            </g>
          );
        })}
        {(
          [
            [least, 'start'],
            [most, 'end'],
          ] as const
        ).map(([v, anchor]) => (
          <text
            key={anchor}
            className="fig"
            x={x(v)}
            y={tall - 6}
            textAnchor={anchor}
            fontSize={14}
            fill="var(--color-soft)"
          >
            {figure(v, unit)}
          </text>
        ))}
      </svg>
      <figcaption>
        <Trans>
          Mean of all <b className="fig">{figure(answer.mean, unit)}</b> {unitWords(unit)}, the line. One hand
          scatters <span className="fig">±{uncertainty(2 * answer.repeatability, unit)}</span>, people differ{' '}
          <span className="fig">±{uncertainty(2 * answer.reproducibility, unit)}</span> {unitWords(unit)}.{' '}
          {answer.says.join(' ')}
        </Trans>
      </figcaption>
    </figure>
  );
}
