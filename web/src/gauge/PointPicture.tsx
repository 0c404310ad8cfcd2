import { t as tr } from '@lingui/core/macro';
import type { Characteristic, MeasuringPoint } from './points';

/** Where on the part the instrument goes: the level marked on its side view, the direction on its end view. */
export function PointPicture({
  point,
  entry,
  words,
}: {
  point: MeasuringPoint;
  entry: Characteristic;
  words: string;
}) {
  const stations = entry.stations;
  const directions = Object.entries(entry.directions);
  if (stations.length === 0 && directions.length === 0) return null;
  const bore = point.kind === 'bore' || point.kind.startsWith('guide');
  const at = stations.indexOf(point.station);
  const angle = entry.directions[point.direction];
  return (
    <svg viewBox="0 0 260 112" className="w-full max-w-sm" role="img" aria-label={tr`Measure ${words}`}>
      {stations.length > 0 && (
        <g>
          {bore ? (
            <path
              d="M14 6H26V106H14zM104 6h12V106h-12zM26 6H104M26 106H104"
              fill="var(--color-steel)"
              stroke="var(--color-ink)"
            />
          ) : (
            <path
              d="M10 20H24V92H10zM106 20h14V92h-14zM24 30C28 34 30 36 34 36H96C100 36 102 34 106 30V82C102 78 100 76 96 76H34C30 76 28 78 24 82Z"
              fill="var(--color-steel)"
              stroke="var(--color-ink)"
            />
          )}
          {stations.map((name, i) => {
            const share = (i + 0.5) / stations.length;
            const here = i === at;
            const d = bore ? `M26 ${10 + share * 92}H104` : `M${34 + share * 62} 36V76`;
            return (
              <path
                key={name}
                d={d}
                stroke={here ? 'var(--color-dye)' : 'var(--color-soft)'}
                strokeWidth={here ? 5 : 1.2}
                strokeDasharray={here ? undefined : '3 3'}
              />
            );
          })}
        </g>
      )}
      {directions.length > 0 && (
        <g transform="translate(196 56)">
          <circle
            r="42"
            fill={bore ? 'var(--color-paper)' : 'var(--color-steel)'}
            stroke="var(--color-ink)"
            strokeWidth={bore ? 6 : 1.5}
          />
          {directions.map(([name, degrees]) => {
            const here = name === point.direction;
            return (
              <path
                key={name}
                d="M-40 0H40"
                transform={`rotate(${-degrees})`}
                stroke={here ? 'var(--color-dye)' : 'var(--color-soft)'}
                strokeWidth={here ? 5 : 1.2}
                strokeDasharray={here ? undefined : '3 3'}
              />
            );
          })}
          {angle !== undefined && <circle r="4" fill="var(--color-ink)" />}
        </g>
      )}
    </svg>
  );
}
