import { t as tr } from '@lingui/core/macro';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { moment, Trouble, Waiting } from '../ui/basics';
import { changeWords, writerOf } from '../ui/words';

const page = 100;

/** The record of changes, whole: who, when, what it was before. */
export function Changes() {
  const [params, setParams] = useSearchParams();
  const [by, kind, of] = ['by', 'kind', 'case'].map((p) => params.get(p) ?? '') as [string, string, string];
  const list = useInfiniteQuery({
    queryKey: [...keys.changes, by, kind, of],
    queryFn: ({ pageParam }) =>
      unwrap(
        api.GET('/api/changes', {
          params: {
            query: {
              take: page,
              ...(by ? { by } : {}),
              ...(kind ? { kind } : {}),
              ...(of ? { case: of } : {}),
              ...(pageParam ? { after: pageParam } : {}),
            },
          },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (last) => last.next ?? undefined,
  });
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    setParams(next, { replace: true });
  };
  const lines = list.data?.pages.flatMap((p) => p.changes) ?? [];
  return (
    <main className="mx-auto max-w-4xl px-4 py-6">
      <h1 className="text-3xl">{tr`Record of changes`}</h1>
      <p className="mt-1 max-w-prose text-soft">
        {tr`Every change of every record, the latest first. A line here is never changed and never taken away.`}
      </p>
      <div className="mt-4 flex flex-wrap gap-3">
        <label className="block">
          <span className="label">{tr`By`}</span>
          <input className="entry w-48" value={by} onChange={(e) => set('by', e.target.value)} />
        </label>
        <label className="block">
          <span className="label">{tr`What`}</span>
          <select className="entry w-56" value={kind} onChange={(e) => set('kind', e.target.value)}>
            <option value="">{tr`Everything`}</option>
            {Object.entries(changeWords).map(([id, word]) => (
              <option key={id} value={id}>
                {word}
              </option>
            ))}
          </select>
        </label>
        {of && (
          <p className="flex items-end gap-2">
            <button className="key" onClick={() => set('case', '')}>
              {tr`Of one case only ✕`}
            </button>
          </p>
        )}
      </div>
      <Trouble problem={list.error as ApiProblem | null} />
      {list.isPending && <Waiting what={tr`the record`} />}
      <ol className="mt-4 divide-y divide-line border-y border-line">
        {lines.map((c) => (
          <Line key={c.id} change={c} />
        ))}
      </ol>
      {list.data && lines.length === 0 && <p className="py-4">{tr`No change fits that.`}</p>}
      {list.hasNextPage && (
        <button
          className="key mt-4"
          disabled={list.isFetchingNextPage}
          onClick={() => void list.fetchNextPage()}
        >
          {tr`Show more`}
        </button>
      )}
    </main>
  );
}

const nobody = '00000000-0000-0000-0000-000000000000';

function Line({ change }: { change: Schemas['Change'] }) {
  const [open, setOpen] = useState(false);
  const before = change.before ? (JSON.parse(change.before) as Record<string, unknown>) : null;
  return (
    <li className="py-2">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <span className="fig text-sm text-soft">{moment(change.at)}</span>
        <b>{changeWords[change.kind] ?? change.kind}</b>
        <span className="grow basis-36">
          {before
            ? tr`changed by ${writerOf(change) || tr`the program`}`
            : tr`written by ${writerOf(change) || tr`the program`}`}
        </span>
        {change.caseId !== nobody && (
          <Link
            className="flex min-h-11 items-center text-sm underline"
            to={`/cases/${change.caseId}/dossier`}
          >
            {tr`its case`}
          </Link>
        )}
        {before && (
          <button className="key text-sm" aria-expanded={open} onClick={() => setOpen(!open)}>
            {tr`What it was before`}
          </button>
        )}
      </div>
      {open && before && (
        <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 rounded-lg bg-well p-3 text-sm">
          {Object.entries(before)
            .filter(([, v]) => v !== null && v !== '')
            .map(([name, value]) => (
              <div key={name} className="contents">
                <dt className="text-soft">{name}</dt>
                <dd className="fig break-words">
                  {typeof value === 'string' ? value : JSON.stringify(value)}
                </dd>
              </div>
            ))}
        </dl>
      )}
    </li>
  );
}
