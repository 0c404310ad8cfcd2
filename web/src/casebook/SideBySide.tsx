import { t as tr } from '@lingui/core/macro';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearchParams } from 'react-router';
import { type ApiProblem, type EngineCase, type Schemas } from '../api/client';
import { useCases, useKnowledge, useSettings } from '../api/queries';
import { useChosenLengths } from '../device/lengths';
import { LongSection } from '../section/LongSection';
import { sights } from '../section/lenses';
import { Hatches } from '../section/Swatch';
import { Addr, Trouble, Waiting } from '../ui/basics';
import { byId } from '../ui/byId';
import { figure, unitWords } from '../ui/figures';
import { unitOf } from '../ui/limits';
import { recordQuery, roomQuery } from './caseQueries';

type Figure = Schemas['SheetFigure'];
type Place = Schemas['PlaceState'];

/** All of one engine that is held against the other. */
function useEngine(id: string) {
  const record = useQuery({ ...recordQuery(id), enabled: id !== '' });
  const section = useQuery({ ...roomQuery(id, 'section'), enabled: id !== '' });
  const places = useQuery({ ...roomQuery(id, 'places'), enabled: id !== '' });
  const gauge = useQuery({ ...roomQuery(id, 'gauge'), enabled: id !== '' });
  const problem = record.error ?? section.error ?? places.error ?? gauge.error;
  return {
    problem: problem as ApiProblem | null,
    engine:
      record.data && section.data && places.data && gauge.data
        ? { record: record.data, section: section.data, places: places.data, figures: gauge.data.figures }
        : null,
  };
}

type Stratum = Schemas['Stratum'];

/** What of an engine is held against the other: this head against that one, and nothing else on the page. */
const regions: Record<string, { name: string; strata: Stratum[] }> = {
  head: { name: tr`Head and valves`, strata: ['valveGear', 'head'] },
  cylinders: { name: tr`Cylinders and pistons`, strata: ['bore', 'piston', 'rings', 'pin'] },
  crank: { name: tr`Rods and crank`, strata: ['rod', 'bigEnd', 'crankpin', 'main'] },
  rest: { name: tr`Case and all else`, strata: ['case', 'fuel', 'drive', 'accessories'] },
};

type Engine = NonNullable<ReturnType<typeof useEngine>['engine']>;

/** The engine with nothing but one region of it; drawn whole. */
function within(of: ReturnType<typeof useEngine>, region: string): ReturnType<typeof useEngine> {
  const strata = regions[region]?.strata;
  if (!strata || !of.engine) return of;
  const there = new Set(
    of.engine.section.cells.filter((c) => strata.includes(c.stratum)).map((c) => c.address),
  );
  return {
    ...of,
    engine: {
      ...of.engine,
      places: of.engine.places.filter((p) => there.has(p.place)),
      figures: of.engine.figures.filter((f) => there.has(f.place)),
    },
  };
}

/** Two engines in one view: what one lacks, and whether the other could give it. */
export function SideBySide() {
  const { id = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const other = params.get('with') ?? '';
  const region = params.get('of') ?? '';
  const left = within(useEngine(id), region);
  const right = within(useEngine(other), region);
  const cases = useCases('', false, '');
  const knowledge = useKnowledge();
  const settings = useSettings();
  const chosen = useChosenLengths();
  if (left.problem ?? right.problem)
    return (
      <main className="p-4">
        <Trouble problem={left.problem ?? right.problem} />
      </main>
    );
  if (!left.engine || !knowledge.data) return <Waiting what={tr`the engines`} />;
  const lengths = chosen ?? ((left.engine.record.lengths ?? settings.data?.lengths) === 'inch' ? 'in' : 'mm');
  const choose = (key: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(key, value);
    else next.delete(key);
    setParams(next, { replace: true });
  };
  const choices = cases.data?.pages.flatMap((p) => p.cases).filter((c) => c.id !== id) ?? [];
  return (
    <>
      <Hatches />
      <main className="mx-auto max-w-7xl space-y-5 px-4 py-5">
        <div className="grid gap-5 lg:grid-cols-2">
          <Side engine={left.engine} of={tr`This engine`} />
          <div>
            <label className="block">
              <span className="label">{tr`Beside it`}</span>
              <select className="entry" value={other} onChange={(e) => choose('with', e.target.value)}>
                <option value="">{tr`choose another engine`}</option>
                {choices.map((c) => (
                  <option key={c.id} value={c.id}>
                    {c.title} · {c.engineName}
                  </option>
                ))}
                {other !== '' && !choices.some((c) => c.id === other) && right.engine && (
                  <option value={other}>{right.engine.record.title}</option>
                )}
              </select>
            </label>
            {right.engine && <Side engine={right.engine} of="" />}
          </div>
        </div>
        {right.engine && (
          <>
            <div className="flex flex-wrap gap-2" role="group" aria-label={tr`What is held side by side`}>
              {[
                ['', tr`The whole engine`] as const,
                ...Object.entries(regions).map(([k, r]) => [k, r.name] as const),
              ].map(([key, name]) => (
                <button
                  key={key}
                  type="button"
                  className="key"
                  aria-pressed={region === key}
                  onClick={() => choose('of', key)}
                >
                  {name}
                </button>
              ))}
            </div>
            <Gives
              patient={left.engine}
              donor={right.engine}
              kindName={(k) => byId(knowledge.data.kinds).get(k)?.name ?? k}
            />
            <Figures
              left={left.engine}
              right={right.engine}
              unit={(f) => unitOf(knowledge.data, f.characteristic, f.quantity, lengths)}
            />
          </>
        )}
      </main>
    </>
  );
}

function Side({ engine, of }: { engine: Engine; of: string }) {
  return (
    <section className="mt-2">
      <h1 className="text-xl">
        {of && <span className="block text-sm font-normal text-soft">{of}</span>}
        <Link className="underline underline-offset-4" to={`/cases/${engine.record.id}`}>
          {engine.record.title}
        </Link>
      </h1>
      <p className="text-sm text-soft">{about(engine.record)}</p>
      <div className="card mt-2 p-3">
        <LongSection
          section={engine.section}
          sights={sights(engine.places, undefined, 'damage', 0)}
          fit
          bare
        />
      </div>
    </section>
  );
}

const about = (c: EngineCase) =>
  [c.engineName, c.serial, c.hours !== null && `${c.hours} h`].filter(Boolean).join(' · ');

const outside = (engine: Engine, place: string) =>
  engine.figures.some((f) => f.place === place && f.phase === 'asFound' && f.conformity === 'outside');

/** Looked at, nothing worse than slight, nothing measured out of its limit, and not decided against. */
const sound = (engine: Engine, p: Place) =>
  p.damage !== null &&
  p.damage <= 1 &&
  !p.loud &&
  !outside(engine, p.place) &&
  p.verdict !== 'replace' &&
  p.verdict !== 'machine';

const bad = (engine: Engine, p: Place) =>
  (p.damage ?? 0) >= 2 ||
  p.loud ||
  outside(engine, p.place) ||
  p.verdict === 'replace' ||
  p.verdict === 'machine';

/** What the first engine lacks, by kind of part, and what the second has of it. */
function Gives({
  patient,
  donor,
  kindName,
}: {
  patient: Engine;
  donor: Engine;
  kindName: (kind: string) => string;
}) {
  const kindOf = (e: Engine) => new Map(e.section.cells.map((c) => [c.address, c.kind]));
  const [kindsHere, kindsThere] = [kindOf(patient), kindOf(donor)];
  const lacks = new Map<string, Place[]>();
  for (const p of patient.places.filter((x) => bad(patient, x))) {
    const kind = kindsHere.get(p.place);
    if (kind && kind !== 'engine') lacks.set(kind, [...(lacks.get(kind) ?? []), p]);
  }
  const rows = [...lacks].map(([kind, places]) => {
    const theirs = donor.places.filter((p) => kindsThere.get(p.place) === kind);
    return {
      kind,
      places,
      sound: theirs.filter((p) => sound(donor, p)),
      bad: theirs.filter((p) => bad(donor, p)),
      unknown: theirs.filter((p) => !sound(donor, p) && !bad(donor, p)),
    };
  });
  return (
    <section>
      <h2 className="text-xl">{tr`What this engine lacks, and what the other has of it`}</h2>
      <p className="text-sm text-soft">
        {tr`Sound is: looked at, nothing worse than slight, nothing out of limit. Whether it fits is told when it is offered to the case as a candidate and measured.`}
      </p>
      {rows.length === 0 ? (
        <p className="mt-1">{tr`Nothing here is damaged, out of limit or decided against.`}</p>
      ) : (
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={tr`What it lacks`}>
          <table className="mt-2 w-full text-left [&_td]:py-1.5 [&_td]:pr-4 [&_td]:align-top [&_th]:pr-4">
            <thead className="text-sm text-soft">
              <tr>
                <th>{tr`Part`}</th>
                <th>{tr`Bad here`}</th>
                <th>{tr`Sound there`}</th>
                <th>{tr`Not looked at there`}</th>
                <th>{tr`Bad there`}</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr key={r.kind} className="border-t border-line">
                  <td className="font-semibold">{kindName(r.kind)}</td>
                  {[r.places, r.sound, r.unknown, r.bad].map((of, i) => (
                    <td key={i} className={i === 1 && of.length > 0 ? 'font-bold text-oil' : ''}>
                      {of.length === 0
                        ? '–'
                        : of.map((p) => <Addr key={p.place} code={p.place} className="mr-2" />)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

/** Figures that both have, place by place. */
function Figures({ left, right, unit }: { left: Engine; right: Engine; unit: (f: Figure) => string }) {
  const key = (f: Figure) => `${f.characteristic}/${f.place}/${f.phase}`;
  const theirs = new Map(right.figures.map((f) => [key(f), f]));
  const both = left.figures.filter((f) => theirs.has(key(f)));
  return (
    <section>
      <h2 className="text-xl">{tr`Figures that both have`}</h2>
      {both.length === 0 && (
        <p className="text-soft">{tr`Nothing was measured at the same place in both.`}</p>
      )}
      {both.length > 0 && (
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={tr`Figures of both`}>
          <table className="mt-2 text-left [&_td]:py-1 [&_td]:pr-6 [&_th]:pr-6">
            <thead className="text-sm text-soft">
              <tr>
                <th>{tr`Figure`}</th>
                <th>{tr`Place`}</th>
                <th className="text-right">{left.record.title}</th>
                <th className="text-right">{right.record.title}</th>
                <th>{tr`Differ`}</th>
              </tr>
            </thead>
            <tbody>
              {both.map((f) => {
                const g = theirs.get(key(f))!;
                const u = unit(f);
                // Apart by more than the doubt of both together.
                const apart = Math.abs(f.value - g.value) > Math.hypot(f.expanded, g.expanded);
                return (
                  <tr key={key(f)} className="border-t border-line">
                    <td>{f.name}</td>
                    <td>
                      <Addr code={f.place} />
                    </td>
                    {[f, g].map((x, i) => (
                      <td
                        key={i}
                        className={`fig text-right ${x.conformity === 'outside' ? 'font-bold text-lead' : ''}`}
                      >
                        {figure(x.value, u)} {i === 0 ? '' : unitWords(u)}
                      </td>
                    ))}
                    <td className="text-sm">{apart ? tr`clearly` : tr`within their doubt`}</td>
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
