import type { DossierKind } from '../api/queries';

/** Who a dossier is for, and what that one is told. */
export const kinds: Record<DossierKind, { name: string; says: string }> = {
  customer: {
    name: 'Customer’s letter',
    says: 'Two pages in plain words: what failed, why, what we do, what it costs',
  },
  examiner: {
    name: 'Examiner’s report',
    says: 'All of it: evidence, who and when, each figure back to its readings',
  },
  own: { name: 'Our own record', says: 'For the next one of its kind: lessons, counts, times, sizes' },
  class: { name: 'Class record', says: 'What was done, signed and found, beside the computation' },
};

export const forMachineShop =
  'The order for a machine shop, with its drawings, is in Verdict beside the order.';
