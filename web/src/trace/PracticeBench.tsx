import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import type { UseMutationResult } from '@tanstack/react-query';
import { useMemo, useState, type ReactNode } from 'react';
import type { ApiProblem, Schemas } from '../api/client';
import { useKnowledge } from '../api/queries';
import { SignArt } from '../art/SignArt';
import { put, type Sight } from '../section/lenses';
import { LongSection } from '../section/LongSection';
import { Addr, Field, percent, Trouble, Waiting } from '../ui/basics';
import { NumberField } from '../ui/NumberField';
import { fixed } from '../ui/region';

type Look = Schemas['PracticeLook'];

/** A cause that is committed to, and how sure of it. */
export interface Guess {
  cause: string;
  percent: number;
}

export const guessed = (guesses: readonly Guess[]) =>
  guesses.map((g) => ({ cause: g.cause, probability: g.percent / 100 }));

const tones: Sight['tone'][] = ['calm', 'light', 'mid', 'heavy'];

/** An engine that failed, to be looked at part by part; then one commits to a cause. Who is told when is the caller’s. */
export function PracticeBench({
  title,
  view,
  looks,
  look,
  guesses,
  setGuesses,
  press,
  commit,
  told,
  closed = false,
  children,
}: {
  title: string;
  view: Schemas['PracticeView'];
  looks: readonly Look[];
  look: UseMutationResult<Look, ApiProblem, { sign: string; place: string }>;
  guesses: readonly Guess[];
  setGuesses: (guesses: Guess[]) => void;
  press: string;
  commit: UseMutationResult<unknown, ApiProblem, void>;
  told: Schemas['PracticeScore'] | null;
  /** It is handed in: nothing more is looked at. */
  closed?: boolean;
  children?: ReactNode;
}) {
  const knowledge = useKnowledge();
  const [part, setPart] = useState<string | null>(null);
  const [search, setSearch] = useState('');
  const seen = useMemo(() => {
    const map = new Map<string, Sight>();
    // Once told, the section shows what the true cause left, and what of it was looked at.
    for (const t of told?.debrief.flatMap((l) => l.left) ?? [])
      if (t.there)
        put(
          map,
          t.place,
          t.looked
            ? { tone: 'dye', mark: '✓', words: tr`${t.name}: left, and looked at` }
            : { tone: 'dyeDots', mark: '', words: tr`${t.name}: left, not looked at` },
        );
    if (told) return map;
    for (const l of [...view.engine.told, ...looks]) {
      const before = map.get(l.place);
      const level = Math.max(l.level, before ? tones.indexOf(before.tone) : 0);
      map.set(l.place, {
        tone: tones[level]!,
        mark: level === 0 ? '·' : String(level),
        words: level === 0 ? tr`looked at, clean` : tr`something found`,
      });
    }
    return map;
  }, [view, looks, told]);
  if (!knowledge.data) return <Waiting what={tr`the engine`} />;
  const { engine, section, causes } = view;
  const minutes = looks.reduce((sum, l) => sum + l.minutes, 0);
  const kind = section.cells.find((c) => c.address === part);
  const done = new Set(looks.map((l) => `${l.sign}@${l.place}`));
  const offered = knowledge.data.signs.filter(
    (s) =>
      kind !== undefined &&
      s.on.includes(kind.kind) &&
      s.chapter !== 'told-and-heard' &&
      s.chapter !== 'patterns' &&
      !done.has(`${s.id}@${part}`) &&
      (search === '' || [s.name, ...s.also].some((n) => n.toLowerCase().includes(search.toLowerCase()))),
  );
  const sum = guesses.reduce((t, g) => t + g.percent, 0);
  const art = (id: string) => knowledge.data.signs.find((s) => s.id === id)?.draw || null;
  // What stands over the crank is pressed in the drawing.
  const listed = section.cells.filter((c) => !c.drawn || (c.scope === 'engine' && c.column === null));
  return (
    <main className="mx-auto max-w-7xl space-y-5 px-4 py-4">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h1 className="text-2xl">{title}</h1>
        <p className="text-xl">
          <Trans>
            <b className="fig">{minutes}</b> minutes of looking
          </Trans>
        </p>
      </div>
      {engine.told.length > 0 && (
        <p className="text-lg">
          <b>{tr`The owner says:`}</b>{' '}
          {engine.told.map((t) => `${t.name.toLowerCase()} (${t.words})`).join('; ')}.
        </p>
      )}
      <div className="grid grid-cols-1 gap-5 lg:grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)]">
        <div className="space-y-4">
          <div className="card p-2">
            <p className="px-2 pt-1 font-semibold">
              {told
                ? tr`What it left: solid where you looked, dotted where you did not.`
                : kind
                  ? tr`Choose below what to look for on ${kind.address}, or press another part.`
                  : tr`Press a part to look at it.`}
            </p>
            <LongSection section={section} sights={seen} selected={part} onPick={setPart} bare />
          </div>
          <Field label={tr`Or a part that is not in the drawing`}>
            <select className="entry" value={part ?? ''} onChange={(e) => setPart(e.target.value || null)}>
              <option value="">{tr`choose`}</option>
              {listed.map((c) => (
                <option key={c.address} value={c.address}>
                  {c.address} · {c.words}
                </option>
              ))}
            </select>
          </Field>
          {kind ? (
            <section>
              <h2 className="text-xl">
                <Addr code={kind.address} /> {kind.words}
              </h2>
              <Field label={tr`Look for`}>
                <input className="entry" value={search} onChange={(e) => setSearch(e.target.value)} />
              </Field>
              <div className="mt-2 flex flex-wrap gap-1.5">
                {offered.map((s) => (
                  <button
                    key={s.id}
                    className="key text-left"
                    disabled={look.isPending || closed}
                    title={s.how}
                    onClick={() => look.mutate({ sign: s.id, place: kind.address })}
                  >
                    {s.name}{' '}
                    <span className="fig text-sm text-soft">
                      <Trans>{s.minutes} min</Trans>
                    </span>
                  </button>
                ))}
              </div>
              <Trouble problem={look.error} />
            </section>
          ) : null}
        </div>
        <div className="space-y-4">
          <section className="card p-4">
            <h2 className="text-xl">{tr`What you found`}</h2>
            {looks.length === 0 && <p className="text-soft">{tr`Nothing looked at yet.`}</p>}
            <ul className="divide-y divide-line">
              {looks.toReversed().map((l) => (
                <li key={l.sign + l.place} className="flex items-center gap-2 py-1">
                  <Addr code={l.place} className="w-14" />
                  {l.level > 0 && art(l.sign) && <SignArt draw={art(l.sign)!} className="w-20 shrink-0" />}
                  <span className="flex-1 leading-tight">{l.name}</span>
                  <span className={l.level > 0 ? 'font-bold text-dye' : 'text-soft'}>
                    {l.level > 0 ? `✓ ${l.words}` : tr`not there`}
                  </span>
                </li>
              ))}
            </ul>
          </section>
          <section className="card space-y-3 p-4">
            <h2 className="text-xl">{tr`What it was`}</h2>
            {guesses.map((g, i) => (
              <div key={i} className="flex flex-wrap items-end gap-2">
                <select
                  className="entry basis-full"
                  aria-label={tr`Cause ${i + 1}`}
                  value={g.cause}
                  onChange={(e) =>
                    setGuesses(guesses.map((x, k) => (k === i ? { ...x, cause: e.target.value } : x)))
                  }
                >
                  {causes.map((c) => (
                    <option key={c.id} value={c.id}>
                      {c.name}
                    </option>
                  ))}
                </select>
                <NumberField
                  label={tr`How sure of cause ${i + 1}, per cent`}
                  required
                  whole
                  min={0}
                  max={100}
                  value={g.percent}
                  onChange={(n) =>
                    n !== null && setGuesses(guesses.map((x, k) => (k === i ? { ...x, percent: n } : x)))
                  }
                />
                <button
                  className="key"
                  aria-label={tr`Drop cause ${i + 1}`}
                  onClick={() => setGuesses(guesses.filter((_, k) => k !== i))}
                >
                  ✕
                </button>
              </div>
            ))}
            <button
              className="key"
              onClick={() =>
                setGuesses([...guesses, { cause: causes[0]!.id, percent: guesses.length ? 20 : 60 }])
              }
            >
              {tr`Name a cause`}
            </button>
            {sum > 100 && (
              <p className="text-lead">
                <Trans>Together that is {sum} %; it must stay within 100.</Trans>
              </p>
            )}
            <Trouble problem={commit.error} />
            <button
              className="key key-go w-full"
              disabled={guesses.length === 0 || sum > 100 || commit.isPending || closed}
              onClick={() => commit.mutate()}
            >
              {press}
            </button>
          </section>
          {told && <Told score={told} />}
          {children}
        </div>
      </div>
    </main>
  );
}

function Told({ score }: { score: Schemas['PracticeScore'] }) {
  return (
    <section className="card space-y-3 border-2 border-dye p-4" aria-label={tr`The truth`}>
      <h2 className="text-2xl">
        {score.right ? tr`Right.` : tr`Not so.`} {tr`It was`}
      </h2>
      <ul className="text-lg">
        {score.causes.map((c) => (
          <li key={c.cause + c.place}>
            <b>{c.name}</b> <Addr code={c.place} />
          </li>
        ))}
      </ul>
      <p>
        <Trans>
          Your score is <b className="fig">{fixed(score.logScore, 1)}</b> bits in{' '}
          <b className="fig">{score.minutes}</b> minutes; the computation makes{' '}
          <b className="fig">{fixed(score.computedScore, 1)}</b> of the same looks
        </Trans>
        {score.computed.ranking[0] &&
          ` (${score.computed.ranking[0].name}, ${percent(score.computed.ranking[0].probability)})`}
        {tr`. Nil is what anyone knows who has not looked; sure and wrong goes below it.`}
      </p>
      <Computed answer={score.computed} />
      <h3 className="font-bold">{tr`How it went`}</h3>
      <ol className="space-y-2">
        {score.debrief.map((l) => (
          <li key={l.says}>
            <p className="font-semibold">{l.says}</p>
            <ul className="text-sm">
              {l.left
                .filter((t) => t.there || t.looked)
                .map((t) => (
                  <li key={t.sign + t.place}>
                    {t.there ? '✓' : '○'} <Addr code={t.place} /> {t.name}
                    {t.there ? '' : tr`, not there this time`}
                    {t.there && !t.looked && <b className="text-lead"> {tr`· missed`}</b>}
                    {t.looked && <span className="text-dye"> {tr`· looked at`}</span>}
                  </li>
                ))}
            </ul>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** What the computation makes of the same looks: seen outright, ranked, and what has no story. */
function Computed({ answer }: { answer: Schemas['TraceAnswer'] }) {
  const alone = answer.damage.filter((d) => d.link < 0);
  return (
    <div className="space-y-2" aria-label={tr`What the computation makes of it`}>
      <h3 className="font-bold">{tr`What the computation makes of the same looks`}</h3>
      {answer.established.map((e) => (
        <p key={e.cause + e.place}>
          <Trans>
            <b className="text-dye">Seen outright:</b> {e.name} <Addr code={e.place} />, by “{e.signName}”,{' '}
            {e.words}
          </Trans>
        </p>
      ))}
      <ol className="divide-y divide-line">
        {answer.ranking.slice(0, 3).map((r) => (
          <li key={r.cause + r.seat} className="flex items-baseline gap-3 py-1">
            <b className="fig w-14 text-right">{percent(r.probability)}</b>
            <span className="flex-1">
              {r.name} <Addr code={r.seat} />
            </span>
          </li>
        ))}
        <li className="flex items-baseline gap-3 py-1 text-soft">
          <span className="fig w-14 text-right">{percent(answer.noneOfThese)}</span>
          <span className="flex-1">{tr`none of the causes known here`}</span>
        </li>
      </ol>
      {alone.length > 0 && (
        <p className="text-sm">
          <b>{tr`Without a story:`}</b>{' '}
          {alone.map((d) => `${d.name.toLowerCase()} ${d.place}, ${d.words}`).join('; ')}.
        </p>
      )}
    </div>
  );
}
