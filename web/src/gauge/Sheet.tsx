import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useIsStudent } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { called } from '../ui/called';
import { Addr, Trouble, percent } from '../ui/basics';
import { Budget } from './Budget';
import { byId } from '../ui/byId';
import { limitWords, standWords, unitOf } from '../ui/limits';
import { uncertainty, figure, told, unitWords } from '../ui/figures';
import { RingClock } from '../art/RingClock';
import { BorePictures, ClearanceStack, JournalPictures, LimitBar } from './pictures';
import { FileKey } from '../ui/FileKey';
import { fileName, phaseWords } from '../ui/words';

type Figure = Schemas['SheetFigure'];

const all = tr`Everything`;

/** Tabs in the order of the strata, from the bores down. */
const order = [
  'Bores and pistons',
  'Rings',
  'Rods and shells',
  'Crankshaft',
  'Mains and block',
  'Head and valves',
  'Running figures',
];

/** The engine's figures by station, with pictures; press a figure to see where it comes from. */
export function Sheet() {
  const { engineCase, knowledge, openPart } = useCaseContext();
  const [params, setParams] = useSearchParams();
  const { lengths: length, setLengths: setLength } = useCaseContext();
  const [shown, setShown] = useState<Figure | null>(null);
  const gauge = useRoom(engineCase.id, 'gauge');
  const groupOf = (id: string) => byId(knowledge.characteristics).get(id)?.group ?? '';
  const measured = new Set(gauge.figures.map((f) => groupOf(f.characteristic)));
  const outside = new Set(
    gauge.figures.filter((f) => f.conformity === 'outside').map((f) => groupOf(f.characteristic)),
  );
  const groups = [...new Set(knowledge.characteristics.map((c) => c.group))]
    .filter((g) => measured.has(g))
    .sort((a, b) => order.indexOf(a) - order.indexOf(b));
  if (gauge.figures.length === 0)
    return (
      <p className="text-lg text-soft">
        {tr`Nothing measured yet. Measure a round, or press a part in the section and measure it.`}
      </p>
    );
  const tab = params.get('sheet') ?? (groups.includes('Rods and shells') ? 'Rods and shells' : groups[0]!);
  const pick = (g: string) =>
    setParams(
      (p) => {
        const next = new URLSearchParams(p);
        next.set('sheet', g);
        return next;
      },
      { replace: true },
    );
  const here = gauge.figures.filter((f) => tab === all || groupOf(f.characteristic) === tab);
  return (
    <section className="space-y-4">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-2 text-xl">{tr`Sheet`}</h2>
        {[...groups, all].map((g) => (
          <button key={g} className="key" aria-pressed={tab === g} onClick={() => pick(g)}>
            {g === all ? all : called(knowledge)(g)}
            {outside.has(g) && (
              <b className="text-lead" title={tr`something is outside`}>
                {' '}
                ✕
              </b>
            )}
          </button>
        ))}
        <span className="ml-auto flex gap-1.5" role="group" aria-label={tr`Units`}>
          {(['mm', 'in'] as const).map((u) => (
            <button key={u} className="key" aria-pressed={length === u} onClick={() => setLength(u)}>
              {u === 'in' ? tr`inch` : u}
            </button>
          ))}
        </span>
      </div>
      {tab === 'Rods and shells' && <Fits of="R" characteristic="big-end-clearance" onPick={setShown} />}
      {tab === 'Crankshaft' && (
        <Shapes of="crankpin-diameter" also="main-journal-diameter" onPick={openPart} />
      )}
      {tab === 'Mains and block' && <Fits of="M" characteristic="main-clearance" onPick={setShown} />}
      {tab === 'Bores and pistons' && (
        <BorePictures
          profiles={gauge.profiles.filter((p) => p.characteristic === 'bore-diameter')}
          unit={length}
          onPick={openPart}
        />
      )}
      {tab === 'Rings' && gauge.rings.length > 0 && (
        <figure>
          <div className="flex flex-wrap gap-3">
            {gauge.rings.map((p) => (
              <RingClock key={p.piston} pack={p} onPick={() => openPart(p.piston)} />
            ))}
          </div>
          <figcaption className="mt-1 text-sm text-soft">
            {tr`Ring gaps seen on the crown, free end up, outermost the top ring. Grey stroke: as fitted. Dot: as found.`}
          </figcaption>
        </figure>
      )}
      <Words tab={tab} />
      <Tables figures={here} onPick={setShown} />
      {tab === 'Rods and shells' && <Film />}
      <div className="flex flex-wrap gap-2">
        <FileKey
          href={`/api/cases/${engineCase.id}/gauge/sheet.xlsx?lengths=${length}`}
          name={fileName(engineCase.title, 'sheet.xlsx')}
        >
          {tr`Sheet as spreadsheet (XLSX)`}
        </FileKey>
        <FileKey
          href={`/api/cases/${engineCase.id}/gauge/sheet.csv?lengths=${length}`}
          name={fileName(engineCase.title, 'sheet.csv')}
        >
          {tr`Sheet as CSV`}
        </FileKey>
        <FileKey
          href={`/api/cases/${engineCase.id}/gauge/readings.csv`}
          name={fileName(engineCase.title, 'readings.csv')}
        >
          {tr`Readings as CSV`}
        </FileKey>
      </div>
      <Budget figure={shown} onClose={() => setShown(null)} />
    </section>
  );
}

function Shapes({ of, also, onPick }: { of: string; also: string; onPick: (place: string) => void }) {
  const { engineCase } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  const { lengths: length } = useCaseContext();
  return (
    <div className="space-y-4">
      {[of, also].map((id) => {
        const profiles = gauge.profiles.filter((p) => p.characteristic === id && p.phase === 'asFound');
        return profiles.length > 0 ? (
          <JournalPictures key={id} profiles={profiles} unit={length} onPick={onPick} />
        ) : null;
      })}
    </div>
  );
}

function Stacks({ characteristic, onPick }: { characteristic: string; onPick: (f: Figure) => void }) {
  const { engineCase } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  const { lengths: length } = useCaseContext();
  const of = gauge.figures.filter((f) => f.characteristic === characteristic && f.phase === 'asFound');
  const most = Math.max(...of.map((f) => f.value), ...of.map((f) => f.limit?.wear ?? f.limit?.most ?? 0));
  if (of.length === 0) return null;
  return (
    <figure>
      <div className="flex flex-wrap gap-2">
        {of.map((f) => (
          <ClearanceStack key={f.place} clearance={f} unit={length} most={most} onPick={() => onPick(f)} />
        ))}
      </div>
      <figcaption className="mt-1 text-sm text-soft">
        {tr`Housing, shell, clearance (drawn large), journal, shell, housing. Dashed: the most it may be.`}
      </figcaption>
    </figure>
  );
}

/** Clearances as stacks, and beside them whether journal, shell and stamp are of one size. */
function Fits({
  of,
  characteristic,
  onPick,
}: {
  of: string;
  characteristic: string;
  onPick: (f: Figure) => void;
}) {
  const { openPart, engineCase } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  const grades = gauge.grades.filter((g) => g.place.startsWith(of));
  return (
    <div className="flex flex-wrap items-start gap-x-8 gap-y-4">
      <Stacks characteristic={characteristic} onPick={onPick} />
      {grades.length > 0 && (
        <table className="card text-left">
          <thead className="text-sm text-soft">
            <tr>
              {[tr`Which size is it?`, tr`Journal`, tr`Shells`, tr`Stamp`, ''].map((h, i) => (
                <th key={i} className="px-2 pt-2 font-semibold">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {grades.map((g) => (
              <tr key={g.place} className={`border-t border-line ${g.loud ? 'bg-lead-tint' : ''}`}>
                <td className="px-2">
                  <button className="min-h-9" onClick={() => openPart(g.place)}>
                    <Addr code={g.place} />
                  </button>
                </td>
                <td className="fig px-2">{g.journalGrade}</td>
                <td className="fig px-2">{g.shellGrade ?? '?'}</td>
                <td className="fig px-2">{g.stampedGrade ?? '?'}</td>
                <td
                  className="px-2 text-sm"
                  title={g.odds.map((o) => `${o.grade} ${percent(o.p)}`).join(', ')}
                >
                  {g.loud ? <b className="text-lead">{tr`✕ do not agree`}</b> : tr`agree`}
                  {g.agree !== null && (
                    <span className="text-soft">
                      {' '}
                      <Trans>({percent(g.agree)} by size)</Trans>
                    </span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

/** What the figures say together: trends, weights, disagreements. */
function Words({ tab }: { tab: string }) {
  const { knowledge, engineCase } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  const { trends, weights, notes } = gauge;
  const groupOf = (id: string) => byId(knowledge.characteristics).get(id)?.group ?? '';
  const about = (name: string) =>
    knowledge.characteristics.some((c) => c.group === tab && name.startsWith(c.name)) ||
    (tab === 'Rings' && /^P\d+[TNL]:/.test(name));
  const lines = [
    ...trends.filter((t) => tab === all || groupOf(t.characteristic) === tab).map((t) => t.words),
    ...weights.filter(() => tab === all || tab === 'Rods and shells').map((w) => w.words),
    ...notes.filter((n) => tab === all || about(n)),
  ];
  return lines.length > 0 ? (
    <ul className="max-w-4xl list-disc space-y-1 pl-5">
      {lines.map((l) => (
        <li key={l}>{l}</li>
      ))}
    </ul>
  ) : null;
}

const hasLimit = (f: Figure) =>
  f.limit !== null && (f.limit.least !== null || f.limit.most !== null || f.limit.wear !== null);

/** What sound places of other engines of the kind measured; no limit, and told as such. */
function Others({ of, unit }: { of: Schemas['KindBackground'] | undefined; unit: string }) {
  if (!of) return null;
  return (
    <span
      className="block font-normal italic"
      title={tr`As they came, at ${of.places} places where somebody looked and saw nothing worse than slight; in the middle ${figure(of.median, unit)}. No limit.`}
    >
      <Trans>sound ones </Trans>
      {figure(of.least, unit) === figure(of.most, unit)
        ? figure(of.least, unit)
        : tr`${figure(of.least, unit)} to ${figure(of.most, unit)}`}{' '}
      ({of.engines} {plural(of.engines, { one: 'engine', other: 'engines' })})
    </span>
  );
}

function useBackground() {
  const { engineCase } = useCaseContext();
  const student = useIsStudent();
  const background = useQuery({
    enabled: !student,
    queryKey: ['background', engineCase.id, engineCase.engineName, engineCase.kindId],
    queryFn: () => unwrap(api.GET('/api/cases/{id}/background', { params: { path: { id: engineCase.id } } })),
    staleTime: 300_000,
  });
  return background.data ?? [];
}

/** One table for each kind of part: places down, figures across, before and after beside each other. */
function Tables({ figures, onPick }: { figures: Figure[]; onPick: (f: Figure) => void }) {
  const { knowledge, openPart, section } = useCaseContext();
  const { lengths: length } = useCaseContext();
  const background = useBackground();
  const cells = new Map(section.cells.map((c) => [c.address, c]));
  const kinds = [...new Set(figures.map((f) => cells.get(f.place)?.kind ?? ''))];
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-start gap-4">
        {kinds.map((kind) => {
          const of = figures.filter((f) => cells.get(f.place)?.kind === kind);
          const columns = [...new Set(of.map((f) => f.characteristic))];
          const places = [...new Set(of.map((f) => f.place))];
          const tops = new Map(
            columns.map((c) => [
              c,
              Math.max(
                ...of
                  .filter((f) => f.characteristic === c)
                  .map((f) => Math.max(f.value + f.expanded, (f.limit?.wear ?? f.limit?.most ?? 0) * 1.08)),
              ),
            ]),
          );
          const name = byId(knowledge.kinds).get(kind)?.name ?? kind;
          return (
            <div
              key={kind}
              className="card max-w-full overflow-x-auto"
              tabIndex={0}
              role="region"
              aria-label={tr`Figures of ${name}`}
            >
              <table className="text-left">
                <thead className="text-sm text-soft">
                  <tr>
                    <th className="px-3 py-2 font-semibold">{name}</th>
                    {columns.map((c) => {
                      const f = of.find((x) => x.characteristic === c)!;
                      const u = unitOf(knowledge, c, f.quantity, length);
                      const entry = byId(knowledge.characteristics).get(c);
                      return (
                        <th
                          key={c}
                          className="max-w-56 least-28 px-3 py-2 align-bottom font-semibold"
                          title={entry?.how}
                        >
                          {f.name}
                          <span className="block font-normal">
                            {unitWords(u)} {limitWords(f.limit, u)}
                          </span>
                          <Others
                            of={background.find((b) => b.characteristic === c && b.kind === kind)}
                            unit={u}
                          />
                        </th>
                      );
                    })}
                  </tr>
                </thead>
                <tbody>
                  {places.map((place) => (
                    <tr key={place} className="border-t border-line">
                      <td className="px-3">
                        <button className="min-h-11 text-lg" onClick={() => openPart(place)}>
                          <Addr code={place} />
                        </button>
                      </td>
                      {columns.map((c) => (
                        <td key={c} className="px-3">
                          {of
                            .filter((f) => f.place === place && f.characteristic === c)
                            .map((f) => {
                              const u = unitOf(knowledge, c, f.quantity, length);
                              return (
                                <button
                                  key={f.phase}
                                  className={`block min-h-11 text-left ${f.conformity === 'outside' ? 'font-bold text-lead' : ''}`}
                                  onClick={() => onPick(f)}
                                  aria-label={tr`${f.name} of ${place}, ${figure(f.value, u)}: how it came about`}
                                >
                                  <span className="flex items-center gap-2 whitespace-nowrap">
                                    <span className="fig text-lg">{figure(f.value, u)}</span>
                                    <span className="fig text-sm text-soft">
                                      ±{uncertainty(f.expanded, u)}
                                    </span>
                                    {phaseWords[f.phase] && (
                                      <span className="text-sm text-oil">{phaseWords[f.phase]}</span>
                                    )}
                                    {hasLimit(f) && columns.length < 4 && (
                                      <LimitBar f={f} top={tops.get(c)!} unit={u} />
                                    )}
                                  </span>
                                  {f.limit &&
                                    f.limit.sourceText !==
                                      of.find((x) => x.characteristic === c)?.limit?.sourceText && (
                                      <span className="block max-w-64 text-sm font-normal text-soft">
                                        {limitWords(f.limit, u)}
                                      </span>
                                    )}
                                  {f.conformity && f.conformity !== 'inside' && (
                                    <span className="block text-sm">{standWords(f)}</span>
                                  )}
                                </button>
                              );
                            })}
                        </td>
                      ))}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          );
        })}
      </div>
      <p className="text-sm text-soft">
        {tr`± is the expanded uncertainty, about 95 % (GUM), at 20 °C; decided after ISO 14253-1. Press a figure for its budget.`}
      </p>
    </div>
  );
}

/** Least oil film of the big ends, by Reynolds’ equation; asked for, since it takes its time. */
function Film() {
  const { engineCase } = useCaseContext();
  const [on, setOn] = useState(false);
  const { lengths: length } = useCaseContext();
  const film = useQuery({
    enabled: on,
    queryKey: [...keys.rooms(engineCase.id), 'film'],
    queryFn: () =>
      unwrap(api.GET('/api/cases/{caseId}/gauge/film', { params: { path: { caseId: engineCase.id } } })),
  });
  return (
    <section className="space-y-2">
      {!on && (
        <button className="key" onClick={() => setOn(true)}>
          {tr`Reckon the oil film of the big ends`}
        </button>
      )}
      <Trouble problem={film.error as unknown as ApiProblem | null} />
      {film.isFetching && <p className="text-soft">{tr`Solving Reynolds’ equation …`}</p>}
      {film.data && (
        <div className="max-w-full overflow-x-auto" tabIndex={0} role="region" aria-label={tr`Oil film`}>
          <table className="card text-left">
            <caption className="px-3 pt-2 text-left text-sm text-soft">
              {tr`Least oil film at the speed, oil and steady load entered for the engine; Reynolds’ equation after Raimondi and Boyd, the short bearing beside it`}
            </caption>
            <tbody>
              {film.data.map((f) => {
                const of = (id: string) => f.results.find((r) => r.id === id)!.value!;
                return (
                  <tr key={f.place} className="border-t border-line">
                    <td className="px-3 py-2">
                      <Addr code={f.place} />
                    </td>
                    <td className="fig px-3 text-lg font-bold">{told(of('least-film'), length, 4)}</td>
                    <td className="px-3">
                      {tr`eccentricity`} {figure(of('eccentricity-ratio'), 'x')}
                    </td>
                    <td className="px-3">
                      {tr`greatest pressure`} {figure(of('greatest-pressure') / 1000, 'MPa', 1)} {tr`MPa`}
                    </td>
                    <td className="px-3 text-soft">
                      {tr`short bearing`} {told(of('short-bearing-least-film'), length, 4)}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
