import { t as tr } from '@lingui/core/macro';
import type { DossierKind } from '../api/queries';

/** Who a dossier is for, and what that one is told. */
export const kinds: Record<DossierKind, { name: string; says: string }> = {
  customer: {
    name: tr`Customer’s letter`,
    says: tr`Two pages in plain words: what failed, why, what we do, what it costs`,
  },
  examiner: {
    name: tr`Examiner’s report`,
    says: tr`All of it: evidence, who and when, each figure back to its readings`,
  },
  own: { name: tr`Our own record`, says: tr`For the next one of its kind: lessons, counts, times, sizes` },
  class: { name: tr`Class record`, says: tr`What was done, signed and found, beside the computation` },
};

export const forMachineShop = tr`The order for a machine shop, with its drawings, is in Verdict beside the order.`;
