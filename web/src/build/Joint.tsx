import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import type { Schemas } from '../api/client';

/** The joint seen from outside: which holes are empty, by their numbers, and when all are filled in which order they are tightened; lengths beside them. */
export function Joint({ set }: { set: Schemas['BackSet'] }) {
  // Where nobody said where the holes lie and no map was kept, a drawing would be made up.
  if (set.drawn && set.lengths.length < 2)
    return (
      <p className="text-sm text-soft">
        {set.orderIsMakers ? (
          <>
            <Trans>
              The maker’s order of the holes: <b className="fig text-ink">{set.order.join(' · ')}</b>
            </Trans>
          </>
        ) : (
          tr`From the middle outward and from side to side, as is usual; the maker’s order goes before it. Where the holes lie nobody said: with it in the script, the order is drawn.`
        )}
      </p>
    );
  // A hole is filled by its own number; the order of tightening comes when all are in.
  const filling = set.holes.some((h) => h.state !== null);
  const turn = new Map(set.order.map((hole, i) => [hole, i + 1]));
  const small = set.holes.length > 18;
  const r = small ? 6 : 8.5;
  return (
    <figure className="max-w-md">
      <svg
        viewBox="-4 -4 208 128"
        className="w-full"
        role="img"
        aria-label={
          filling
            ? tr`Holes by their numbers; some are empty`
            : tr`Order of tightening: ${set.order.join(', ')}`
        }
      >
        {Array.from({ length: set.joints }, (_, i) => (
          <rect
            key={i}
            x={2 + (i * 196) / set.joints + (i > 0 ? 1 : 0)}
            y="2"
            width={196 / set.joints - (set.joints > 1 ? 2 : 0)}
            height="116"
            rx={set.joints > 1 ? 7 : 14}
            fill="var(--color-steel)"
            stroke="var(--color-ink)"
          />
        ))}
        {set.holes.map((h) => {
          const [x, y] = [h.x * 2, h.y * 1.2];
          const empty = h.state !== null;
          const text = String(filling ? h.number : (turn.get(h.number) ?? '?'));
          return (
            <g key={h.number}>
              <circle
                cx={x}
                cy={y}
                r={r}
                fill={empty ? 'var(--color-paper)' : 'var(--color-ink)'}
                stroke={empty ? 'var(--color-lead)' : 'var(--color-ink)'}
                strokeWidth={empty ? 2.5 : 1.5}
                strokeDasharray={empty ? '3 2' : undefined}
              />
              <text
                x={x}
                y={y}
                textAnchor="middle"
                dominantBaseline="central"
                fontSize={small ? 6.5 : 8.5}
                fontWeight="800"
                className="fig"
                fill={empty ? 'var(--color-ink)' : 'var(--color-paper)'}
                textDecoration={/^[69]$/.test(text) ? 'underline' : undefined}
              >
                {text}
              </text>
              {set.lengths.length > 1 && h.length !== null && (
                <text
                  x={x}
                  y={y > 60 ? y - r - 2.5 : y + r + 6.5}
                  textAnchor="middle"
                  fontSize="6"
                  className="fig"
                  fill="var(--color-ink)"
                >
                  {h.length}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <figcaption className="text-sm text-soft">
        {filling
          ? tr`The numbers are those of the holes; when all are in, the order of tightening stands here.`
          : set.orderIsMakers
            ? tr`The maker’s order.`
            : tr`From the middle outward and from side to side, as is usual: the maker’s order goes before it.`}
        {set.joints > 1 && tr` Each by itself.`}
        {set.drawn && tr` The map is drawn evenly round the edge.`}
        {set.holes.some((h) => h.state !== null) && tr` Dashed: empty.`}
        {set.lengths.length > 1 && tr` Small: length in mm.`}
      </figcaption>
    </figure>
  );
}
