import type { Schemas } from '../api/client';

type Body = Omit<Schemas['OrderLineEntry'], 'id'>;

/** A line for what a need still lacks. */
export const fromNeed = (n: Schemas['OrderNeed']): Body => ({
  version: 0,
  need: n.key,
  kind: n.kind,
  item: n.item,
  what: n.what,
  course: n.course,
  places: n.places,
  step: n.step,
  quantity: n.missing,
  supplier: '',
  partNumber: '',
  price: null,
  currency: '',
  days: null,
  wants: n.wants,
  remarks: '',
});

/** A line that stands, as it would be sent again. */
export const bodyOf = (l: Schemas['OrderLine']): Body => ({
  version: l.version,
  need: l.need,
  kind: l.kind,
  item: l.item,
  what: l.what,
  course: l.course,
  places: l.places,
  step: l.step,
  quantity: l.quantity,
  supplier: l.supplier,
  partNumber: l.partNumber,
  price: l.price,
  currency: l.currency,
  days: l.days,
  wants: l.wants,
  remarks: l.remarks,
});

/** Gates that are not open before some lines, each once. */
export const shutBefore = (lines: readonly Schemas['OrderLineState'][]) => [
  ...new Map(
    lines.flatMap((l) => l.gates.filter((g) => g.stands !== 'open')).map((g) => [g.gate, g]),
  ).values(),
];
