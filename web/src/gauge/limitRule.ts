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
