import type { Schemas } from '../api/client';

type Part = Pick<
  Schemas['BackPart'],
  'place' | 'alike' | 'facing' | 'sideUp' | 'renew' | 'in' | 'new' | 'custody'
>;

/** What somebody says of a part that is about to go in. */
export interface GoingIn {
  /** The address that stands on it; empty of a new one. */
  tag: string;
  facing: Schemas['Facing'];
  sideUp: boolean;
  isNew: boolean;
  line: string | null;
  why: string;
}

export type MateStop =
  | 'in-already'
  | 'which-line'
  | 'where-from'
  | 'unchecked'
  | 'scan-it'
  | 'not-its-place'
  | 'condemned'
  | 'not-here'
  | 'which-way'
  | 'wrong-way-round'
  | 'which-side';

const away: Schemas['Custody'][] = ['machineShop', 'welder', 'supplier', 'customer', 'scrapped'];

/**
 * What stops a part at once, before anything is written and without a network; null where nothing does. The server’s gate knows more and its word
 * counts; tests/typed-figures.json holds both to one list.
 */
export function mateStop(part: Part, going: GoingIn): MateStop | null {
  if (part.in !== null) return 'in-already';
  if (going.isNew) {
    if (part.new.length > 0 && going.line === null) return 'which-line';
    if (going.line === null) return going.why.trim() === '' ? 'where-from' : null;
    return part.new.find((n) => n.line === going.line)?.checked ? null : 'unchecked';
  }
  const tag = going.tag.trim().toUpperCase();
  if (tag === '') return 'scan-it';
  if (tag !== part.place) return part.alike ? null : 'not-its-place';
  if (part.renew) return 'condemned';
  if (part.custody !== null && away.includes(part.custody)) return 'not-here';
  if (part.facing !== 'unknown' && going.facing === 'unknown') return 'which-way';
  if (part.facing !== 'unknown' && going.facing !== part.facing) return 'wrong-way-round';
  if (part.sideUp !== '' && !going.sideUp) return 'which-side';
  return null;
}

/** What to say and do; the first line is read at arm’s length. */
export const stopWords: Record<MateStop, (part: Part, going: GoingIn) => readonly [string, string]> = {
  'in-already': (p) => [`${p.place} is in already`, 'Take that one out first, where another is to go in.'],
  'which-line': () => ['Which line of the order brought it?', 'Choose it below.'],
  'where-from': () => ['Where did it come from?', 'No line of the order brought one: say where it is from.'],
  unchecked: () => [
    'It is not let in',
    'Look at it and measure it in Verdict, and let it in there. Then it may go in.',
  ],
  'scan-it': (p) => ['Which one is it?', `Scan its tag, or type the address that stands on it: ${p.place}.`],
  'not-its-place': (p, g) => [
    `${g.tag.trim().toUpperCase()} does not go here`,
    `Lay it back, and look for ${p.place}.`,
  ],
  condemned: (p) => [
    `${p.place} does not go in again`,
    'A new one goes here: by its verdict, or as it serves once.',
  ],
  'not-here': (p) => [
    `By the record ${p.place} is not here`,
    'Let it in, or put the record of where it is right.',
  ],
  'which-way': () => ['Which way does its mark face now?', 'Seen from the free end.'],
  'wrong-way-round': () => ['Wrong way round', 'Turn it round.'],
  'which-side': (p) => [`Up was: ${p.sideUp}`, 'Look that this side is up, and tick it.'],
};
