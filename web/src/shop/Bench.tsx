import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { Addr, moment, since, Trouble, Waiting } from '../ui/basics';
import { useWriteId } from '../ui/useWriteId';
import { lockWords } from '../ui/words';
import { useClassPeople } from './useClassPeople';

type View = Schemas['BenchView'];
type Evidence = Schemas['SectionEvidence'];

/** A bench as the teacher stands at it: what its section has to show, and the keys to sign it or send it back. */
export function Bench() {
  const id = useParams().bench!;
  const [search, setSearch] = useSearchParams();
  const section = search.get('section');
  const view = useQuery({
    queryKey: [...keys.benches, id, section],
    queryFn: () =>
      unwrap(api.GET('/api/benches/{id}', { params: { path: { id }, query: section ? { section } : {} } })),
    refetchInterval: 5000,
  });
  if (view.error && !view.data)
    return (
      <main className="mx-auto max-w-lg p-4">
        <Trouble problem={view.error as unknown as ApiProblem} />
      </main>
    );
  if (!view.data) return <Waiting what={tr`the bench`} />;
  const { line, evidence } = view.data;
  return (
    <main className="mx-auto max-w-3xl space-y-4 px-4 py-4">
      <header className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <Addr code={line.prefix} className="text-5xl" />
        <div className="min-w-0 flex-1">
          <h1 className="text-2xl">{line.people.join(', ') || tr`Nobody sits here`}</h1>
          <p className="text-soft">
            <Link className="underline underline-offset-4" to={`/classes/${view.data.class.id}`}>
              {view.data.class.name}
            </Link>
            {line.lastAt && tr`, last entry ${since(line.lastAt)}`}
            {line.stuckSince && <b className="text-lead"> {tr`· stuck`}</b>}
          </p>
        </div>
        <Link className="key flex items-center" to={`/cases/${line.bench.caseId}/strip`}>
          {tr`Open the case`}
        </Link>
      </header>
      <nav className="flex flex-wrap gap-1.5" aria-label={tr`Sections`}>
        {line.standing.sections.map((s) => (
          <button
            key={s.id}
            className="key"
            aria-pressed={s.id === evidence?.standing.id}
            onClick={() => setSearch({ section: s.id }, { replace: true })}
          >
            {s.state === 'signed' || s.state === 'done'
              ? '✓ '
              : s.state === 'waiting'
                ? '● '
                : s.state === 'sentBack'
                  ? '↩ '
                  : ''}
            {s.name}
          </button>
        ))}
      </nav>
      {evidence && <Section key={evidence.standing.id} view={view.data} evidence={evidence} />}
      <Seats view={view.data} />
    </main>
  );
}

function Section({ view, evidence }: { view: View; evidence: Evidence }) {
  const s = evidence.standing;
  return (
    <>
      <section className="card space-y-2 p-4" aria-labelledby="section">
        <h2 id="section" className="text-xl">
          {s.name}
        </h2>
        <p>
          {s.state === 'waiting' && (
            <>
              <Trans>
                <b>Waits for a signature</b> since {moment(s.since!)}
              </Trans>
              {s.note && `: “${s.note}”`}
            </>
          )}
          {s.state === 'sentBack' && (
            <>
              <Trans>
                <b className="text-lead">Sent back</b> by {s.by}, {moment(s.since!)}: “{s.note}”
              </Trans>
            </>
          )}
          {s.state === 'signed' && (
            <>
              <Trans>
                <b className="text-oil">Signed</b> by {s.by}, {moment(s.since!)}
              </Trans>
            </>
          )}
          {s.state === 'done' && <b className="text-oil">{tr`Done`}</b>}
          {(s.state === 'working' || s.state === 'ahead') && (
            <>
              <Trans>
                <span className="fig">
                  {s.done} of {s.steps}
                </span>{' '}
                steps done
              </Trans>
            </>
          )}
        </p>
        {view.secondLook && s.state !== 'signed' && (
          <p>
            {s.lookedBy
              ? tr`A second pair of eyes: ${s.lookedBy}.`
              : tr`A second pair of eyes has not looked yet.`}
          </p>
        )}
        {(s.state === 'waiting' || s.state === 'sentBack') && <Acts view={view} section={s} />}
      </section>
      <Steps caseId={view.line.bench.caseId} steps={evidence.steps} />
      <Found evidence={evidence} caseId={view.line.bench.caseId} />
    </>
  );
}

/** Sign, look, or send back with a word. */
function Acts({ view, section }: { view: View; section: Schemas['SectionStanding'] }) {
  const client = useQueryClient();
  const [word, setWord] = useState('');
  const [back, setBack] = useState(false);
  const write = useWriteId();
  const caseId = view.line.bench.caseId;
  const act = useMutation<unknown, ApiProblem, { outcome: Schemas['SignOutcome']; note: string }>({
    mutationFn: (body) =>
      unwrap(
        api.POST('/api/cases/{caseId}/sign-offs', {
          params: { path: { caseId } },
          body: { id: write.get(), step: section.id, ...body },
        }),
      ),
    onSuccess: async () => {
      write.settle();
      setWord('');
      setBack(false);
      await Promise.all([
        client.invalidateQueries({ queryKey: keys.benches }),
        client.invalidateQueries({ queryKey: keys.classes }),
      ]);
    },
    onError: () => write.settle(),
  });
  const wantsLook = view.secondLook && section.lookedBy === '';
  return (
    <div className="space-y-2">
      <div className="flex flex-wrap gap-2">
        {view.maySign && (
          <button
            className="key key-go min-h-14 flex-1 text-lg"
            disabled={act.isPending}
            onClick={() => act.mutate({ outcome: 'signed', note: '' })}
          >
            {tr`I have checked it: sign`}
          </button>
        )}
        {wantsLook && (
          <button
            className="key min-h-14 flex-1"
            disabled={act.isPending}
            onClick={() => act.mutate({ outcome: 'looked', note: '' })}
          >
            {tr`I looked at it, another signs`}
          </button>
        )}
        {view.maySign && section.state === 'waiting' && (
          <button className="key min-h-14 flex-1" aria-expanded={back} onClick={() => setBack(!back)}>
            {tr`Send it back`}
          </button>
        )}
      </div>
      {back && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            act.mutate({ outcome: 'sentBack', note: word });
          }}
        >
          <label className="min-w-0 flex-1">
            <span className="label">{tr`What is to be put right`}</span>
            <input className="entry" autoFocus value={word} onChange={(e) => setWord(e.target.value)} />
          </label>
          <button className="key key-go" disabled={act.isPending || word.trim() === ''}>
            {tr`Send back`}
          </button>
        </form>
      )}
      <Trouble problem={act.error} />
    </div>
  );
}

function Steps({ caseId, steps }: { caseId: string; steps: readonly Schemas['StepEvidence'][] }) {
  return (
    <section className="card p-4" aria-label={tr`Steps`}>
      <ol className="divide-y divide-line">
        {steps.map((s) => (
          <li key={s.id} className="space-y-1 py-2">
            <p className="flex flex-wrap items-baseline gap-x-3">
              <b className={s.state === 'skipped' ? 'text-lead' : ''}>
                {s.state === 'done' || s.state === 'wasOff' ? '✓ ' : s.state === 'skipped' ? '✕ ' : '○ '}
                {s.name}
              </b>
              <span className="text-sm text-soft">
                {s.state === 'skipped' && tr`left out · `}
                {s.ticks > 0 && tr`${s.ticked} of ${s.ticks} ticked`}
              </span>
            </p>
            {s.records.map((r) => (
              <p key={r.at + r.by} className="text-sm">
                {r.by}, {moment(r.at)}
                {r.reason && `: “${r.reason}”`}
                {r.passed.map((o) => (
                  <span key={o.lock + o.of} className="block rounded-md bg-brass-tint px-2">
                    <Trans>In spite of {lockWords[o.lock].toLowerCase()}</Trans>
                    {o.of && ` (${o.of})`}: “{o.reason}”
                  </span>
                ))}
              </p>
            ))}
            {s.sets.length > 0 && s.state !== null && (
              <p className="text-sm">
                {s.sets.map((x) => (
                  <span key={x.name} className={`mr-3 ${x.out < x.expected ? 'font-bold text-lead' : ''}`}>
                    {x.name}{' '}
                    <span className="fig">
                      {x.out}/{x.expected}
                    </span>
                    {x.broken > 0 && tr`, ${x.broken} broken`}
                  </span>
                ))}
              </p>
            )}
            {s.photos.length > 0 && (
              <p className="flex flex-wrap gap-2">
                {s.photos.map((p) => (
                  <a key={p} href={`/api/cases/${caseId}/photos/${p}/view`} target="_blank" rel="noreferrer">
                    <img
                      className="h-20 rounded-md"
                      src={`/api/cases/${caseId}/photos/${p}/thumb`}
                      alt={tr`Picture to ${s.name}`}
                    />
                  </a>
                ))}
              </p>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Found({ evidence, caseId }: { evidence: Evidence; caseId: string }) {
  const { found, measured } = evidence;
  if (found.length === 0 && measured.length === 0) return null;
  return (
    <section className="card space-y-3 p-4" aria-label={tr`Found and measured`}>
      {found.length > 0 && (
        <div>
          <h3 className="font-bold">{tr`Found`}</h3>
          <ul className="divide-y divide-line">
            {found.map((f) => (
              <li key={f.at + f.place + f.sign} className="flex gap-3 py-1">
                <Link
                  className="w-14 underline underline-offset-4"
                  to={`/cases/${caseId}/look?part=${f.place}`}
                >
                  <Addr code={f.place} />
                </Link>
                <span className="flex-1">
                  {f.name}
                  {f.level === 0 ? tr`: not there` : ''}
                  {f.note && `: “${f.note}”`}
                </span>
                <span className="text-sm text-soft">{f.by}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {measured.length > 0 && (
        <div>
          <h3 className="font-bold">{tr`Measured`}</h3>
          <ul className="divide-y divide-line">
            {measured.map((m) => (
              <li key={m.at + m.place + m.name + m.typed} className="flex gap-3 py-1">
                <span className="w-14">
                  <Addr code={m.place} />
                </span>
                <span className="flex-1">{m.name}</span>
                <span className={`fig ${m.conformity === 'outside' ? 'font-bold text-lead' : ''}`}>
                  {m.typed} {m.unit}
                  {m.conformity === 'outside' && tr` outside`}
                </span>
                <span className="text-sm text-soft">{m.by}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

/** Who sits here; changed by who teaches. */
function Seats({ view }: { view: View }) {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const people = useClassPeople(open);
  const bench = view.line.bench;
  const [chosen, setChosen] = useState<readonly string[]>(bench.people);
  const save = useMutation<unknown, ApiProblem, void>({
    mutationFn: () =>
      unwrap(
        api.PUT('/api/benches/{id}', {
          params: { path: { id: bench.id } },
          body: { people: [...chosen], version: bench.version },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: keys.benches });
      setOpen(false);
    },
  });
  if (!view.maySign) return null;
  return (
    <section className="card p-4">
      <button
        className="key"
        aria-expanded={open}
        onClick={() => {
          setChosen(bench.people);
          setOpen(!open);
        }}
      >
        {tr`Who sits here`}
      </button>
      {open && (
        <div className="mt-3 space-y-3">
          <div className="flex flex-wrap gap-1.5">
            {people.data
              ?.filter((p) => p.role === 'student')
              .map((p) => (
                <button
                  key={p.id}
                  className="key"
                  aria-pressed={chosen.includes(p.id)}
                  onClick={() =>
                    setChosen(chosen.includes(p.id) ? chosen.filter((x) => x !== p.id) : [...chosen, p.id])
                  }
                >
                  {p.name}
                </button>
              ))}
          </div>
          <Trouble problem={save.error} />
          <button className="key key-go" disabled={save.isPending} onClick={() => save.mutate()}>
            {tr`Save`}
          </button>
        </div>
      )}
    </section>
  );
}
