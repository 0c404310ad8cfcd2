import type { Characteristic } from './spots';
import { unitSize } from './format';

/** Units that a bench without a network reads for itself; the server reads all of them. */
const sizes: Record<string, number> = {
  ...unitSize,
  '"': 25.4,
  inch: 25.4,
  thou: 0.0254,
  tenths: 0.00254,
  tenth: 0.00254,
  µm: 0.001,
  um: 0.001,
  'hundredths mm': 0.01,
  cc: 1,
  ml: 1,
};

/**
 * A figure as typed, in the base unit, for asking about slips while the server is out of reach; null where it is not read here.
 * The server reads it again when it is sent, and its word counts.
 */
export function roughly(typed: string, setUnit: string): number | null {
  const barrel = /^(\d{1,3})\s*\|\s*(\d{1,2})\s*\|\s*(\d{1,2})(?:\s*\|\s*(\d))?$/.exec(typed.trim());
  if (barrel) {
    const [start, lines, divisions, fine] = barrel.slice(1).map((t) => Number(t ?? 0)) as [
      number,
      number,
      number,
      number,
    ];
    return setUnit === 'in'
      ? (start + lines * 0.025 + divisions * 0.001 + fine * 0.0001) * 25.4
      : start + lines * 0.5 + divisions * 0.01 + fine * 0.001;
  }
  const m =
    /^(?:(?:(\d{1,3})[\s-]+)?(\d{1,2})\/(\d{1,2})|(\d{0,9}[.,]?\d{0,7}))\s*([a-zµ°"%³][a-z0-9µ³°]*(?:\s+mm)?)?$/i.exec(
      typed.trim(),
    );
  if (!m) return null;
  const number = m[2]
    ? Number(m[1] ?? 0) + Number(m[2]) / Number(m[3])
    : m[4] && /\d/.test(m[4])
      ? Number(m[4].replace(',', '.'))
      : NaN;
  const size = sizes[m[5] ?? setUnit] ?? sizes[(m[5] ?? setUnit).toLowerCase()];
  return Number.isFinite(number) && size !== undefined ? number * size : null;
}

const slips: [number, string][] = [
  [10, 'ten times too large'],
  [0.1, 'ten times too small'],
  [100, 'a hundred times too large'],
  [0.01, 'a hundred times too small'],
  [1000, 'a thousand times too large'],
  [0.001, 'a thousand times too small'],
  [25.4, 'typed in inches but meant in millimetres'],
  [1 / 25.4, 'typed in millimetres but meant in inches'],
];

/** What to ask about an entry while the server cannot; null where nothing looks wrong. */
export function suspicion(
  typed: string,
  setUnit: string,
  entry: Pick<Characteristic, 'gap' | 'least' | 'most' | 'quantity'>,
  expected: number | null,
): string | null {
  const signed = /^[+-]/.test(typed.trim());
  if (signed) return null;
  const value = roughly(typed, setUnit);
  if (value === null)
    return 'This cannot be read here. It is kept as typed and looked at once the network is back.';
  if (expected !== null && expected > 0 && !entry.gap && entry.quantity !== 'angle') {
    const ratio = value / expected;
    for (const [factor, words] of slips)
      if (Math.abs(ratio / factor - 1) <= 0.1)
        return `This looks ${words}: about ${Number(expected.toFixed(3))} was expected.`;
    if (Math.abs(ratio - 1) > 0.1) return `This is far from the ${Number(expected.toFixed(3))} expected.`;
  }
  if (entry.least !== null && value < entry.least) return `No engine has less than ${entry.least} here.`;
  if (entry.most !== null && value > entry.most) return `No engine has more than ${entry.most} here.`;
  return null;
}
