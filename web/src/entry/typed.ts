import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';
import { unitSize } from '../ui/figures';

export type Characteristic = Schemas['KnownCharacteristic'];

/** What a figure is expected to be. */
export interface Expected {
  size: number;
  /** It is the median of its peers in this engine, and not a nominal. */
  peers: boolean;
}

type Quantity = Schemas['Quantity'];

/** A figure as the bench reads it for itself, in the base unit. */
export interface Read {
  value: number;
  /** It counts from the nominal: it had a sign, or was so much under or over. */
  relative: boolean;
  /** Half-width that was told with it; 0 where none was. */
  within: number;
}

/** Units that a bench without a network reads for itself; the server reads all of them. */
const sizes: Record<string, number> = {
  ...unitSize,
  '"': 25.4,
  inch: 25.4,
  thou: 0.0254,
  thousandths: 0.0254,
  thousandth: 0.0254,
  tenths: 0.00254,
  tenth: 0.00254,
  µm: 0.001,
  um: 0.001,
  'hundredths mm': 0.01,
  'hundredth mm': 0.01,
  cc: 1,
  ml: 1,
};

const inches = new Set([25.4, 0.0254, 0.00254]);
const sizeOf = (unit: string): number | undefined => sizes[unit] ?? sizes[unit.toLowerCase()];
const metric = (unit: string) => sizeOf(unit) !== undefined && !inches.has(sizeOf(unit)!);

/** The longest entry that the server reads. */
const longest = 32;
const unitAt = String.raw`(?<unit>[a-zµ°"%³][a-z0-9µ³°]*(?:\s+mm)?)?`;
const patterns = {
  thimble: /^(\d{1,3})\s*\|\s*(\d{1,2})\s*\|\s*(\d{1,2})(?:\s*\|\s*(\d{1,2}))?$/,
  clock: /^(\d{1,2})\s*(?::\s*(\d{2})(?:\s*h)?|h|o\s?['’]?\s?clock)$/i,
  graded: /^([^±]+?)\s*(undersize|oversize|under|over|u\/s|o\/s)$/i,
  range: new RegExp(
    String.raw`^(?<from>[^±]+?)\s*(?:\bto\b|…|\.\.\.)\s*(?<to>[0-9.,/\s-]+?)\s*${unitAt}$`,
    'i',
  ),
  giveOrTake: new RegExp(
    String.raw`^(?<middle>[^±]+?)\s*(?:±|\+/-|\+-)\s*(?<half>[0-9.,/]+)\s*${unitAt}$`,
    'i',
  ),
  one: new RegExp(
    String.raw`^(?<sign>[+-])?\s*(?:(?:(?<whole>\d{1,3})(?:\s+|-))?(?<top>\d{1,2})/(?<bottom>\d{1,2})|(?<decimal>\d{1,9}(?:[.,]\d{0,7})?|[.,]\d{1,7}))\s*${unitAt}$`,
    'i',
  ),
};

const rule = new Set([2, 4, 8, 16, 32, 64]);

function one(text: string, setUnit: string, quantity: Quantity): Read | null {
  const g = patterns.one.exec(text.trim())?.groups;
  if (!g) return null;
  let unit = (g.unit ?? setUnit).replace(/\s+/g, ' ');
  if (/^hundredths?$/i.test(unit)) {
    if (!metric(setUnit)) return null;
    unit = tr`hundredths mm`;
  }
  const size = sizeOf(unit);
  if (size === undefined) return null;
  let number: number;
  if (g.bottom !== undefined) {
    const [top, bottom] = [Number(g.top), Number(g.bottom)];
    if (!rule.has(bottom) || top >= bottom) return null;
    number = Number(g.whole ?? 0) + top / bottom;
  } else {
    const digits = g.decimal!;
    // A comma before three digits may be a thousands mark, but never behind nothing or nil.
    if (/,\d{3}$/.test(digits) && !/^0*,/.test(digits)) return null;
    number = Number(digits.replace(',', '.'));
  }
  if (!Number.isFinite(number)) return null;
  return {
    value: (g.sign === '-' ? -number : number) * size,
    relative: g.sign !== undefined && quantity !== 'temperature',
    within: 0,
  };
}

/**
 * Reads a figure as typed, for showing it and for asking about slips while the server is out of reach; null where it is not read here.
 * The server reads it again when it is sent, and its word counts. Held to the server's reader by tests/typed-figures.json.
 */
export function readFigure(typed: string, setUnit: string, quantity: Quantity = 'length'): Read | null {
  const text = typed.trim().replace(/[\u2212\u2013]/g, '-');
  if (text.length > longest) return null;
  const thimble = quantity === 'length' ? patterns.thimble.exec(text) : null;
  if (thimble) {
    const inch = inches.has(sizeOf(setUnit) ?? 0);
    const [start, lines, divisions, fine] = thimble.slice(1).map((t) => Number(t ?? 0)) as [
      number,
      number,
      number,
      number,
    ];
    if (divisions >= (inch ? 25 : 50) || fine > 9) return null;
    const value = inch
      ? (start + lines * 0.025 + divisions * 0.001 + fine * 0.0001) * 25.4
      : start + lines * 0.5 + divisions * 0.01 + fine * 0.001;
    return { value, relative: false, within: 0 };
  }
  const clock = quantity === 'angle' ? patterns.clock.exec(text) : null;
  if (clock) {
    const [hours, minutes] = [Number(clock[1]), Number(clock[2] ?? 0)];
    return hours > 12 || minutes > 59
      ? null
      : { value: (hours % 12) * 30 + minutes / 2, relative: false, within: 0 };
  }
  const graded = quantity === 'length' ? patterns.graded.exec(text) : null;
  if (graded) {
    const whole = /^\d+$/.test(graded[1]!.trim()) && !/^0+$/.test(graded[1]!.trim());
    if (whole && metric(setUnit)) return null;
    const read = one(graded[1]!, whole ? 'thou' : setUnit, quantity);
    if (!read || read.relative) return null;
    return { ...read, value: /^u/i.test(graded[2]!) ? -read.value : read.value, relative: true };
  }
  const range = patterns.range.exec(text)?.groups;
  if (range) {
    const from = one(range.from!, range.unit ?? setUnit, quantity);
    const fromUnit = patterns.one.exec(range.from!.trim())?.groups?.unit;
    const to = one(range.to! + (range.unit ?? ''), range.unit ? setUnit : (fromUnit ?? setUnit), quantity);
    if (!from || !to || from.relative || to.relative || to.value <= from.value) return null;
    return { value: (from.value + to.value) / 2, relative: false, within: (to.value - from.value) / 2 };
  }
  const pair = patterns.giveOrTake.exec(text)?.groups;
  if (pair) {
    const middle = one(pair.middle!, pair.unit ?? setUnit, quantity);
    const half = one(pair.half! + (pair.unit ?? ''), setUnit, quantity);
    return middle && half && !half.relative && half.value > 0 ? { ...middle, within: half.value } : null;
  }
  return one(text, setUnit, quantity);
}

const slips: [number, string][] = [
  [10, tr`ten times too large`],
  [0.1, tr`ten times too small`],
  [100, tr`a hundred times too large`],
  [0.01, tr`a hundred times too small`],
  [1000, tr`a thousand times too large`],
  [0.001, tr`a thousand times too small`],
  [25.4, tr`typed in inches but meant in millimetres`],
  [1 / 25.4, tr`typed in millimetres but meant in inches`],
];

/** Nearness of a slip, of a gap's slip, of parts measured alike, and of peers; as the server has them. */
const near = { size: 0.1, gap: 0.3, alike: 0.004, peers: 0.03 };

/** The entry with two neighbouring digits exchanged that comes to its peers, if there is one. */
function swapped(typed: string, expected: number, inBase: (text: string) => number | null) {
  let best: number | null = null;
  for (let i = 0; i + 1 < typed.length; i++) {
    const j = /[.,]/.test(typed[i + 1]!) ? i + 2 : i + 1;
    if (j >= typed.length || !/\d/.test(typed[i]!) || !/\d/.test(typed[j]!) || typed[i] === typed[j])
      continue;
    const letters = [...typed];
    [letters[i], letters[j]] = [letters[j]!, letters[i]!];
    const value = inBase(letters.join(''));
    if (
      value !== null &&
      Math.abs(value / expected - 1) <= near.alike / 4 &&
      (best === null || Math.abs(value - expected) < Math.abs(best - expected))
    )
      best = value;
  }
  return best;
}

/**
 * What to ask about an entry while the server cannot; null where nothing looks wrong.
 * @param peers True where the size expected is that of its peers, and not a nominal.
 */
export function suspicion(
  typed: string,
  setUnit: string,
  entry: Pick<Characteristic, 'gap' | 'least' | 'most' | 'quantity'>,
  expected: number | null,
  peers = false,
): string | null {
  const read = readFigure(typed, setUnit, entry.quantity);
  if (!read) return tr`This cannot be read here. It is kept as typed and looked at once the network is back.`;
  if (read.relative) return null;
  const { value } = read;
  const tolerant = entry.gap || entry.quantity === 'angle';
  const fromNothing = entry.least !== null && entry.least < 0;
  if ((value < 0 || (value === 0 && !tolerant)) && !fromNothing)
    return tr`A size is more than nothing. Was the sign meant?`;
  const size =
    fromNothing || entry.quantity === 'angle' || entry.quantity === 'temperature' ? null : expected;
  if (size !== null && size > 0) {
    const ratio = value / size;
    const told = Number(size.toFixed(3));
    for (const [factor, words] of slips) {
      if (tolerant && (factor === 25.4 || factor === 1 / 25.4)) continue;
      if (Math.abs(ratio / factor - 1) <= (tolerant ? near.gap : near.size))
        return tr`This looks ${words}: about ${told} was expected.`;
    }
    const inBase = (text: string) => readFigure(text, setUnit, entry.quantity)?.value ?? null;
    if (!tolerant && Math.abs(ratio - 1) > near.alike && swapped(typed.trim(), size, inBase) !== null)
      return tr`Two digits may be swapped: about ${told} was expected.`;
    const far = tolerant
      ? ratio < 0.05 || ratio > 20
      : Math.abs(ratio - 1) > (peers ? near.peers : near.size);
    if (far) return tr`This is far from the ${told} expected.`;
  }
  if (entry.least !== null && value < entry.least) return tr`No engine has less than ${entry.least} here.`;
  if (entry.most !== null && value > entry.most) return tr`No engine has more than ${entry.most} here.`;
  return null;
}
