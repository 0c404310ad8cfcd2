import { t as tr } from '@lingui/core/macro';
import { type Schemas } from '../api/client';

const tones = [
  'border-oil bg-oil-tint text-oil',
  'border-brass bg-brass-tint',
  'border-lead bg-lead-tint',
  'border-lead bg-lead text-paper',
];

/** A level as a mark that reads at arm's length. */
export const LevelBadge = ({ level }: { level: number }) => (
  <span
    className={`fig flex size-8 shrink-0 items-center justify-center rounded border-2 font-bold ${tones[level]}`}
    aria-hidden
  >
    {level === 0 ? '–' : level}
  </span>
);

export function SpotWords({ spot }: { spot: Pick<Schemas['Spot'], 'words' | 'share' | 'edges' | 'mates'> }) {
  const share =
    spot.share >= 0.995 ? tr`all of it` : tr`${Math.max(1, Math.round(100 * spot.share))} % of the face`;
  return (
    <>
      {spot.words}; {share}
      {spot.edges.length > 0 && tr`, reaches ${spot.edges.join(tr` and `)}`}
      {spot.mates.map((m) => (
        <span key={m.finding} className={m.linesUp ? 'text-lead' : 'text-soft'}>
          {' '}
          · {m.words}
        </span>
      ))}
    </>
  );
}
