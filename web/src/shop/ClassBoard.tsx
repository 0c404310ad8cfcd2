import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, ApiProblem, unwrap, type Schemas } from '../api/client';
import { keys, useIsLead, useMe } from '../api/queries';
import { Addr, since, Trouble, Waiting } from '../ui/basics';
import { FileKey } from '../ui/FileKey';
import { ScanCode } from '../ui/ScanCode';
import { ClassForm } from './ClassForm';
import { ClassHomework } from './ClassHomework';
import { ClassStudies } from './ClassStudies';
import { NewBenches } from './NewBenches';

type Line = Schemas['BenchLine'];
type Standing = Schemas['SectionStanding'];

/** How often the board is asked for while it is looked at, ms. */
const often = 5000;

/** Benches by sections: who waits, who is stuck, who left something out. */
export function ClassBoard({ id }: { id: string }) {
  const board = useQuery({
    queryKey: [...keys.class(id), 'board'],
    queryFn: () => unwrap(api.GET('/api/classes/{id}/board', { params: { path: { id } } })),
    refetchInterval: often,
  });
  const lead = useIsLead();
  const me = useMe().data;
  const [open, setOpen] = useState<'class' | 'benches' | null>(null);
  if (board.error && !board.data) return <Trouble problem={board.error as ApiProblem} />;
  if (!board.data) return <Waiting what={tr`the board`} />;
  const { class: of, teachers, sections, benches, waiting, maySign } = board.data;
  const teaches = lead || (me?.name !== undefined && teachers.includes(me.name));
  const press = (what: 'class' | 'benches', words: string) => (
    <button
      className="key"
      aria-expanded={open === what}
      onClick={() => setOpen(open === what ? null : what)}
    >
      {words}
    </button>
  );
  return (
    <>
      <header className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <p className="text-sm">
            <Link className="underline underline-offset-4" to="/classes">
              {tr`Classes`}
            </Link>
          </p>
          <h1 className="text-3xl">{of.name}</h1>
          <p className="text-soft">
            {tr`taught by`} {teachers.join(tr` and `)}
          </p>
        </div>
        {teaches && (
          <div className="flex flex-wrap gap-2">
            {benches.length > 0 && <ScanBench benches={benches} />}
            {press('benches', tr`Set up benches`)}
            {press('class', tr`Change the class`)}
          </div>
        )}
      </header>
      {open === 'class' && <ClassForm of={of} sections={sections} done={() => setOpen(null)} />}
      {open === 'benches' && <NewBenches of={of} benches={benches} done={() => setOpen(null)} />}
      {benches.length === 0 ? (
        <p className="card p-5">{tr`No benches yet: set them up, each with a case like one of the casebook.`}</p>
      ) : (
        <>
          <Queue waiting={waiting} benches={benches} maySign={maySign} />
          <Board sections={sections} benches={benches} />
        </>
      )}
      <ClassHomework id={id} teaches={teaches} />
      <ClassStudies id={id} teaches={teaches} />
      {teaches && benches.length > 0 && (
        <section className="card space-y-3 p-4">
          <h2 className="text-xl">{tr`On paper`}</h2>
          <div className="flex flex-wrap gap-2">
            <FileKey href={`/api/classes/${id}/plates.pdf?page=a4-24`} name="plates.pdf">
              {tr`Plates for the benches`}
            </FileKey>
            <FileKey href={`/api/classes/${id}/letters.pdf`} name="letters.pdf">
              {tr`A letter to each`}
            </FileKey>
            <FileKey href={`/api/classes/${id}/results.csv`} name="results.csv">
              {tr`Results as a table`}
            </FileKey>
          </div>
          <p className="text-sm text-soft">
            {tr`A plate’s code opens the bench on your phone: what there is to see, and the key to sign it.`}
          </p>
        </section>
      )}
    </>
  );
}

/** Reads the plate of a bench with the camera and opens what its section has to show. */
function ScanBench({ benches }: { benches: readonly Line[] }) {
  const open = useNavigate();
  return (
    <ScanCode
      words={tr`Scan a bench`}
      className="key key-go"
      title={tr`Hold the bench’s plate before the camera`}
      says={tr`A hand’s breadth away, square in the picture. Or press the bench on the board.`}
      read={(code) => {
        const id = /\/bench\/([0-9a-f-]{36})$/i.exec(code)?.[1]?.toLowerCase();
        if (!benches.some((b) => b.bench.id === id))
          return Promise.reject(
            new ApiProblem(422, {
              title: tr`This is no plate of a bench of this class.`,
              detail: tr`Scan the plate on the bench, or press the bench on the board.`,
            }),
          );
        return Promise.resolve(() => void open(`/bench/${id}`));
      }}
    />
  );
}

/** Who waits for a signature, longest first. */
function Queue({
  waiting,
  benches,
  maySign,
}: {
  waiting: readonly string[];
  benches: readonly Line[];
  maySign: boolean;
}) {
  const lines = waiting.map((id) => benches.find((b) => b.bench.id === id)!);
  const stuck = benches.filter((b) => b.stuckSince !== null);
  return (
    <section aria-labelledby="queue" className="grid gap-3 lg:grid-cols-[minmax(0,2fr)_minmax(0,1fr)]">
      <div className="card p-4">
        <h2 id="queue" className="text-xl">
          {tr`Waiting for a signature`}
        </h2>
        {lines.length === 0 && <p className="text-soft">{tr`Nobody.`}</p>}
        <ol className="divide-y divide-line">
          {lines.map((l) => {
            const s = l.standing.sections.find((x) => x.state === 'waiting')!;
            return (
              <li key={l.bench.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 py-2">
                <Addr code={l.prefix} className="w-14 text-2xl" />
                <span className="min-w-0 flex-1 leading-tight">
                  <b>{s.name}</b>
                  <span className="block text-soft">
                    {l.people.join(', ')}
                    {s.note && `: “${s.note}”`}
                  </span>
                </span>
                <span className="fig">{since(s.since!)}</span>
                <Link className="key flex items-center" to={`/bench/${l.bench.id}`}>
                  {maySign ? tr`Look and sign` : tr`Look`}
                </Link>
              </li>
            );
          })}
        </ol>
      </div>
      <div className="card p-4">
        <h2 className="text-xl">{tr`Stuck`}</h2>
        {stuck.length === 0 && <p className="text-soft">{tr`Nobody.`}</p>}
        <ul className="divide-y divide-line">
          {stuck.map((l) => (
            <li key={l.bench.id}>
              <Link className="flex min-h-11 items-center gap-3 py-1" to={`/bench/${l.bench.id}`}>
                <Addr code={l.prefix} className="w-14 text-xl" />
                <span className="flex-1 leading-tight">
                  {l.people.join(', ')}
                  <span className="block text-sm text-soft">
                    {tr`no entry`} {since(l.stuckSince!).replace(tr` ago`, '')}
                  </span>
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
}

const stateWords: Record<Standing['state'], string> = {
  ahead: '',
  working: tr`at work`,
  waiting: tr`waits`,
  sentBack: tr`sent back`,
  signed: tr`signed`,
  done: tr`done`,
};

const tones: Record<Standing['state'], string> = {
  ahead: 'border-line text-soft',
  working: 'border-ink',
  waiting: 'border-brass bg-brass-tint',
  sentBack: 'border-lead bg-lead-tint',
  signed: 'border-oil bg-oil-tint',
  done: 'border-oil bg-oil-tint',
};

function Board({
  sections,
  benches,
}: {
  sections: readonly Schemas['BoardSection'][];
  benches: readonly Line[];
}) {
  return (
    <section className="card overflow-x-auto" aria-label={tr`Benches by sections`} tabIndex={0}>
      <table className="w-full border-separate border-spacing-1.5 p-2">
        <thead>
          <tr className="align-bottom text-left text-sm">
            <th className="sticky left-0 bg-paper px-1 font-semibold">{tr`Bench`}</th>
            {sections.map((s) => (
              <th key={s.id} className="min-w-24 px-1 font-semibold">
                {s.name}
                {s.secondLook && <span className="block font-normal text-soft">{tr`second eyes`}</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {benches.map((l) => (
            <tr key={l.bench.id}>
              <th scope="row" className="sticky left-0 bg-paper px-1 text-left font-normal">
                <Link className="flex min-h-12 items-center gap-3" to={`/bench/${l.bench.id}`}>
                  <Addr code={l.prefix} className="w-12 text-xl" />
                  <span className="hidden leading-tight whitespace-nowrap sm:block">
                    {l.people.length > 0
                      ? l.people.map((p) => (
                          <span key={p} className="block">
                            {p}
                          </span>
                        ))
                      : tr`nobody`}
                  </span>
                </Link>
              </th>
              {sections.map((s) => (
                <td key={s.id} className="h-px p-0">
                  <Cell
                    of={l.standing.sections.find((x) => x.id === s.id)}
                    to={`/bench/${l.bench.id}?section=${s.id}`}
                    stuck={l.stuckSince !== null && l.standing.at === s.id}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** A section of a bench: how it stands in a word, how much of it is done as a bar, and what was left out. */
function Cell({ of: s, to, stuck }: { of: Standing | undefined; to: string; stuck: boolean }) {
  if (!s) return null;
  return (
    <Link
      to={to}
      className={`block h-full min-h-12 rounded-lg border-2 px-2 py-1 leading-tight ${tones[s.state]}`}
    >
      <span className="flex items-baseline justify-between gap-2">
        <b className="whitespace-nowrap">
          {s.state === 'signed' || s.state === 'done' ? '✓ ' : s.state === 'sentBack' ? '↩ ' : ''}
          {stuck ? tr`stuck` : stateWords[s.state]}
        </b>
        {s.state !== 'signed' && (
          <span className="fig text-sm">
            {s.done}/{s.steps}
          </span>
        )}
      </span>
      <svg className="mt-1 h-1.5 w-full" viewBox="0 0 100 6" preserveAspectRatio="none" aria-hidden>
        <rect width="100" height="6" fill="currentColor" opacity="0.15" />
        <rect width={(100 * s.done) / Math.max(1, s.steps)} height="6" fill="currentColor" />
      </svg>
      {s.skipped.length > 0 && (
        <span className="block text-sm text-lead" title={s.skipped.join(', ')}>
          <Trans>{s.skipped.length} left out</Trans>
        </span>
      )}
      {s.state === 'waiting' && <span className="block text-sm">{since(s.since!)}</span>}
    </Link>
  );
}
