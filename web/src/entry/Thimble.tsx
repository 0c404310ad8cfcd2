import { t as tr } from '@lingui/core/macro';
import { useState } from 'react';
import { figure } from '../ui/figures';
import { fixed } from '../ui/region';

/** Scales of micrometers: line of the sleeve, division of the thimble, line of the vernier, divisions once round. */
export const scales = {
  in: { line: 0.025, division: 0.001, fine: 0.0001, round: 25, lines: 39, range: 1, major: 4, places: 4 },
  mm: { line: 0.5, division: 0.01, fine: 0.001, round: 50, lines: 49, range: 25, major: 10, places: 3 },
} as const;

export interface ThimbleReading {
  start: number;
  lines: number;
  divisions: number;
  fine: number;
}

export function sum(r: ThimbleReading, unit: keyof typeof scales) {
  const s = scales[unit];
  return r.start + r.lines * s.line + r.divisions * s.division + r.fine * s.fine;
}

/** Where a size about to be measured begins its range. */
export function startFor(about: number | null, unit: keyof typeof scales) {
  const s = scales[unit];
  if (about === null) return unit === 'in' ? 2 : 50;
  return Math.floor(about / (unit === 'in' ? 25.4 : 1) / s.range) * s.range;
}

/** The sleeve opened near the size expected; the thimble, which decides, begins at nil. */
export function opened(about: number | null, unit: keyof typeof scales): ThimbleReading {
  const start = startFor(about, unit);
  const s = scales[unit];
  const bare = about === null ? 0 : Math.floor((about / (unit === 'in' ? 25.4 : 1) - start) / s.line);
  return { start, lines: Math.max(0, Math.min(s.lines, bare)), divisions: 0, fine: 0 };
}

/** A micrometer read as it is: lines, divisions, vernier, with a picture that turns to match what is said of it. */
export function Thimble({
  unit,
  about,
  onChange,
}: {
  unit: keyof typeof scales;
  /** Size expected in mm, for the range to begin with. */
  about: number | null;
  onChange: (typed: string) => void;
}) {
  const s = scales[unit];
  const [r, setR] = useState<ThimbleReading>(() => opened(about, unit));
  const set = (change: Partial<ThimbleReading>) => {
    const next = { ...r, ...change };
    setR(next);
    onChange(`${next.start}|${next.lines}|${next.divisions}|${next.fine}`);
  };
  const total = sum(r, unit);
  const rows = [
    ['start', tr`Range begins at`, s.range, 0, unit === 'in' ? 20 : 500],
    ['lines', tr`Lines bare on the sleeve (${s.line} each)`, 1, 0, s.lines],
    ['divisions', tr`Division of the thimble (${s.division} each)`, 1, 0, s.round - 1],
    ['fine', tr`Line of the vernier (${s.fine} each)`, 1, 0, 9],
  ] as const;
  return (
    <div className="rounded-lg border border-line p-3">
      <ThimblePicture reading={r} unit={unit} />
      <p className="fig my-2 text-center text-lg" aria-live="polite">
        {r.start} + {fixed(r.lines * s.line, 3)} + {fixed(r.divisions * s.division, 3)} +{' '}
        {fixed(r.fine * s.fine, s.places)} ={' '}
        <b>
          {fixed(total, s.places)} {unit}
        </b>
        {unit === 'in' && (
          <span className="text-soft">
            {' '}
            · {figure(total * 25.4, 'mm')} {tr`mm`}
          </span>
        )}
      </p>
      <div className="grid gap-2 sm:grid-cols-2">
        {rows.map(([key, name, step, least, most]) => (
          <div key={key} role="group" aria-label={name} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 text-sm">{name}</span>
            <button
              type="button"
              className="key"
              aria-label={tr`${name}, less`}
              disabled={r[key] <= least}
              onClick={() => set({ [key]: r[key] - step })}
            >
              −
            </button>
            <input
              className="entry fig w-16 text-center text-xl font-bold"
              inputMode="numeric"
              aria-label={name}
              value={r[key]}
              onChange={(e) => {
                const n = Number(e.target.value);
                if (Number.isInteger(n) && n >= least && n <= most) set({ [key]: n });
              }}
            />
            <button
              type="button"
              className="key"
              aria-label={tr`${name}, more`}
              disabled={r[key] >= most}
              onClick={() => set({ [key]: r[key] + step })}
            >
              +
            </button>
          </div>
        ))}
      </div>
    </div>
  );
}

/** Sleeve with its lines and the thimble turned to the division that meets the long line. */
export function ThimblePicture({ reading, unit }: { reading: ThimbleReading; unit: keyof typeof scales }) {
  const s = scales[unit];
  const gap = unit === 'in' ? 15 : 12;
  const open = reading.lines + (reading.divisions + reading.fine / 10) / s.round;
  const edge = 168;
  const zero = edge - open * gap;
  const turn = reading.divisions + reading.fine / 10;
  const shown = Array.from({ length: 13 }, (_, i) => Math.round(turn) - 6 + i);
  return (
    <svg
      viewBox="0 0 320 140"
      className="w-full max-w-lg"
      role="img"
      aria-label={tr`Micrometer at ${fixed(sum(reading, unit), s.places)} ${unit}`}
    >
      <rect x="-4" y="38" width="200" height="64" fill="var(--color-paper)" stroke="var(--color-soft)" />
      <path d={`M${Math.max(0, zero)} 70H${edge}`} stroke="var(--color-ink)" strokeWidth="1.5" />
      {Array.from({ length: reading.lines + 1 }, (_, i) => {
        const x = zero + i * gap;
        if (x < 2) return null;
        const major = unit === 'in' ? i % s.major === 0 : i % 2 === 0;
        const below = unit === 'mm' && i % 2 === 1;
        return (
          <g key={i}>
            <path
              d={`M${x} 70V${below ? 84 : major ? 52 : 60}`}
              stroke="var(--color-ink)"
              strokeWidth={major ? 2 : 1.3}
            />
            {i % s.major === 0 && (
              <text x={x} y="49" fontSize="12" textAnchor="middle" fill="var(--color-ink)">
                {unit === 'in' ? i / s.major : i / 2}
              </text>
            )}
          </g>
        );
      })}
      <path
        d={`M${edge} 26L${edge + 14} 14H324V126H${edge + 14}L${edge} 114Z`}
        fill="var(--color-steel)"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      {shown.map((d) => {
        const y = 70 - Math.sin(((d - turn) / s.round) * 2 * Math.PI) * (unit === 'in' ? 60 : 110);
        if (y < 22 || y > 118) return null;
        const n = ((d % s.round) + s.round) % s.round;
        return (
          <g key={d}>
            <path
              d={`M${edge} ${y}h${n % 5 === 0 ? 20 : 12}`}
              stroke={n === reading.divisions ? 'var(--color-dye)' : 'var(--color-ink)'}
              strokeWidth={n === reading.divisions ? 3.5 : 1.2}
            />
            {n % 5 === 0 && (
              <text x={edge + 25} y={y + 5} fontSize="14" fontWeight="700" fill="var(--color-ink)">
                {n}
              </text>
            )}
          </g>
        );
      })}
      {[60, 70, 80, 90, 100, 110, 120, 130, 140].map((x) => (
        <path key={x} d={`M${edge + x} 15V125`} stroke="var(--color-line)" strokeWidth="2" />
      ))}
    </svg>
  );
}
