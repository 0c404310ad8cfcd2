import { useState } from 'react';
import { figure } from './format';

/** Scales of barrel micrometers: line of the sleeve, division of the barrel, line of the vernier, divisions once round. */
export const scales = {
  in: { line: 0.025, division: 0.001, fine: 0.0001, round: 25, lines: 39, range: 1, major: 4, places: 4 },
  mm: { line: 0.5, division: 0.01, fine: 0.001, round: 50, lines: 49, range: 25, major: 10, places: 3 },
} as const;

export interface BarrelReading {
  start: number;
  lines: number;
  divisions: number;
  fine: number;
}

export function sum(r: BarrelReading, unit: keyof typeof scales) {
  const s = scales[unit];
  return r.start + r.lines * s.line + r.divisions * s.division + r.fine * s.fine;
}

/** Where a size about to be measured begins its range. */
export function startFor(about: number | null, unit: keyof typeof scales) {
  const s = scales[unit];
  if (about === null) return unit === 'in' ? 2 : 50;
  return Math.floor(about / (unit === 'in' ? 25.4 : 1) / s.range) * s.range;
}

/** A barrel micrometer read as it is: lines, divisions, vernier, with a picture that turns to match what is said of it. */
export function Barrel({
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
  const [r, setR] = useState<BarrelReading>({
    start: startFor(about, unit),
    lines: 0,
    divisions: 0,
    fine: 0,
  });
  const set = (change: Partial<BarrelReading>) => {
    const next = { ...r, ...change };
    setR(next);
    onChange(`${next.start}|${next.lines}|${next.divisions}|${next.fine}`);
  };
  const total = sum(r, unit);
  const rows = [
    ['start', 'Range begins at', s.range, 0, unit === 'in' ? 20 : 500],
    ['lines', `Lines bare on the sleeve (${s.line} each)`, 1, 0, s.lines],
    ['divisions', `Division of the barrel (${s.division} each)`, 1, 0, s.round - 1],
    ['fine', `Line of the vernier (${s.fine} each)`, 1, 0, 9],
  ] as const;
  return (
    <div className="rounded-lg border border-line p-3">
      <BarrelPicture reading={r} unit={unit} />
      <p className="fig my-2 text-center text-lg" aria-live="polite">
        {r.start} + {(r.lines * s.line).toFixed(3)} + {(r.divisions * s.division).toFixed(3)} +{' '}
        {(r.fine * s.fine).toFixed(s.places)} ={' '}
        <b>
          {total.toFixed(s.places)} {unit}
        </b>
        {unit === 'in' && <span className="text-soft"> · {figure(total * 25.4, 'mm')} mm</span>}
      </p>
      <div className="grid gap-2 sm:grid-cols-2">
        {rows.map(([key, name, step, least, most]) => (
          <div key={key} role="group" aria-label={name} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 text-sm">{name}</span>
            <button
              type="button"
              className="key"
              aria-label={`${name}, less`}
              disabled={r[key] <= least}
              onClick={() => set({ [key]: r[key] - step })}
            >
              −
            </button>
            <span className="fig w-10 text-center text-xl font-bold">{r[key]}</span>
            <button
              type="button"
              className="key"
              aria-label={`${name}, more`}
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

/** Sleeve with its lines and the barrel turned to the division that meets the long line. */
export function BarrelPicture({ reading, unit }: { reading: BarrelReading; unit: keyof typeof scales }) {
  const s = scales[unit];
  const gap = unit === 'in' ? 9 : 7;
  const edge = 62 + (reading.lines + (reading.divisions + reading.fine / 10) / s.round) * gap;
  const turn = reading.divisions + reading.fine / 10;
  const shown = Array.from({ length: 13 }, (_, i) => Math.round(turn) - 6 + i);
  return (
    <svg
      viewBox="0 0 520 150"
      className="w-full"
      role="img"
      aria-label={`Micrometer at ${sum(reading, unit).toFixed(s.places)} ${unit}`}
    >
      <rect x="0" y="52" width="62" height="46" rx="6" fill="var(--color-steel)" stroke="var(--color-soft)" />
      <rect x="40" y="44" width="480" height="62" fill="var(--color-sheet)" stroke="var(--color-soft)" />
      <path d={`M62 75H${edge}`} stroke="var(--color-ink)" strokeWidth="1.5" />
      {Array.from({ length: reading.lines + 1 }, (_, i) => {
        const major = unit === 'in' ? i % s.major === 0 : i % 2 === 0;
        const up = unit === 'mm' && i % 2 === 1;
        return (
          <g key={i}>
            <path
              d={`M${62 + i * gap} ${up ? 75 : 75}V${up ? 86 : major ? 56 : 64}`}
              stroke="var(--color-ink)"
              strokeWidth={major ? 1.6 : 1}
            />
            {i % s.major === 0 && (
              <text x={62 + i * gap} y="54" fontSize="10" textAnchor="middle" fill="var(--color-ink)">
                {unit === 'in' ? i / s.major : i / 2}
              </text>
            )}
          </g>
        );
      })}
      <path
        d={`M${edge} 38L${edge + 16} 26H520V124H${edge + 16}L${edge} 112Z`}
        fill="var(--color-steel)"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      {shown.map((d) => {
        const at = (d - turn) / s.round;
        const y = 75 - Math.sin(at * 2 * Math.PI) * 46 * 2.1;
        if (y < 32 || y > 118) return null;
        const n = ((d % s.round) + s.round) % s.round;
        return (
          <g key={d}>
            <path
              d={`M${edge} ${y}h${n % 5 === 0 ? 18 : 11}`}
              stroke="var(--color-ink)"
              strokeWidth={n === reading.divisions ? 2.4 : 1}
            />
            {n % 5 === 0 && (
              <text x={edge + 22} y={y + 4} fontSize="11" fontWeight="700" fill="var(--color-ink)">
                {n}
              </text>
            )}
          </g>
        );
      })}
      <path d={`M${edge + 60} 26V124M${edge + 64} 26V124M${edge + 68} 26V124`} stroke="var(--color-soft)" />
    </svg>
  );
}
