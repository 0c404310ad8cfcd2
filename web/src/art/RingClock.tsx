import type { Schemas } from '../api/client';
import { Addr } from '../ui/basics';

/** Where the gaps of a piston's rings were put and found, seen on the crown; the free end is up. */
export function RingClock({ pack, onPick }: { pack: Schemas['RingPack']; onPick: () => void }) {
  const at = (degrees: number, r: number) =>
    `${60 + r * Math.sin((degrees * Math.PI) / 180)} ${60 - r * Math.cos((degrees * Math.PI) / 180)}`;
  return (
    <button
      className="w-40 rounded-lg border border-line bg-paper p-1 text-left hover:border-dye"
      onClick={onPick}
    >
      <svg viewBox="0 0 120 120" className="w-full" role="img" aria-label={`${pack.piston}: ${pack.words}`}>
        <circle cx="60" cy="60" r="52" fill="none" stroke="var(--color-ink)" strokeWidth="2" />
        <path d="M60 2v10M60 108v10M2 60h10M108 60h10" stroke="var(--color-soft)" />
        {pack.rings.map((ring, i) => {
          const r = 44 - i * 12;
          return (
            <g key={ring.ring}>
              <circle cx="60" cy="60" r={r} fill="none" stroke="var(--color-line)" strokeWidth="3" />
              {ring.put !== null && (
                <path
                  d={`M${at(ring.put, r - 5)}L${at(ring.put, r + 5)}`}
                  stroke="var(--color-soft)"
                  strokeWidth="3"
                />
              )}
              {ring.put !== null && ring.found !== null && ring.drift !== null && (
                <path
                  d={`M${at(ring.put, r)}A${r} ${r} 0 0 ${ring.drift >= 0 ? 1 : 0} ${at(ring.found, r)}`}
                  fill="none"
                  stroke="var(--color-dye)"
                  strokeWidth="3"
                />
              )}
              {ring.found !== null && (
                <circle
                  cx={at(ring.found, r).split(' ')[0]}
                  cy={at(ring.found, r).split(' ')[1]}
                  r="4"
                  fill="var(--color-dye)"
                />
              )}
            </g>
          );
        })}
      </svg>
      <span className="block px-1 text-sm">
        <Addr code={pack.piston} /> {pack.words}
      </span>
    </button>
  );
}
