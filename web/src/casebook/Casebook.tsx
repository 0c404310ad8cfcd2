import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { type ApiProblem, type EngineCase, type Schemas } from '../api/client';
import { keys, useCases, useIsLead, useMayWriteShop, type CaseWaits } from '../api/queries';
import { day, moment, since, Trouble, Waiting } from '../ui/basics';
import { layoutWords, megabytes } from '../ui/words';
import { importBag, importCase } from './importCase';
import { BeginWalk } from './Walk';
import { walkOffered } from './walk';

/** What a case may wait for, as the buttons above the list have it. */
const filters: readonly [CaseWaits, string, string][] = [
  ['open', tr`Cause open`, tr`Nobody decided on the cause`],
  ['decided', tr`Cause decided`, tr`Somebody decided on the cause`],
  ['sign', tr`To sign`, tr`A hold point is done and nobody signed it`],
  ['away', tr`Parts away`, tr`Parts are at a machine shop, a supplier or the customer`],
  ['coming', tr`On order`, tr`Something was asked for or ordered and is still to come`],
  ['overdue', tr`Overdue`, tr`A day that was promised is past`],
  ['behind', tr`Behind its promise`, tr`It likely runs later than its owner was told`],
];

export function Casebook() {
  const [find, setFind] = useState('');
  const [withdrawn, setWithdrawn] = useState(false);
  const [waits, setWaits] = useState<CaseWaits | ''>('');
  const cases = useCases(useDeferredValue(find.trim()), withdrawn, waits);
  const lines = cases.data?.pages.flatMap((p) => p.cases) ?? [];
  const first = cases.data?.pages[0];
  const total = first?.total ?? 0;
  const mayWrite = useMayWriteShop();
  const isLead = useIsLead();
  return (
    <main className="mx-auto max-w-6xl px-4 py-6">
      <div className="mb-4 flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-3xl">{tr`Casebook`}</h1>
          <p className="text-soft">{tr`Engines on the bench, the last one touched first.`}</p>
        </div>
        <div className="flex flex-wrap gap-2">
          {mayWrite && (
            <Link to="/new" className="key key-go flex items-center">
              {tr`New case`}
            </Link>
          )}
          {mayWrite && <Import />}
          {mayWrite && walkOffered() && <BeginWalk />}
        </div>
      </div>
      <div className="mb-4 flex flex-wrap items-center gap-2">
        <input
          className="entry max-w-md least-60 flex-1"
          type="search"
          aria-label={tr`Find a case`}
          placeholder={tr`Find: engine, owner, complaint, what was found`}
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
        <Link
          className="key"
          to={find.trim() ? `/search?find=${encodeURIComponent(find.trim())}` : '/search'}
        >
          {tr`Search in full`}
        </Link>
        <div role="group" aria-label={tr`What they wait for`} className="flex flex-wrap gap-2">
          {filters
            .filter(([id]) => id === waits || (first?.waiting[id] ?? 0) > 0)
            .map(([id, name, says]) => (
              <button
                key={id}
                className={`key px-3 text-sm ${id === 'overdue' || id === 'behind' ? 'text-lead' : ''}`}
                aria-pressed={waits === id}
                title={says}
                onClick={() => setWaits(waits === id ? '' : id)}
              >
                {name} <b className="fig">{first?.waiting[id] ?? 0}</b>
              </button>
            ))}
        </div>
      </div>
      <Trouble problem={cases.error as ApiProblem | null} />
      {cases.isPending && <Waiting what={tr`the casebook`} />}
      {first?.near && lines.length > 0 && (
        <p className="mb-3" role="status">
          <Trans>Nothing has “{find.trim()}” as it is written. These have words like it.</Trans>
        </p>
      )}
      {cases.data && lines.length === 0 && (
        <div className="card space-y-2 p-6">
          <p>
            {withdrawn
              ? tr`No case is withdrawn.`
              : find.trim() !== ''
                ? tr`No case has “${find.trim()}” in its title, engine, owner or complaint, and on none was it found.`
                : waits !== ''
                  ? tr`No case waits for that.`
                  : tr`No engine yet. Start a case before the first bolt is turned.`}
          </p>
          {!withdrawn && find.trim() === '' && waits === '' && (
            <ol className="list-decimal space-y-1 pl-6">
              <li>
                {tr`Say what is on the stand, or start from an engine of the same family; the section shows at once.`}
              </li>
              <li>
                {tr`Arrival: what the owner says, and the tests while it can still be turned. Then Strip, a step at a time.`}
              </li>
              <li>{tr`Tag and photograph what comes off, look at it before it is washed, measure what is due.`}</li>
              <li>{tr`Trace says what may have started it, why, and what to look at next.`}</li>
              {mayWrite && !walkOffered() && (
                <li>
                  <BeginWalk />
                </li>
              )}
              <li>
                <Trans>
                  To try it without an engine:{' '}
                  <Link className="underline decoration-line underline-offset-4" to="/practice">
                    Practice draws one
                  </Link>{' '}
                  and tells afterwards what it had.
                </Trans>
              </li>
            </ol>
          )}
        </div>
      )}
      {lines.length > 0 && (
        <div className={`${columns} hidden px-4 pb-1 text-sm text-soft lg:grid`} aria-hidden>
          <span className="col-span-2">{tr`Engine`}</span>
          <span>{tr`Next at the bench`}</span>
          <span>{tr`Waits for others`}</span>
          <span>{tr`So far`}</span>
          <span>{tr`Last written`}</span>
        </div>
      )}
      <ul className="space-y-2">
        {lines.map((line) => (
          <li key={line.id}>
            <CaseRow line={line} />
          </li>
        ))}
      </ul>
      {isLead && (
        <button
          className="key mt-4 mr-3 text-sm"
          aria-pressed={withdrawn}
          onClick={() => setWithdrawn(!withdrawn)}
        >
          {withdrawn ? tr`Back to the open cases` : tr`Withdrawn cases`}
        </button>
      )}
      {cases.hasNextPage && (
        <button
          className="key mt-4"
          disabled={cases.isFetchingNextPage}
          onClick={() => void cases.fetchNextPage()}
        >
          <Trans>Show more: {total - lines.length} are left</Trans>
        </button>
      )}
    </main>
  );
}

const columns = 'gap-x-5 gap-y-1 lg:grid-cols-[7rem_minmax(0,5fr)_minmax(0,3fr)_minmax(0,3fr)_9rem_6.5rem]';

/** What it waits for besides the bench, the most pressing first. */
export function othersOf(line: Schemas['CaseLine'], today: string): { words: string; late?: boolean }[] {
  const late = line.due !== null && line.due < today;
  const by = line.with.length > 0 ? tr` with ${line.with.join(', ')}` : '';
  const outside = [
    line.away > 0 ? plural(line.away, { one: '# part away', other: '# parts away' }) : '',
    line.coming > 0 ? plural(line.coming, { one: '# line on order', other: '# lines on order' }) : '',
  ].filter(Boolean);
  return [
    ...(outside.length > 0
      ? [
          {
            words: `${outside.join(', ')}${by}${!line.due ? '' : late ? tr`, was due ${day(line.due)}` : tr`, due ${day(line.due)}`}`,
            late,
          },
        ]
      : []),
    ...(line.promised
      ? [
          {
            words: tr`promised ${day(line.promised)}${line.likely ? tr`, likely ${day(line.likely)}` : ''}`,
            late: line.promised < today || (line.likely !== null && line.likely > line.promised),
          },
        ]
      : []),
    ...(line.toSign > 0
      ? [{ words: plural(line.toSign, { one: '# hold point to sign', other: '# hold points to sign' }) }]
      : []),
  ];
}

function CaseRow({ line }: { line: Schemas['CaseLine'] }) {
  const others = othersOf(line, new Date().toISOString().slice(0, 10));
  return (
    <Link
      to={`/cases/${line.id}/arrival`}
      className={`card grid grid-cols-1 items-center p-4 hover:border-dye focus-visible:border-dye lg:grid ${columns}`}
    >
      <Silhouette layout={line.layout} />
      <div className="min-w-0">
        <h2 className="text-xl leading-tight">{line.title}</h2>
        <p className="text-soft">
          {[line.engineName, layoutWords(line.layout), line.owner, line.readIn && tr`read in from a file`]
            .filter(Boolean)
            .join(' · ')}
        </p>
        {line.complaint && <p className="mt-1 line-clamp-2">“{line.complaint}”</p>}
      </div>
      <p>
        {line.next && (
          <>
            <span className="text-soft lg:sr-only">{tr`Next at the bench:`} </span>
            <b>{line.next}</b>
          </>
        )}
      </p>
      <div>
        {others.length > 0 && <span className="text-soft lg:sr-only">{tr`Waits for others:`} </span>}
        {others.map((o) => (
          <p key={o.words} className={o.late ? 'font-semibold text-lead' : ''}>
            {o.words}
          </p>
        ))}
      </div>
      <p className="lg:text-sm">
        <b className={line.concluded ? 'text-oil' : ''}>
          {line.concluded ? tr`Cause decided` : tr`Cause open`}
        </b>
        <span className="text-soft lg:block">
          <span className="lg:hidden">; </span>
          {[
            plural(line.stepsDone, { one: '# step', other: '# steps' }),
            plural(line.findings, { one: '# finding', other: '# findings' }),
            plural(line.readings, { one: '# reading', other: '# readings' }),
          ].join(', ')}
        </span>
      </p>
      <p className="text-sm text-soft" title={moment(line.lastWritten)}>
        <span className="lg:sr-only">{tr`Last written`} </span>
        {since(line.lastWritten)}
        {line.lastBy && tr` by ${line.lastBy}`}
      </p>
    </Link>
  );
}

/** The engine seen from its free end and from the side, in a few strokes. */
function Silhouette({ layout }: { layout: Schemas['EngineLayout'] }) {
  const banks = layout.arrangement === 'vee' || layout.arrangement === 'flat' ? 2 : 1;
  const rows = layout.cylinders / banks;
  const bore = Math.min(15, 92 / rows - 3);
  return (
    <svg width="112" height="56" viewBox="0 0 112 56" aria-hidden className="shrink-0">
      {Array.from({ length: banks }, (_, b) =>
        Array.from({ length: rows }, (_, i) => {
          const x = 56 - (rows * (bore + 3)) / 2 + i * (bore + 3);
          const y = b === 0 ? (banks === 2 ? 4 : 8) : 36;
          return (
            <rect
              key={`${b}${i}`}
              x={x}
              y={y}
              width={bore}
              height={banks === 2 ? 16 : 24}
              rx={2.5}
              fill="var(--color-dye-tint)"
              stroke="var(--color-dye)"
              strokeWidth={1.6}
            />
          );
        }),
      )}
      <path
        d={`M${50 - (rows * (bore + 3)) / 2} ${banks === 2 ? 28 : 40}H${62 + (rows * (bore + 3)) / 2}`}
        stroke="var(--color-ink)"
        strokeWidth={5}
        strokeLinecap="round"
      />
    </svg>
  );
}

function Import() {
  const input = useRef<HTMLInputElement>(null);
  const client = useQueryClient();
  const navigate = useNavigate();
  const stop = useRef(new AbortController());
  const take = useMutation<EngineCase, ApiProblem, File>({
    mutationFn: async (file) => {
      stop.current = new AbortController();
      const { signal } = stop.current;
      return /\.zip$/i.test(file.name) || file.type === 'application/zip'
        ? importBag(file, signal)
        : importCase(await file.text(), { signal });
    },
    onSuccess: async (made) => {
      await client.invalidateQueries({ queryKey: keys.cases });
      await navigate(`/cases/${made.id}/arrival`);
    },
  });
  return (
    <div>
      <input
        ref={input}
        type="file"
        accept=".json,.zip,application/json,application/zip"
        className="sr-only"
        aria-label={tr`Case file or sealed bag`}
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) take.mutate(file);
          e.target.value = '';
        }}
      />
      <div className="flex items-center gap-2" aria-live="polite">
        <button className="key" disabled={take.isPending} onClick={() => input.current?.click()}>
          {take.isPending
            ? tr`Reading ${megabytes(take.variables.size)} MB …`
            : tr`Import a case file or a sealed bag`}
        </button>
        {take.isPending && (
          <button
            className="key"
            onClick={() => {
              stop.current.abort();
              take.reset();
            }}
          >
            {tr`Stop`}
          </button>
        )}
      </div>
      {take.error && (
        <div className="mt-2 max-w-md">
          <Trouble problem={take.error} />
        </div>
      )}
    </div>
  );
}
