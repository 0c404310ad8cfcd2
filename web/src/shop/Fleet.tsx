import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMayWrite } from '../api/queries';
import { day, Trouble, Waiting } from '../ui/basics';
import {
  EntryForm,
  FigureField,
  KeysField,
  ListField,
  needed,
  numberNeeded,
  TextField,
  TickField,
  useEntryForm,
} from '../ui/form';
import { useWriteId } from '../ui/useWriteId';
import { entriesOf, useWords } from '../ui/words';
import { WhyForm } from '../ui/WhyForm';
import { fixed } from '../ui/region';

type Line = Schemas['FleetLine'];
type Due = Schemas['ServiceDue'];

/** Engines that the shop looks after between the times they are here: what is due when. */
export function Fleet() {
  const { engine } = useParams();
  return (
    <main className="mx-auto max-w-6xl px-4 py-6">{engine ? <One key={engine} id={engine} /> : <All />}</main>
  );
}

const today = () => new Date().toISOString().slice(0, 10);

function All() {
  const fleet = useQuery({ queryKey: keys.fleet, queryFn: () => unwrap(api.GET('/api/fleet')) });
  const mayWrite = useMayWrite();
  const [adding, setAdding] = useState(false);
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-3xl">{tr`Fleet`}</h1>
          <p className="text-soft">
            {tr`Engines that come again, what is due first on top. Days are told from the hours by which each ran in the last year; where a meter was read once only, the hours alone are told.`}
          </p>
        </div>
        {mayWrite && (
          <button className="key" onClick={() => setAdding(!adding)}>
            {adding ? tr`Close` : tr`Add an engine`}
          </button>
        )}
      </div>
      {adding && <EngineForm done={() => setAdding(false)} />}
      {fleet.isPending && <Waiting what={tr`the fleet`} />}
      <Trouble problem={fleet.error as ApiProblem | null} />
      {fleet.data?.length === 0 && <p className="card mt-6 p-5">{tr`No engine yet.`}</p>}
      <ul className="card mt-6 divide-y divide-line">
        {fleet.data?.map((l) => (
          <li key={l.engine.id}>
            <Link
              className="grid items-center gap-x-6 gap-y-1 px-4 py-3 sm:grid-cols-[minmax(0,1.1fr)_minmax(0,1.6fr)_8rem]"
              to={`/fleet/${l.engine.id}`}
            >
              <span className="leading-tight">
                <b className="text-lg">{l.engine.name}</b>
                <span className="block text-sm text-soft">
                  {[l.kindName, l.engine.serial, useWords[l.engine.use], l.onBench && tr`on the bench`]
                    .filter(Boolean)
                    .join(' · ')}
                </span>
              </span>
              <span>
                {l.due[0] ? (
                  <DueLine of={l.due[0]} />
                ) : (
                  <span className="text-soft">{tr`no service entered`}</span>
                )}
              </span>
              <span className="fig text-sm sm:text-right">
                {l.now === null ? tr`hours not read` : tr`about ${l.now} h`}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}

const over = (d: Due) => (d.left !== null && d.left <= 0) || (d.due !== null && d.due <= today());

/** To the hour, where there are many. */
const hours = (h: number) => `${h < 10 ? h : Math.round(h)} h`;

/** What is due, and how much of its interval is used: full is due. */
function DueLine({ of: d }: { of: Due }) {
  const used = d.used ?? 0;
  return (
    <span className="block">
      <span className="flex flex-wrap items-baseline justify-between gap-x-3">
        <b>{d.service.what}</b>
        <span className={`fig text-sm ${over(d) ? 'font-bold text-lead' : ''}`}>
          {[
            d.left !== null && (d.left <= 0 ? tr`over by ${hours(-d.left)}` : tr`${hours(d.left)} left`),
            d.due !== null &&
              (d.left !== null && d.left <= 0 ? '' : over(d) ? tr`was due ${day(d.due)}` : day(d.due)),
            d.used === null && tr`not known when`,
          ]
            .filter(Boolean)
            .join(', ')}
        </span>
      </span>
      {d.used !== null && (
        <svg className="mt-1 h-2 w-full" viewBox="0 0 100 6" preserveAspectRatio="none" aria-hidden>
          <rect width="100" height="6" fill="var(--color-steel)" opacity="0.3" />
          <rect
            width={Math.min(100, 100 * used)}
            height="6"
            fill={over(d) ? 'var(--color-lead)' : 'var(--color-brass)'}
          />
        </svg>
      )}
    </span>
  );
}

function One({ id }: { id: string }) {
  const view = useQuery({
    queryKey: [...keys.fleet, id],
    queryFn: () => unwrap(api.GET('/api/fleet/{id}', { params: { path: { id } } })),
  });
  const mayWrite = useMayWrite();
  const [changing, setChanging] = useState(false);
  if (view.error) return <Trouble problem={view.error as ApiProblem} />;
  if (!view.data) return <Waiting what={tr`the engine`} />;
  const { line, entries } = view.data;
  return (
    <>
      <p className="text-sm">
        <Link className="underline underline-offset-4" to="/fleet">
          {tr`Fleet`}
        </Link>
      </p>
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-3xl">{line.engine.name}</h1>
          <p className="text-soft">
            {[
              line.kindName,
              line.engine.serial && tr`serial ${line.engine.serial}`,
              useWords[line.engine.use],
              line.engine.owner,
            ]
              .filter(Boolean)
              .join(' · ')}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          {line.onBench && (
            <Link className="key" to={`/cases/${line.onBench}/arrival`}>
              {tr`Its case`}
            </Link>
          )}
          <Link className="key" to={`/kinds/${line.engine.kindId}`}>
            {tr`Its kind`}
          </Link>
          {mayWrite && (
            <button className="key" onClick={() => setChanging(!changing)}>
              {changing ? tr`Close` : tr`Change`}
            </button>
          )}
        </div>
      </div>
      {changing && <EngineForm standing={line.engine} done={() => setChanging(false)} />}
      <p className="fig mt-4 text-2xl">
        {line.run === null ? (
          tr`The meter was never read.`
        ) : (
          <>
            <Trans>{line.now} h </Trans>
            <span className="text-base text-soft">
              <Trans>
                by today; {line.run.total} h on {day(line.run.day)}
              </Trans>
              {line.run.perDay !== null && tr`, ${fixed(line.run.perDay * 7, 1)} h a week`}
            </span>
          </>
        )}
      </p>
      <div className="mt-4 grid gap-8 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
        <section>
          <h2 className="text-xl">{tr`What is due`}</h2>
          {line.due.length === 0 && <p className="text-soft">{tr`The kind has no services yet.`}</p>}
          <ul className="divide-y divide-line">
            {line.due.map((d) => (
              <li key={d.service.id} className="py-2">
                <DueLine of={d} />
                <span className="text-sm text-soft">
                  {[
                    d.done ? tr`last on ${day(d.done)}` : tr`never noted; counted from its first hour`,
                    d.service.opens && tr`opened for it`,
                    d.service.sourceText,
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </span>
              </li>
            ))}
          </ul>
        </section>
        <section className="space-y-6">
          {mayWrite && <EntryIn line={line} />}
          <div>
            <h2 className="text-xl">{tr`Its meter`}</h2>
            {entries.length === 0 && <p className="text-soft">{tr`Nothing read yet.`}</p>}
            <ul className="divide-y divide-line">
              {entries.map((e) => (
                <EntryRow key={e.id} of={e} line={line} mayWrite={mayWrite} />
              ))}
            </ul>
          </div>
        </section>
      </div>
    </>
  );
}

function EntryRow({ of: e, line, mayWrite }: { of: Schemas['FleetEntry']; line: Line; mayWrite: boolean }) {
  const client = useQueryClient();
  const [asking, setAsking] = useState(false);
  const what = line.due.find((d) => d.service.id === e.service)?.service.what;
  const back = async (why: string) => {
    await unwrap(
      api.POST('/api/fleet/entries/{id}/withdraw', {
        params: { path: { id: e.id } },
        body: { why, version: e.version },
      }),
    );
    await client.invalidateQueries({ queryKey: keys.fleet });
  };
  return (
    <li className="py-1.5">
      <div className="flex flex-wrap items-center justify-between gap-x-3">
        <span>
          <span className="fig font-bold">
            <Trans>{e.hours} h</Trans>
          </span>{' '}
          {day(e.day)}
          {e.newMeter && tr`, on a new meter`}
          {e.service !== '' && <b className="block">{what ?? tr`a service that the kind no longer names`}</b>}
          {e.note && <span className="block text-sm text-soft">{e.note}</span>}
        </span>
        {mayWrite && (
          <button className="key text-sm" aria-expanded={asking} onClick={() => setAsking(!asking)}>
            {tr`Take back`}
          </button>
        )}
      </div>
      {asking && <WhyForm press={tr`Take back`} send={back} />}
    </li>
  );
}

const entrySchema = z.object({
  day: needed(tr`Give the day.`),
  hours: numberNeeded({ min: 0, max: 1_000_000 }),
  newMeter: z.boolean(),
  service: z.string(),
  note: z.string(),
});

function EntryIn({ line }: { line: Line }) {
  const client = useQueryClient();
  const id = useWriteId();
  const blank: z.input<typeof entrySchema> = {
    day: today(),
    hours: '',
    newMeter: false,
    service: '',
    note: '',
  };
  const { form, settle } = useEntryForm(entrySchema, blank, { draft: `fleet/${line.engine.id}` });
  const enter = useMutation<unknown, ApiProblem, z.output<typeof entrySchema>>({
    mutationFn: (body) =>
      unwrap(
        api.POST('/api/fleet/{id}/entries', {
          params: { path: { id: line.engine.id } },
          body: { ...body, id: id.get() },
        }),
      ),
    onSuccess: () => {
      id.settle();
      settle(blank);
      return client.invalidateQueries({ queryKey: keys.fleet });
    },
  });
  return (
    <EntryForm form={form} send={enter.mutateAsync} className="card space-y-3 p-4">
      <h2 className="text-xl">{tr`Read the meter`}</h2>
      <div className="grid grid-cols-2 gap-3">
        <TextField form={form} name="day" label={tr`Day`} type="date" className="fig" />
        <FigureField form={form} name="hours" label={tr`Hours it shows`} className="text-2xl" />
      </div>
      <ListField
        form={form}
        name="service"
        label={tr`Done at that reading`}
        first={tr`nothing, only read`}
        words={line.due.map((d) => [d.service.id, d.service.what] as const)}
      />
      <TickField
        form={form}
        name="newMeter"
        label={tr`The meter was changed: it counts on from this figure`}
      />
      <TextField form={form} name="note" label={tr`Remark`} />
      <Trouble problem={enter.error} />
      <button className="key key-go" disabled={enter.isPending}>
        {tr`Enter it`}
      </button>
    </EntryForm>
  );
}

const engineSchema = z.object({
  name: needed(tr`Call it as its owner does.`),
  serial: z.string(),
  owner: z.string(),
  kindId: needed(tr`Choose its kind.`),
  use: z.enum(['ordinary', 'race', 'standby']),
});

function EngineForm({
  standing = null,
  done,
}: {
  standing?: Schemas['FleetEngine'] | null;
  done: () => void;
}) {
  const client = useQueryClient();
  const id = useWriteId();
  const kinds = useQuery({ queryKey: keys.kinds, queryFn: () => unwrap(api.GET('/api/engine-kinds')) });
  const blank: z.input<typeof engineSchema> = standing ?? {
    name: '',
    serial: '',
    owner: '',
    kindId: '',
    use: 'ordinary',
  };
  const { form, settle, version } = useEntryForm(
    engineSchema,
    { name: blank.name, serial: blank.serial, owner: blank.owner, kindId: blank.kindId, use: blank.use },
    { draft: `fleet-engine/${standing?.id ?? 'new'}`, version: standing?.version ?? 0 },
  );
  const again = () => {
    id.settle();
    settle(blank);
    done();
    return client.invalidateQueries({ queryKey: keys.fleet });
  };
  const save = useMutation<unknown, ApiProblem, z.output<typeof engineSchema>>({
    mutationFn: (body) =>
      unwrap(
        api.PUT('/api/fleet/{id}', {
          params: { path: { id: standing?.id ?? id.get() } },
          body: { ...body, version: version() },
        }),
      ),
    onSuccess: again,
  });
  if (kinds.data?.length === 0)
    return (
      <p className="card mt-4 p-4">
        <Trans>
          An engine of the fleet goes by the services of its kind, and no kind is written down yet.{' '}
          <Link className="underline" to="/kinds">
            Kinds of engines
          </Link>
        </Trans>
      </p>
    );
  return (
    <EntryForm form={form} send={save.mutateAsync} className="card mt-4 max-w-2xl space-y-3 p-5">
      <TextField form={form} name="name" label={tr`What it is called`} placeholder={tr`Lifeboat 2, port`} />
      <ListField
        form={form}
        name="kindId"
        label={tr`Kind`}
        first="choose"
        words={(kinds.data ?? []).map((k) => [k.id, k.name] as const)}
      />
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField form={form} name="serial" label={tr`Serial number`} className="fig" />
        <TextField form={form} name="owner" label={tr`Owner`} />
      </div>
      <KeysField form={form} name="use" label={tr`How it is used`} options={entriesOf(useWords)} />
      <Trouble problem={save.error} />
      <button className="key key-go" disabled={save.isPending}>
        {standing ? tr`Save` : tr`Add it`}
      </button>
    </EntryForm>
  );
}
