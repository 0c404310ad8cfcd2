import { useState } from 'react';
import type { CaseContext } from '../casebook/CaseShell';
import { useInstruments } from '../api/queries';
import { useMayWrite } from '../shop/Header';
import { Addr, Choice, Field, moment } from '../ui/basics';
import { stands } from '../ui/words';
import { figure, limitWords, standWords } from './format';
import { ReadingEntry } from './ReadingEntry';

export const lengthUnits = [
  ['mm', 'mm'],
  ['in', 'inch'],
] as const;

/** The instrument of the shop that the last reading of a characteristic was taken with. */
export function lastInstrument(context: CaseContext, characteristic: string) {
  return (
    context.engineCase.readings.filter((r) => r.characteristic === characteristic).at(-1)?.instrument ?? ''
  );
}

/** The rods whose big end a shell or crankpin belongs to. */
function bigEndOf(address: string, { answers }: CaseContext) {
  const { cells } = answers.section;
  const cell = cells.find((c) => c.address === address);
  if (!cell || !['rod-shell-upper', 'rod-shell-lower', 'rod-cap', 'crankpin'].includes(cell.kind)) return [];
  return cells
    .filter(
      (c) =>
        c.kind === 'rod' &&
        (cell.kind === 'crankpin' ? c.column === cell.column : c.station === cell.station),
    )
    .map((c) => c.address);
}

/** All figures of one place, and an entry for one more. */
export function PlaceReadings({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase, answers, knowledge } = context;
  const mayWrite = useMayWrite();
  const instruments = useInstruments();
  const kind = answers.section.cells.find((c) => c.address === address)?.kind ?? '';
  const measurable = knowledge.characteristics.filter((c) => !c.derived && c.on.includes(kind));
  const [picked, setPicked] = useState(measurable[0]?.id ?? '');
  const [unit, setUnit] = useState<'mm' | 'in'>('mm');
  const [instrument, setInstrument] = useState<string | null>(null);
  const characteristic = measurable.find((c) => c.id === picked);
  const around = bigEndOf(address, context);
  const figures = answers.gauge.figures.filter(
    (f) => f.place === address || (around.includes(f.place) && f.characteristic === 'big-end-clearance'),
  );
  const readings = engineCase.readings.filter((r) => r.place === address);
  const corrected = new Set(readings.map((r) => r.corrects));
  const grade = answers.gauge.grades.find((g) => (g.place === address || around.includes(g.place)) && g.loud);
  const with_ = instrument ?? lastInstrument(context, picked);
  const base = { length: unit, pressure: 'bar', mass: 'g', angle: 'deg' }[
    characteristic?.quantity ?? 'length'
  ];

  return (
    <div className="space-y-4">
      {grade && (
        <p className="rounded-lg border-4 border-lead bg-lead-tint p-3 text-lg font-bold">
          Wrong size. {grade.words}
        </p>
      )}
      {figures.length === 0 && <p className="text-soft">Nothing measured here yet.</p>}
      <ul className="space-y-3">
        {figures.map((f) => (
          <li key={f.place + f.characteristic} className="border-b border-line pb-2">
            <p className="flex flex-wrap items-baseline justify-between gap-x-3">
              <span className="font-semibold">
                {f.name} {f.place !== address && <Addr code={f.place} />}
              </span>
              <span className="fig text-xl font-bold">
                {figure(f.value, f.characteristic)}{' '}
                <span className="text-sm font-normal text-soft">± {f.expanded.toFixed(3)}</span>
              </span>
            </p>
            <p className="text-sm text-soft">
              {f.from}. {limitWords(f.limit)}{' '}
              <b className={f.conformity === 'outside' ? 'text-lead' : ''}>{standWords(f)}</b>
            </p>
          </li>
        ))}
      </ul>
      {readings.length > 0 && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2 font-semibold">
            Readings as typed ({readings.length})
          </summary>
          <ul className="text-sm">
            {readings.map((r) => (
              <li key={r.id} className={!stands(r) || corrected.has(r.id) ? 'line-through' : ''}>
                <span className="fig">{r.typed}</span> {r.unit} · {r.instrument || 'instrument not noted'} ·{' '}
                {r.by}, {moment(r.at)}
              </li>
            ))}
          </ul>
        </details>
      )}
      {mayWrite && characteristic && (
        <div className="space-y-3 border-t border-line pt-3">
          {measurable.length > 1 && (
            <Choice
              label="Measure"
              value={picked}
              options={measurable.map((c) => [c.id, c.name] as const)}
              onChange={setPicked}
            />
          )}
          <p className="text-sm">
            {characteristic.how} <b>Spoilt by:</b> {characteristic.spoils}
          </p>
          {characteristic.quantity === 'length' && (
            <Choice label="Unit when none is typed" value={unit} options={lengthUnits} onChange={setUnit} />
          )}
          <Field label="Instrument">
            <select className="entry" value={with_} onChange={(e) => setInstrument(e.target.value)}>
              <option value="">not noted</option>
              {instruments.data?.map((i) => (
                <option key={i.id}>{i.name}</option>
              ))}
            </select>
          </Field>
          <ReadingEntry
            key={picked}
            caseId={engineCase.id}
            place={address}
            characteristic={picked}
            unit={base}
            label={`${characteristic.name} of ${address}`}
            instrument={with_}
          />
        </div>
      )}
    </div>
  );
}
