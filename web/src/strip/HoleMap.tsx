import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import type { SetLedger } from './useStrip';

/** Lengths as marks, so that a long bolt is not taken for a short one: the longer, the more strokes. */
const strokes = ['I', 'II', 'III', 'IIII', 'V'];

/** The joint seen from outside with its holes; touch one and say which length came out of it. */
export function HoleMap({
  ledger,
  mayWrite,
  onMove,
}: {
  ledger: SetLedger;
  mayWrite: boolean;
  onMove: (change: Partial<Schemas['FastenerEntry']>) => void;
}) {
  const [picked, setPicked] = useState<number | null>(null);
  const { set, holes } = ledger;
  const hole = holes.find((h) => h.number === picked);
  const next = holes.find((h) => h.state === null)?.number;
  const mark = (length: number | null) =>
    length === null ? '?' : (strokes[set.lengths.indexOf(length)] ?? String(length));
  return (
    <div className="mt-2 grid gap-3 sm:grid-cols-[minmax(0,1fr)_minmax(0,11rem)]">
      <svg viewBox="-4 -4 208 128" className="w-full" role="group" aria-label={tr`Hole map of ${set.name}`}>
        <rect
          x="2"
          y="2"
          width="196"
          height="116"
          rx="14"
          fill="var(--color-steel)"
          stroke="var(--color-ink)"
        />
        <rect
          x="28"
          y="24"
          width="144"
          height="72"
          rx="10"
          fill="var(--color-paper)"
          stroke="var(--color-line)"
        />
        {holes.map((h) => {
          const out = h.state === 'out' || h.state === 'restOut';
          const broken = h.state !== null && !out;
          const [x, y] = [h.x * 2, h.y * 1.2];
          return (
            <g
              key={h.number}
              role="button"
              tabIndex={0}
              aria-label={tr`Hole ${h.number}, ${h.state === null ? tr`still in` : !out ? tr`broken` : h.length ? tr`out, ${h.length} mm` : tr`out, length not noted`}`}
              aria-pressed={picked === h.number}
              className="cursor-pointer"
              onClick={() => setPicked(h.number)}
              onKeyDown={(e) =>
                (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), setPicked(h.number))
              }
            >
              <circle cx={x} cy={y} r="12" fill="transparent" />
              <circle
                cx={x}
                cy={y}
                r="8.5"
                fill={broken ? 'var(--color-lead)' : out ? 'var(--color-paper)' : 'var(--color-ink)'}
                stroke={picked === h.number ? 'var(--color-dye)' : 'var(--color-ink)'}
                strokeWidth={picked === h.number ? 3.5 : 1.5}
              />
              <text
                x={x}
                y={y}
                textAnchor="middle"
                dominantBaseline="central"
                fontSize={out ? 7.5 : 8}
                fontWeight="800"
                className="fig"
                fill={out ? 'var(--color-ink)' : 'var(--color-paper)'}
                textDecoration={!out && /[69]/.test(String(h.number)) ? 'underline' : undefined}
              >
                {out ? mark(h.length) : h.number}
              </text>
            </g>
          );
        })}
        <text
          x="100"
          y="60"
          textAnchor="middle"
          dominantBaseline="central"
          fontSize="9"
          fill="var(--color-soft)"
        >
          {tr`seen from outside`}
        </text>
      </svg>
      <div>
        <ul className="text-sm">
          {set.lengths.map((l, i) => (
            <li key={l}>
              <Trans>
                <b className="fig">{strokes[i]}</b> {l} mm
              </Trans>
            </li>
          ))}
          <li className="text-soft">{tr`Dark: still in`}</li>
        </ul>
        {mayWrite &&
          (hole ? (
            <div className="mt-2 space-y-1.5">
              <p className="font-semibold">
                <Trans>Hole {hole.number}</Trans>
              </p>
              {hole.state === null ? (
                <div
                  className="flex flex-wrap gap-1.5"
                  role="group"
                  aria-label={tr`What came out of hole ${hole.number}`}
                >
                  {(set.lengths.length > 0 ? set.lengths : [null]).map((length) => (
                    <button
                      key={length ?? 0}
                      className="key"
                      onClick={() => {
                        onMove({ state: 'out', hole: hole.number, length });
                        setPicked(null);
                      }}
                    >
                      {length === null ? tr`Out` : `${length} mm`}
                    </button>
                  ))}
                  <button
                    className="key text-sm"
                    onClick={() => {
                      onMove({ state: 'broken', hole: hole.number });
                      setPicked(null);
                    }}
                  >
                    {tr`Broke`}
                  </button>
                </div>
              ) : (
                <button
                  className="key text-sm"
                  disabled={hole.state !== 'out'}
                  onClick={() => onMove({ state: 'backIn', hole: hole.number })}
                >
                  {tr`Back in`}
                </button>
              )}
            </div>
          ) : (
            next !== undefined && (
              <button className="key mt-2" onClick={() => setPicked(next)}>
                <Trans>Next: hole {next}</Trans>
              </button>
            )
          ))}
      </div>
    </div>
  );
}
