import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, unwrap, type ApiProblem, type Knowledge } from '../api/client';
import { keys, useKnowledge } from '../api/queries';
import { day, Field, Trouble, Waiting } from '../ui/basics';

const picks = ['sign', 'part', 'outside', 'cause', 'kind', 'person', 'from', 'to'] as const;
type Pick = (typeof picks)[number];

/** All cases of the shop, by words and by what was found, measured and concluded on them. */
export function Search() {
  const [params, setParams] = useSearchParams();
  const find = params.get('find') ?? '';
  const sought = useDeferredValue(find.trim());
  const knowledge = useKnowledge();
  const kinds = useQuery({ queryKey: keys.kinds, queryFn: () => unwrap(api.GET('/api/engine-kinds')) });
  const picked = Object.fromEntries(
    picks.flatMap((p) => (params.get(p) ? [[p, params.get(p)!]] : [])),
  ) as Partial<Record<Pick, string>>;
  const page = useQuery({
    queryKey: [...keys.cases, 'search', sought, picked],
    queryFn: () => unwrap(api.GET('/api/search', { params: { query: { find: sought, ...picked } } })),
    placeholderData: keepPreviousData,
    enabled: sought !== '' || Object.keys(picked).length > 0,
  });
  const set = (name: string, value: string) =>
    setParams(
      (p) => {
        if (value === '') p.delete(name);
        else p.set(name, value);
        return p;
      },
      { replace: true },
    );
  if (!knowledge.data) return <Waiting what={tr`the search`} />;
  const asked = sought !== '' || Object.keys(picked).length > 0;
  return (
    <main className="mx-auto max-w-6xl px-4 py-6">
      <h1 className="text-3xl">{tr`Search all cases`}</h1>
      <p className="text-soft">
        {tr`By any word of the trade: title, serial, complaint, what was found where, measured out of limit, concluded and decided.`}
      </p>
      <input
        className="entry mt-4 w-full text-xl"
        type="search"
        aria-label={tr`Words to look for`}
        placeholder={tr`wiped shell, CT4-20933, boiled over …`}
        value={find}
        autoFocus
        onChange={(e) => set('find', e.target.value)}
      />
      <details className="mt-3" open={Object.keys(picked).length > 0}>
        <summary className="min-h-11 cursor-pointer content-center font-semibold">
          {tr`Pick out by sign, part, figure, cause, kind, person or time`}
        </summary>
        <div className="mt-1 grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <List
            name="sign"
            label={tr`Sign seen`}
            picked={picked}
            set={set}
            options={named(knowledge.data.signs)}
          />
          <List
            name="part"
            label={tr`On which part`}
            picked={picked}
            set={set}
            options={named(knowledge.data.kinds)}
          />
          <List
            name="outside"
            label={tr`Figure out of limit`}
            picked={picked}
            set={set}
            options={named(knowledge.data.characteristics)}
          />
          <List
            name="cause"
            label={tr`Cause found`}
            picked={picked}
            set={set}
            options={causes(knowledge.data)}
          />
          <List
            name="kind"
            label={tr`Kind of engine`}
            picked={picked}
            set={set}
            options={(kinds.data ?? []).map((k) => [k.id, k.name] as const)}
          />
          <Field label={tr`Who wrote in it`}>
            <input
              className="entry"
              value={picked.person ?? ''}
              onChange={(e) => set('person', e.target.value.trim())}
            />
          </Field>
          <Field label={tr`Last written from`}>
            <input
              className="entry fig"
              type="date"
              value={picked.from ?? ''}
              onChange={(e) => set('from', e.target.value)}
            />
          </Field>
          <Field label={tr`to`}>
            <input
              className="entry fig"
              type="date"
              value={picked.to ?? ''}
              onChange={(e) => set('to', e.target.value)}
            />
          </Field>
        </div>
      </details>
      <Trouble problem={page.error as ApiProblem | null} />
      {asked && page.data && (
        <section className="mt-5" aria-live="polite">
          {page.data.instead.length > 0 && page.data.hits.length > 0 && (
            <p className="mb-2">
              {page.data.instead
                .map((i) => tr`No case has “${i.typed}”; looked for ${i.taken.join(', ')}`)
                .join('. ')}
              .
            </p>
          )}
          <h2 className="text-xl">
            {page.data.hits.length === 0
              ? tr`No case has that`
              : `${page.data.total}${page.data.more ? tr` and more` : ''} ${plural(page.data.total, { one: 'case', other: 'cases' })}`}
          </h2>
          {page.data.hits.length === 0 && (
            <p className="text-soft">{tr`Fewer words, or another for the same, may find more.`}</p>
          )}
          <ul className="mt-2 divide-y divide-line border-y border-line">
            {page.data.hits.map((h) => (
              <li key={h.id} className="py-3">
                <Link className="text-lg font-bold underline underline-offset-4" to={`/cases/${h.id}`}>
                  {h.title}
                </Link>{' '}
                <span className="text-soft">
                  {[h.engineName, h.serial, h.owner, tr`last written ${day(h.lastWritten)}`]
                    .filter(Boolean)
                    .join(' · ')}
                </span>
                {h.causes.length > 0 && (
                  <p>
                    <Trans>
                      Found: <b>{h.causes.join(', ')}</b>
                    </Trans>
                  </p>
                )}
                <ul>
                  {h.lines.map((l) => (
                    <li key={l} className="text-sm">
                      {marked(l)}
                    </li>
                  ))}
                </ul>
              </li>
            ))}
          </ul>
          {page.data.total > page.data.hits.length && (
            <p className="mt-2 text-soft">
              <Trans>The {page.data.hits.length} written last are shown. More words narrow it.</Trans>
            </p>
          )}
        </section>
      )}
    </main>
  );
}

const named = (of: readonly { id: string; name: string }[]) =>
  of.map((x) => [x.id, x.name] as const).sort(([, a], [, b]) => a.localeCompare(b));

const causes = (k: Knowledge) => named(k.causes);

function List({
  name,
  label,
  picked,
  set,
  options,
}: {
  name: Pick;
  label: string;
  picked: Partial<Record<Pick, string>>;
  set: (name: Pick, value: string) => void;
  options: readonly (readonly [string, string])[];
}) {
  return (
    <Field label={label}>
      <select className="entry" value={picked[name] ?? ''} onChange={(e) => set(name, e.target.value)}>
        <option value="">{tr`any`}</option>
        {options.map(([id, words]) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
    </Field>
  );
}

/** What was searched for stands between two marks. */
function marked(line: string): ReactNode[] {
  return line.split(/(⟦.*?⟧)/).map((part, i) =>
    part.startsWith('⟦') ? (
      <mark key={i} className="rounded bg-brass-tint font-semibold">
        {part.slice(1, -1)}
      </mark>
    ) : (
      part
    ),
  );
}
