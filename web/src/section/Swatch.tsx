import type { Sight } from './lenses';

export const fills: Record<Sight['tone'], string> = {
  none: 'var(--color-paper)',
  calm: 'var(--color-oil-tint)',
  light: 'url(#hatch-thin)',
  mid: 'url(#hatch-thick)',
  heavy: 'var(--color-lead)',
  dye: 'var(--color-dye)',
  dyeDots: 'url(#dots)',
};

export const inks: Record<Sight['tone'], string> = {
  none: 'var(--color-soft)',
  calm: 'var(--color-oil)',
  light: 'var(--color-ink)',
  mid: 'var(--color-ink)',
  heavy: 'var(--color-paper)',
  dye: 'var(--color-paper)',
  dyeDots: 'var(--color-dye)',
};

/** Hatches of the lenses, so that a state is told by pattern as well as by tone. */
export function Hatches() {
  return (
    <svg width="0" height="0" className="absolute" aria-hidden>
      <defs>
        <pattern
          id="hatch-thin"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="7" height="7" fill="var(--color-brass-tint)" />
          <path d="M0 0V7" stroke="var(--color-brass)" strokeWidth="1.6" />
        </pattern>
        <pattern
          id="hatch-thick"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="6" height="6" fill="var(--color-lead-tint)" />
          <path d="M0 0V6" stroke="var(--color-lead)" strokeWidth="4" />
        </pattern>
        <pattern id="dots" width="6" height="6" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="var(--color-dye-tint)" />
          <circle cx="3" cy="3" r="1.1" fill="var(--color-dye)" />
        </pattern>
      </defs>
    </svg>
  );
}

/** A small swatch of a lens' tone with its mark, for the legend. */
export function Swatch({ sight }: { sight: Sight }) {
  return (
    <svg width="30" height="20" viewBox="0 0 30 20" aria-hidden className="shrink-0">
      <rect
        x="1"
        y="1"
        width="28"
        height="18"
        rx="3"
        fill={fills[sight.tone]}
        fillOpacity={sight.open ? 0.35 : 1}
        stroke="var(--color-ink)"
        strokeWidth="1.2"
        strokeDasharray={sight.open ? '4 3' : undefined}
      />
      {sight.mark && <Mark x={15} y={10} sight={sight} size={12} />}
    </svg>
  );
}

export function Mark({ x, y, sight, size }: { x: number; y: number; sight: Sight; size: number }) {
  const plain = sight.tone === 'light' || sight.tone === 'mid';
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      dominantBaseline="central"
      fontSize={size}
      fontWeight="800"
      fill={sight.open ? 'var(--color-ink)' : inks[sight.tone]}
      stroke={plain ? 'var(--color-paper)' : 'none'}
      strokeWidth={plain ? 4 : 0}
      paintOrder="stroke"
      pointerEvents="none"
    >
      {sight.mark}
    </text>
  );
}
