import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';
import { figure } from '../ui/figures';

type Heard = Schemas['HeardView'];

/** What goes round a cycle. */
type Around = Pick<Heard, 'circles' | 'band' | 'degrees' | 'firings' | 'at' | 'placed'>;

const size = 320;
const middle = size / 2;
const inner = 62;
const outer = 128;

/** Once round is a whole cycle: of a four-stroke two turns. Its first firing stands at the top, and it goes round with the clock. */
const at = (degrees: number, of: number, radius: number) => {
  const angle = (2 * Math.PI * degrees) / of - Math.PI / 2;
  return [middle + radius * Math.cos(angle), middle + radius * Math.sin(angle)] as const;
};

export function CircleOfTurns({ heard }: { heard: Around }) {
  const circle = heard.circles[heard.band];
  if (!circle) return null;
  const [least, most] = [Math.min(...circle.mean), Math.max(...circle.mean)];
  const radius = (v: number) => inner + ((outer - inner) * (v - least)) / Math.max(1e-6, most - least);
  const line = circle.mean
    .map((v, i) =>
      at((i * heard.degrees) / circle.mean.length, heard.degrees, radius(v)).map((p) => p.toFixed(1)),
    )
    .map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x} ${y}`)
    .join(' ');
  const noise = heard.at ?? null;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${size} ${size}`}
        role="img"
        aria-label={
          noise === null
            ? tr`Loudness round a cycle, with its firings`
            : tr`Loudness round a cycle, with its firings; the noise is at ${Math.round(noise)}°`
        }
        className="mx-auto w-full max-w-96"
      >
        <circle cx={middle} cy={middle} r={inner} fill="none" className="stroke-line" />
        <circle cx={middle} cy={middle} r={outer} fill="none" className="stroke-line" strokeDasharray="3 4" />
        {noise !== null && <Wedge heard={heard} noise={noise} />}
        <path d={`${line} Z`} className="fill-none stroke-ink" strokeWidth={1.6} />
        {heard.firings.map((f) => {
          const [x1, y1] = at(f.angle, heard.degrees, inner);
          const [x2, y2] = at(f.angle, heard.degrees, outer + 6);
          const [x, y] = at(f.angle, heard.degrees, outer + 18);
          return (
            <g key={f.angle}>
              <line x1={x1} y1={y1} x2={x2} y2={y2} className="stroke-brass" strokeWidth={1.5} />
              <text
                x={x}
                y={y}
                textAnchor="middle"
                dominantBaseline="central"
                className={f.missing ? 'fill-lead font-bold' : 'fill-ink'}
                fontSize={15}
              >
                {heard.placed ? f.cylinders.join('+') : '•'}
                {f.missing ? '?' : ''}
              </text>
            </g>
          );
        })}
        <text x={middle} y={middle - 8} textAnchor="middle" className="fill-soft" fontSize={13}>
          {heard.degrees === 720 ? tr`two turns` : tr`one turn`}
        </text>
        <text x={middle} y={middle + 10} textAnchor="middle" className="fill-soft" fontSize={12}>
          {tr`${figure(circle.from, 'Hz', 0)} to ${figure(circle.to, 'Hz', 0)} Hz`}
        </text>
      </svg>
      <figcaption className="text-sm text-soft">
        {heard.placed
          ? tr`Numbers: where each cylinder fires. Further out is louder.`
          : tr`Dots: where a cylinder fires; which, is not known. Further out is louder.`}
        {noise !== null && ` ${tr`The wedge is the noise.`}`}
      </figcaption>
    </figure>
  );
}

function Wedge({ heard, noise }: { heard: Around; noise: number }) {
  const [a, b] = [noise - 14, noise + 14];
  const points = [
    ...[b, a].map((d) => at(d, heard.degrees, inner)),
    ...Array.from({ length: 9 }, (_, i) => at(a + ((b - a) * i) / 8, heard.degrees, outer + 6)),
  ];
  return <polygon points={points.map((p) => p.join(',')).join(' ')} className="fill-lead opacity-25" />;
}

/** How much of what is heard repeats how many times a turn. */
export function OrderBars({ heard }: { heard: Pick<Heard, 'orders' | 'levels' | 'lines'> }) {
  const width = 360;
  const height = 110;
  // What does not repeat at all is no order.
  const first = heard.orders.findIndex((o) => o > 0.2);
  const most = Math.max(1e-6, ...heard.levels.slice(first));
  const last = heard.orders.at(-1) ?? 1;
  const edge = 8;
  const x = (order: number) => edge + ((width - 2 * edge) * order) / last;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${height + 18}`}
        role="img"
        aria-label={tr`Orders per turn of the crank`}
        className="w-full"
      >
        <path
          d={heard.orders
            .slice(first)
            .map(
              (o, i) =>
                `${i === 0 ? 'M' : 'L'}${x(o).toFixed(1)} ${(height * (1 - heard.levels[first + i]! / most)).toFixed(1)}`,
            )
            .join(' ')}
          className="fill-none stroke-ink"
          strokeWidth={1.2}
        />
        {heard.lines
          .filter((l) => l.order <= last)
          .map((l) => (
            <line
              key={l.order}
              x1={x(l.order)}
              x2={x(l.order)}
              y1={0}
              y2={height}
              className="stroke-lead"
              strokeDasharray="3 3"
            />
          ))}
        {Array.from({ length: Math.floor(last) + 1 }, (_, o) => (
          <text key={o} x={x(o)} y={height + 14} textAnchor="middle" fontSize={11} className="fill-soft">
            {o}
          </text>
        ))}
      </svg>
      <figcaption className="text-sm text-soft">{tr`Orders: times a turn. ½ is the camshaft, 1 the crank.`}</figcaption>
    </figure>
  );
}

/** Half orders over speed: a line that stays at its order comes from the engine, one that wanders rings where it is. */
export function OrdersOverSpeed({ heard }: { heard: Heard }) {
  const { stretches } = heard;
  const [slow, fast] = [Math.min(...stretches.map((s) => s.rpm)), Math.max(...stretches.map((s) => s.rpm))];
  // Of a steady engine it says nothing more than the orders above.
  if (stretches.length < 4 || fast / slow < 1.1) return null;
  const width = 360;
  const height = 140;
  const orders = stretches[0]!.levels.length;
  const most = Math.max(...stretches.flatMap((s) => s.levels));
  const sorted = [...stretches].sort((a, b) => a.rpm - b.rpm);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={tr`Orders over speed`}
        className="w-full"
      >
        {sorted.map((s, i) =>
          s.levels.map((l, k) => (
            <rect
              key={`${i}-${k}`}
              x={(width * k) / orders}
              y={height - (height * (i + 1)) / sorted.length}
              width={width / orders + 0.5}
              height={height / sorted.length + 0.5}
              className="fill-ink"
              opacity={Math.min(1, l / most)}
            />
          )),
        )}
      </svg>
      <figcaption className="text-sm text-soft">
        {tr`Orders to the right, speed upwards: ${figure(slow, 'rpm', 0)} to ${figure(fast, 'rpm', 0)} rpm. Darker is louder.`}
      </figcaption>
    </figure>
  );
}
