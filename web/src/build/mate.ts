import { t as tr } from '@lingui/core/macro';
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
  'in-already': (p) => [
    tr`${p.place} is in already`,
    tr`Take that one out first, where another is to go in.`,
  ],
  'which-line': () => [tr`Which line of the order brought it?`, tr`Choose it below.`],
  'where-from': () => [
    tr`Where did it come from?`,
    tr`No line of the order brought one: say where it is from.`,
  ],
  unchecked: () => [
    tr`It is not let in`,
    tr`Look at it and measure it in Verdict, and let it in there. Then it may go in.`,
  ],
  'scan-it': (p) => [
    tr`Which one is it?`,
    tr`Scan its tag, or type the address that stands on it: ${p.place}.`,
  ],
  'not-its-place': (p, g) => [
    tr`${g.tag.trim().toUpperCase()} does not go here`,
    tr`Lay it back, and look for ${p.place}.`,
  ],
  condemned: (p) => [
    tr`${p.place} does not go in again`,
    tr`A new one goes here: by its verdict, or as it serves once.`,
  ],
  'not-here': (p) => [
    tr`By the record ${p.place} is not here`,
    tr`Let it in, or put the record of where it is right.`,
  ],
  'which-way': () => [tr`Which way does its mark face now?`, tr`Seen from the free end.`],
  'wrong-way-round': () => [tr`Wrong way round`, tr`Turn it round.`],
  'which-side': (p) => [tr`Up was: ${p.sideUp}`, tr`Look that this side is up, and tick it.`],
};
