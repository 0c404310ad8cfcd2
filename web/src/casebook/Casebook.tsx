import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, unwrap, type ApiProblem, type EngineCase, type Schemas } from '../api/client';
import { keys, useCases, useIsLead, useMayWrite } from '../api/queries';
import { moment, Trouble, Waiting } from '../ui/basics';
import { layoutWords } from '../ui/words';

export function Casebook() {
  const [find, setFind] = useState('');
  const [withdrawn, setWithdrawn] = useState(false);
  const cases = useCases(useDeferredValue(find.trim()), withdrawn);
  const lines = cases.data?.pages.flatMap((p) => p.cases) ?? [];
  const total = cases.data?.pages[0]?.total ?? 0;
  const mayWrite = useMayWrite();
  const isLead = useIsLead();
  return (
    <>
      <main className="mx-auto max-w-6xl px-4 py-6">
        <div className="mb-5 flex flex-wrap items-end justify-between gap-3">
          <div>
            <h1 className="text-3xl">Casebook</h1>
            <p className="text-soft">Engines on the bench, the last one touched first.</p>
          </div>
          <div className="flex flex-wrap gap-2">
            {mayWrite && (
              <Link to="/new" className="key key-go flex items-center">
                New case
              </Link>
            )}
            {mayWrite && <Import />}
          </div>
        </div>
        <Trouble problem={cases.error as ApiProblem | null} />
        {cases.isPending && <Waiting what="the casebook" />}
        {(find !== '' || total > 5) && (
          <input
            className="entry mb-4 max-w-md"
            type="search"
            aria-label="Find a case"
            placeholder="Find: engine, owner, complaint"
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
        )}
        {cases.data && lines.length === 0 && (
          <p className="card p-6">
            {withdrawn
              ? 'No case is withdrawn.'
              : find.trim() === ''
                ? 'No engine yet. Start a case before the first bolt is turned.'
                : `No case has “${find.trim()}” in its title, engine, owner or complaint.`}
          </p>
        )}
        <ul className="space-y-3">
          {lines.map((line) => (
            <li key={line.id}>
              <CaseCard line={line} />
            </li>
          ))}
        </ul>
        {isLead && (
          <button
            className="key mt-4 mr-3 text-sm"
            aria-pressed={withdrawn}
            onClick={() => setWithdrawn(!withdrawn)}
          >
            {withdrawn ? 'Back to the open cases' : 'Withdrawn cases'}
          </button>
        )}
        {cases.hasNextPage && (
          <button
            className="key mt-4"
            disabled={cases.isFetchingNextPage}
            onClick={() => void cases.fetchNextPage()}
          >
            Show more: {total - lines.length} are left
          </button>
        )}
      </main>
    </>
  );
}

const count = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`;

function CaseCard({ line }: { line: Schemas['CaseLine'] }) {
  const done: [string, boolean][] = [
    [count(line.stepsDone, 'step'), line.stepsDone > 0],
    [count(line.findings, 'finding'), line.findings > 0],
    [count(line.readings, 'reading'), line.readings > 0],
    [line.concluded ? 'cause decided' : 'cause open', line.concluded],
  ];
  return (
    <Link
      to={`/cases/${line.id}/arrival`}
      className="card flex flex-wrap items-center gap-x-6 gap-y-3 p-4 hover:border-dye focus-visible:border-dye"
    >
      <Silhouette layout={line.layout} />
      <div className="min-w-0 flex-1 basis-60">
        <h2 className="text-xl">{line.title}</h2>
        <p className="text-soft">
          {[line.engineName, layoutWords(line.layout), line.owner].filter(Boolean).join(' · ')}
        </p>
        {line.complaint && <p className="mt-1 line-clamp-2">“{line.complaint}”</p>}
        {line.next && (
          <p className="mt-1">
            <span className="text-soft">Next:</span> <b>{line.next}</b>
          </p>
        )}
      </div>
      <ul className="grid w-72 shrink-0 grid-cols-2 gap-x-5 gap-y-0.5">
        {done.map(([words, some]) => (
          <li key={words} className={some ? 'font-semibold' : 'text-soft'}>
            <span aria-hidden>{some ? '● ' : '○ '}</span>
            {words}
          </li>
        ))}
      </ul>
      <p className="w-44 shrink-0 text-sm text-soft">
        Last written {moment(line.lastWritten)}
        {line.lastBy && ` by ${line.lastBy}`}
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
  const take = useMutation<EngineCase, ApiProblem, File>({
    mutationFn: async (file) => {
      const body = (await file.text()) as unknown as Schemas['CaseFile'];
      return unwrap(
        api.POST('/api/cases/import', {
          body,
          bodySerializer: (b) => b as unknown as string,
          headers: { 'Content-Type': 'application/json' },
        }),
      );
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
        accept=".json,application/json"
        className="sr-only"
        aria-label="Case file"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) take.mutate(file);
          e.target.value = '';
        }}
      />
      <button className="key" disabled={take.isPending} onClick={() => input.current?.click()}>
        {take.isPending ? 'Reading …' : 'Import a case file'}
      </button>
      {take.error && (
        <div className="mt-2 max-w-md">
          <Trouble problem={take.error} />
        </div>
      )}
    </div>
  );
}
