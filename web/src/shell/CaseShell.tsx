import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { onlineManager, useQueryClient } from '@tanstack/react-query';
import {
  startTransition,
  Suspense,
  useCallback,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate, useParams, useSearchParams } from 'react-router';
import { knownNumbering, type ApiProblem } from '../api/client';
import { keys } from '../api/keys';
import { useKnowledge, useSettings } from '../api/queries';
import { chooseLengths, useChosenLengths } from '../device/lengths';
import { PartDrawer } from './PartDrawer';
import { lensNames, sights, type Lens } from '../section/lenses';
import { moments, offSights } from '../section/off';
import { Engine, PhoneEngine, type EngineProps } from './Engine';
import { useNarrow } from '../device/narrow';
import { Next } from './Next';
import { stationName, stationTitle } from './stations';
import { stages, useWants, type Stage, type Wants } from './stages';
import { Thumb } from './Thumb';
import { UndoBar } from './UndoBar';
import { watchWrites } from '../outbox/undoing';
import { CaseKeys } from './CaseKeys';
import { useTitle } from './title';
import { Walk } from '../casebook/Walk';
import { Hatches } from '../section/Swatch';
import { Header } from './Header';
import { Trouble, Waiting } from '../ui/basics';
import { RoomBoundary } from '../ui/RoomBoundary';
import { useAllRooms, useCase, useCaseEvents, useRoomQuery, useRoomSoon } from '../casebook/caseQueries';
import { OpenCase, PickedContext, WithCandidate, type CaseContext } from '../casebook/context';
import { letterOf, useCandidateName } from '../casebook/candidates';
import type { LengthUnit } from '../ui/figures';
import { layoutWords, stands } from '../ui/words';

watchWrites();

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
  const stationAsked = /\/station\/([^/]+)$/.exec(pathname)?.[1] ?? null;
  const stage =
    stationAsked !== null
      ? ([null, stationTitle(stationAsked), 'damage'] as const)
      : (stages.find(([path]) => pathname.endsWith(`/${path}`)) ?? stages[0]);
  const lensAsked = params.get('lens');
  const lens = lensAsked !== null && lensAsked in lensNames ? (lensAsked as Lens) : stage[2];
  const asideAsked = params.get('beside');
  const other = asideAsked !== null && asideAsked in lensNames ? (asideAsked as Lens) : null;
  const part = params.get('part');
  const cause = Math.max(0, Number(params.get('cause') ?? 0) || 0);

  const [marked, setMarked] = useState<string | null>(null);
  // The part in hand is drawn first, and then where it is.
  const markSoon = useCallback((at: string | null) => startTransition(() => setMarked(at)), []);
  const wants = useWants(id);
  useTitle(part, stage[1], record.data?.title);
  const [engine, setEngine] = useState(false);
  const narrow = useNarrow();

  const trace = useRoomQuery(id, 'trace', lens === 'cause' || other === 'cause');
  const verdict = useRoomQuery(id, 'verdict', lens === 'verdict' || other === 'verdict', letter);
  const overTime = lens === 'off' || other === 'off';
  const strip = useRoomQuery(id, 'strip', overTime);
  // Which moment of the strip is looked at; null is now.
  const [then, setThen] = useState<number | null>(null);
  const [seen, seenBeside] = useMemo(() => {
    const under = (by: Lens | null) => {
      if (!by || !places.data) return undefined;
      if (by !== 'off') return sights(places.data, trace.data, by, cause, verdict.data?.places);
      const all = places.data.map((p) => p.place);
      return (
        strip.data && offSights(strip.data, all, then === null ? null : (moments(strip.data)[then] ?? null))
      );
    };
    return [under(lens), under(other)];
  }, [places.data, trace.data, lens, other, cause, verdict.data, strip.data, then]);
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
        if (key === 'part') for (const of of ['sign', 'zones']) next.delete(of);
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

  // The same acts as long as the case is open: what is drawn with them need not be drawn anew when the address changes.
  const latest = useRef({ put, navigate });
  useLayoutEffect(() => void (latest.current = { put, navigate }));
  const acts = useMemo(
    () => ({
      openPart: (address: string | null) => latest.current.put('part', address),
      thinkIn: (of: string) => latest.current.put('with', of || null),
      openBag: (code: string) => void latest.current.navigate(`/cases/${id}/index?bag=${code}`),
      pickCause: (index: number) => latest.current.put('cause', String(index)),
      setLengths: (unit: LengthUnit) => {
        chooseLengths(unit);
        void client.invalidateQueries({ queryKey: keys.rooms(id) });
      },
    }),
    [id, client],
  );
  const picked = useMemo(() => ({ part, cause }), [part, cause]);

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
          {tr`There is no network, and this case was not opened on this device before. Open it once with a network; after that it stays at hand.`}
        </p>
      </>
    ) : (
      <Waiting what={tr`the case`} />
    );
  knownNumbering.set(id, record.data.renumberings.filter((r) => r.withdrawnAt === null).length);

  const context: CaseContext = {
    engineCase: record.data,
    section: section.data,
    places: places.data,
    knowledge: knowledge.data,
    lengths: chosen ?? ((record.data.lengths ?? settings.data?.lengths) === 'inch' ? 'in' : 'mm'),
    ...acts,
    mark: markSoon,
  };
  const keep = new URLSearchParams(params);
  for (const key of ['lens', 'part', 'sign', 'zones', 'round', 'step', 'help', 'view', 'group'])
    keep.delete(key);
  const query = keep.size > 0 ? `?${keep}` : '';
  const inPlace = stage[0] === 'look';
  // Once a part is in the hand, the hand comes first.
  const compact = inPlace && (part !== null || params.has('peers'));
  const dossier = stage[0] === 'dossier';
  const drawer = part !== null && !inPlace && !dossier;

  const drawn: EngineProps = {
    context,
    stage: stage[0] ?? 'station',
    sights: seen,
    beside: seenBeside,
    lens,
    setLens: (l) => put('lens', l === stage[2] ? null : l),
    other,
    setOther: (l) => put('beside', l),
    selected: part ?? marked,
    offered,
    letter,
    onStation: (station) => void navigate({ pathname: `/cases/${id}/station/${station}`, search: query }),
    low: compact,
    time: overTime && strip.data ? { strip: strip.data, then, setThen } : null,
  };
  return (
    <OpenCase value={context}>
      <PickedContext value={picked}>
        <CaseKeys />
        <WithCandidate value={letter}>
          <div className={drawer ? 'md:mr-drawer' : ''}>
            <Header inCase>
              {/* What does not fit beside the title goes under it, out of sight, and is whole where it does. */}
              <div className="flex h-7 flex-wrap items-center gap-x-3 gap-y-1 overflow-hidden text-lg font-bold">
                <h1 className="max-w-full truncate text-lg">{record.data.title}</h1>
                <Out caseId={id} className="hidden md:inline" />
                <WorstOf caseId={id} query={query} className="hidden md:inline" />
              </div>
              <span className="flex flex-wrap gap-x-2 gap-y-1 md:hidden">
                <Out caseId={id} className="" />
                <WorstOf caseId={id} query={query} className="" />
              </span>
              <p className="hidden truncate text-sm text-soft md:block">
                {record.data.engineName} · {layoutWords(record.data.layout)}
                {record.data.importedFrom && tr` · read in from a file`}
              </p>
            </Header>
            <Hatches />
            <Stages caseId={id} stage={stage[0]} wants={wants} query={query} />
            <Next caseId={id} />
            <Walk engineCase={record.data} />
            <div className="mx-auto max-w-7xl pb-24 md:pb-8">
              {!dossier && (
                <RoomBoundary what={tr`The engine`} at={`${pathname}${params}`}>
                  {!narrow && <Engine {...drawn} />}
                  {narrow && engine && <PhoneEngine {...drawn} done={() => setEngine(false)} />}
                </RoomBoundary>
              )}
              {candidate && !dossier && (
                <p className="no-print mx-3 mt-3 flex flex-wrap items-center gap-x-3 gap-y-1 rounded-lg border-2 border-dye bg-dye-tint px-3 py-2 md:mx-5">
                  <b className="fig text-2xl">.{candidate.letter}</b>
                  <span className="grow basis-52">
                    <Trans>
                      The {nameOf(candidate)}, thought into the engine in place of its own. Strip and Trace
                      are of the engine as it came.
                    </Trans>
                  </span>
                  <button className="key" onClick={() => put('with', null)}>
                    {tr`The engine as it came`}
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
          </div>
          <UndoBar />
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
          {drawer && (
            <RoomBoundary what={tr`Part ${part}`} at={`${pathname}${params}`}>
              <Suspense fallback={null}>
                <PartDrawer key={part} address={part} context={context} />
              </Suspense>
            </RoomBoundary>
          )}
        </WithCandidate>
      </PickedContext>
    </OpenCase>
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
      <Trans>
        There is no network, and {what} of this case was not opened on this device before. It opens as soon as
        there is one.
      </Trans>
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
      <Trans>
        <span className="fig">{fastenersOut}</span> <span className="hidden md:inline">fasteners </span>out
      </Trans>
      {broken > 0 && (
        <span className="text-lead">
          <Trans>
            , <span className="fig">{broken}</span> broken
          </Trans>
        </span>
      )}
    </span>
  );
}

/** The cylinder that is worst off, one touch away from anywhere in the case. */
function WorstOf({ caseId, query, className }: { caseId: string; query: string; className: string }) {
  const worst = useRoomSoon(caseId, 'stations')?.find((s) => s.scope === 'cylinder' && s.rank === 1);
  if (!worst) return null;
  return (
    <Link
      to={{ pathname: `/cases/${caseId}/station/${stationName(worst)}`, search: query }}
      className={`rounded-md border-2 border-line px-1.5 text-sm font-semibold whitespace-nowrap hover:border-dye ${className}`}
    >
      <Trans>
        worst: cylinder <span className="fig">{worst.number}</span>
      </Trans>
    </Link>
  );
}

function Stages({
  caseId,
  stage,
  wants,
  query,
}: {
  caseId: string;
  stage: Stage | null;
  wants: Wants;
  query: string;
}) {
  return (
    <nav
      aria-label={tr`Stages of the case`}
      className="no-print hidden border-b border-line bg-paper md:block"
    >
      <ol className="mx-auto flex max-w-7xl px-5">
        {stages.map(([path, name]) => (
          <li key={path} className="min-w-0 flex-1">
            <NavLink
              to={{ pathname: `/cases/${caseId}/${path}`, search: query }}
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
