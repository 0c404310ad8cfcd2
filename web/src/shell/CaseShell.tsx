import { onlineManager, useQueryClient } from '@tanstack/react-query';
import { Suspense, useMemo, useState, useSyncExternalStore } from 'react';
import { NavLink, Outlet, useLocation, useNavigate, useParams, useSearchParams } from 'react-router';
import { knownNumbering, type ApiProblem, type CaseAnswers, type Schemas } from '../api/client';
import { keys } from '../api/keys';
import { useKnowledge, useSettings } from '../api/queries';
import { chooseLengths, useChosenLengths } from '../device/lengths';
import { PartDrawer } from './PartDrawer';
import { lensNames, legends, sights, type Lens, type Sight } from '../section/lenses';
import { useNarrow } from '../device/narrow';
import { remember, remembered } from '../device/remember';
import { Next } from './Next';
import { stages, useWants, type Stage, type Wants } from './stages';
import { Thumb } from './Thumb';
import { useTitle } from './title';
import { Hatches, LongSection, Swatch } from '../section/LongSection';
import { Header } from './Header';
import { Addr, Trouble, Waiting } from '../ui/basics';
import { RoomBoundary } from '../ui/RoomBoundary';
import { useAllRooms, useCase, useCaseEvents, useRoomQuery, useRoomSoon } from '../casebook/caseQueries';
import { OpenCase, WithCandidate, type CaseContext } from '../casebook/context';
import { letterOf, useCandidateName } from '../casebook/candidates';
import { layoutWords, stands } from '../ui/words';

/** A case on the screen: its engine on top, the eight stages, and the stage that is open. */
export function CaseShell() {
  const id = useParams().id!;
  const record = useCase(id);
  const knowledge = useKnowledge();
  const settings = useSettings();
  const client = useQueryClient();
  const navigate = useNavigate();
  const nameOf = useCandidateName();
  const chosen = useChosenLengths();
  useCaseEvents(id);
  const [params, setParams] = useSearchParams();
  const asked = params.get('with') ?? '';
  const offered = record.data?.candidates.filter(stands) ?? [];
  const candidate = offered.find((c) => c.letter === asked);
  const letter = candidate?.letter ?? '';
  useAllRooms(id, offered.map((c) => c.letter).join(''));
  const section = useRoomQuery(id, 'section', true, letter);
  const places = useRoomQuery(id, 'places', true, letter);
  const { pathname, state: here } = useLocation();
  const stage = stages.find(([path]) => pathname.endsWith(`/${path}`)) ?? stages[0];
  const lensAsked = params.get('lens');
  const lens = lensAsked !== null && lensAsked in lensNames ? (lensAsked as Lens) : stage[2];
  const part = params.get('part');
  const cause = Math.max(0, Number(params.get('cause') ?? 0) || 0);

  const [marked, setMarked] = useState<string | null>(null);
  const wants = useWants(id);
  useTitle(part, stage[1], record.data?.title);
  const [engine, setEngine] = useState(false);
  const narrow = useNarrow();
  const [heights, setHeights] = useState<Partial<Record<Stage, Height>>>(rememberedHeights);

  const trace = useRoomQuery(id, 'trace', lens === 'cause');
  const verdict = useRoomQuery(id, 'verdict', lens === 'verdict', letter);
  const seen = useMemo(
    () => (places.data ? sights(places.data, trace.data, lens, cause, verdict.data?.places) : undefined),
    [places.data, trace.data, lens, cause, verdict.data],
  );
  const put = (key: string, value: string | null) => {
    // What was opened is a step of the history: the key ✕ goes back over it, as Back does.
    if (value === null && key === 'part' && (here as { opened?: boolean } | null)?.opened) {
      void navigate(-1);
      return;
    }
    setParams(
      (p) => {
        const next = new URLSearchParams(p);
        if (value === null) next.delete(key);
        else next.set(key, value);
        // A sign that was open belongs to the part that was.
        if (key === 'part') next.delete('sign');
        // A candidate's part is seen with the candidate in the engine, and the engine's own that it took the place of without.
        const of = key === 'part' ? letterOf(value ?? '') : '';
        if (of) next.set('with', of);
        else if (key === 'part' && value && section.data?.cells.every((c) => c.address !== value))
          next.delete('with');
        return next;
      },
      key === 'part' && value !== null && part === null
        ? { state: { opened: true } }
        : { replace: true, state: here },
    );
  };

  const shown = [record, section, places, knowledge];
  const failed = shown.find((q) => q.error)?.error;
  // What was read before stands while the server does not answer.
  if (failed && shown.some((q) => !q.data))
    return (
      <>
        <Header />
        <div className="mx-auto mt-10 max-w-lg px-4">
          <Trouble problem={failed as ApiProblem} />
        </div>
      </>
    );
  if (!record.data || !section.data || !places.data || !knowledge.data)
    return shown.some((q) => q.fetchStatus === 'paused') ? (
      <>
        <Header />
        <p className="mx-auto mt-10 max-w-lg px-4">
          There is no network, and this case was not opened on this device before. Open it once with a
          network; after that it stays at hand.
        </p>
      </>
    ) : (
      <Waiting what="the case" />
    );
  knownNumbering.set(id, record.data.renumberings.filter((r) => r.withdrawnAt === null).length);

  const context: CaseContext = {
    engineCase: record.data,
    section: section.data,
    places: places.data,
    knowledge: knowledge.data,
    lengths: chosen ?? ((record.data.lengths ?? settings.data?.lengths) === 'inch' ? 'in' : 'mm'),
    setLengths: (unit) => {
      chooseLengths(unit);
      void client.invalidateQueries({ queryKey: keys.rooms(id) });
    },
    part,
    openPart: (address) => put('part', address),
    thinkIn: (of) => put('with', of || null),
    openBag: (code) => void navigate(`/cases/${id}/index?bag=${code}`),
    cause,
    pickCause: (index) => put('cause', String(index)),
    mark: setMarked,
  };
  const keep = new URLSearchParams(params);
  for (const key of ['lens', 'part', 'sign', 'round', 'step', 'help', 'view', 'group']) keep.delete(key);
  const query = keep.size > 0 ? `?${keep}` : '';
  const height = heights[stage[0]] ?? usualHeight(stage[0]);
  const setHeight = (to: Height) => {
    const next = { ...heights, [stage[0]]: to };
    setHeights(next);
    remember('section', JSON.stringify(next));
  };
  const inPlace = stage[0] === 'look';
  // Once a part is in the hand, the hand comes first.
  const compact = inPlace && (part !== null || params.has('peers'));
  const dossier = stage[0] === 'dossier';

  const side = (small: boolean) => (
    <SidePanel
      small={small}
      compact={compact}
      offered={offered}
      letter={letter}
      think={(l) => put('with', l || null)}
      lens={lens}
      setLens={(l) => put('lens', l === stage[2] ? null : l)}
      section={section.data}
      open={context.openPart}
    />
  );
  return (
    <OpenCase value={context}>
      <WithCandidate value={letter}>
        <Header inCase>
          <p className="truncate text-lg font-bold">
            {record.data.title}
            <Out caseId={id} className="ml-3 hidden md:inline" />
          </p>
          <Out caseId={id} className="md:hidden" />
          <p className="hidden truncate text-sm text-soft md:block">
            {record.data.engineName} · {layoutWords(record.data.layout)}
          </p>
        </Header>
        <Hatches />
        <Stages stage={stage[0]} wants={wants} query={query} />
        <Next caseId={id} />
        <div className="mx-auto max-w-7xl pb-24 md:pb-8">
          {!dossier && (
            <RoomBoundary what="The engine" at={`${pathname}${params}`}>
              {!narrow && (
                <div className="no-print border-b border-line">
                  {height === 'folded' ? (
                    <p className="flex items-center gap-3 px-5 text-sm">
                      <span className="flex-1 text-soft">The engine is folded away.</span>
                      <HeightKeys height={height} set={setHeight} />
                    </p>
                  ) : (
                    <div className="grid grid-cols-[minmax(0,1fr)_15rem] gap-x-4 px-5 py-2">
                      <div className={height === 'strip' ? 'h-24' : compact ? 'h-48' : 'h-72'}>
                        <LongSection
                          section={section.data}
                          {...(seen ? { sights: seen } : {})}
                          selected={part ?? marked}
                          onPick={context.openPart}
                        />
                      </div>
                      <div>
                        <HeightKeys height={height} set={setHeight} />
                        {side(height === 'strip')}
                      </div>
                    </div>
                  )}
                </div>
              )}
              {narrow && engine && (
                <div className="no-print border-b border-line px-2 md:hidden">
                  <PhoneSection
                    section={section.data}
                    seen={seen}
                    selected={part ?? marked}
                    open={(a) => {
                      setEngine(false);
                      context.openPart(a);
                    }}
                  />
                  {side(false)}
                </div>
              )}
            </RoomBoundary>
          )}
          {candidate && !dossier && (
            <p className="no-print mx-3 mt-3 flex flex-wrap items-center gap-x-3 gap-y-1 rounded-lg border-2 border-dye bg-dye-tint px-3 py-2 md:mx-5">
              <b className="fig text-2xl">.{candidate.letter}</b>
              <span className="grow basis-52">
                The {nameOf(candidate)}, thought into the engine in place of its own. Strip and Trace are of
                the engine as it came.
              </span>
              <button className="key" onClick={() => put('with', null)}>
                The engine as it came
              </button>
            </p>
          )}
          <main className="px-3 py-4 md:px-5">
            <RoomBoundary what={stage[1]} at={`${pathname}${params}`}>
              <Suspense fallback={<RoomWaiting what={stage[1]} />}>
                <Outlet />
              </Suspense>
            </RoomBoundary>
          </main>
        </div>
        {narrow && (
          <Thumb
            caseId={id}
            stage={stage[0]}
            wants={wants}
            query={query}
            engine={engine}
            setEngine={(open) => {
              setEngine(open);
              window.scrollTo({ top: 0 });
            }}
            onFound={context.openPart}
          />
        )}
        {part && !inPlace && !dossier && (
          <RoomBoundary what={`Part ${part}`} at={`${pathname}${params}`}>
            <Suspense fallback={null}>
              <PartDrawer key={part} address={part} context={context} />
            </Suspense>
          </RoomBoundary>
        )}
      </WithCandidate>
    </OpenCase>
  );
}

/** How tall the engine stands over a stage: whole where it is the instrument, a strip elsewhere, or folded away. */
type Height = 'full' | 'strip' | 'folded';

const heightWords: Record<Height, string> = { full: 'Tall', strip: 'Low', folded: 'Away' };

const usualHeight = (stage: Stage): Height =>
  stage === 'look' || stage === 'gauge' || stage === 'trace' || stage === 'verdict' ? 'full' : 'strip';

const rememberedHeights = (): Partial<Record<Stage, Height>> => {
  try {
    const kept: unknown = JSON.parse(remembered('section') ?? '{}');
    return Object.fromEntries(
      Object.entries(kept as object).filter(([, h]) => typeof h === 'string' && h in heightWords),
    );
  } catch {
    return {};
  }
};

function HeightKeys({ height, set }: { height: Height; set: (height: Height) => void }) {
  return (
    <span role="group" aria-label="The engine over this stage" className="flex gap-1 py-1">
      {(['full', 'strip', 'folded'] as const).map((h) => (
        <button
          key={h}
          className="min-h-8 min-w-11 rounded-md border border-line px-2 text-sm aria-pressed:border-dye aria-pressed:bg-dye-tint"
          aria-pressed={height === h}
          onClick={() => set(h)}
        >
          {heightWords[h]}
        </button>
      ))}
    </span>
  );
}

/** While a room's script or its answers come. Without a network they may not. */
function RoomWaiting({ what }: { what: string }) {
  const online = useSyncExternalStore(
    (heard) => onlineManager.subscribe(heard),
    () => onlineManager.isOnline(),
  );
  return online ? (
    <Waiting what={what} />
  ) : (
    <p className="p-6 text-soft">
      There is no network, and {what} of this case was not opened on this device before. It opens as soon as
      there is one.
    </p>
  );
}

/** How many fasteners are out, wherever one is in the case. */
function Out({ caseId, className }: { caseId: string; className: string }) {
  const { fastenersOut, broken } = useRoomSoon(caseId, 'strip') ?? { fastenersOut: 0, broken: 0 };
  if (fastenersOut + broken === 0) return null;
  return (
    <span
      className={`rounded-md border-2 border-line px-1.5 text-sm font-semibold whitespace-nowrap ${className}`}
    >
      <span className="fig">{fastenersOut}</span> <span className="hidden md:inline">fasteners </span>out
      {broken > 0 && (
        <span className="text-lead">
          , <span className="fig">{broken}</span> broken
        </span>
      )}
    </span>
  );
}

function Stages({ stage, wants, query }: { stage: Stage; wants: Wants; query: string }) {
  return (
    <nav aria-label="Stages of the case" className="no-print hidden border-b border-line bg-paper md:block">
      <ol className="mx-auto flex max-w-7xl px-5">
        {stages.map(([path, name]) => (
          <li key={path} className="min-w-0 flex-1">
            <NavLink
              to={{ pathname: path, search: query }}
              className={`flex min-h-13 flex-col items-center justify-center border-b-4 px-0.5 leading-tight ${
                stage === path
                  ? 'border-dye font-bold text-dye'
                  : 'border-transparent text-soft hover:text-ink'
              }`}
            >
              <span>{name}</span>
              <span className="text-sm font-normal text-brass">{wants[path] ?? ''}</span>
            </NavLink>
          </li>
        ))}
      </ol>
    </nav>
  );
}

/** The whole engine at a glance on a phone: press a station, then the part as a key that a thumb hits. */
function PhoneSection({
  section,
  seen,
  selected,
  open,
}: {
  section: CaseAnswers['section'];
  seen: Map<string, Sight> | undefined;
  selected: string | null;
  open: (address: string) => void;
}) {
  const [column, setColumn] = useState<number | null>(null);
  const cells = section.cells.filter((c) => c.column === column && c.drawn);
  const loose = section.cells.filter((c) => c.column === null && c.drawn);
  return (
    <div className="md:hidden">
      <div className="h-36">
        <LongSection
          section={section}
          {...(seen ? { sights: seen } : {})}
          selected={selected}
          quiet
          onColumn={(i) => setColumn(column === i ? null : i)}
        />
      </div>
      {column !== null && (
        <div className="flex flex-wrap gap-1.5 py-2" role="group" aria-label="Parts of this station">
          {[...cells, ...loose].map((c) => (
            <button
              key={c.address}
              className="key flex items-center gap-1.5 px-2"
              aria-label={`${c.address}, ${c.words}`}
              onClick={() => {
                setColumn(null);
                open(c.address);
              }}
            >
              <Addr code={c.address} />
              {seen?.get(c.address)?.mark && <Swatch sight={seen.get(c.address)!} />}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}

function SidePanel({
  small,
  compact,
  offered,
  letter,
  think,
  lens,
  setLens,
  section,
  open,
}: {
  /** Only the ways into the engine. */
  small: boolean;
  compact: boolean;
  offered: Schemas['Candidate'][];
  letter: string;
  think: (letter: string) => void;
  lens: Lens;
  setLens: (lens: Lens) => void;
  section: CaseAnswers['section'];
  open: (address: string) => void;
}) {
  const addresses = section.cells.map((c) => c.address);
  const nameOf = useCandidateName();
  const letters = offered.map((c) => c.letter);
  return (
    <div className="flex flex-wrap items-start gap-2 py-1 text-sm md:flex-col md:flex-nowrap">
      <form
        className="flex min-w-40 flex-1 gap-1.5 md:w-full md:flex-none"
        onSubmit={(e) => {
          e.preventDefault();
          const input = new FormData(e.currentTarget).get('address');
          const typed = String(input).trim().toUpperCase();
          const found =
            addresses.find((a) => a === typed) ?? (letters.includes(letterOf(typed)) ? typed : undefined);
          const field = e.currentTarget.elements.namedItem('address') as HTMLInputElement;
          field.setCustomValidity(found ? '' : 'No such address in this engine. Try R4 or K4.');
          if (found) {
            open(found);
            e.currentTarget.reset();
          } else field.reportValidity();
        }}
      >
        <input
          name="address"
          className="entry fig uppercase placeholder:font-sans placeholder:normal-case"
          placeholder="Go to, e.g. R4U"
          aria-label="Go to an address"
          list="addresses"
          autoComplete="off"
          onInput={(e) => e.currentTarget.setCustomValidity('')}
        />
        <datalist id="addresses">
          {addresses.map((a) => (
            <option key={a} value={a} />
          ))}
        </datalist>
        <button className="key shrink-0 px-2.5">Open</button>
      </form>
      <label
        className={`flex min-w-0 flex-1 items-center gap-2 md:w-full md:flex-none ${small ? 'md:hidden' : ''}`}
      >
        <span className="hidden font-semibold text-soft md:inline">Show</span>
        <select
          className="entry"
          aria-label="Show"
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
      {offered.length > 0 && !small && (
        <label className="flex w-full items-center gap-2 md:flex-none">
          <span className="font-semibold text-soft">With</span>
          <select
            className="entry"
            aria-label="With which part in the engine"
            value={letter}
            onChange={(e) => think(e.target.value)}
          >
            <option value="">its own parts</option>
            {offered.map((c) => (
              <option key={c.id} value={c.letter}>
                {c.letter}, {nameOf(c)}
              </option>
            ))}
          </select>
        </label>
      )}
      <ul
        className={`hidden gap-x-3 gap-y-0.5 ${small ? '' : 'md:flex'} ${compact ? 'flex-wrap text-xs' : 'md:flex-col'}`}
        aria-label="What the marks mean"
      >
        {legends[lens].map((s) => (
          <li key={s.words} className="flex items-center gap-2">
            <Swatch sight={s} />
            {s.words}
          </li>
        ))}
      </ul>
    </div>
  );
}
