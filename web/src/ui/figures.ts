import type { Schemas } from '../api/client';
import { fixed, plain } from './region';

type Quantity = Schemas['Quantity'];

/** Size of a unit in the base unit of its quantity, for showing figures; entries are read by the server. */
export const unitSize: Record<string, number> = {
  mm: 1,
  in: 25.4,
  µm: 0.001,
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
  'mm²': 1,
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
  area: 'mm²',
};

const places: Record<string, number> = {
  mm: 3,
  in: 4,
  µm: 2,
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
  'mm²': 1,
};

/** Lengths are told in one or the other, as the reader, the engine or the shop has it. */
export type LengthUnit = 'mm' | 'in';

/**
 * A figure of the base unit in another unit. The one function by which screens write figures: as many places as are worth showing of a part, or
 * as many as asked for in the base unit, of which an inch has one more.
 */
export const figure = (value: number, unit: string, digits?: number) =>
  fixed(
    value / (unitSize[unit] ?? 1),
    digits === undefined ? (places[unit] ?? 2) : unit === 'in' ? Math.max(3, digits + 1) : digits,
  );

/** The same with its unit behind. */
export const told = (value: number, unit: string, digits?: number) =>
  `${figure(value, unit, digits)} ${unitWords(unit)}`.trim();

/** A step of a scale or an error allowed, with its unit: as fine as it is, to two figures in inches. */
export function fine(value: number, quantity: Quantity, lengths: LengthUnit) {
  const unit = quantity === 'length' ? lengths : baseUnit[quantity];
  const size = value / (unitSize[unit] ?? 1);
  return `${plain(unit === 'in' ? Number(size.toPrecision(2)) : size)} ${unitWords(unit)}`.trim();
}

/** An uncertainty is shown with one place more where it would vanish. */
export function uncertainty(value: number, unit: string) {
  const [size, most] = [value / (unitSize[unit] ?? 1), places[unit] ?? 2];
  return fixed(size, Number(size.toFixed(most)) > 0 ? most : most + 1);
}

export const unitWords = (unit: string) =>
  ({ x: '', deg: '°', mPas: 'mPa·s', inH2O: 'inH₂O', rpm: '1/min', Nm: 'N·m' })[unit] ?? unit;
