import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';
import { anyEngine } from '../ui/words';

export const oftenWords: Record<Schemas['Frequency'], string> = {
  never: tr`never`,
  asGoodAsNever: tr`as good as never`,
  hardlyEver: tr`hardly ever`,
  almostNever: tr`almost never`,
  rarely: tr`rarely`,
  sometimes: tr`sometimes`,
  often: tr`often`,
  usually: tr`usually`,
  always: tr`always`,
};

export const severityWords: Record<Schemas['Severity'], string> = {
  any: tr`of any severity`,
  slight: tr`mostly slight`,
  marked: tr`mostly marked`,
  severe: tr`mostly severe`,
};

export const relationWords: Record<Schemas['Relation'], string> = {
  same: tr`there`,
  neighbours: tr`next to it`,
  companion: tr`at its companion`,
  samePin: tr`on the same crankpin`,
  bank: tr`elsewhere on its bank`,
  others: tr`at all the others`,
  every: tr`everywhere`,
  downstream: tr`further along the oil`,
  farEnd: tr`at the far end of the oil`,
};

export const anchorWords: Record<Schemas['Anchor'], string> = {
  engine: tr`the engine as a whole`,
  cylinder: tr`one cylinder`,
  main: tr`one main bearing`,
};

/** An id of small letters, digits and hyphens, made of a name. */
export const slug = (name: string) =>
  name
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 55);

export const blankCause = (): Schemas['KnownCause'] => ({
  id: '',
  name: '',
  provenance: '',
  shop: true,
  family: '',
  anchor: 'cylinder',
  seat: '',
  applies: anyEngine,
  base: 'rarely',
  how: 'any',
  wide: 'never',
  wideSeat: '',
  defines: [],
  brings: [],
  kindOf: '',
  oneOf: '',
  chain: [{ says: '', predicts: [] }],
  risks: [],
  confusedWith: [],
  prove: '',
  prevent: '',
  caution: '',
});

/** A cause with one word of a frequency changed: that of a prediction, or how often it is met at all. */
export function withWord(
  cause: Schemas['KnownCause'],
  offer: Pick<Schemas['LearnedOffer'], 'link' | 'prediction' | 'offered'>,
): Schemas['KnownCause'] {
  if (offer.link < 0) return { ...cause, base: offer.offered };
  return {
    ...cause,
    chain: cause.chain.map((l, i) =>
      i === offer.link
        ? {
            ...l,
            predicts: l.predicts.map((p, k) => (k === offer.prediction ? { ...p, often: offer.offered } : p)),
          }
        : l,
    ),
  };
}

/** The word that a cause had before the shop changed it; null where it is the same, or new. */
export function wordBefore(
  shipped: Schemas['KnownCause'] | undefined,
  link: number,
  prediction: Schemas['Prediction'],
): Schemas['Frequency'] | null {
  const before = shipped?.chain[link]?.predicts.find(
    (p) => p.sign === prediction.sign && p.at === prediction.at && p.on.join() === prediction.on.join(),
  );
  return before && before.often !== prediction.often ? before.often : null;
}
