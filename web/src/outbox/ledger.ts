import type { Schemas } from '../api/client';

type Ledger = Schemas['SetLedger'];
type Move = Pick<Schemas['FastenerEntry'], 'state' | 'count' | 'hole' | 'length' | 'keeping' | 'where'>;

/** By what a move changes those that are out, and those that are broken off. */
const change: Record<Schemas['FastenerState'], (count: number) => [out: number, broken: number]> = {
  out: (n) => [n, 0],
  backIn: (n) => [-n, 0],
  broken: () => [0, 1],
  soaked: () => [0, 0],
  drilled: () => [0, 0],
  sent: () => [0, 0],
  restOut: () => [1, -1],
  newIn: (n) => [-n, 0],
};

/**
 * A set of fasteners after one more move, as the bench shows it until the server has counted it. The server's sums count;
 * tests/typed-figures.json holds both to one list.
 */
export function ledgerAfter(ledger: Ledger, move: Move): Ledger {
  const [out, broken] = change[move.state](move.count);
  const holes = ledger.holes.map((h) =>
    h.number === move.hole
      ? {
          ...h,
          state: move.state === 'backIn' || move.state === 'newIn' ? null : move.state,
          length: move.length ?? h.length,
        }
      : h,
  );
  return {
    ...ledger,
    out: ledger.out + out,
    broken: ledger.broken + broken,
    in: ledger.in - out - broken,
    keeping: move.state === 'out' ? move.keeping : ledger.keeping,
    where: move.state === 'out' ? move.where : ledger.where,
    holes,
    mapMissing: ledger.set.lengths.length > 1 && holes.some((h) => h.state === 'out' && h.length === null),
  };
}

/** What a strip’s sums change by. */
export const sumsAfter = (move: Move): { out: number; broken: number } => {
  const [out, broken] = change[move.state](move.count);
  return { out, broken };
};
