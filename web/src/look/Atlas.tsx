import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { Knowledge } from '../api/client';
import { useKnowledge } from '../api/queries';
import { Waiting } from '../ui/basics';
import { levelWords } from '../ui/words';
import { SignArt } from '../art/SignArt';
import { meets, type Sign } from './useLook';
import { chapterName, lostBy } from '../ui/lookWords';

/** Every sign known here, drawn and described; to leaf through, and to look a sign up from Trace. */
export function Atlas() {
  const knowledge = useKnowledge();
  const { sign } = useParams();
  return (
    <>
      <main className="mx-auto max-w-7xl px-3 py-4 md:px-5">
        {knowledge.data ? (
          <Pages knowledge={knowledge.data} open={sign ?? null} />
        ) : (
          <Waiting what={tr`the atlas`} />
        )}
      </main>
    </>
  );
}

function Pages({ knowledge, open }: { knowledge: Knowledge; open: string | null }) {
  const [params, setParams] = useSearchParams();
  const [search, setSearch] = useState('');
  const navigate = useNavigate();
  const signs = knowledge.signs.filter((s) => !s.measured);
  const chapters = [...new Set(signs.map((s) => s.chapter))];
  const current = signs.find((s) => s.id === open);
  const chapter = current?.chapter ?? params.get('chapter') ?? chapters[0]!;
  const shown = search ? signs.filter((s) => meets(s, search)) : signs.filter((s) => s.chapter === chapter);
  const at = current ? signs.indexOf(current) : -1;
  return (
    <div className="grid gap-5 md:grid-cols-[13rem_minmax(0,1fr)]">
      <nav aria-label={tr`Chapters`} className="space-y-2">
        <input
          className="entry"
          type="search"
          placeholder={tr`Search`}
          aria-label={tr`Search the atlas, also by the trade’s other names`}
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        <select
          className="entry md:hidden"
          aria-label={tr`Chapter`}
          value={chapter}
          onChange={(e) => void navigate(`/atlas?chapter=${e.target.value}`)}
        >
          {chapters.map((c) => (
            <option key={c} value={c}>
              {chapterName(c)}
            </option>
          ))}
        </select>
        <ul className="hidden md:block">
          {chapters.map((c) => (
            <li key={c}>
              <button
                className={`flex min-h-11 w-full items-center justify-between border-l-4 px-3 text-left ${c === chapter && !search ? 'border-dye font-bold text-dye' : 'border-line'}`}
                aria-current={c === chapter}
                onClick={() => {
                  setSearch('');
                  if (open) void navigate(`/atlas?chapter=${c}`);
                  else setParams({ chapter: c }, { replace: true });
                }}
              >
                {chapterName(c)}
                <span className="fig text-sm text-soft">{signs.filter((s) => s.chapter === c).length}</span>
              </button>
            </li>
          ))}
        </ul>
      </nav>
      {current && !search ? (
        <Page
          sign={current}
          knowledge={knowledge}
          before={signs[at - 1] ?? null}
          after={signs[at + 1] ?? null}
        />
      ) : (
        <div>
          <h1 className="mb-3 text-2xl">{search ? tr`Called “${search}”` : chapterName(chapter)}</h1>
          {shown.length === 0 && <p className="text-soft">{tr`No sign is called so. Try another word.`}</p>}
          <ul className="grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-4">
            {shown.map((s) => (
              <li key={s.id}>
                <Link
                  to={`/atlas/${s.id}`}
                  className="card block h-full p-2 hover:border-dye"
                  onClick={() => setSearch('')}
                >
                  <SignArt draw={s.draw} className="w-full" />
                  <p className="mt-1 leading-tight font-semibold">{s.name}</p>
                </Link>
              </li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}

function Page({
  sign,
  knowledge,
  before,
  after,
}: {
  sign: Sign;
  knowledge: Knowledge;
  before: Sign | null;
  after: Sign | null;
}) {
  const kinds = knowledge.kinds.filter((k) => sign.on.includes(k.id)).map((k) => k.name);
  const causes = knowledge.causes.filter((s) => s.signs.includes(sign.id));
  return (
    <article>
      <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)]">
        <div className="card p-3">
          <SignArt draw={sign.draw} className="w-full" />
        </div>
        <div className="space-y-3">
          <div>
            <p className="label">
              <Link className="underline" to={`/atlas?chapter=${sign.chapter}`}>
                {chapterName(sign.chapter)}
              </Link>
            </p>
            <h1 className="text-3xl">{sign.name}</h1>
            {sign.also.length > 0 && (
              <p className="text-soft">
                <Trans>also: {sign.also.join(', ')}</Trans>
              </p>
            )}
            {sign.term && (
              <p className="text-soft">
                <Trans>Standard: {sign.term}</Trans>
              </p>
            )}
          </div>
          <p className="text-lg">{sign.looks}</p>
          <dl className="space-y-2">
            {(
              [
                [tr`How to look`, sign.how],
                [tr`Don’t confuse with`, sign.confusedWith],
                [
                  tr`Gone after`,
                  sign.destroyedBy.length > 0 ? lostBy(sign.destroyedBy) : tr`It stays to be seen.`,
                ],
                [tr`Found on`, kinds.join(', ')],
              ] as const
            ).map(([term, words]) => (
              <div key={term}>
                <dt className="text-sm font-bold text-soft">{term}</dt>
                <dd>{words}</dd>
              </div>
            ))}
          </dl>
        </div>
      </div>
      <h2 className="mt-5 mb-2 text-lg">{tr`What each level means`}</h2>
      <ol className="grid gap-2 sm:grid-cols-3">
        {sign.levels.map((words, i) => (
          <li key={words} className="card p-3">
            <b>
              <span className="fig">{i + 1}</span> {levelWords[i + 1]}
            </b>
            <p>{words}</p>
          </li>
        ))}
      </ol>
      <h2 className="mt-5 mb-1 text-lg">{tr`Causes that leave it`}</h2>
      {causes.length > 0 ? (
        <ul className="list-disc pl-6">
          {causes.map((s) => (
            <li key={s.id}>{s.name}</li>
          ))}
        </ul>
      ) : (
        <p className="text-soft">
          {tr`No cause known here speaks of it yet; it is recorded and shown all the same.`}
        </p>
      )}
      <p className="mt-4 text-sm text-soft">
        <Trans>
          Source: {sign.provenance}. The drawing is a sketch of the kind of mark, not of its size.
        </Trans>
      </p>
      <div className="mt-4 flex justify-between gap-2">
        {before ? (
          <Link className="key flex items-center" to={`/atlas/${before.id}`}>
            ◂ {before.name}
          </Link>
        ) : (
          <span />
        )}
        {after && (
          <Link className="key flex items-center" to={`/atlas/${after.id}`}>
            {after.name} ▸
          </Link>
        )}
      </div>
    </article>
  );
}
