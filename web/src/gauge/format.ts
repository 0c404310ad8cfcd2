import { useSyncExternalStore } from 'react';
import type { Knowledge, Schemas } from '../api/client';

type Quantity = Schemas['Quantity'];

/** Size of a unit in the base unit of its quantity, for showing figures; entries are read by the server. */
export const unitSize: Record<string, number> = {
  mm: 1,
  in: 25.4,
  kPa: 1,
  bar: 100,
  psi: 6.894757293168,
  inH2O: 0.24908891,
  g: 1,
  deg: 1,
  'cm³': 1,
  N: 1,
  kN: 1000,
  Nm: 1,
  rpm: 1,
  '°C': 1,
  mPas: 1,
  '%': 1,
  x: 1,
};

export const baseUnit: Record<Quantity, string> = {
  length: 'mm',
  pressure: 'kPa',
  mass: 'g',
  angle: 'deg',
  volume: 'cm³',
  force: 'N',
  torque: 'Nm',
  speed: 'rpm',
  temperature: '°C',
  viscosity: 'mPas',
  share: '%',
  ratio: 'x',
};

const places: Record<string, number> = {
  mm: 3,
  in: 4,
  kPa: 0,
  bar: 1,
  inH2O: 1,
  g: 1,
  deg: 0,
  'cm³': 1,
  N: 0,
  kN: 1,
  Nm: 0,
  rpm: 0,
  '°C': 0,
  mPas: 1,
  '%': 0,
  x: 2,
};

export type LengthUnit = 'mm' | 'in';

const told = new Set<() => void>();
let lengths: LengthUnit =
  typeof localStorage !== 'undefined' && localStorage.getItem('lengths') === 'in' ? 'in' : 'mm';

/** Lengths in mm or inch, as this person reads them; kept on the device. */
export function useLengths(): [LengthUnit, (unit: LengthUnit) => void] {
  const unit = useSyncExternalStore(
    (on) => {
      told.add(on);
      return () => told.delete(on);
    },
    () => lengths,
  );
  return [
    unit,
    (next) => {
      lengths = next;
      localStorage.setItem('lengths', next);
      for (const on of told) on();
    },
  ];
}

/** Unit in which a characteristic is told. */
export function unitOf(
  knowledge: Pick<Knowledge, 'characteristics'>,
  characteristic: string,
  quantity: Quantity,
  length: LengthUnit = 'mm',
) {
  if (quantity === 'length') return length;
  const own = knowledge.characteristics.find((c) => c.id === characteristic)?.unit;
  return own && unitSize[own] ? own : baseUnit[quantity];
}

/** A figure of the base unit in another unit, with as many places as are worth showing. */
export const figure = (value: number, unit: string) =>
  (value / (unitSize[unit] ?? 1)).toFixed(places[unit] ?? 2);

/** A doubt is shown with one place more where it would vanish. */
export function doubt(value: number, unit: string) {
  const shown = figure(value, unit);
  return Number(shown) > 0 ? shown : (value / (unitSize[unit] ?? 1)).toFixed((places[unit] ?? 2) + 1);
}

export const unitWords = (unit: string) =>
  ({ x: '', deg: '°', mPas: 'mPa·s', inH2O: 'inH₂O', rpm: '1/min', Nm: 'N·m' })[unit] ?? unit;

export function limitWords(limit: Schemas['AppliedLimit'] | null, unit = 'mm') {
  if (!limit) return '';
  const range =
    limit.least !== null && limit.most !== null
      ? `${figure(limit.least, unit)}–${figure(limit.most, unit)}`
      : limit.most !== null
        ? `at most ${figure(limit.most, unit)}`
        : limit.least !== null
          ? `at least ${figure(limit.least, unit)}`
          : '';
  const wear = limit.wear !== null ? `wear to ${figure(limit.wear, unit)}` : '';
  const both = [range, wear].filter(Boolean).join(', ');
  if (!both) return '';
  return limit.source === 'ruleOfThumb'
    ? `about ${both} · ${limit.sourceText}`
    : `${both} · ${limit.sourceText}`;
}

/** How a figure stands, in words: a rule of thumb is never called a limit. */
export function standWords(f: Pick<Schemas['SheetFigure'], 'conformity' | 'limit' | 'asNew'>) {
  if (!f.conformity) return '';
  if (f.limit?.source === 'ruleOfThumb')
    return { inside: 'usual', outside: 'unusual', undecided: 'near the edge' }[f.conformity];
  if (f.conformity === 'inside' && f.asNew) return f.asNew === 'inside' ? '✓ as new' : '✓ worn, inside';
  return { inside: '✓ inside', outside: '✕ outside', undecided: '? undecided' }[f.conformity];
}
