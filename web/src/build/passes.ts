import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';

type Pass = Schemas['TighteningPass'];

/** Units of torque in N·m, exact by definition: the pound-force foot and inch. */
const torque: Record<string, number> = { nm: 1, ftlb: 1.3558179483314, inlb: 0.1129848290276167 };

export const torqueUnits = [
  ['Nm', 'N·m'],
  ['ftlb', tr`ft lb`],
  ['inlb', tr`in lb`],
] as const;

const sizeOf = (unit: string) => torque[unit.toLowerCase().replace(/[\s·]/g, '')];

const number = String.raw`(\d+(?:\.\d+)?)`;
const pass = new RegExp(
  String.raw`^(?:${number}\s*(n\s?·?\s?m|ft\s?lb|in\s?lb)?(?![\d.]|\s*(?:°|deg)))?\s*\+?\s*(?:${number}\s*(?:°|deg))?\s*(loosen(?:ed)?)?$`,
  'i',
);

/**
 * Passes as a mechanic reads them off the page, one behind the other: “30, 60 + 90°”, “40 loosen, 40, 90°”, “25 ft lb, 60°”. What can be read in two
 * ways, such as 30,60, is refused; nothing is guessed.
 */
export function readPasses(text: string, unit: string): Pass[] | null {
  const parts = text
    .split(/[,;]\s+|;/)
    .map((p) => p.trim())
    .filter(Boolean);
  const read = parts.map((part) => {
    const m = pass.exec(part);
    const size = sizeOf(m?.[2] ?? unit);
    if (!m || (m[1] === undefined && m[3] === undefined) || size === undefined) return null;
    return {
      torque: m[1] === undefined ? null : Math.round(Number(m[1]) * size * 1000) / 1000,
      angle: m[3] === undefined ? null : Number(m[3]),
      loosen: m[4] !== undefined,
    };
  });
  return read.every((p) => p !== null) ? read : null;
}

/** A pass in the unit in which it was typed. */
export function passWords(p: Pass, unit: string) {
  const size = sizeOf(unit) ?? 1;
  const name = torqueUnits.find(([u]) => u === unit)?.[1] ?? 'N·m';
  return [
    p.torque !== null && `${Math.round((p.torque / size) * 100) / 100} ${name}`,
    p.angle !== null && `${p.torque !== null ? '+ ' : ''}${p.angle}°`,
    p.loosen && tr`then loosened`,
  ]
    .filter(Boolean)
    .join(' ');
}

/** The maker’s order of the holes as typed: “1 5 3 7”. Empty where none was typed, null where it cannot be read. */
export function readOrder(text: string): number[] | null {
  const parts = text.split(/[\s,;–-]+/).filter(Boolean);
  return parts.every((p) => /^\d{1,3}$/.test(p)) ? parts.map(Number) : null;
}
