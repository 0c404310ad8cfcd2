import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { useCaseContext, type CaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useInstruments, useMayWrite } from '../api/queries';
import { Addr, Choice, Field, moment } from '../ui/basics';
import { stands, writerOf, phaseWords } from '../ui/words';
import { Budget } from './Budget';
import { limitWords, standWords, unitOf } from '../ui/limits';
import { baseUnit, uncertainty, figure, unitWords } from '../ui/figures';
import { ReadingEntry } from '../entry/ReadingEntry';
import { PointPicture } from './PointPicture';
import { Beside } from './Beside';
import { longestOwnName, ownDimension, ownId, ownKinds, ownOf, type OwnKind } from './own';
import { expectedSize, readingsByPoint, pointKey, pointWords, pointsOf } from './points';

export const lengthUnits = [
  ['mm', 'mm'],
  ['in', tr`inch`],
] as const;

export const gapUnits = [
  ['mm', 'mm'],
  [tr`hundredths mm`, tr`1/100 mm`],
  ['in', tr`inch`],
  ['thou', 'thou'],
] as const;

/** The instrument of the shop that the last reading of a characteristic was taken with. */
export function lastInstrument(context: CaseContext, characteristic: string) {
  return (
    context.engineCase.readings.filter((r) => r.characteristic === characteristic).at(-1)?.instrument ?? ''
  );
}

/** The rods whose big end a shell or crankpin belongs to. */
function bigEndOf(address: string, { section }: CaseContext) {
  const { cells } = section;
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

/** A dimension that nobody foresaw, to be named. */
const anew = 'anew';

/** So many stand open at once: one of them is corrected without a search. */
const fewReadings = 12;

/** All figures of one place, and an entry for one more. */
export function PlaceReadings({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase, knowledge, section } = context;
  const gauge = useRoom(engineCase.id, 'gauge');
  const mayWrite = useMayWrite();
  const instruments = useInstruments();
  const { lengths: length } = useCaseContext();
  const cell = section.cells.find((c) => c.address === address);
  const kind = cell?.kind ?? '';
  // What most engines need of it first: nobody picks up a roughness tester before a micrometer.
  const measurable = [
    ...knowledge.characteristics
      .filter((c) => c.on.includes(kind) && gauge.measurable.includes(c.id))
      .sort((a, b) => (a.usual || 99) - (b.usual || 99)),
    ...ownOf(engineCase),
  ];
  const [picked, setPicked] = useState(measurable[0]?.id ?? anew);
  const [own, setOwn] = useState<string | null>(null);
  const [instrument, setInstrument] = useState<string | null>(null);
  const [point, setPoint] = useState<string | null>(null);
  const [correcting, setCorrecting] = useState<string | null>(null);
  const [budget, setBudget] = useState<Schemas['SheetFigure'] | null>(null);
  const [named, setNamed] = useState<{ kind: OwnKind; name: string }>({ kind: 'length', name: '' });
  const fresh = picked === anew;
  const measured = fresh ? ownId(named.kind, named.name) : picked;
  const characteristic = fresh ? ownDimension(measured) : measurable.find((c) => c.id === picked);
  const around = bigEndOf(address, context);
  const figures = gauge.figures.filter(
    (f) => f.place === address || (around.includes(f.place) && f.characteristic === 'big-end-clearance'),
  );
  const readings = engineCase.readings.filter((r) => r.place === address);
  const corrected = new Set(readings.filter(stands).map((r) => r.corrects));
  const grade = gauge.grades.find((g) => (g.place === address || around.includes(g.place)) && g.loud);
  const with_ = instrument ?? lastInstrument(context, measured);
  const unit =
    own ??
    (characteristic?.quantity === 'length'
      ? length
      : characteristic?.unit || baseUnit[characteristic?.quantity ?? 'length']);
  const points = characteristic && cell ? pointsOf(cell, characteristic) : [];
  const by = readingsByPoint(engineCase.readings, measured, 'asFound');
  const here =
    points.find((s) => pointKey(s) === point) ?? points.find((s) => !by.has(pointKey(s))) ?? points[0];
  const old = readings.find((r) => r.id === correcting);
  const pick = (id: string) => {
    setPicked(id);
    setOwn(null);
    setPoint(null);
    setCorrecting(null);
  };

  return (
    <div className="space-y-4">
      {grade && (
        <p className="rounded-lg border-4 border-lead bg-lead-tint p-3 text-lg font-bold">
          <Trans>Wrong size. {grade.words}</Trans>
        </p>
      )}
      {figures.length === 0 && <p className="text-soft">{tr`Nothing measured here yet.`}</p>}
      <ul className="space-y-3">
        {figures.map((f) => {
          const u = unitOf(knowledge, f.characteristic, f.quantity, length);
          return (
            <li key={f.place + f.characteristic + f.phase} className="border-b border-line pb-2">
              <button
                className="w-full text-left"
                onClick={() => setBudget(f)}
                aria-label={tr`${f.name} of ${f.place}: how it came about`}
              >
                <span className="flex flex-wrap items-baseline justify-between gap-x-3">
                  <span className="font-semibold">
                    {f.name} {f.place !== address && <Addr code={f.place} />}
                    {phaseWords[f.phase] && ` ${phaseWords[f.phase]}`}
                  </span>
                  <span className="fig text-xl font-bold">
                    {figure(f.value, u)}{' '}
                    <span className="text-sm font-normal text-soft">
                      ± {uncertainty(f.expanded, u)} {unitWords(u)}
                    </span>
                  </span>
                </span>
                <span className="block text-sm text-soft">
                  {f.from}. {limitWords(f.limit, u)}{' '}
                  <b className={f.conformity === 'outside' ? 'text-lead' : ''}>{standWords(f)}</b>
                  {f.decides && ` ${f.decides}`}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
      <Beside address={address} around={around} context={context} />
      <Budget figure={budget} onClose={() => setBudget(null)} />
      {readings.length > 0 && (
        <details open={readings.length <= fewReadings}>
          <summary className="min-h-11 cursor-pointer py-2 font-semibold">
            <Trans>Readings as typed ({readings.length})</Trans>
          </summary>
          <ul className="divide-y divide-line text-sm">
            {readings.map((r) => {
              const gone = !stands(r) || corrected.has(r.id);
              return (
                <li key={r.id} className="flex flex-wrap items-center gap-x-2 py-1">
                  <span className={`flex-1 ${gone ? 'line-through' : ''}`}>
                    <span className="fig">{r.typed}</span> {r.unit}
                    {pointWords(r, knowledge).map((w) => ` · ${w}`)} ·{' '}
                    {r.instrument || tr`instrument not noted`} · {r.via && tr`sent by ${r.via}, `}
                    {r.readBy && tr`read by ${r.readBy}, `}
                    {writerOf(r)}, {moment(r.at)}
                    {r.corrects && tr` · corrects an earlier one`}
                  </span>
                  {mayWrite && !gone && r.id !== correcting && (
                    <button
                      className="key text-sm"
                      onClick={() => {
                        pick(r.characteristic);
                        setPoint(pointKey(r));
                        setInstrument(r.instrument);
                        setCorrecting(r.id);
                      }}
                    >
                      {tr`Correct`}
                    </button>
                  )}
                </li>
              );
            })}
          </ul>
        </details>
      )}
      {mayWrite && (
        <div className="space-y-3 border-t border-line pt-3">
          <Field label={tr`Measure`}>
            <select className="entry" value={picked} onChange={(e) => pick(e.target.value)}>
              {measurable.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
              <option value={anew}>{tr`another dimension, named by you …`}</option>
            </select>
          </Field>
          {fresh && (
            <div className="grid gap-3 sm:grid-cols-2">
              <Field label={tr`What it is called`}>
                <input
                  className="entry"
                  maxLength={longestOwnName}
                  value={named.name}
                  onChange={(e) => setNamed({ ...named, name: e.target.value })}
                />
              </Field>
              <Field label={tr`It is`}>
                <select
                  className="entry"
                  value={named.kind}
                  onChange={(e) => setNamed({ ...named, kind: e.target.value as OwnKind })}
                >
                  {ownKinds.map(([id, words]) => (
                    <option key={id} value={id}>
                      {words}
                    </option>
                  ))}
                </select>
              </Field>
            </div>
          )}
        </div>
      )}
      {mayWrite && characteristic && here && (
        <div className="space-y-3">
          {characteristic.how && (
            <p className="text-sm">
              {characteristic.how} {characteristic.held && <b>{tr`Hold it:`} </b>}
              {characteristic.held} <b>{tr`Watch for:`}</b> {characteristic.spoils}
            </p>
          )}
          {points.length > 1 && (
            <>
              <Choice
                label={tr`Where on it`}
                value={pointKey(here)}
                options={points.map((s) => [pointKey(s), pointWords(s, knowledge).join(', ')] as const)}
                onChange={setPoint}
              />
              <PointPicture
                point={here}
                entry={characteristic}
                words={pointWords(here, knowledge).join(', ')}
              />
            </>
          )}
          {characteristic.quantity === 'length' && (
            <Choice
              label={tr`Unit when none is typed`}
              value={unit}
              options={
                (characteristic.gap ? gapUnits : lengthUnits) as readonly (readonly [string, string])[]
              }
              onChange={setOwn}
            />
          )}
          <Field label={tr`Instrument`}>
            <select className="entry" value={with_} onChange={(e) => setInstrument(e.target.value)}>
              <option value="">{tr`not noted`}</option>
              {instruments.data
                ?.filter((i) => i.withdrawnAt === null && i.quantity === characteristic.quantity)
                .map((i) => (
                  <option key={i.id}>{i.name}</option>
                ))}
            </select>
          </Field>
          {old && (
            <p className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-1">
              <Trans>
                Corrects {old.typed} {old.unit}. The old one stays, struck out.
              </Trans>
            </p>
          )}
          <ReadingEntry
            key={measured + pointKey(here) + (correcting ?? '')}
            task={{
              caseId: engineCase.id,
              place: address,
              characteristic: measured,
              unit,
              instrument: with_,
              station: here.station,
              direction: here.direction,
              phase: old?.phase ?? 'asFound',
              corrects: correcting,
            }}
            about={characteristic.name}
            label={tr`${characteristic.name} of ${address}`}
            entry={characteristic}
            expected={expectedSize(
              engineCase,
              section.cells,
              measured,
              kind,
              old?.phase ?? 'asFound',
              correcting,
            )}
            onDone={() => {
              setCorrecting(null);
              setPoint(null);
              if (fresh) {
                setPicked(measured);
                setNamed({ kind: 'length', name: '' });
              }
            }}
          />
        </div>
      )}
    </div>
  );
}
