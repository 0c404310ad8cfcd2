import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { api, unwrap } from '../api/client';
import type { Schemas } from '../api/client';
import { keys, useInstruments, useSettings } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';

import { Addr, Choice, Field } from '../ui/basics';
import { stands, phaseWords } from '../ui/words';
import { limitWords, standWords, unitOf } from '../ui/limits';
import { baseUnit, uncertainty, figure, unitWords } from '../ui/figures';
import { gapUnits, lastInstrument, lengthUnits } from './PlaceReadings';
import { ReadingEntry } from '../entry/ReadingEntry';
import { limitOf, Live } from './Live';
import { PointPicture } from './PointPicture';
import {
  expectedSize,
  readingsByPoint,
  pointKey,
  twoSpots,
  walkOf,
  type RoundPlan,
  type MeasuringPoint,
  pointWords,
} from './points';
import { useGaugeFeed } from './useGaugeFeed';
import { remember, remembered } from '../device/remember';
import { walksRound } from '../outbox/useOutbox';
import { NumberField } from '../ui/NumberField';

const spotChoices = ['all', 'two'] as const;
const spotsKept = 'vivid-sleuth.spots';

/** Walks through all points of one characteristic: one big figure at a time, enter goes on. */
export function Round({ round, onEnd }: { round: RoundPlan; onEnd: () => void }) {
  const { entry } = round;
  const characteristic = entry.id;
  const context = useCaseContext();
  const { engineCase, knowledge, mark, section } = context;
  const gauge = useRoom(engineCase.id, 'gauge');
  const instruments = useInstruments();
  const settings = useSettings();
  const [phase, setPhase] = useState<Schemas['Phase']>('asFound');
  const [repeats, setRepeats] = useState(1);
  const { lengths: length, setLengths: setLength } = useCaseContext();
  const [own, setOwn] = useState<string | null>(null);
  const [instrument, setInstrument] = useState<string | null>(null);
  const [temperatures, setTemperatures] = useState<{ part: number | null; gauge: number | null }>({
    part: null,
    gauge: null,
  });
  const [bad, setBad] = useState<{ part: string | null; gauge: string | null }>({ part: null, gauge: null });
  const [readBy, setReadBy] = useState('');
  const [listening, setListening] = useState(false);

  const given = new Set(
    engineCase.verdicts.filter((v) => stands(v) && v.action === 'replace').map((v) => v.place),
  );
  const skipReplaced = settings.data?.schools.measureReplaced === false;
  const { cells } = section;
  const whole = useMemo(() => walkOf(cells, entry, round.kinds), [cells, entry, round.kinds]);
  const all = skipReplaced ? whole.filter((s) => !given.has(s.place)) : whole;
  const left = whole.length - all.length;
  const few = twoSpots(all);
  const [spots, setSpots] = useState(() => (remembered(spotsKept) === 'two' ? 'two' : 'all'));
  const walk = spots === 'two' ? few : all;
  const by = readingsByPoint(engineCase.readings, characteristic, phase);
  const of = (s: MeasuringPoint) => by.get(pointKey(s)) ?? [];
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      walk.findIndex((s) => of(s).length === 0),
    ),
  );
  const [over, setOver] = useState(walk.length === 0);
  const here = over ? undefined : walk[at];
  useEffect(() => {
    if (over) return;
    walksRound(engineCase.id, true);
    return () => walksRound(engineCase.id, false);
  }, [engineCase.id, over]);
  useEffect(() => {
    mark(here?.place ?? null);
    return () => mark(null);
  }, [mark, here?.place]);

  const with_ = instrument ?? lastInstrument(context, characteristic);
  const unit = own ?? (entry.quantity === 'length' ? length : entry.unit || baseUnit[entry.quantity]);
  const expected = here ? expectedSize(engineCase, cells, characteristic, here.kind, phase) : null;
  const feed = useGaugeFeed(listening && !over);
  const suited = useQuery({
    queryKey: [...keys.case(engineCase.id), 'suited', characteristic, here?.kind ?? ''],
    staleTime: 60_000,
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/gauge/instruments', {
          params: { path: { caseId: engineCase.id }, query: { characteristic, kind: here?.kind ?? '' } },
        }),
      ),
  });
  const against = suited.data?.find((i) => i.name === with_)?.against ?? [];
  const best = suited.data?.find((i) => i.against.length === 0);
  const go = (to: number) => (to >= walk.length ? setOver(true) : setAt(Math.max(0, to)));

  if (over || !here)
    return (
      <Summary
        characteristic={characteristic}
        phase={phase}
        walk={walk}
        left={left}
        measured={(s) => of(s).length > 0}
        onBack={() => {
          setOver(false);
          setAt(
            Math.max(
              0,
              walk.findIndex((s) => of(s).length === 0),
            ),
          );
        }}
        onEnd={onEnd}
      />
    );
  const before = of(here);
  const places = [...new Set(walk.map((s) => s.place))];
  const words = pointWords(here, knowledge).join(', ');

  return (
    <div className="grid gap-6 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
      <section className="card space-y-4 p-4 md:p-6">
        <div className="flex flex-wrap items-center justify-between gap-x-3 gap-y-2">
          <h2 className="least-40 flex-1 text-base font-semibold text-soft">
            <Trans>
              {round.name}, {at + 1} of {walk.length}
            </Trans>
            {phaseWords[phase] && <b className="text-ink"> · {phaseWords[phase]}</b>}
          </h2>
          {few.length < all.length && (
            <div className="flex gap-1.5" role="group" aria-label={tr`Spots at each part`}>
              {spotChoices.map((s) => (
                <button
                  key={s}
                  className="key px-3"
                  aria-pressed={spots === s}
                  {...stays}
                  onClick={() => {
                    const next = s === 'two' ? few : all;
                    setSpots(s);
                    remember(spotsKept, s);
                    setAt(
                      Math.max(
                        0,
                        next.findIndex((p) => p.place === here.place && of(p).length === 0),
                      ),
                    );
                  }}
                >
                  {s === 'all' ? tr`All spots` : tr`Two spots`}
                </button>
              ))}
            </div>
          )}
          <button className="key px-3" aria-label={tr`End the round`} onClick={() => setOver(true)}>
            {tr`End`}
          </button>
        </div>
        <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
          <Addr code={here.place} className="text-5xl md:text-7xl" />
          <span className="least-36 flex-1 text-xl">
            {here.words}
            {words && <b className="block text-2xl text-dye">{words}</b>}
          </span>
          <div className="hidden w-56 sm:block">
            <PointPicture point={here} entry={entry} words={words} />
          </div>
        </div>
        <ReadingEntry
          big
          task={{
            caseId: engineCase.id,
            place: here.place,
            characteristic,
            unit,
            instrument: with_,
            station: here.station,
            direction: here.direction,
            phase,
            temperature: temperatures.part,
            gaugeTemperature: temperatures.gauge,
            readBy,
          }}
          about={[round.name, words].filter(Boolean).join(', ')}
          label={tr`Type the figure (${unit === 'x' ? tr`no unit` : unit} when no unit is typed), enter goes on`}
          entry={entry}
          expected={expected}
          live={(typed) => (
            <Live
              typed={typed}
              unit={unit}
              shown={unitOf(knowledge, characteristic, entry.quantity, length)}
              quantity={entry.quantity}
              nominal={expected?.peers === false ? expected.size : null}
              limit={limitOf(gauge.figures, engineCase.limits, characteristic, here.place, here.kind)}
            />
          )}
          fed={feed.fed}
          blocked={bad.part ?? bad.gauge}
          onDone={() => {
            if (before.length + 1 >= repeats) go(at + 1);
          }}
        />
        {listening && (
          <p
            role="status"
            className={`rounded-lg border-2 px-3 py-2 ${feed.says?.kind === 'trouble' || feed.state === 'gone' ? 'border-brass bg-brass-tint' : 'border-oil bg-oil-tint'}`}
          >
            <b>
              {
                {
                  off: '',
                  connecting: tr`Calling the gauge …`,
                  listening: tr`The gauge is on.`,
                  gone: tr`No gauge.`,
                }[feed.state]
              }
            </b>{' '}
            {feed.says?.words}
          </p>
        )}
        {before.length > 0 && (
          <p>
            <Trans>
              Here already:{' '}
              <span className="fig font-bold">
                {before.map((r) => `${r.typed} ${/[a-z"%³]$/i.test(r.typed) ? '' : r.unit}`).join(', ')}
              </span>
              . One more is a repeat and counts with it.
            </Trans>
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          <button className="key" disabled={at === 0} {...stays} onClick={() => go(at - 1)}>
            {tr`◂ Back`}
          </button>
          <button className="key" {...stays} onClick={() => go(at + 1)}>
            {tr`Skip ▸`}
          </button>
          <div className="flex gap-1.5" role="group" aria-label={tr`Unit when none is typed`}>
            {entry.quantity === 'length' &&
              (entry.gap ? gapUnits : lengthUnits).map(([u, name]) => (
                <button
                  key={u}
                  className="key"
                  aria-pressed={unit === u}
                  onClick={() => {
                    setOwn(u);
                    if (u === 'mm' || u === 'in') setLength(u);
                  }}
                >
                  {name}
                </button>
              ))}
          </div>
        </div>
        <p className="border-t border-line pt-3">
          <b>{tr`How:`}</b> {entry.how}{' '}
          {entry.held && (
            <>
              <b>{tr`Hold it:`}</b> {entry.held}{' '}
            </>
          )}
          <b>{tr`Watch for:`}</b> {entry.spoils}
        </p>
      </section>
      <section className="space-y-4">
        <div>
          <Field label={tr`Instrument (${entry.with})`}>
            <select className="entry" value={with_} onChange={(e) => setInstrument(e.target.value)}>
              <option value="">{tr`not noted`}</option>
              {instruments.data
                ?.filter((i) => i.withdrawnAt === null && i.quantity === entry.quantity)
                .map((i) => (
                  <option key={i.id}>{i.name}</option>
                ))}
            </select>
          </Field>
          {against.map((a) => (
            <p
              key={a.words}
              className={`mt-1 rounded-lg border-2 px-3 py-1 text-sm ${a.serious ? 'border-lead bg-lead-tint' : 'border-brass bg-brass-tint'}`}
            >
              {a.words}
              {best && best.name !== with_ && tr` ${best.name} suits.`}
            </p>
          ))}
        </div>
        <Link className="key flex items-center justify-center" to={`?round=${round.id}&paper=1`}>
          {tr`On paper, to fill in by hand`}
        </Link>
        <details className="card p-3">
          <summary className="min-h-8 cursor-pointer font-semibold">
            {tr`Repeats, warmth, two people, gauge on a line`}
          </summary>
          <div className="mt-3 space-y-3">
            <Choice
              label={tr`Readings at each point`}
              value={String(repeats)}
              options={['1', '2', '3', '5'].map((n) => [n, n] as const)}
              onChange={(n) => setRepeats(Number(n))}
            />
            <Choice
              label={tr`Measured`}
              value={phase}
              options={[
                ['asFound', tr`as found`],
                ['afterWork', tr`after work, or new`],
                ['afterRun', tr`when it ran again`],
              ]}
              onChange={setPhase}
            />
            <div className="grid grid-cols-2 gap-3">
              <NumberField
                label={tr`Part, °C`}
                value={temperatures.part}
                onChange={(part) => setTemperatures((t) => ({ ...t, part }))}
                onBad={(part) => setBad((b) => ({ ...b, part }))}
              />
              <NumberField
                label={tr`Instrument, °C`}
                value={temperatures.gauge}
                onChange={(gauge) => setTemperatures((t) => ({ ...t, gauge }))}
                onBad={(gauge) => setBad((b) => ({ ...b, gauge }))}
              />
            </div>
            <Field label={tr`Read off by, when another types`}>
              <input className="entry" value={readBy} onChange={(e) => setReadBy(e.target.value)} />
            </Field>
            {settings.data?.gaugeAddress ? (
              <button
                className="key w-full"
                aria-pressed={listening}
                onClick={() => setListening(!listening)}
              >
                {listening ? tr`Stop listening to the gauge` : tr`Listen to the gauge`}
              </button>
            ) : (
              <p className="text-soft">
                {tr`No gauge is set in this shop. A lead sets its address under Settings; type the figures meanwhile.`}
              </p>
            )}
            <p className="text-sm text-soft">
              {tr`A gauge that types by itself (number and enter) needs nothing: keep the cursor in the entry.`}
            </p>
          </div>
        </details>
        <ol className="card max-h-[28rem] divide-y divide-line overflow-auto">
          {places.map((place) => {
            const points = walk.filter((s) => s.place === place);
            const f = gauge.figures.find(
              (x) => x.place === place && x.characteristic === characteristic && x.phase === phase,
            );
            const shown = unitOf(knowledge, characteristic, entry.quantity, length);
            return (
              <li key={place} className={here.place === place ? 'bg-dye-tint' : ''}>
                <div className="flex items-center gap-2 px-2">
                  <button
                    className="flex min-h-11 items-center"
                    onClick={() => setAt(walk.indexOf(points[0]!))}
                    aria-label={tr`Go to ${place}`}
                  >
                    <Addr code={place} className="w-14 text-left" />
                  </button>
                  <span
                    className="grid flex-1 gap-1 py-1"
                    style={{ gridTemplateColumns: 'repeat(auto-fit, minmax(5.2rem, 1fr))' }}
                  >
                    {points.map((s) => {
                      const r = of(s);
                      const current = s === here;
                      return (
                        <button
                          key={pointKey(s)}
                          className={`fig min-h-11 rounded px-1 ${current ? 'border-2 border-dye font-bold' : 'border border-line'}`}
                          onClick={() => setAt(walk.indexOf(s))}
                          aria-label={`${place} ${pointWords(s, knowledge).join(' ')}: ${r.map((x) => x.typed).join(', ') || tr`not measured`}`}
                        >
                          {r.length > 0 ? r.map((x) => x.typed).join(' ') : '·'}
                        </button>
                      );
                    })}
                  </span>
                  {f?.conformity && (
                    <span
                      className={`w-20 text-sm ${f.conformity === 'outside' ? 'font-bold text-lead' : 'text-soft'}`}
                    >
                      {standWords(f)}
                      <span className="sr-only"> {figure(f.value, shown)}</span>
                    </span>
                  )}
                </div>
              </li>
            );
          })}
        </ol>
      </section>
    </div>
  );
}

/** A key beside the entry leaves the cursor in it, so that one types on. */
const stays = { onPointerDown: (e: { preventDefault: () => void }) => e.preventDefault() };

/** What the round came to: what is out, what is undecided and what would decide it, what was not measured. */
function Summary({
  characteristic,
  phase,
  walk,
  left,
  measured,
  onBack,
  onEnd,
}: {
  characteristic: string;
  phase: Schemas['Phase'];
  walk: MeasuringPoint[];
  left: number;
  measured: (s: MeasuringPoint) => boolean;
  onBack: () => void;
  onEnd: () => void;
}) {
  const { knowledge, engineCase } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  const { lengths: length } = useCaseContext();
  const missing = walk.filter((s) => !measured(s));
  const places = new Set(walk.map((s) => s.place));
  const { figures, grades } = gauge;
  const about = figures.filter(
    (f) => f.phase === phase && (f.characteristic === characteristic || f.derived),
  );
  const out = about.filter((f) => f.conformity === 'outside');
  const open = about.filter((f) => f.conformity === 'undecided');
  const line = (f: Schemas['SheetFigure']) => {
    const unit = unitOf(knowledge, f.characteristic, f.quantity, length);
    return (
      <p key={f.place + f.characteristic} className={f.conformity === 'outside' ? 'font-bold text-lead' : ''}>
        <Addr code={f.place} /> {f.name} {figure(f.value, unit)} ± {uncertainty(f.expanded, unit)}{' '}
        {unitWords(unit)}: {standWords(f)} ({limitWords(f.limit, unit)}){' '}
        {f.decides && <span className="block text-sm font-normal text-soft">{f.decides}</span>}
      </p>
    );
  };
  return (
    <section className="card mx-auto max-w-2xl space-y-3 p-6">
      <h2 className="text-2xl">{tr`Round finished`}</h2>
      <p className="text-lg">
        <Trans>
          {walk.length - missing.length} of {walk.length} measured.
        </Trans>
        {left > 0 &&
          tr` ${left} left out: their parts are replaced anyway, and this shop does not measure those.`}
      </p>
      {missing.length > 0 && (
        <p>
          <Trans>Not measured: </Trans>
          {[...new Set(missing.map((m) => m.place))].map((m) => (
            <Addr key={m} code={`${m} `} />
          ))}
        </p>
      )}
      {out.length > 0 && <h3 className="text-lg">{tr`Out`}</h3>}
      {out.map(line)}
      {open.length > 0 && <h3 className="text-lg">{tr`Undecided`}</h3>}
      {open.map(line)}
      {grades
        .filter((g) => g.loud)
        .map((g) => (
          <p key={g.place} className="rounded-lg border-4 border-lead bg-lead-tint p-3 text-lg font-bold">
            <Trans>
              <Addr code={g.place} /> Wrong size. {g.words}
            </Trans>
          </p>
        ))}
      {places.size === 0 && <p>{tr`This engine has nothing to measure here.`}</p>}
      <div className="flex gap-2">
        <button className="key" onClick={onBack}>
          {tr`Carry on`}
        </button>
        <button className="key key-go" onClick={onEnd}>
          {tr`To the results`}
        </button>
      </div>
    </section>
  );
}
