import { t as tr } from '@lingui/core/macro';
import type { EngineCase } from '../api/client';
import { remember, remembered } from '../device/remember';
import { stands } from '../ui/words';

const kept = 'vivid-sleuth.walk';

/** The case that this device is walked through; null where nobody is on a walk. */
export const walkedCase = () => remembered(kept) || null;

/** Whoever began or left one knows of it. */
export const walkOffered = () => remembered(kept) === null;

export const beginWalk = (caseId: string) => remember(kept, caseId);

export const leaveWalk = () => remember(kept, '');

/** What a newcomer does on the first engine, one thing after the other. */
export interface WalkStep {
  says: string;
  how: string;
  /** Within the case. */
  to: string;
  done: (c: EngineCase, at: string) => boolean;
}

const at = (place: string) => (r: { place: string; withdrawnAt: string | null }) =>
  stands(r) && r.place === place;

/** The engine of the walk has two rods; the second is the one that knocks. */
export const walkSteps: readonly WalkStep[] = [
  {
    says: tr`Tag the cap of rod 2`,
    how: tr`A cap belongs to its rod and one way round. Say how it is marked and which way the mark faces, then press “Tag R2C”.`,
    to: 'index?part=R2C',
    done: (c) => c.parts.some(at('R2C')),
  },
  {
    says: tr`Photograph the upper shell of rod 2`,
    how: tr`Before it is washed. On a phone the camera opens; at a desk any picture file will do.`,
    to: 'look?part=R2U',
    done: (c) => c.photos.some(at('R2U')),
  },
  {
    says: tr`Say what that shell shows`,
    how: tr`The grey overlay is wiped off right across: choose the sign, how bad it is, then save.`,
    to: 'look?part=R2U',
    done: (c) => c.findings.some((f) => at('R2U')(f) && f.seen === 'present'),
  },
  {
    says: tr`Measure crankpin 2`,
    how: tr`The micrometer reads 39.74 at every spot. Type it; Enter goes on to the next spot. One will do.`,
    to: 'gauge?round=crankpin-diameter',
    done: (c) => c.readings.some((r) => at('K2')(r) && r.characteristic === 'crankpin-diameter'),
  },
  {
    says: tr`See what the two together say`,
    how: tr`Trace has the likeliest cause on top, what speaks for it, and what to look at next.`,
    to: 'trace',
    done: (c, here) => walkSteps.slice(2, 4).every((s) => s.done(c, here)) && here.endsWith('/trace'),
  },
];

/** Number of the step that comes next; as many as there are where all is done. */
export function walkedTo(c: EngineCase, here: string) {
  const next = walkSteps.findIndex((s) => !s.done(c, here));
  return next < 0 ? walkSteps.length : next;
}
