import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, unwrap, type ApiProblem, type Knowledge, type Schemas } from '../api/client';
import { keys, useKnowledge, useMayWrite } from '../api/queries';
import { moment, Trouble, Waiting } from '../ui/basics';
import { Learned } from './Learned';
import { OfThisShop } from './OfThisShop';
import { CauseForm } from './CauseForm';
import { anchorWords, blankCause, oftenWords, relationWords, wordBefore, withWord } from './causeWords';
import { FileKey } from '../ui/FileKey';

type Cause = Schemas['KnownCause'];
type View = Schemas['CausesView'];

export const useCauses = () =>
  useQuery({ queryKey: keys.causes, queryFn: () => unwrap(api.GET('/api/causes')) });

/** Every cause known here, as it is reasoned with: to review, to correct for this shop, and to add the shop's own. */
export function Causes() {
  const knowledge = useKnowledge();
  const causes = useCauses();
  const { cause } = useParams();
  return (
    <>
      <main className="mx-auto max-w-7xl px-3 py-4 md:px-5">
        {knowledge.data && causes.data ? (
          <Pages key={cause ?? ''} knowledge={knowledge.data} view={causes.data} open={cause ?? null} />
        ) : (
          <Waiting what={tr`the causes`} />
        )}
      </main>
    </>
  );
}

function Pages({ knowledge, view, open }: { knowledge: Knowledge; view: View; open: string | null }) {
  const [search, setSearch] = useState('');
  const [editing, setEditing] = useState<Cause | null>(open === 'new' ? blankCause() : null);
  const mayWrite = useMayWrite();
  const navigate = useNavigate();
  const current = view.causes.find((s) => s.id === open);
  const wanted = search.trim().toLowerCase();
  const shown = view.causes.filter(
    (s) =>
      wanted === '' ||
      s.name.toLowerCase().includes(wanted) ||
      s.chain.some((l) => l.says.toLowerCase().includes(wanted)),
  );
  const families = [...new Set(shown.map((s) => s.family))];
  if (editing)
    return (
      <CauseForm
        key={editing.id}
        cause={editing}
        view={view}
        knowledge={knowledge}
        onDone={(id) => {
          setEditing(null);
          void navigate(id ? `/causes/${id}` : current ? `/causes/${current.id}` : '/causes');
        }}
      />
    );
  return (
    <div className="space-y-4">
      {view.problems.length > 0 && (
        <div role="alert" className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
          <p className="font-bold">{tr`Not used, the last good knowledge stays in use`}</p>
          {view.problems.slice(0, 6).map((p) => (
            <p key={p.field + p.text}>
              <span className="fig">{p.field}</span>: {p.text} {p.remedy}
            </p>
          ))}
        </div>
      )}
      {current ? (
        <Page cause={current} view={view} knowledge={knowledge} onEdit={setEditing} />
      ) : (
        <>
          <div className="flex flex-wrap items-center gap-3">
            <input
              className="entry max-w-72"
              type="search"
              placeholder={tr`Search`}
              aria-label={tr`Search the causes`}
              value={search}
              onChange={(e) => setSearch(e.target.value)}
            />
            <p className="flex-1 text-soft">
              <Trans>{view.causes.length} causes,</Trans> {view.own.length === 0 ? tr`none` : view.own.length}{' '}
              {tr`of them written or changed by this shop.`}
            </p>
            {view.own.length > 0 && (
              <FileKey href="/api/causes/own.yaml" name="own-causes.yaml">
                {tr`The shop’s as a file`}
              </FileKey>
            )}
            {mayWrite && (
              <button className="key key-go" onClick={() => void navigate('/causes/new')}>
                {tr`Write a new cause`}
              </button>
            )}
          </div>
          {wanted === '' && (
            <Learned
              onUse={(offer) => {
                const cause = view.causes.find((s) => s.id === offer.cause);
                if (cause) setEditing(withWord(cause, offer));
              }}
            />
          )}
          {shown.length === 0 && <p className="text-soft">{tr`No cause is called so. Try another word.`}</p>}
          {families.map((f) => (
            <section key={f}>
              <h2 className="text-xl first-letter:uppercase">{f}</h2>
              <ul className="mt-1 grid gap-x-5 sm:grid-cols-2 lg:grid-cols-3">
                {shown
                  .filter((s) => s.family === f)
                  .map((s) => (
                    <li key={s.id} className="border-b border-line">
                      <Link
                        to={`/causes/${s.id}`}
                        className="flex min-h-11 items-center justify-between gap-3 py-1 hover:text-dye"
                      >
                        <span className="leading-tight font-semibold">
                          {s.name}
                          {s.shop && <OfThisShop />}
                        </span>
                        <span className="shrink-0 text-sm text-soft">
                          <Trans>{oftenWords[s.base]} met</Trans>
                        </span>
                      </Link>
                    </li>
                  ))}
              </ul>
            </section>
          ))}
        </>
      )}
    </div>
  );
}

function Page({
  cause,
  view,
  knowledge,
  onEdit,
}: {
  cause: Cause;
  view: View;
  knowledge: Knowledge;
  onEdit: (s: Cause) => void;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const mayWrite = useMayWrite();
  const own = view.own.find((o) => o.causeId === cause.id);
  const shipped = view.replaced.find((s) => s.id === cause.id);
  const back = useMutation<unknown, ApiProblem, void>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/causes/{id}/withdraw', {
          params: { path: { id: own!.id } },
          body: { why: tr`taken back`, version: own!.version },
        }),
      ),
    onSuccess: async () => {
      if (!shipped) void navigate('/causes');
      await client.invalidateQueries();
    },
  });
  const sign = (id: string) => knowledge.signs.find((s) => s.id === id);
  const kind = (id: string) => knowledge.kinds.find((k) => k.id === id)?.name ?? id;
  const name = (id: string) => view.causes.find((s) => s.id === id)?.name ?? id;
  return (
    <article className="grid gap-5 lg:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)]">
      <div>
        <p className="label">
          <Link className="underline" to="/causes">
            {tr`All causes`}
          </Link>{' '}
          · {cause.family}
        </p>
        <h1 className="text-3xl">
          {cause.name}
          {cause.shop && <OfThisShop />}
        </h1>
        <p className="text-soft">
          <Trans>
            Begins at {anchorWords[cause.anchor]}, sits at the {kind(cause.seat)}; {oftenWords[cause.base]}{' '}
            met among engines on a bench
          </Trans>
          {shipped && shipped.base !== cause.base && <Before word={shipped.base} />}.
        </p>
        <h2 className="mt-4 text-xl">{tr`How it goes, and what it leaves`}</h2>
        <ol className="mt-2 space-y-3">
          {cause.chain.map((link, i) => (
            <li key={i} className="flex gap-3">
              <span className="flex size-8 shrink-0 items-center justify-center rounded-full bg-dye font-bold text-paper">
                {i + 1}
              </span>
              <div className="min-w-0 flex-1">
                <p className="text-lg leading-snug font-semibold">{link.says}</p>
                <ul className="mt-1">
                  {link.predicts.map((p, k) => {
                    const before = wordBefore(shipped, i, p);
                    const s = sign(p.sign);
                    return (
                      <li
                        key={k}
                        className="grid grid-cols-[7rem_minmax(0,1fr)] gap-x-3 border-b border-line py-1 leading-tight"
                      >
                        <b>
                          {oftenWords[p.often]}
                          {before && <Before word={before} />}
                        </b>
                        <span>
                          {s && !s.measured ? (
                            <Link
                              className="underline decoration-line underline-offset-4"
                              to={`/atlas/${s.id}`}
                            >
                              {s.name}
                            </Link>
                          ) : (
                            (s?.name ?? p.sign)
                          )}{' '}
                          <span className="text-soft">
                            <Trans>on {p.on.map(kind).join(', ')}</Trans>
                            {p.on.join() !== 'engine' && p.at !== 'same' && `, ${relationWords[p.at]}`}
                          </span>
                        </span>
                      </li>
                    );
                  })}
                </ul>
              </div>
            </li>
          ))}
        </ol>
      </div>
      <aside className="space-y-4">
        {own && (
          <section className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-2">
            <p className="font-bold">
              {shipped ? tr`Changed by this shop` : tr`Written by this shop`}
              <Trans>, version {own.version}</Trans>
            </p>
            <p>{own.why}</p>
            <p className="text-sm text-soft">
              {own.by}, {moment(own.at)}
            </p>
            {own.version > 1 && <Earlier id={own.id} />}
          </section>
        )}
        {mayWrite && (
          <div className="flex flex-wrap gap-2">
            <button className="key key-go" onClick={() => onEdit(cause)}>
              {own ? tr`Change it` : tr`Change it for this shop`}
            </button>
            {own && (
              <button
                className="key"
                disabled={back.isPending}
                onClick={() => !back.isPending && back.mutate()}
              >
                {shipped ? tr`Back to how it came` : tr`Take it back`}
              </button>
            )}
          </div>
        )}
        <Trouble problem={back.error} />
        <dl className="card space-y-3 p-4">
          {(
            [
              [tr`How to prove it`, cause.prove],
              [tr`So that it does not return`, cause.prevent],
              [tr`Caution`, cause.caution],
              [tr`Where it comes from`, cause.provenance],
            ] as const
          ).map(
            ([term, text]) =>
              text && (
                <div key={term}>
                  <dt className="text-sm font-bold text-soft">{term}</dt>
                  <dd>{text}</dd>
                </div>
              ),
          )}
          {cause.confusedWith.length > 0 && (
            <div>
              <dt className="text-sm font-bold text-soft">{tr`Don’t confuse with`}</dt>
              <dd>
                {cause.confusedWith.map((c) => (
                  <Link
                    key={c}
                    className="mr-3 underline decoration-line underline-offset-4"
                    to={`/causes/${c}`}
                  >
                    {name(c)}
                  </Link>
                ))}
              </dd>
            </div>
          )}
          {cause.risks.length > 0 && (
            <div>
              <dt className="text-sm font-bold text-soft">{tr`Likelier after`}</dt>
              {cause.risks.map((r) => (
                <dd key={r.risk}>
                  {knowledge.risks.find((x) => x.id === r.risk)?.name ?? r.risk}
                  <Trans>: odds times {r.times}</Trans>
                </dd>
              ))}
            </div>
          )}
        </dl>
      </aside>
    </article>
  );
}

/** Versions of the shop's before the present one: who, when, why, and how often the cause was said to be met. */
function Earlier({ id }: { id: string }) {
  const changes = useQuery({
    queryKey: [...keys.causes, id, 'changes'],
    queryFn: () => unwrap(api.GET('/api/causes/{id}/changes', { params: { path: { id } } })),
  });
  const versions = (changes.data ?? [])
    .filter((c) => c.before !== null)
    .map((c) => JSON.parse(c.before!) as Schemas['ShopCause']);
  return (
    <details className="mt-1">
      <summary className="min-h-8 cursor-pointer">{tr`Earlier versions`}</summary>
      <ul>
        {versions.map((v) => (
          <li key={v.version} className="border-t border-line py-1">
            <b>{v.version}</b> {v.why}{' '}
            <span className="text-sm text-soft">
              <Trans>
                {v.by}, {moment(v.at)}; {oftenWords[v.cause.base]} met, {v.cause.chain.length} steps,{' '}
                {v.cause.chain.reduce((n, l) => n + l.predicts.length, 0)} signs
              </Trans>
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

function Before({ word }: { word: Schemas['Frequency'] }) {
  return (
    <span className="font-normal text-brass">
      {' '}
      <Trans>(came as {oftenWords[word]})</Trans>
    </span>
  );
}
