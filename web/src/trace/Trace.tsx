import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { useCaseContext, usePicked } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { lostBy } from '../ui/lookWords';
import { Addr, percent } from '../ui/basics';
import { Account } from './Account';
import { Conclude } from './Conclude';
import { OfThisShop } from './OfThisShop';
import { useIsStudent } from '../api/queries';
import { SeenBefore } from './SeenBefore';
import { Later } from '../ui/Later';
import { fixed } from '../ui/region';

/** What may have started it: ranked, with the chain, what speaks for and against, and what to look at next. */
export function Trace() {
  const { engineCase, pickCause } = useCaseContext();
  const student = useIsStudent();
  const { cause } = usePicked();
  const trace = useRoom(engineCase.id, 'trace');
  const picked = trace.ranking[cause] ?? trace.ranking[0];
  const shown = trace.ranking.filter((h, i) => i < 6 && (h.together >= 0.005 || i < 3));
  return (
    <div className="space-y-6">
      <InShort />
      <div className="grid items-start gap-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.4fr)]">
        <div className="space-y-5">
          <section>
            <h2 className="text-xl">{tr`What may have started it`}</h2>
            <p className="mb-2 text-sm text-soft">
              <Trans>
                From {trace.signsRecorded} recorded signs. More than one may be true. The mechanic decides.
              </Trans>
            </p>
            {shown.length === 0 && (
              <p className="rounded-lg border-[1.5px] border-dashed border-line bg-paper px-3 py-3">
                {trace.signsRecorded === 0
                  ? tr`Nothing has been looked at yet. What is asked and looked at below is where to begin.`
                  : tr`Nothing that was found speaks for a cause known here.`}
              </p>
            )}
            <ol className="space-y-1.5" aria-label={tr`Causes, likeliest first`}>
              {shown.map((h, i) => (
                <li key={h.cause + h.seat}>
                  <button
                    aria-pressed={h === picked}
                    onClick={() => pickCause(i)}
                    className={`relative block w-full overflow-hidden rounded-lg border-[1.5px] px-3 py-2 text-left ${h === picked ? 'border-dye' : 'border-line'} bg-paper`}
                  >
                    <span
                      className="absolute inset-y-0 left-0 bg-dye-tint"
                      style={{ width: `${100 * h.together}%` }}
                      aria-hidden
                    />
                    <span className="relative flex items-center gap-3">
                      <span className="w-[4.4rem] shrink-0 text-xl font-bold whitespace-nowrap">
                        {percent(h.probability)}
                      </span>
                      <span className="flex-1 leading-tight font-semibold">
                        {h.name}
                        {h.shop && <OfThisShop />}
                        {h.established && <Established />}
                        <Kin cause={h} />
                      </span>
                      <Addr code={h.place} className="text-lg" />
                    </span>
                  </button>
                </li>
              ))}
              {shown.length > 0 && (
                <li className="flex items-center gap-3 px-3 py-1 text-soft">
                  <Trans>
                    <span className="w-[4.4rem] shrink-0 text-xl font-bold whitespace-nowrap">
                      {percent(trace.noneOfThese)}
                    </span>
                    None of the causes known here
                  </Trans>
                </li>
              )}
              {trace.unknown >= 0.1 && trace.signsRecorded > 0 && (
                <li className="flex items-center gap-3 px-3 py-1 text-soft">
                  <Trans>
                    <span className="w-[4.4rem] shrink-0 text-xl font-bold whitespace-nowrap">
                      {percent(trace.unknown)}
                    </span>
                    Something unknown here has a part in it
                  </Trans>
                </li>
              )}
            </ol>
            <Unexplained />
            {trace.contradictions.map((c) => (
              <p key={c} className="mt-2 rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
                {c}
              </p>
            ))}
          </section>
          <SeenOutright />
          <Later>
            <Ask />
            {picked && <NextChecks />}
            {!student && <SeenBefore />}
          </Later>
        </div>
        <Later>{picked ? <CauseCard cause={picked} /> : <NextChecks />}</Later>
      </div>
      <Later>
        <Account />
        <Conclude />
      </Later>
      {trace.assumed.length > 0 && (
        <section className="text-sm text-soft">
          <h3 className="font-bold">{tr`Assumed`}</h3>
          {trace.assumed.map((a) => (
            <p key={a}>{a}</p>
          ))}
        </section>
      )}
    </div>
  );
}

/** The answer, why, and what to look at next, before all the rest. */
function InShort() {
  const { engineCase, openPart } = useCaseContext();
  const trace = useRoom(engineCase.id, 'trace');
  const [first, second] = trace.ranking;
  const [check] = trace.nextChecks;
  const [ask] = trace.ask;
  if (!first) return null;
  const line = (w: Schemas['EvidenceWeight']) => (
    <li key={w.sign + w.place}>
      <button className="min-h-8 text-left leading-tight hover:text-dye" onClick={() => openPart(w.place)}>
        {w.name} <Addr code={w.place} />
        {w.seen === 'absent' && tr` checked, not there`}{' '}
        <span className="text-sm text-soft">{strengthOf(w.decibans)}</span>
      </button>
    </li>
  );
  return (
    <section
      aria-label={tr`In short`}
      className="card grid gap-x-6 gap-y-3 border-l-8 border-l-dye p-4 md:grid-cols-[1.1fr_1.2fr_1fr]"
    >
      <div>
        <p className="text-sm font-semibold text-soft">{tr`Likeliest`}</p>
        <p className="text-xl leading-tight font-bold">
          <span className="whitespace-nowrap">{percent(first.probability)}</span> {first.name}{' '}
          <Addr code={first.place} className="text-dye" />
        </p>
        {second && (
          <p className="mt-1 text-sm text-soft">
            <Trans>
              Then {second.name} <Addr code={second.place} />{' '}
              <span className="whitespace-nowrap">{percent(second.probability)}</span>
            </Trans>
          </p>
        )}
      </div>
      <div>
        <p className="text-sm font-semibold text-soft">{tr`Because of`}</p>
        <ul>{first.for.slice(0, 2).map(line)}</ul>
        {first.against.length > 0 && (
          <>
            <p className="text-sm font-semibold text-soft">{tr`In spite of`}</p>
            <ul>{first.against.slice(0, 1).map(line)}</ul>
          </>
        )}
      </div>
      <div>
        <p className="text-sm font-semibold text-soft">{check || !ask ? tr`Look next` : tr`Ask next`}</p>
        {check ? (
          <>
            <p className="leading-tight font-semibold">
              <Trans>
                {check.name} on <Addr code={check.place} />
                <span className="font-normal text-soft">
                  , about {Math.round(check.minutes + check.access)} min
                </span>
              </Trans>
            </p>
            <Link className="key mt-2 inline-flex items-center" relative="path" to={link(check)}>
              {check.measured ? tr`Measure it` : tr`Look at it`}
            </Link>
          </>
        ) : ask ? (
          <Link className="underline decoration-line underline-offset-4" relative="path" to="../arrival">
            {ask.question}
          </Link>
        ) : (
          <p>{tr`Nothing that is left to look at would move the answer.`}</p>
        )}
      </div>
    </section>
  );
}

/** The mark of a cause whose own sign was seen. */
function Established() {
  return (
    <span className="ml-2 inline-block rounded border border-dye px-1.5 text-sm font-semibold text-dye">
      {tr`seen`}
    </span>
  );
}

/** That a cause is told as one of several kinds, and what they have together. */
function Kin({ cause }: { cause: Schemas['RankedHypothesis'] }) {
  if (!cause.kindOf || cause.kindOf === cause.name) return null;
  return (
    <span className="block text-sm font-normal text-soft">
      <Trans>
        {cause.kindOf}: {percent(cause.together)} together
      </Trans>
    </span>
  );
}

/** Causes whose own sign was seen at their place: they are there, and what is ranked is what brought them about. */
function SeenOutright() {
  const { engineCase, openPart } = useCaseContext();
  const trace = useRoom(engineCase.id, 'trace');
  if (trace.established.length === 0) return null;
  return (
    <section className="card border-l-8 border-l-dye p-4" aria-label={tr`Established`}>
      <h2 className="text-xl">{tr`Seen outright`}</h2>
      <ul className="divide-y divide-line">
        {trace.established.map((e) => (
          <li key={e.cause + e.place}>
            <button className="block min-h-11 w-full py-1.5 text-left" onClick={() => openPart(e.signPlace)}>
              <b>{e.name}</b> <Addr code={e.place} />
              <span className="block text-sm text-soft">
                <Trans>
                  {e.signName} on {e.signPlace}: {e.words}
                </Trans>
              </span>
              {e.by.length > 0 && (
                <span className="block text-sm">
                  <Trans>Brought about by </Trans>
                  {e.by.map((b) => `${b.name} (${b.place}) ${percent(b.probability)}`).join(tr`, or `)}
                </span>
              )}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What was found and is in nobody's story. */
function Unexplained() {
  const { engineCase, openPart } = useCaseContext();
  const trace = useRoom(engineCase.id, 'trace');
  const alone = trace.damage.filter((d) => d.link < 0);
  if (alone.length === 0) return null;
  return (
    <div className="mt-2 px-3 text-sm" aria-label={tr`Unexplained`}>
      <b>
        {alone.length === 1 ? tr`One finding` : tr`${alone.length} findings`} {tr`without a story:`}
      </b>{' '}
      {alone.slice(0, 6).map((d) => (
        <button
          key={d.sign + d.place}
          className="mr-3 inline-block min-h-11 underline"
          onClick={() => openPart(d.place)}
        >
          {d.name} <Addr code={d.place} />
          <span className="text-soft">, {d.words}</span>
        </button>
      ))}
      {alone.length > 6 && (
        <span className="text-soft">
          <Trans>and {alone.length - 6} more</Trans>
        </span>
      )}
    </div>
  );
}

/** Questions about the past that would move the answer: an answer costs a minute and no part. */
function Ask() {
  const { engineCase } = useCaseContext();
  const trace = useRoom(engineCase.id, 'trace');
  if (trace.ask.length === 0) return null;
  return (
    <section className="card p-4" aria-label={tr`Ask first`}>
      <h2 className="text-xl">{tr`Ask first`}</h2>
      <ul className="divide-y divide-line">
        {trace.ask.map((a) => (
          <li key={a.risk}>
            <Link className="block min-h-11 py-1.5 hover:text-dye" relative="path" to="../arrival">
              <span className="underline decoration-line underline-offset-4">{a.question}</span>
              <span className="block text-sm text-soft">
                <Trans>
                  “{a.about}” <Addr code={a.aboutPlace} />, now {percent(a.now)}: yes {percent(a.ifSo)}, no{' '}
                  {percent(a.ifNot)}
                </Trans>
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

const linkLook = {
  ticked: ['✓', 'border-dye bg-dye text-paper', tr`found`],
  contradicted: ['✕', 'border-lead bg-lead-tint text-lead', tr`checked, not there`],
  open: ['?', 'border-soft bg-paper text-soft border-dashed', tr`not looked for yet`],
} as const;

function CauseCard({ cause }: { cause: Schemas['RankedHypothesis'] }) {
  const { openPart } = useCaseContext();
  return (
    <section className="card p-4 md:p-5" aria-label={tr`The cause picked`}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2 className="text-2xl">
          {cause.name} <Addr code={cause.place} className="text-dye" />
        </h2>
        <p className="text-soft">
          {percent(cause.probability)}
          {cause.upper - cause.lower > 0.01 &&
            tr`; with all that the search left out, ${percent(cause.lower)} to ${percent(cause.upper)}`}
        </p>
      </div>
      {cause.trust && <p className="text-sm text-soft">{cause.trust}</p>}
      {cause.kindOf && (
        <p className="text-soft">
          {cause.kindOf === cause.name
            ? tr`Its kinds`
            : tr`One kind of “${cause.kindOf}”, ${percent(cause.together)} together`}
          {cause.kinds.length > 0 &&
            `: ${cause.kinds.map((k) => `${k.name} ${percent(k.probability)}`).join(', ')}`}
        </p>
      )}
      {cause.then.length > 0 && (
        <p className="text-soft">
          <Trans>And then: </Trans>
          {cause.then.map((t) => (
            <span key={t.cause + t.place} className="mr-3 inline-block">
              {t.name} <Addr code={t.place} /> {percent(t.probability)}
            </span>
          ))}
        </p>
      )}
      <h3 className="mt-3 mb-1 font-bold">{tr`How it would have gone`}</h3>
      <ol>
        {cause.chain.map((link, i) => {
          const [mark, look, words] = linkLook[link.status];
          const known = link.signs.filter((s) => s.seen !== null);
          const open = link.signs.filter((s) => s.seen === null);
          return (
            <li key={link.says} className="flex gap-3">
              <span className="flex flex-col items-center">
                <span
                  className={`flex size-8 shrink-0 items-center justify-center rounded-full border-2 font-bold ${look}`}
                  title={words}
                >
                  {mark}
                </span>
                {i < cause.chain.length - 1 && <span className="w-0.5 flex-1 bg-line" />}
              </span>
              <div className="pb-3">
                <p className="font-semibold">
                  {link.says} <span className="sr-only">({words})</span>
                </p>
                <p className="text-sm text-soft">
                  {known.slice(0, 5).map((s) => (
                    <span key={s.sign + s.place} className="mr-3 inline-block">
                      <span className={s.seen === 'present' ? 'font-bold text-dye' : 'font-bold text-lead'}>
                        {s.seen === 'present' ? '✓' : '✕'}
                      </span>{' '}
                      <Link className="hover:underline" to={`/atlas/${s.sign}`}>
                        {s.name}
                      </Link>{' '}
                      <Addr code={s.place} />
                    </span>
                  ))}
                  {known.length > 5 && (
                    <span className="mr-3">
                      <Trans>and {known.length - 5} more</Trans>
                    </span>
                  )}
                  {open.length > 0 && tr`${open.length} not looked for`}
                </p>
              </div>
            </li>
          );
        })}
      </ol>
      <div className="grid gap-4 border-t border-line pt-3 sm:grid-cols-2">
        <Weights title={tr`Speaks for it`} list={cause.for} openPart={openPart} />
        <Weights title={tr`Speaks against it`} list={cause.against} openPart={openPart} />
      </div>
      <p className="mt-2 text-sm text-soft">
        {tr`Strong makes the odds ten times better or worse, or more; medium three times; found by leaving the finding out. At 0.0 dB (decibans) its rivals leave it as often.`}
      </p>
      <dl className="mt-3 grid gap-x-6 gap-y-2 border-t border-line pt-3 sm:grid-cols-2">
        <div>
          <dt className="text-sm font-bold text-soft">{tr`How to prove it`}</dt>
          <dd>{cause.prove}</dd>
        </div>
        <div>
          <dt className="text-sm font-bold text-soft">{tr`So that it does not return`}</dt>
          <dd>{cause.prevent}</dd>
        </div>
        {cause.caution && (
          <div className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-1.5 sm:col-span-2">
            <dt className="sr-only">{tr`Caution`}</dt>
            <dd>{cause.caution}</dd>
          </div>
        )}
      </dl>
      <p className="mt-2 text-sm text-soft">
        {cause.provenance}.{' '}
        <Link className="underline decoration-line underline-offset-4" to={`/causes/${cause.cause}`}>
          {tr`What this cause is reasoned with`}
        </Link>
      </p>
    </section>
  );
}

function Weights({
  title,
  list,
  openPart,
}: {
  title: string;
  list: Schemas['EvidenceWeight'][];
  openPart: (a: string) => void;
}) {
  const most = Math.max(12, ...list.map((w) => Math.abs(w.decibans)));
  return (
    <div>
      <h3 className="font-bold">{title}</h3>
      {list.length === 0 && <p className="text-soft">{tr`Nothing recorded so far.`}</p>}
      <ul>
        {list.slice(0, 6).map((w) => (
          <li key={w.sign + w.place} className="py-1">
            <button className="block w-full text-left" onClick={() => openPart(w.place)}>
              <span className="flex items-baseline justify-between gap-2 leading-tight">
                <span>
                  {w.name} <Addr code={w.place} />
                  {w.seen === 'absent' && <span className="text-soft"> {tr`checked, not there`}</span>}
                </span>
                <b>{strengthOf(w.decibans)}</b>
              </span>
              <span className="mt-0.5 block h-1.5 rounded bg-steel" aria-hidden>
                <span
                  className={`block h-full rounded ${w.decibans > 0 ? 'bg-dye' : 'bg-lead'}`}
                  style={{ width: `${(100 * Math.abs(w.decibans)) / most}%` }}
                />
              </span>
              <span className="text-sm text-soft">
                {w.words}{' '}
                <span className="fig">
                  <Trans>{fixed(Math.abs(w.decibans), 1)} dB</Trans>
                </span>
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Where a check is done: the capture opens on the part, with the sign chosen. */
const link = (c: Schemas['NextCheck']) => ({
  pathname: c.measured ? '../gauge' : '../look',
  search: c.measured ? `?part=${c.place}` : `?part=${c.place}&sign=${c.sign}`,
});

function NextChecks() {
  const { engineCase } = useCaseContext();
  const trace = useRoom(engineCase.id, 'trace');
  const [best, ...others] = trace.nextChecks;
  if (!best) return null;
  return (
    <section className="card border-l-8 border-l-dye p-4">
      <p className="text-sm font-semibold text-soft">{tr`Best thing to look at next`}</p>
      <h2 className="text-2xl leading-tight">
        <Trans>
          {best.name} on <Addr code={best.place} />
        </Trans>
      </h2>
      <p className="mt-1">{best.how}</p>
      <p className="mt-1 text-soft">
        <Trans>
          About {best.minutes} min, with {best.with}
        </Trans>
        {best.access > 0 && tr`, and ${Math.round(best.access)} min to get there`}.{' '}
        {best.lostNext ? (
          <b className="text-lead">
            <Trans>The next step destroys it: {best.lostNext}.</Trans>
          </b>
        ) : (
          best.destroyedBy.length > 0 && (
            <b className="text-lead">
              <Trans>Gone after {lostBy(best.destroyedBy)}.</Trans>
            </b>
          )
        )}
      </p>
      <p className="mt-3 leading-snug">
        <Trans>
          “{best.about}” at <Addr code={best.aboutPlace} />, now{' '}
          <b className="fig whitespace-nowrap">{percent(best.now)}</b>:
        </Trans>
      </p>
      <Outcome check={best} big />
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Link className="key key-go flex items-center" relative="path" to={link(best)}>
          {best.measured ? tr`Measure it` : tr`Look at it`}
        </Link>
        {!best.measured && (
          <Link className="underline decoration-line underline-offset-4" to={`/atlas/${best.sign}`}>
            {tr`How it looks`}
          </Link>
        )}
      </div>
      {others.length > 0 && (
        <ul className="mt-3 divide-y divide-line border-t border-line" aria-label={tr`After that`}>
          {others.slice(0, 4).map((c) => (
            <li key={c.sign + c.place}>
              <Link
                className="grid min-h-11 grid-cols-[minmax(0,1fr)_8rem] items-center gap-3 py-1 hover:text-dye"
                relative="path"
                to={link(c)}
              >
                <span className="leading-tight">
                  <span className="underline decoration-line underline-offset-4">{c.name}</span>{' '}
                  <Addr code={c.place} />
                  <span className="block text-sm text-soft">
                    <Trans>{c.minutes} min</Trans>
                    {c.access > 0 && tr` and ${Math.round(c.access)} to get there`}
                    <Trans>
                      , {c.with}; bears on “{c.about}” <Addr code={c.aboutPlace} />
                    </Trans>
                    {c.lostNext
                      ? tr` · lost at the next step`
                      : c.destroyedBy.length > 0 && tr` · lost by ${lostBy(c.destroyedBy)}`}
                  </span>
                </span>
                <Outcome check={c} />
              </Link>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** From where a cause stands to where each outcome would put it, on a scale from nought to certain. */
export function Outcome({ check, big = false }: { check: Schemas['NextCheck']; big?: boolean }) {
  const [low, high] = [Math.min(check.ifPresent, check.ifAbsent), Math.max(check.ifPresent, check.ifAbsent)];
  const at = (p: number) => `${100 * p}%`;
  const text = tr`${check.about} at ${check.aboutPlace}, now ${percent(check.now)}: found ${percent(check.ifPresent)}, not there ${percent(check.ifAbsent)}`;
  const marks = [
    [check.ifPresent, '✓', 'bg-dye text-paper border-dye'],
    [check.ifAbsent, '✕', 'bg-paper text-lead border-lead'],
  ] as const;
  return (
    <span className="block" title={text}>
      <span className={`relative mx-3 block ${big ? 'my-3 h-7' : 'h-6'}`} aria-hidden>
        <span className="absolute inset-x-0 top-1/2 h-1.5 -translate-y-1/2 rounded bg-steel" />
        <span
          className="absolute top-1/2 h-1.5 -translate-y-1/2 bg-dye-tint"
          style={{ left: at(low), width: at(high - low) }}
        />
        <span
          className="absolute top-1/2 h-5 w-0.5 -translate-y-1/2 bg-ink"
          style={{ left: at(check.now) }}
        />
        {marks.map(([p, mark, look]) => (
          <span
            key={mark}
            className={`absolute top-1/2 flex -translate-x-1/2 -translate-y-1/2 items-center justify-center rounded-full border-2 font-bold ${big ? 'size-7' : 'size-5 text-xs'} ${look}`}
            style={{ left: at(p) }}
          >
            {mark}
          </span>
        ))}
      </span>
      {big ? (
        <span className="flex justify-between gap-4">
          <span>
            <Trans>
              <b className="text-dye">✓</b> If it is there, <b className="fig">{percent(check.ifPresent)}</b>
            </Trans>
          </span>
          <span>
            <Trans>
              <b className="text-lead">✕</b> If not, <b className="fig">{percent(check.ifAbsent)}</b>
            </Trans>
          </span>
        </span>
      ) : (
        <span className="sr-only">{text}</span>
      )}
    </span>
  );
}

/**
 * A weight of evidence in a word: a factor of ten is strong, its root is the least that is more than weak. The steps are those of Jeffreys, Theory of
 * Probability, appendix B, from memory; he has finer ones above.
 */
export function strengthOf(decibans: number) {
  const size = Math.abs(decibans);
  return size >= 10 ? tr`strong` : size >= 5 ? tr`medium` : tr`weak`;
}
