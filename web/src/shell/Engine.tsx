import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import type { CaseAnswers, Schemas } from '../api/client';
import { useRoomSoon } from '../casebook/caseQueries';
import { useCandidateName } from '../casebook/candidates';
import { usePicked, type CaseContext } from '../casebook/context';
import { remember, remembered } from '../device/remember';
import { around, broad, fine, hasTwoBanks, type Banks } from '../section/geometry';
import { lensNames, legends, type Lens, type Sight } from '../section/lenses';
import { moments, momentWords } from '../section/off';
import { LongSection } from '../section/LongSection';
import { partsOf, Strip, type StationName, type Stations } from '../section/Strip';
import { Swatch } from '../section/Swatch';
import { Addr } from '../ui/basics';
import type { Stage } from './stages';
import { useTold } from './told';

/** How tall the engine stands over a stage: whole where it is the instrument, a strip elsewhere, or folded away. */
type Height = 'full' | 'strip' | 'folded';

const heightWords: Record<Height, string> = { full: tr`Tall`, strip: tr`Low`, folded: tr`Away` };

const usual: Partial<Record<Stage, Height>> = { look: 'full', gauge: 'full', trace: 'full', verdict: 'full' };

const rememberedHeights = (): Partial<Record<string, Height>> => {
  try {
    const kept: unknown = JSON.parse(remembered('section') ?? '{}');
    return Object.fromEntries(
      Object.entries(kept as object).filter(([, h]) => typeof h === 'string' && h in heightWords),
    );
  } catch {
    return {};
  }
};

/** What both drawings of the engine are told. */
export interface EngineProps {
  context: CaseContext;
  stage: Stage | 'station';
  sights: Map<string, Sight> | undefined;
  beside: Map<string, Sight> | undefined;
  lens: Lens;
  setLens: (lens: Lens) => void;
  other: Lens | null;
  setOther: (lens: Lens | null) => void;
  selected: string | null;
  offered: Schemas['Candidate'][];
  letter: string;
  onStation: (station: StationName) => void;
  /** Something is in the hand, and comes first. */
  low: boolean;
  /** Where it is looked at what was off when: the strip, and which of its moments; null is now. */
  time: { strip: CaseAnswers['strip']; then: number | null; setThen: (moment: number | null) => void } | null;
}

/** The engine over a stage at a desk: what it is shown by, the drawing, and in words what somebody points at. */
export function Engine(props: EngineProps) {
  const { context, stage, sights, beside, lens, selected, low } = props;
  const { section } = context;
  const stations = useRoomSoon(context.engineCase.id, 'stations') ?? none;
  const [heights, setHeights] = useState(rememberedHeights);
  const [told, setTold] = useState<string | null>(null);
  const [banks, setBanks] = useState<Banks>(() => asBanks(remembered('banks')));
  const [near, setNear] = useState(false);
  const words = withSight(useTold(context, told), props, told);
  // Beside an open part there is room for the stations only.
  const narrowed = usePicked().part !== null;
  const kept = heights[stage] ?? usual[stage as Stage] ?? 'strip';
  const height = low && kept === 'full' ? 'strip' : kept;
  const setHeight = (to: Height) => {
    const next = { ...heights, [stage]: to };
    setHeights(next);
    remember('section', JSON.stringify(next));
  };
  return (
    <section aria-label={tr`The engine`} className="no-print border-b border-line px-5 pt-1 pb-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
        {height !== 'folded' && <Lenses {...props} />}
        {height === 'full' ? (
          <p className="min-w-0 flex-1 basis-48 truncate" aria-live="off">
            {told && words.length > 0 ? (
              <>
                <Addr code={told} /> {words.join(' · ')}
              </>
            ) : (
              <Legend lens={lens} />
            )}
          </p>
        ) : (
          <span className="flex-1 text-soft">{height === 'folded' && tr`The engine is folded away.`}</span>
        )}
        {height === 'full' && hasTwoBanks(section) && (
          <Switch
            name={tr`Which bank`}
            of={{ both: tr`Both`, a: tr`Bank A`, b: tr`Bank B` }}
            value={banks}
            set={(b) => {
              setBanks(b);
              remember('banks', b);
            }}
          />
        )}
        {height === 'full' && (
          <button className={small} aria-pressed={near} onClick={() => setNear(!near)}>
            {tr`Larger`}
          </button>
        )}
        <Switch name={tr`The engine over this stage`} of={heightWords} value={height} set={setHeight} />
      </div>
      {height !== 'folded' && props.time && <TimeSlider {...props.time} parts={section.cells.length} />}
      {height === 'full' && (
        <div className={near ? 'max-h-[60vh] overflow-y-auto pt-1' : 'pt-1'}>
          <LongSection
            section={section}
            sights={sights}
            beside={beside}
            selected={selected}
            onPick={context.openPart}
            onTold={setTold}
            onStation={(n) => props.onStation(`cylinder-${n}`)}
            cell={near ? broad : fine}
            banks={banks}
            bare={narrowed}
          />
        </div>
      )}
      {height === 'strip' && (
        <div className="pt-1">
          <Strip
            section={section}
            stations={stations}
            lens={lens}
            sights={sights}
            selected={selected}
            onStation={props.onStation}
          />
        </div>
      )}
    </section>
  );
}

/** What the lens shows of a part, where it is not among what is told of each part anyway. */
function withSight(told: string[], { lens, sights }: EngineProps, part: string | null): string[] {
  const sight = part && (lens === 'off' || lens === 'after') ? sights?.get(part)?.words : '';
  return sight ? [told[0] ?? '', sight, ...told.slice(1)] : told;
}

/** Until they have come no station has parts. */
const none: Stations = [];

const asBanks = (kept: string | null): Banks => (kept === 'a' || kept === 'b' ? kept : 'both');

const small =
  'min-h-8 min-w-11 rounded-md border border-line px-2 text-sm hover:border-dye aria-pressed:border-dye aria-pressed:bg-dye-tint';

function Switch<V extends string>({
  name,
  of,
  value,
  set,
}: {
  name: string;
  of: Record<V, string>;
  value: V;
  set: (value: V) => void;
}) {
  return (
    <span role="group" aria-label={name} className="flex gap-1">
      {(Object.entries(of) as [V, string][]).map(([v, words]) => (
        <button key={v} className={small} aria-pressed={value === v} onClick={() => set(v)}>
          {words}
        </button>
      ))}
    </span>
  );
}

/** Moves the engine back to how far apart it was at each moment of the strip. */
function TimeSlider({ strip, then, setThen, parts }: NonNullable<EngineProps['time']> & { parts: number }) {
  const all = moments(strip);
  const at = Math.min(then ?? all.length - 1, all.length - 1);
  const words = momentWords(strip, all[at]!, parts);
  return (
    <p className="flex flex-wrap items-center gap-x-3 text-sm">
      <input
        type="range"
        aria-label={tr`Moment of the strip`}
        aria-valuetext={words}
        className="h-9 w-64 max-w-full grow accent-dye max-md:h-11 md:max-w-md"
        min={0}
        max={all.length - 1}
        value={at}
        onChange={(e) => setThen(Number(e.target.value) === all.length - 1 ? null : Number(e.target.value))}
      />
      <span className="min-w-0 grow basis-72">
        {words}
        {then === null && all.length > 1 && tr` (now)`}
      </span>
    </p>
  );
}

/** What the parts are shown by, one lens or two, and with which offered part in the engine. */
function Lenses({ context, lens, setLens, other, setOther, offered, letter }: EngineProps) {
  const nameOf = useCandidateName();
  const select = 'min-h-8 max-w-36 min-w-0 rounded-md border border-line bg-paper px-1 max-md:min-h-11';
  return (
    <span className="flex max-w-full flex-wrap items-center gap-2">
      <label className="flex items-center gap-1.5">
        <span className="font-semibold text-soft">{tr`Show`}</span>
        <select
          className={select}
          aria-label={tr`Show`}
          value={lens}
          onChange={(e) => setLens(e.target.value as Lens)}
        >
          {Object.entries(lensNames).map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-1.5">
        <span className="font-semibold text-soft">{tr`beside`}</span>
        <select
          className={select}
          aria-label={tr`Beside it, in the right half of each part`}
          value={other ?? ''}
          onChange={(e) => setOther((e.target.value || null) as Lens | null)}
        >
          <option value="">{tr`nothing`}</option>
          {Object.entries(lensNames)
            .filter(([id]) => id !== lens)
            .map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
        </select>
      </label>
      {offered.length > 0 && (
        <label className="flex items-center gap-1.5">
          <span className="font-semibold text-soft">{tr`with`}</span>
          <select
            className={select}
            aria-label={tr`With which part in the engine`}
            value={letter}
            onChange={(e) => context.thinkIn(e.target.value)}
          >
            <option value="">{tr`its own parts`}</option>
            {offered.map((c) => (
              <option key={c.id} value={c.letter}>
                {c.letter}, {nameOf(c)}
              </option>
            ))}
          </select>
        </label>
      )}
    </span>
  );
}

function Legend({ lens }: { lens: Lens }) {
  return (
    <span
      role="list"
      aria-label={tr`What the marks mean`}
      className="flex max-h-11 flex-wrap gap-x-3 gap-y-0.5 overflow-hidden text-xs"
    >
      {legends[lens].map((s) => (
        <span role="listitem" key={s.words} className="flex shrink-0 items-center gap-1">
          <Swatch sight={s} />
          {s.words}
        </span>
      ))}
    </span>
  );
}

/**
 * The engine on a phone: all stations in one line, and of the one in hand the section with its mains, each part as large as a thumb
 * in a glove.
 */
export function PhoneEngine(props: EngineProps & { done: () => void }) {
  const { context, sights, beside, lens, selected, done } = props;
  const { section } = context;
  const stations = useRoomSoon(context.engineCase.id, 'stations') ?? none;
  const first = section.cells.find((c) => c.address === selected)?.column;
  const [column, setColumn] = useState<number>(
    first ?? section.columns.findIndex((c) => c.kind === 'crankpin'),
  );
  const [whole, setWhole] = useState(false);
  const [told, setTold] = useState<string | null>(null);
  const words = withSight(useTold(context, told), props, told);
  const [banks, setBanks] = useState<Banks>(() =>
    section.cells.find((c) => c.address === selected)?.bank === 'b' ? 'b' : 'a',
  );
  const open = (address: string) => {
    done();
    context.openPart(address);
  };
  const loose = section.cells.filter((c) => c.column === null && c.drawn);
  const here = section.columns[column];
  const listed = partsOf(
    section,
    stations,
    here?.kind === 'main'
      ? `main-${here.number}`
      : `cylinder-${(banks === 'b' ? here?.cylinderB : here?.cylinderA) ?? here?.cylinderA ?? here?.cylinderB ?? 1}`,
  ).filter((c) => !c.drawn);
  return (
    <section
      aria-label={tr`The engine`}
      className="no-print space-y-2 border-b border-line px-2 py-2 md:hidden"
    >
      <Strip
        section={section}
        stations={stations}
        lens={lens}
        sights={sights}
        selected={selected}
        at={whole ? null : column}
        onStation={(station) => {
          setWhole(station === 'engine');
          const part = partsOf(section, stations, station).find((c) => c.column !== null);
          if (station === 'engine' || part?.column == null) return;
          setColumn(part.column);
          setBanks(part.bank);
        }}
      />
      <Lenses {...props} />
      {props.time && <TimeSlider {...props.time} parts={section.cells.length} />}
      {whole ? (
        <PartKeys cells={loose} sights={sights} open={open} />
      ) : (
        <>
          <LongSection
            section={around(section, column)}
            sights={sights}
            beside={beside}
            selected={selected}
            onPick={open}
            onTold={setTold}
            cell={broad}
            banks={banks}
            bare
          />
          {told && words.length > 0 && (
            <p className="rounded-md bg-dye-tint px-2 py-1 text-sm">
              <Addr code={told} /> {words.join(' · ')}
            </p>
          )}
          {listed.length > 0 && (
            <details>
              <summary className="flex min-h-11 items-center">
                <Trans>{listed.length} small</Trans> {plural(listed.length, { one: 'part', other: 'parts' })}{' '}
                {tr`of it`}
              </summary>
              <PartKeys cells={listed} sights={sights} open={open} />
            </details>
          )}
        </>
      )}
    </section>
  );
}

function PartKeys({
  cells,
  sights,
  open,
}: {
  cells: CaseContext['section']['cells'];
  sights: Map<string, Sight> | undefined;
  open: (address: string) => void;
}) {
  return (
    <ul className="grid grid-cols-2 gap-1.5" aria-label={tr`Parts of this station`}>
      {cells.map((c) => (
        <li key={c.address} className="contents">
          <button className="key flex items-center gap-1.5 px-2 text-left" onClick={() => open(c.address)}>
            <Addr code={c.address} />
            <span className="min-w-0 flex-1 truncate text-sm font-normal">{c.words}</span>
            {sights?.get(c.address)?.mark && <Swatch sight={sights.get(c.address)!} />}
          </button>
        </li>
      ))}
    </ul>
  );
}
