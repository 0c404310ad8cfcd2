import { t as tr } from '@lingui/core/macro';
import type { CaseAnswers, Schemas } from '../api/client';
import { fixed } from '../ui/region';

export const lensNames = {
  tags: tr`Tagged`,
  damage: tr`Damage`,
  limit: tr`Limit used`,
  after: tr`Limit used after work`,
  cause: tr`Cause`,
  verdict: tr`Verdict`,
  off: tr`On and off`,
} as const;

export type Lens = keyof typeof lensNames;

/** How a place looks under a lens: a tone, a short mark inside it, and the same in words. */
export interface Sight {
  tone: 'none' | 'calm' | 'light' | 'mid' | 'heavy' | 'dye' | 'dyeDots';
  mark: string;
  words: string;
  /** Only advised: drawn open, with a broken outline. */
  open?: boolean;
}

const nothing: Sight = { tone: 'none', mark: '', words: '' };

/** What stands for a course: a mark filled in where it is decided, and alone where it is advised. */
export const verdictSights: Record<Schemas['VerdictAction'], [string, Sight['tone'], string]> = {
  reuse: ['✓', 'calm', tr`reuse`],
  cleanAndReuse: ['✓', 'calm', tr`clean and reuse`],
  repair: ['R', 'light', tr`repair`],
  machine: ['M', 'mid', tr`machine`],
  replace: ['×', 'heavy', tr`replace`],
  specialist: ['?', 'mid', tr`specialist`],
};

const damageSights: Sight[] = [
  { tone: 'calm', mark: '·', words: tr`looked at, clean` },
  { tone: 'light', mark: '1', words: tr`slight` },
  { tone: 'mid', mark: '2', words: tr`moderate` },
  { tone: 'heavy', mark: '3', words: tr`severe` },
];

/** Sights of all places under a lens; what is on and off is told apart (`offSights`). `picked` is the index of the cause picked in Trace. */
export function sights(
  places: CaseAnswers['places'],
  trace: CaseAnswers['trace'] | undefined,
  lens: Lens,
  picked: number,
  advice: readonly Pick<Schemas['VerdictAdvice'], 'place' | 'action'>[] = [],
): Map<string, Sight> {
  const map = new Map<string, Sight>();
  if (lens === 'off') return map;
  if (lens === 'cause') {
    const cause = trace?.ranking[picked];
    for (const sign of cause?.chain.flatMap((l) => l.signs) ?? []) {
      put(map, sign.place, causeSight(sign));
    }
    return map;
  }
  for (const state of places) map.set(state.place, stateSight(state, lens));
  if (lens === 'verdict')
    for (const { place, action } of advice) {
      if (!action || map.get(place)?.mark) continue;
      const [mark, tone, words] = verdictSights[action];
      map.set(place, { tone, mark, words: tr`advised: ${words}`, open: true });
    }
  return map;
}

/** The worse of two sights of one place is shown. */
export function put(map: Map<string, Sight>, place: string, sight: Sight) {
  const before = map.get(place);
  if (!before || rank(sight) > rank(before)) map.set(place, sight);
}

/** Whether a station is told by how many of its parts are so, and not by the worst. */
export const counted = (lens: Lens) => lens === 'tags' || lens === 'off';

/** How a station stands under a lens: the worst of its parts, or how many of them are so. */
export function worst(lens: Lens, of: readonly Sight[], parts: number): Sight | undefined {
  if (counted(lens)) {
    const those = of.filter((s) => (lens === 'tags' ? s.mark : s.open)).length;
    const tone = those === 0 ? 'none' : those === parts ? 'dye' : 'light';
    const words = lens === 'tags' ? tr`${those} of ${parts} tagged` : tr`${those} of ${parts} off`;
    return { tone, mark: `${those}/${parts}`, words };
  }
  const weight = (s: Sight) =>
    ['none', 'calm', 'dyeDots', 'light', 'mid', 'heavy', 'dye'].indexOf(s.tone) +
    (s.open ? -0.5 : 0) +
    (Number.parseFloat(s.mark.replace(',', '.')) || 0) / 1000;
  return of.filter((s) => s.mark).sort((a, b) => weight(b) - weight(a))[0];
}

const rank = (s: Sight) => ['none', 'light', 'calm', 'dyeDots', 'mid', 'heavy', 'dye'].indexOf(s.tone);

function causeSight(sign: Schemas['PredictedSign']): Sight {
  if (sign.seen === 'present') return { tone: 'dye', mark: '✓', words: tr`${sign.name}: found` };
  if (sign.seen === 'absent')
    return { tone: 'light', mark: '–', words: tr`${sign.name}: checked, not there` };
  return { tone: 'dyeDots', mark: '', words: tr`${sign.name}: not looked for yet` };
}

function shareSight(share: number | null, when: string): Sight {
  if (share === null) return nothing;
  const words = tr`${Math.round(share * 100)} % of the limit used${when}`;
  if (share > 1) return { tone: 'heavy', mark: `${fixed(share, 1)}×`, words };
  if (share < 0) return { tone: 'heavy', mark: '<', words: tr`below the least${when}` };
  return { tone: share > 0.8 ? 'light' : 'calm', mark: `${Math.round(share * 100)}`, words };
}

function stateSight(state: Schemas['PlaceState'], lens: Exclude<Lens, 'cause' | 'off'>): Sight {
  switch (lens) {
    case 'tags':
      if (state.marked) return { tone: 'dye', mark: '●', words: tr`tagged and marked` };
      return state.tagged ? { tone: 'mid', mark: '○', words: tr`tagged, no mark` } : nothing;
    case 'damage':
      return (state.damage === null ? undefined : damageSights[state.damage]) ?? nothing;
    case 'limit':
      return state.loud ? { tone: 'heavy', mark: '!', words: tr`wrong size` } : shareSight(state.share, '');
    case 'after':
      return shareSight(state.shareAfter, tr` after work`);
    case 'verdict': {
      if (state.verdict === null) return nothing;
      const [mark, tone, words] = verdictSights[state.verdict];
      return { tone, mark, words };
    }
  }
}

/** What the marks of a lens mean. */
export const legends: Record<Lens, Sight[]> = {
  tags: [
    { tone: 'dye', mark: '●', words: tr`tagged and marked` },
    { tone: 'mid', mark: '○', words: tr`tagged, no mark` },
    { tone: 'none', mark: '', words: tr`not tagged` },
  ],
  damage: [...damageSights, { tone: 'none', mark: '', words: tr`not looked at` }],
  limit: [
    { tone: 'calm', mark: '40', words: tr`per cent of limit used` },
    { tone: 'heavy', mark: '1.2×', words: tr`beyond the limit` },
    { tone: 'heavy', mark: '!', words: tr`wrong size` },
    { tone: 'none', mark: '', words: tr`no figure` },
  ],
  after: [
    { tone: 'calm', mark: '40', words: tr`per cent of limit used after work` },
    { tone: 'heavy', mark: '1.2×', words: tr`beyond the limit` },
    { tone: 'none', mark: '', words: tr`not measured after work` },
  ],
  off: [
    { tone: 'calm', mark: '', words: tr`on the engine` },
    { tone: 'none', mark: '', words: tr`off`, open: true },
  ],
  cause: [
    { tone: 'dye', mark: '✓', words: tr`predicted and found` },
    { tone: 'light', mark: '–', words: tr`predicted, not there` },
    { tone: 'dyeDots', mark: '', words: tr`predicted, not looked for` },
  ],
  verdict: [
    { tone: 'calm', mark: '✓', words: tr`reuse` },
    { tone: 'light', mark: 'R', words: tr`repair` },
    { tone: 'mid', mark: 'M', words: tr`machine` },
    { tone: 'mid', mark: '?', words: tr`specialist` },
    { tone: 'heavy', mark: '×', words: tr`replace` },
    { tone: 'mid', mark: 'M', words: tr`advised, not decided`, open: true },
  ],
};
