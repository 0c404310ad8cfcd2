import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { Link, useLocation, useParams } from 'react-router';
import type { CaseAnswers } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { LevelBadge } from '../look/LevelBadge';
import { Picture } from '../pictures/Photos';
import { Addr } from '../ui/basics';
import { figure, unitWords } from '../ui/figures';
import { standWords, unitOf } from '../ui/limits';
import { actionWords, custodyText, levelWords, stands } from '../ui/words';
import { stationName, stationTitle, stationWords, type StationName } from './stations';

type State = CaseAnswers['stations'][number];
type Cell = CaseAnswers['section']['cells'][number];

/** All of one cylinder, main bearing or bank: its parts with what was found, measured and decided, its pictures, and how bad it is beside the others. */
export function Station() {
  const asked = useParams().station as StationName;
  const context = useCaseContext();
  const { engineCase, section } = context;
  const stations = useRoom(engineCase.id, 'stations');
  if (asked === 'engine')
    return (
      <Whole
        title={tr`The engine as a whole`}
        cells={section.cells.filter((c) => c.column === null)}
        stations={stations}
        asked={asked}
      />
    );
  const here = stations.find((s) => stationName(s) === asked);
  if (!here)
    return (
      <div className="max-w-xl space-y-3">
        <h1 className="text-2xl">
          <Trans>This engine has no {stationTitle(asked).toLowerCase()}</Trans>
        </h1>
        <p>{tr`It has these.`}</p>
        <Worst of={stations.filter((s) => s.scope === 'cylinder')} asked={asked} />
        <Worst of={stations.filter((s) => s.scope === 'main')} asked={asked} />
      </div>
    );
  return (
    <Whole
      title={stationWords(here)}
      here={here}
      cells={section.cells.filter((c) => here.places.includes(c.address))}
      stations={stations}
      asked={asked}
    />
  );
}

function Whole({
  title,
  here,
  cells,
  stations,
  asked,
}: {
  title: string;
  here?: State;
  cells: Cell[];
  stations: State[];
  asked: StationName;
}) {
  const context = useCaseContext();
  const { engineCase, places } = context;
  const { search } = useLocation();
  const addresses = new Set(cells.map((c) => c.address));
  const photos = engineCase.photos.filter((p) => stands(p) && addresses.has(p.place));
  const state = (c: Cell) => places.find((s) => s.place === c.address);
  // What is damaged comes first, the rest as it sits in the engine.
  const told = cells
    .filter((c) => {
      const p = state(c);
      return p && (p.damage !== null || p.readings > 0 || p.share !== null || p.verdict !== null);
    })
    .sort((a, b) => Number((state(b)?.damage ?? 0) > 0) - Number((state(a)?.damage ?? 0) > 0));
  const bare = cells.filter((c) => !told.includes(c));
  const scope = stations.filter((s) => s.scope === (here?.scope ?? 'cylinder'));
  const inOrder = [...scope].sort((a, b) => a.number - b.number);
  const at = inOrder.findIndex((s) => s.number === here?.number);
  return (
    <div className="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_18rem]">
      <section className="min-w-0 space-y-5">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
          <h1 className="text-2xl">{title}</h1>
          {here && <p className="flex-1 text-soft">{standing(here, scope.length)}</p>}
          {here && (
            <span className="flex flex-wrap gap-1.5">
              {([-1, 1] as const).map((by) => {
                const to = inOrder[at + by];
                return to ? (
                  <Link
                    key={by}
                    className="key"
                    to={{ pathname: `../${stationName(to)}`, search }}
                    relative="path"
                  >
                    {by < 0 ? '◂ ' : ''}
                    {stationWords(to)}
                    {by > 0 ? ' ▸' : ''}
                  </Link>
                ) : null;
              })}
            </span>
          )}
        </div>
        {told.length === 0 && (
          <p>{tr`Nothing was found or measured of it yet. Press a part below to begin with it.`}</p>
        )}
        {told.length > 0 && (
          <ul className="divide-y divide-line border-y border-line" aria-label={tr`Its parts`}>
            {told.map((c) => (
              <PartRow key={c.address} cell={c} />
            ))}
          </ul>
        )}
        {photos.length > 0 && (
          <div>
            <h2 className="mb-2 text-lg">{tr`Photographs`}</h2>
            <ul className="flex flex-wrap gap-2">
              {photos.map((p) => (
                <li key={p.id}>
                  <Picture photo={p} among={photos} context={context} />
                  <Addr code={p.place} className="text-sm" />
                </li>
              ))}
            </ul>
          </div>
        )}
        {bare.length > 0 && (
          <div>
            <h2 className="mb-2 text-lg">{tr`Nothing found or measured of`}</h2>
            <ul className="grid grid-cols-[repeat(auto-fill,minmax(min(15rem,100%),1fr))] gap-1.5">
              {bare.map((c) => (
                <li key={c.address} className="contents">
                  <button
                    className="key flex max-w-full items-center gap-2 px-2 text-left font-normal"
                    onClick={() => context.openPart(c.address)}
                  >
                    <Addr code={c.address} />
                    <span className="min-w-0 flex-1 truncate">{c.words}</span>
                    {state(c)?.tagged && <span className="text-sm text-soft">{tr`tagged`}</span>}
                  </button>
                </li>
              ))}
            </ul>
          </div>
        )}
      </section>
      <aside className="space-y-5">
        {(['cylinder', 'main', 'bank'] as const).map((s) => (
          <Worst key={s} of={stations.filter((o) => o.scope === s)} asked={asked} />
        ))}
      </aside>
    </div>
  );
}

function PartRow({ cell }: { cell: Cell }) {
  const { engineCase, knowledge, lengths, openPart, places } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  const state = places.find((p) => p.place === cell.address);
  const findings = engineCase.findings.filter(
    (f) => stands(f) && f.place === cell.address && f.seen === 'present',
  );
  const figures = gauge.figures.filter((f) => f.place === cell.address && f.conformity !== null);
  const tag = engineCase.parts.find((p) => stands(p) && p.place === cell.address);
  return (
    <li>
      <button
        className="grid w-full grid-cols-[4.2rem_minmax(0,1fr)_auto] items-start gap-x-3 py-2 text-left hover:bg-dye-tint"
        onClick={() => openPart(cell.address)}
      >
        <Addr code={cell.address} className="text-xl" />
        <span className="min-w-0">
          <b>{cell.words}</b>
          {tag && <span className="text-sm text-soft"> · {custodyText(tag)}</span>}
          {findings.map((f) => (
            <span key={f.id} className="mt-1 flex flex-wrap items-center gap-x-2">
              <LevelBadge level={f.level} />
              {knowledge.signs.find((s) => s.id === f.sign)?.name ?? f.sign}, {levelWords[f.level]}
            </span>
          ))}
          {findings.length === 0 && state?.damage === 0 && (
            <span className="block text-oil">{tr`✓ looked at, nothing found`}</span>
          )}
          {figures.map((f) => {
            const unit = unitOf(knowledge, f.characteristic, f.quantity, lengths);
            return (
              <span key={f.characteristic + f.phase} className="block">
                {f.name} <b className="fig">{figure(f.value, unit)}</b> {unitWords(unit)}{' '}
                <span className={f.conformity === 'outside' ? 'font-bold text-lead' : 'text-soft'}>
                  {standWords(f)}
                </span>
              </span>
            );
          })}
        </span>
        {state?.verdict ? (
          <span className="rounded border-2 border-line px-1.5 font-semibold">
            {actionWords[state.verdict]}
          </span>
        ) : (
          <span />
        )}
      </button>
    </li>
  );
}

/** Stations of one kind, the worst first. */
function Worst({ of, asked }: { of: State[]; asked: StationName }) {
  const { search } = useLocation();
  const [first] = of;
  if (!first) return null;
  return (
    <nav aria-label={tr`${plural[first.scope] ?? ''}, worst first`}>
      <h2 className="mb-1 text-lg">
        <Trans>{plural[first.scope]}, worst first</Trans>
      </h2>
      <ol className="divide-y divide-line">
        {of.map((s) => (
          <li key={s.number}>
            <Link
              to={{ pathname: `../${stationName(s)}`, search }}
              relative="path"
              aria-current={stationName(s) === asked ? 'page' : undefined}
              className="flex min-h-11 items-center gap-2 px-1 aria-[current=page]:bg-dye-tint"
            >
              <b className="fig w-10 text-lg">
                {s.scope === 'main' ? `M${s.number}` : stationWords(s, true)}
              </b>
              <span className="text-sm">{badness(s)}</span>
            </Link>
          </li>
        ))}
      </ol>
    </nav>
  );
}

const plural: Record<string, string> = { cylinder: tr`Cylinders`, main: tr`Main bearings`, bank: tr`Banks` };

function badness(s: State) {
  const words = (
    [
      [s.severe, tr`severe`],
      [s.outside, tr`outside`],
      [s.moderate, tr`moderate`],
      [s.slight, tr`slight`],
    ] as const
  )
    .filter(([n]) => n > 0)
    .map(([n, what]) => `${n} ${what}`);
  if (s.unread > 0 && words.length === 0) words.push(tr`${s.unread} unread`);
  return words.join(', ') || (s.rank === null ? tr`nothing known yet` : tr`nothing bad`);
}

function standing(s: State, of: number) {
  if (s.rank === null || of < 2) return badness(s);
  return s.rank === 1
    ? tr`the worst of ${of}: ${badness(s)}`
    : tr`number ${s.rank} from the worst of ${of}: ${badness(s)}`;
}
