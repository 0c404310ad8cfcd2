import type { Schemas } from '../api/client';
import { stands } from '../ui/words';

type Limit = Pick<
  Schemas['Limit'],
  'characteristic' | 'on' | 'nominal' | 'least' | 'most' | 'wear' | 'source' | 'at' | 'withdrawnAt'
>;

const rank: Record<Schemas['LimitSource'], number> = { makersManual: 0, shopStandard: 1, ruleOfThumb: 2 };

/**
 * Limits of a characteristic on a kind of part, the one that counts first: maker before shop, then one for the kind before one for all, then
 * the newest. The bench's copy of the server's rule, for asking without a network; tests/typed-figures.json holds both to one list.
 */
export const ranked = <T extends Limit>(limits: readonly T[], characteristic: string, kind: string): T[] =>
  limits
    .filter((l) => stands(l) && l.characteristic === characteristic && (l.on === '' || l.on === kind))
    .sort(
      (a, b) =>
        rank[a.source] - rank[b.source] ||
        Number(a.on === '') - Number(b.on === '') ||
        Date.parse(b.at) - Date.parse(a.at),
    );

/** Size when new, of the first that gives one. */
export const nominalOf = (limits: readonly Limit[], characteristic: string, kind: string) =>
  ranked(limits, characteristic, kind).find((l) => l.nominal !== null)?.nominal ?? null;

type Bounds = Pick<Schemas['Limit'], 'least' | 'most' | 'wear'>;

/** Whether a limit says how large or small a part may be, and not only what it was when new. */
export const bounds = (l: Bounds) => l.least !== null || l.most !== null || l.wear !== null;

/**
 * What may stay in service: how far a part may wear takes the place of the least or the most, on the side on which it wears. The bench's copy of the
 * server's rule, held to it by tests/typed-figures.json.
 */
export function service({ least, most, wear, nominal }: Bounds & { nominal: number | null }) {
  const larger = wear !== null && wear >= (most ?? nominal ?? least ?? wear);
  return {
    least: wear !== null && !larger ? wear : least,
    most: wear !== null && larger ? wear : most,
  };
}
