import { useEffect, useState } from 'react';
import { useInstruments } from '../api/queries';
import { useCaseContext } from '../casebook/CaseShell';
import { Addr, Field } from '../ui/basics';
import { stands } from '../ui/words';
import { figure, limitWords, standWords } from './format';
import { lastInstrument, lengthUnits } from './PlaceReadings';
import { ReadingEntry } from './ReadingEntry';

/** Walks through all places of one characteristic: one big figure at a time, enter goes on. */
export function Round({ characteristic, onEnd }: { characteristic: string; onEnd: () => void }) {
  const context = useCaseContext();
  const { engineCase, answers, knowledge } = context;
  const instruments = useInstruments();
  const entry = knowledge.characteristics.find((c) => c.id === characteristic)!;
  const rank = (kind: string) => entry.on.indexOf(kind);
  const walk = answers.section.cells
    .filter((c) => entry.on.includes(c.kind))
    .sort((a, b) => a.station - b.station || rank(a.kind) - rank(b.kind));
  const readings = engineCase.readings.filter((r) => r.characteristic === characteristic && stands(r));
  const corrected = new Set(readings.map((r) => r.corrects));
  const of = (place: string) => readings.filter((r) => r.place === place && !corrected.has(r.id));
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      walk.findIndex((c) => of(c.address).length === 0),
    ),
  );
  const [unit, setUnit] = useState<'mm' | 'in'>('mm');
  const [instrument, setInstrument] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const here = over ? undefined : walk[at];
  const { mark } = context;
  useEffect(() => {
    mark(here?.address ?? null);
    return () => mark(null);
  }, [mark, here?.address]);
  const with_ = instrument ?? lastInstrument(context, characteristic);
  const base = { length: unit, pressure: 'bar', mass: 'g', angle: 'deg' }[entry.quantity];
  const go = (to: number) => (to >= walk.length ? setOver(true) : setAt(Math.max(0, to)));

  if (over || !here)
    return (
      <Summary
        characteristic={characteristic}
        places={walk.map((c) => c.address)}
        onBack={() => setOver(false)}
        onEnd={onEnd}
      />
    );
  const rods = answers.gauge.figures.filter((f) => f.characteristic === 'big-end-clearance');
  const before = of(here.address);

  return (
    <div className="grid gap-6 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
      <section className="sheet space-y-4 p-4 md:p-6">
        <div className="flex items-center justify-between gap-3">
          <p className="font-semibold text-soft">
            {entry.name}, {at + 1} of {walk.length}
          </p>
          <button className="key" onClick={() => setOver(true)}>
            End the round
          </button>
        </div>
        <div className="flex flex-wrap items-baseline gap-x-5">
          <Addr code={here.address} className="text-6xl md:text-7xl" />
          <span className="text-xl">{here.words}</span>
        </div>
        <ReadingEntry
          key={here.address}
          big
          caseId={engineCase.id}
          place={here.address}
          characteristic={characteristic}
          unit={base}
          label={`Type the figure (${base} when no unit is typed), enter goes on`}
          instrument={with_}
          onDone={() => go(at + 1)}
        />
        {before.length > 0 && (
          <p>
            Here already:{' '}
            <span className="fig font-bold">
              {before.map((r) => `${r.typed} ${/[a-z"]$/i.test(r.typed) ? '' : r.unit}`).join(', ')}
            </span>
            . One more is a repeat and counts with it.
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          <button className="key" disabled={at === 0} onClick={() => go(at - 1)}>
            ◂ Back
          </button>
          <button className="key" onClick={() => go(at + 1)}>
            Skip ▸
          </button>
          <div className="flex gap-1.5" role="group" aria-label="Unit when none is typed">
            {entry.quantity === 'length' &&
              lengthUnits.map(([u, name]) => (
                <button key={u} className="key" aria-pressed={unit === u} onClick={() => setUnit(u)}>
                  {name}
                </button>
              ))}
          </div>
        </div>
        <p className="border-t border-line pt-3">
          <b>How:</b> {entry.how} <b>Spoilt by:</b> {entry.spoils}
        </p>
      </section>
      <section className="space-y-4">
        <Field label={`Instrument (${entry.with})`}>
          <select className="entry" value={with_} onChange={(e) => setInstrument(e.target.value)}>
            <option value="">not noted</option>
            {instruments.data?.map((i) => (
              <option key={i.id}>{i.name}</option>
            ))}
          </select>
        </Field>
        <ol className="sheet divide-y divide-line">
          {walk.map((c, i) => {
            const figures = of(c.address);
            const rod = rods.find((f) => c.kind !== 'crankpin' && f.place === `R${c.station}`);
            return (
              <li key={c.address}>
                <button
                  className={`flex min-h-11 w-full items-center gap-3 px-3 text-left ${i === at ? 'bg-dye-tint' : ''}`}
                  onClick={() => setAt(i)}
                >
                  <Addr code={c.address} className="w-14" />
                  <span className="fig flex-1">
                    {figures.map((r) => r.typed).join('  ') || <span className="text-soft">—</span>}
                  </span>
                  {rod && c.kind.endsWith('lower') && (
                    <span
                      className={`fig text-sm ${rod.conformity === 'outside' ? 'font-bold text-lead' : 'text-soft'}`}
                    >
                      clearance {rod.value.toFixed(3)}
                    </span>
                  )}
                </button>
              </li>
            );
          })}
        </ol>
      </section>
    </div>
  );
}

function Summary({
  characteristic,
  places,
  onBack,
  onEnd,
}: {
  characteristic: string;
  places: string[];
  onBack: () => void;
  onEnd: () => void;
}) {
  const { answers } = useCaseContext();
  const figures = answers.gauge.figures.filter((f) => f.characteristic === characteristic);
  const missing = places.filter((p) => !figures.some((f) => f.place === p));
  const judged = answers.gauge.figures.filter(
    (f) => f.conformity === 'outside' || f.conformity === 'undecided',
  );
  return (
    <section className="sheet mx-auto max-w-2xl space-y-3 p-6">
      <h2 className="text-2xl">Round finished</h2>
      <p className="text-lg">
        {places.length - missing.length} of {places.length} measured.
      </p>
      {missing.length > 0 && (
        <p>
          Not measured:{' '}
          {missing.map((m) => (
            <Addr key={m} code={`${m} `} />
          ))}
        </p>
      )}
      {judged.map((f) => (
        <p
          key={f.place + f.characteristic}
          className={f.conformity === 'outside' ? 'font-bold text-lead' : ''}
        >
          <Addr code={f.place} /> {f.name} {figure(f.value, f.characteristic)} ± {f.expanded.toFixed(3)}:{' '}
          {standWords(f)} ({limitWords(f.limit)})
        </p>
      ))}
      {answers.gauge.grades
        .filter((g) => g.loud)
        .map((g) => (
          <p key={g.place} className="rounded-lg border-4 border-lead bg-lead-tint p-3 text-lg font-bold">
            <Addr code={g.place} /> Wrong size. {g.words}
          </p>
        ))}
      <div className="flex gap-2">
        <button className="key" onClick={onBack}>
          Go back in
        </button>
        <button className="key key-go" onClick={onEnd}>
          To the sheet
        </button>
      </div>
    </section>
  );
}
