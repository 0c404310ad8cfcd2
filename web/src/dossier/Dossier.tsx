import { useMemo, type ReactNode } from 'react';
import { useParams } from 'react-router';
import type { ApiProblem, Schemas } from '../api/client';
import { useDossier } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { limitWords, standWords, unitOf } from '../ui/limits';
import { fine, uncertainty, figure, unitWords } from '../ui/figures';
import { printAs } from '../ui/printAs';
import { money } from '../ui/rates';
import { letterOf } from '../casebook/candidates';
import { pictureUrl } from '../pictures/picture';
import { sights } from '../section/lenses';
import { LongSection } from '../section/LongSection';
import { Addr, day, percent, Trouble, Waiting } from '../ui/basics';
import {
  actionWords,
  confidenceWords,
  faultWords,
  layoutWords,
  feltWords,
  levelWords,
  lockWords,
  latestVerdicts,
  stands,
  writerOf,
  phaseWords,
} from '../ui/words';

/** Everything of the case on one page, fit to print. */
export function Dossier() {
  const id = useParams().id!;
  const dossier = useDossier(id);
  const { engineCase } = useCaseContext();
  if (dossier.error) return <Trouble problem={dossier.error as ApiProblem} />;
  if (!dossier.data) return <Waiting what="the dossier" />;
  return (
    <>
      <div className="no-print mx-auto mb-4 flex max-w-4xl flex-wrap items-center justify-between gap-3">
        <p className="text-soft">Every figure below goes back to a reading, an instrument and a formula.</p>
        <button className="key key-go" onClick={() => printAs(`${engineCase.title}, dossier`)}>
          Print it
        </button>
      </div>
      <Paper view={dossier.data} />
    </>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-5">
      <h2 className="mb-1 border-b-2 border-ink text-lg">{title}</h2>
      {children}
    </section>
  );
}

function Paper({ view }: { view: Schemas['DossierView'] }) {
  const { knowledge, lengths } = useCaseContext();
  const c = view.case;
  const { answers } = view;
  const sign = (id: string) => knowledge.signs.find((s) => s.id === id)?.name ?? id;
  const damage = useMemo(() => sights(answers.places, answers.trace, 'damage', 0), [answers]);
  const findings = c.findings.filter(stands);
  const seen = findings.filter((f) => f.seen === 'present').sort((a, b) => b.level - a.level);
  const offered = (place: string) => letterOf(place) !== '';
  const present = seen.filter((f) => f.doneBy === 'running' && !offered(f.place));
  const absent = findings.filter((f) => f.seen === 'absent' && !offered(f.place));
  const apart = [
    ['Done getting it apart', seen.filter((f) => f.doneBy === 'strip' && !offered(f.place))],
    ['Done by an earlier hand', seen.filter((f) => f.doneBy === 'earlierHand' && !offered(f.place))],
    ['Seen on offered parts', seen.filter((f) => offered(f.place))],
  ] as const;
  const top = answers.trace.ranking.filter((h, i) => i < 3 && (i === 0 || h.probability > 0.05));
  const own = c.conclusions.filter(stands).at(-1);
  const latest = [...latestVerdicts(c.verdicts).values()];
  const decided = new Map(answers.verdict.places.map((a) => [a.place, a.decided]));
  const course = (v: Schemas['PartVerdict']) =>
    knowledge.courses.find((k) => k.id === v.course)?.name ?? actionWords[v.action];
  const unit = (f: (typeof answers.gauge.figures)[number]) =>
    unitOf(knowledge, f.characteristic, f.quantity, lengths);
  const judged = answers.gauge.figures.filter((f) => f.conformity !== null);
  const facts: [string, string][] = [
    ['Engine', c.engineName],
    ['Serial', c.serial || 'not noted'],
    [
      'Layout',
      `${layoutWords(c.layout)}, number one at the ${c.layout.numberOneEnd === 'freeEnd' ? 'free' : 'drive'} end, firing ${c.layout.firingOrder.join('-')}`,
    ],
    ['Hours', c.hours === null ? 'not noted' : `${c.hours} h`],
    ['Owner', c.owner || 'not noted'],
    ['Drawn up', day(view.drawn)],
  ];
  return (
    <article className="mx-auto max-w-4xl rounded-xl border border-line bg-paper p-5 md:p-9 print:max-w-none print:border-0 print:p-0">
      <p className="text-sm font-semibold text-soft">Teardown dossier</p>
      <h1 className="text-3xl">{c.title}</h1>
      <dl className="mt-3 grid gap-x-8 gap-y-1 sm:grid-cols-2 print:grid-cols-2">
        {facts.map(([k, v]) => (
          <div key={k} className="flex flex-wrap gap-x-2">
            <dt className="w-20 shrink-0 text-soft">{k}</dt>
            <dd className="least-36 flex-1">{v}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-2">
        <b>Complaint.</b> {c.complaint || 'None noted.'} <b>Past.</b> {c.past || 'Nothing known.'}
      </p>

      <Part title="Why it failed">
        {own ? (
          <p className="text-lg">
            <b>{confidenceWords[own.confidence]}:</b>{' '}
            {knowledge.causes.find((s) => s.id === own.cause)?.name ?? 'a cause not among those known here'}{' '}
            {own.place && <Addr code={own.place} />}.{' '}
            <span className="text-base">
              {own.reasons} Whose doing: {faultWords[own.fault].toLowerCase()}.
            </span>{' '}
            <span className="text-sm text-soft">{writerOf(own)}</span>
          </p>
        ) : (
          <p>The mechanic has not decided yet.</p>
        )}
        <p className="mt-1">
          The computation, from {answers.trace.signsRecorded} signs:{' '}
          {top.map((h) => (
            <span key={h.cause + h.seat}>
              {h.name} <Addr code={h.place} /> {percent(h.probability)};{' '}
            </span>
          ))}
          {top.length > 0
            ? `none of those known ${percent(answers.trace.noneOfThese)}.`
            : 'nothing that was found speaks for a cause known here.'}
        </p>
        {top[0] && (
          <ol className="mt-1 list-inside list-decimal">
            {top[0].chain.map((l) => (
              <li key={l.says}>
                {l.says}{' '}
                <span className="text-soft">
                  ({{ ticked: 'found', contradicted: 'not borne out', open: 'not looked for' }[l.status]})
                </span>
              </li>
            ))}
          </ol>
        )}
      </Part>

      <div className="keep mt-4">
        <LongSection section={answers.section} sights={damage} fit />
      </div>

      {view.openedLocks.length > 0 && (
        <Part title="Done in spite of a lock">
          <ul>
            {view.openedLocks.map((o) => (
              <li key={o.step + o.lock} className="keep py-0.5">
                <b>{o.step}</b>, {lockWords[o.lock].toLowerCase()}: {o.reason}{' '}
                <span className="text-sm text-soft">
                  {writerOf(o)}, {day(o.at)}
                </span>
              </li>
            ))}
          </ul>
        </Part>
      )}

      <Part title="What was found">
        <ul className="gap-x-8 sm:columns-2 print:columns-2">
          {present.map((f) => (
            <li key={f.id} className="keep py-0.5">
              <Addr code={f.place} /> {sign(f.sign)}, <b>{levelWords[f.level]}</b>
              {feltWords(f)}
              {(f.spot || f.note) && (
                <span className="text-soft">. {[f.spot, f.note].filter(Boolean).join('. ')}</span>
              )}
            </li>
          ))}
        </ul>
        <p className="mt-1 text-soft">
          <b>Checked, not there:</b>{' '}
          {absent.map((f) => `${sign(f.sign).toLowerCase()} ${f.place}${feltWords(f)}`).join('; ') ||
            'nothing noted'}
          .
        </p>
        {apart.map(
          ([words, of]) =>
            of.length > 0 && (
              <p key={words} className="mt-1">
                <b>{words}</b>, and no evidence of why it failed:{' '}
                {of.map((f) => `${f.place} ${sign(f.sign).toLowerCase()}, ${levelWords[f.level]}`).join('; ')}
                .
              </p>
            ),
        )}
      </Part>

      {c.photos.some(stands) && (
        <Part title="Photographs">
          <ul className="grid grid-cols-2 gap-3 sm:grid-cols-3 print:grid-cols-3">
            {c.photos.filter(stands).map((p) => (
              <li key={p.id} className="keep">
                <img
                  src={pictureUrl(c.id, p.id, 'view')}
                  alt={p.caption}
                  className="aspect-4/3 w-full rounded object-cover"
                />
                <p className="text-sm leading-tight">
                  <Addr code={p.place} /> {p.caption}{' '}
                  <span className="fig text-soft">{p.sha256.slice(0, 8)}</span>
                </p>
              </li>
            ))}
          </ul>
        </Part>
      )}

      <Part title="What was measured">
        {answers.gauge.grades
          .filter((g) => g.loud)
          .map((g) => (
            <p key={g.place} className="font-bold text-lead">
              <Addr code={g.place} /> Wrong size: {g.words}
            </p>
          ))}
        {judged.length === 0 && <p>Nothing that stands against a limit.</p>}
        {judged.length > 0 && (
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Figures against limits">
            <table className="w-full text-left text-sm">
              <thead className="text-soft">
                <tr>
                  {['Part', 'Figure', '±', 'How it came about', 'Against', ''].map((h, i) => (
                    <th key={i} className="pr-3 font-semibold">
                      {h}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {judged.map((f) => (
                  <tr
                    key={f.place + f.characteristic + f.phase}
                    className="keep border-t border-line align-top"
                  >
                    <td className="pr-3 whitespace-nowrap">
                      <Addr code={f.place} /> {f.name}
                      {phaseWords[f.phase] && `, ${phaseWords[f.phase]}`}
                    </td>
                    <td className="fig pr-3 font-bold whitespace-nowrap">
                      {figure(f.value, unit(f))} {unitWords(unit(f))}
                    </td>
                    <td className="fig pr-3">{uncertainty(f.expanded, unit(f))}</td>
                    <td className="fig pr-3">{f.from}</td>
                    <td className="pr-3">{limitWords(f.limit, unit(f))}</td>
                    <td
                      className={`whitespace-nowrap ${f.conformity === 'outside' ? 'font-bold text-lead' : ''}`}
                    >
                      {standWords(f)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
        <p className="mt-1 text-sm">{answers.compression.says.join(' ')}</p>
        <p className="mt-1 text-sm text-soft">
          ± expanded uncertainty, k = 2, after the GUM; decided after ISO 14253-1. Instruments:{' '}
          {view.instruments
            .map(
              (i) =>
                `${i.name} (step ${fine(i.resolution, i.quantity, lengths)}, permissible error ± ${fine(i.permissibleError, i.quantity, lengths)})`,
            )
            .join('; ') || 'none noted'}
          .
        </p>
      </Part>

      <Part title="What was decided">
        {latest.length === 0 && <p>Nothing yet.</p>}
        <ul>
          {latest.map((v) => (
            <li key={v.id} className="keep py-0.5">
              <Addr code={v.place} /> <b>{course(v)}.</b> {v.reason || v.advisedWhy}{' '}
              <span className="text-soft">{decided.get(v.place) || 'No figure.'}</span>
              {v.advised !== v.course && v.advisedWhy && (
                <span className="block pl-4 text-sm text-soft">
                  Advised: {knowledge.courses.find((k) => k.id === v.advised)?.name ?? 'nothing'}.{' '}
                  {v.advisedWhy}
                </span>
              )}
            </li>
          ))}
        </ul>
        {answers.options
          .flatMap((t) => t.chosen ?? [])
          .map((o) => (
            <p key={o.id} className="keep mt-2">
              <b>Chosen: {o.title}.</b> {o.why}{' '}
              <span className="fig text-soft">
                {money(o.cost, o.currency)} for sure, {percent(o.chance)} to fail again,{' '}
                {money(o.expected, o.currency)} on average.
              </span>
            </p>
          ))}
      </Part>
      <p className="mt-6 border-t border-line pt-2 text-sm text-soft">
        The maker’s manual, local rules and licensed inspection come first. Rules of thumb are named as such
        and are no limits.
      </p>
    </article>
  );
}
