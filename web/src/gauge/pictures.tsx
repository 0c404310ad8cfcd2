import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import type { Schemas } from '../api/client';
import { Addr } from '../ui/basics';
import { figure, told, type LengthUnit } from '../ui/figures';

type Profile = Schemas['Profile'];
type Figure = Schemas['SheetFigure'];

/** How strongly a difference of size is drawn: the widest wear of the set fills this many pixels. */
const swell = 34;

/**
 * Bores in a row, cut open: the line of the wall where it is now, wear drawn large, against the dashed line of the unworn bore. Left and
 * right wall are the two halves of one diameter.
 */
export function BorePictures({
  profiles,
  unit,
  onPick,
}: {
  profiles: Profile[];
  unit: LengthUnit;
  onPick: (place: string) => void;
}) {
  const all = profiles.flatMap((p) => p.values.flat()).filter((v) => v !== null);
  const base = Math.min(...profiles.map((p) => p.unworn ?? Infinity), ...all);
  const most = Math.max(...all.map((v) => v - base), 0.001);
  const w = 118;
  return (
    <figure>
      <div className="flex flex-wrap gap-3">
        {profiles.map((p) => (
          <button
            key={p.place}
            className="rounded-lg border border-line bg-paper p-1 hover:border-dye"
            onClick={() => onPick(p.place)}
            aria-label={tr`${p.place}: taper ${p.taper === null ? '—' : told(p.taper, unit)}, out of round ${p.outOfRound === null ? '—' : told(p.outOfRound, unit)}`}
          >
            <svg width={w} height={150} viewBox={`0 0 ${w} 150`} aria-hidden>
              {p.directions.map((_, d) => {
                const points = p.values.flatMap((row, s) => {
                  const v = row[d];
                  return v === null || v === undefined
                    ? []
                    : [
                        [
                          ((v - base) / most) * (swell / 2),
                          16 + (s * 118) / Math.max(1, p.values.length - 1),
                        ] as const,
                      ];
                });
                const across = d === p.directions.length - 1;
                const left = points.map(([x, y]) => `${34 - x} ${y}`).join('L');
                const right = points.map(([x, y]) => `${w - 34 + x} ${y}`).join('L');
                const [top, foot] = [points[0]?.[1] ?? 0, points.at(-1)?.[1] ?? 0];
                return points.length > 1 ? (
                  <path
                    key={d}
                    d={
                      across
                        ? `M4 ${top}L${left}L4 ${foot}M${w - 4} ${top}L${right}L${w - 4} ${foot}`
                        : `M${left}M${right}`
                    }
                    fill={across ? 'var(--color-steel)' : 'none'}
                    stroke={across ? 'var(--color-ink)' : 'var(--color-dye)'}
                    strokeWidth={across ? 3 : 2}
                    strokeDasharray={across ? undefined : '5 3'}
                  />
                ) : null;
              })}
              <path d={`M34 8V142M${w - 34} 8V142`} stroke="var(--color-soft)" strokeDasharray="2 4" />
              <path d={`M${w / 2} 4V146`} stroke="var(--color-line)" strokeDasharray="10 3 2 3" />
            </svg>
            <span className="flex items-baseline justify-between px-1 text-sm">
              <Addr code={p.place} />
              <span className="fig">
                {figure(Math.max(...p.values.flat().filter((v) => v !== null)), unit)}
              </span>
            </span>
          </button>
        ))}
      </div>
      <figcaption className="mt-1 text-sm text-soft">
        <Trans>
          Wear drawn large: {figure(most, unit)} {unit} on the diameter is the widest swell. <b>Full line</b>{' '}
          across the thrust, <b className="text-dye">dashed</b> along the crank, dotted the unworn bore.
        </Trans>
      </figcaption>
    </figure>
  );
}

/** Journals in a row seen from the side, their shape drawn large between the dotted lines of standard and least size. */
export function JournalPictures({
  profiles,
  unit,
  onPick,
}: {
  profiles: Profile[];
  unit: LengthUnit;
  onPick: (place: string) => void;
}) {
  const all = profiles.flatMap((p) => p.values.flat()).filter((v) => v !== null);
  const [least, most] = [Math.min(...all), Math.max(...all)];
  const span = Math.max(most - least, 0.005);
  const y = (v: number) => 14 + ((most - v) / span) * 26;
  return (
    <figure>
      <div className="flex flex-wrap gap-3">
        {profiles.map((p) => (
          <button
            key={p.place}
            className="rounded-lg border border-line bg-paper p-1 hover:border-dye"
            onClick={() => onPick(p.place)}
            aria-label={tr`${p.place}: taper ${p.taper === null ? '—' : told(p.taper, unit)}, out of round ${p.outOfRound === null ? '—' : told(p.outOfRound, unit)}`}
          >
            <svg width={104} height={104} viewBox="0 0 104 104" aria-hidden>
              <path d="M6 4V100M98 4V100" stroke="var(--color-ink)" strokeWidth="5" />
              {p.directions.map((_, d) => {
                const points = p.values.flatMap((row, s) => {
                  const v = row[d];
                  return v === null || v === undefined
                    ? []
                    : [[16 + (s * 72) / Math.max(1, p.values.length - 1), v] as const];
                });
                if (points.length < 1) return null;
                const pts = points.length === 1 ? [points[0]!, [88, points[0]![1]] as const] : points;
                const top = pts.map(([x, v]) => `${x} ${y(v)}`).join('L');
                const bottom = pts.map(([x, v]) => `${x} ${104 - y(v)}`).join('L');
                return (
                  <path
                    key={d}
                    d={
                      d === 0
                        ? `M${top}L${[...pts]
                            .reverse()
                            .map(([x, v]) => `${x} ${104 - y(v)}`)
                            .join('L')}Z`
                        : `M${top}M${bottom}`
                    }
                    fill={d === 0 ? 'var(--color-steel)' : 'none'}
                    stroke={d === 0 ? 'var(--color-ink)' : 'var(--color-dye)'}
                    strokeWidth={d === 0 ? 3 : 2}
                    strokeDasharray={d === 0 ? undefined : '5 3'}
                  />
                );
              })}
              <path d={`M12 14H92M12 90H92`} stroke="var(--color-soft)" strokeDasharray="2 4" />
            </svg>
            <span className="flex items-baseline justify-between px-1 text-sm">
              <Addr code={p.place} />
              <span className="fig">
                {figure(Math.min(...p.values.flat().filter((v) => v !== null)), unit)}
              </span>
            </span>
          </button>
        ))}
      </div>
      <figcaption className="mt-1 text-sm text-soft">
        <Trans>
          Shape drawn large: from the dotted line, the largest of all, to the smallest is {figure(span, unit)}{' '}
          {unit}. The figure is the least of each.
        </Trans>
      </figcaption>
    </figure>
  );
}

/** What fills a housing from wall to wall: upper shell, clearance, journal, lower shell, to one scale with the clearance drawn large. */
export function ClearanceStack({
  clearance,
  unit,
  most,
  onPick,
}: {
  clearance: Figure;
  unit: LengthUnit;
  /** Largest clearance of the set, for one scale. */
  most: number;
  onPick: () => void;
}) {
  const out = clearance.conformity === 'outside';
  const h = Math.max(3, Math.min(46, (clearance.value / most) * 46));
  const limit = clearance.limit?.wear ?? clearance.limit?.most ?? null;
  const ring = limit === null ? null : (limit / most) * 46;
  return (
    <button
      className={`rounded-lg border bg-paper p-1 hover:border-dye ${out ? 'border-2 border-lead' : 'border-line'}`}
      onClick={onPick}
      aria-label={tr`${clearance.place}: clearance ${figure(clearance.value, unit)} ${unit}`}
    >
      <svg width={84} height={132} viewBox="0 0 96 132" preserveAspectRatio="none" aria-hidden>
        <rect x="8" y="4" width="80" height="12" fill="var(--color-steel)" stroke="var(--color-ink)" />
        <rect x="8" y="16" width="80" height="9" fill="var(--color-brass-tint)" stroke="var(--color-brass)" />
        <rect
          x="8"
          y="25"
          width="80"
          height={h}
          fill={out ? 'var(--color-lead-tint)' : 'var(--color-oil-tint)'}
        />
        {ring !== null && ring <= 48 && (
          <path d={`M4 ${25 + ring}H92`} stroke="var(--color-ink)" strokeWidth="1.5" strokeDasharray="4 3" />
        )}
        <rect
          x="8"
          y={25 + h}
          width="80"
          height={82 - h}
          fill="var(--color-steel)"
          stroke="var(--color-ink)"
        />
        <rect
          x="8"
          y="107"
          width="80"
          height="9"
          fill="var(--color-brass-tint)"
          stroke="var(--color-brass)"
        />
        <rect x="8" y="116" width="80" height="12" fill="var(--color-steel)" stroke="var(--color-ink)" />
      </svg>
      <span className="flex items-baseline justify-between gap-1 px-1 text-sm">
        <Addr code={clearance.place} />
        <span className={`fig ${out ? 'font-bold text-lead' : ''}`}>
          {figure(clearance.value, unit)}
          {out && ' ✕'}
        </span>
      </span>
    </button>
  );
}

/** A figure with its uncertainty on a scale that shows the limit as a band. */
export function LimitBar({ f, top, unit }: { f: Figure; top: number; unit: string }) {
  const w = 130;
  const low = Math.min(f.limit?.least ?? 0, f.value - f.expanded);
  const from = f.value > 0 && low / top > 0.8 ? low - (top - low) * 0.2 : 0;
  const x = (v: number) => Math.max(0, Math.min(w, ((v - from) / (top - from)) * w));
  const out = f.conformity === 'outside';
  const [least, most] = [f.limit?.least ?? from, f.limit?.most ?? top];
  return (
    <svg
      width={w}
      height="24"
      viewBox={`0 0 ${w} 24`}
      role="img"
      aria-label={tr`${figure(f.value, unit)} between ${figure(least, unit)} and ${figure(most, unit)}`}
      className="shrink-0"
    >
      <rect x={0} y={10} width={w} height={4} fill="var(--color-steel)" />
      {f.limit && (
        <rect
          x={x(least)}
          y={5}
          width={Math.max(1, x(most) - x(least))}
          height={14}
          fill="var(--color-oil-tint)"
          stroke="var(--color-oil)"
        />
      )}
      {f.limit?.wear !== null && f.limit?.wear !== undefined && (
        <path
          d={`M${x(f.limit.wear)} 2V22`}
          stroke="var(--color-brass)"
          strokeWidth={2}
          strokeDasharray="3 2"
        />
      )}
      <path
        d={`M${x(f.value - f.expanded)} 12H${x(f.value + f.expanded)}`}
        stroke="var(--color-ink)"
        strokeWidth={2}
      />
      <path
        d={out ? `M${x(f.value) - 5} 7l10 10m0 -10l-10 10` : `M${x(f.value)} 4V20`}
        stroke={out ? 'var(--color-lead)' : 'var(--color-ink)'}
        strokeWidth={3.5}
      />
    </svg>
  );
}
