import type { ReactNode } from 'react';

export type Box = [number, number, number, number];

/** The same scatter each time: a small linear congruential generator (constants of Numerical Recipes). */
export function scatter(seed: number) {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 0x1_0000_0000;
  };
}

type Draw = (box: Box, random: () => number) => ReactNode;

const f = (n: number) => n.toFixed(1);
const times = <T,>(n: number, make: (i: number) => T) => Array.from({ length: n }, (_, i) => make(i));

/** Many, but never more than the eye takes in. */
const dense = ([, , w, h]: Box, per: number, most: number) =>
  Math.max(4, Math.min(most, Math.round((w * h) / per)));

const dots =
  (radius: number, per: number, most: number, open = false): Draw =>
  (box, random) => {
    const [x, y, w, h] = box;
    return times(dense(box, per, most), (i) => (
      <circle
        key={i}
        cx={f(x + random() * w)}
        cy={f(y + random() * h)}
        r={f(radius * (0.5 + random()))}
        fill={open ? 'none' : 'currentColor'}
        stroke={open ? 'currentColor' : 'none'}
      />
    ));
  };

/** A closed, uneven outline round the box. */
function blob([x, y, w, h]: Box, random: () => number, rough = 0.25, n = 12) {
  const points = times(n, (i) => {
    const a = (i / n) * 2 * Math.PI;
    const r = 1 - rough * random();
    return `${f(x + w / 2 + (w / 2) * r * Math.cos(a))} ${f(y + h / 2 + (h / 2) * r * Math.sin(a))}`;
  });
  return `M${points.join('L')}Z`;
}

function zigzag(x1: number, y1: number, x2: number, y2: number, random: () => number, n = 8, swing = 4) {
  const points = times(n + 1, (i) => {
    const t = i / n;
    const off = i === 0 || i === n ? 0 : (random() - 0.5) * 2 * swing;
    const long = Math.hypot(x2 - x1, y2 - y1) || 1;
    return `${f(x1 + t * (x2 - x1) + (off * (y1 - y2)) / long)} ${f(y1 + t * (y2 - y1) + (off * (x2 - x1)) / long)}`;
  });
  return `M${points.join('L')}`;
}

const along = (upright: boolean): Draw => {
  return ([x, y, w, h], random) =>
    times(Math.max(5, Math.round((upright ? w : h) / 3)), (i) => {
      const across = random();
      const from = random() * 0.35;
      const to = 0.6 + random() * 0.4;
      return upright ? (
        <path
          key={i}
          d={`M${f(x + across * w)} ${f(y + from * h)}V${f(y + to * h)}`}
          strokeWidth={0.6 + random()}
        />
      ) : (
        <path
          key={i}
          d={`M${f(x + from * w)} ${f(y + across * h)}H${f(x + to * w)}`}
          strokeWidth={0.6 + random()}
        />
      );
    });
};

/** The marks by name, as knowledge/signs/ names them. */
export const marks: Record<string, Draw> = {
  scores: along(false),
  scratches: along(true),
  hatch: ([x, y, w, h]) => {
    const n = Math.max(4, Math.round(w / 9));
    return (
      <path
        strokeWidth="0.6"
        d={times(
          n,
          (i) =>
            `M${f(x + (i / n) * w)} ${f(y + h)}L${f(Math.min(x + w, x + (i / n) * w + h * 0.8))} ${f(y)}M${f(x + (i / n) * w)} ${f(y)}L${f(Math.min(x + w, x + (i / n) * w + h * 0.8))} ${f(y + h)}`,
        ).join('')}
      />
    );
  },
  pits: dots(1.6, 55, 46),
  specks: dots(0.8, 40, 60),
  smear: (box, random) => {
    const [x, y, w, h] = box;
    return (
      <>
        <path d={blob(box, random, 0.3, 16)} fill="currentColor" fillOpacity="0.14" />
        {times(6, (i) => {
          const at = y + ((i + 0.5) / 6) * h;
          return (
            <path
              key={i}
              d={`M${f(x + w * 0.1)} ${f(at)}q${f(w * 0.3)} ${f((random() - 0.5) * 8)} ${f(w * 0.8)} ${f((random() - 0.5) * 8)}`}
            />
          );
        })}
      </>
    );
  },
  sheen: (box, random) => {
    const [x, y, w, h] = box;
    return (
      <>
        <path d={blob(box, random, 0.12, 14)} strokeDasharray="4 2.5" />
        <path
          d={`M${f(x + w * 0.3)} ${f(y + h * 0.65)}l${f(w * 0.2)} ${f(-h * 0.35)}M${f(x + w * 0.48)} ${f(y + h * 0.7)}l${f(w * 0.22)} ${f(-h * 0.4)}`}
          strokeWidth="0.8"
        />
      </>
    );
  },
  crack: ([x, y, w, h], random) => (
    <path
      strokeWidth="1.8"
      d={
        h >= w
          ? zigzag(x + w / 2, y, x + w / 2, y + h, random)
          : zigzag(x, y + h / 2, x + w, y + h / 2, random)
      }
    />
  ),
  craze: ([x, y, w, h], random) => (
    <path
      strokeWidth="0.9"
      d={times(9, () => {
        const a = x + random() * w;
        const b = y + random() * h;
        return zigzag(
          a,
          b,
          Math.max(x, Math.min(x + w, a + (random() - 0.5) * w * 0.7)),
          Math.max(y, Math.min(y + h, b + (random() - 0.5) * h)),
          random,
          5,
          3,
        );
      }).join('')}
    />
  ),
  break: ([x, y, w, h], random) => (
    <>
      <path d={`M${x} ${y}H${x + w}V${y + h}H${x}Z`} fill="var(--color-paper)" stroke="none" />
      <path
        strokeWidth="1.8"
        d={
          w >= h
            ? zigzag(x, y, x, y + h, random, 6, 4) + zigzag(x + w, y, x + w, y + h, random, 6, 4)
            : zigzag(x, y, x + w, y, random, 6, 4) + zigzag(x, y + h, x + w, y + h, random, 6, 4)
        }
      />
    </>
  ),
  heat: (box, random) => {
    const [x, y, w, h] = box;
    return times(4, (i) => (
      <path
        key={i}
        d={blob([x + (i * w) / 10, y + (i * h) / 10, w * (1 - i / 5), h * (1 - i / 5)], random, 0.15)}
        strokeWidth="0.8"
        fill="currentColor"
        fillOpacity="0.09"
      />
    ));
  },
  fret: (box, random) => {
    const [x, y, w, h] = box;
    return times(5, (i) => {
      const s = 0.22 + random() * 0.16;
      return (
        <path
          key={i}
          d={blob([x + random() * w * (1 - s), y + random() * h * (1 - s), w * s, h * s], random, 0.5)}
          fill="currentColor"
          fillOpacity="0.25"
          strokeDasharray="1.5 1.5"
        />
      );
    });
  },
  blots: (box, random) => {
    const [x, y, w, h] = box;
    return times(dense(box, 350, 8), (i) => {
      const s = Math.min(w, h) * (0.12 + random() * 0.16);
      return (
        <path
          key={i}
          d={blob([x + random() * (w - s), y + random() * (h - s), s, s], random, 0.4)}
          fill="currentColor"
        />
      );
    });
  },
  rust: (box, random) => {
    const [x, y, w, h] = box;
    return (
      <>
        <path d={blob(box, random, 0.35, 18)} strokeDasharray="2 2" />
        {times(dense(box, 60, 40), (i) => (
          <circle
            key={i}
            cx={f(x + w * (0.12 + random() * 0.76))}
            cy={f(y + h * (0.12 + random() * 0.76))}
            r={f(1 + random() * 1.6)}
          />
        ))}
      </>
    );
  },
  carbon: (box, random) => {
    const [x, y, w, h] = box;
    return (
      <>
        <path d={blob(box, random, 0.2, 20)} fill="currentColor" fillOpacity="0.22" />
        {times(dense(box, 70, 40), (i) => (
          <path
            key={i}
            d={`M${f(x + w * (0.12 + random() * 0.76))} ${f(y + h * (0.12 + random() * 0.76))}l${f((random() - 0.5) * 6)} ${f((random() - 0.5) * 6)}`}
          />
        ))}
      </>
    );
  },
  melt: (box, random) => {
    const [x, y, w, h] = box;
    return (
      <>
        <path d={blob(box, random, 0.35, 10)} fill="currentColor" fillOpacity="0.3" />
        <path
          d={blob([x + w * 0.22, y + h * 0.22, w * 0.56, h * 0.56], random, 0.35, 9)}
          fill="currentColor"
        />
        <path d={`M${f(x + w * 0.5)} ${f(y + h)}q1 6 -2 10`} strokeWidth="2.4" strokeLinecap="round" />
      </>
    );
  },
  hole: (box) => {
    const [x, y, w, h] = box;
    return <ellipse cx={x + w / 2} cy={y + h / 2} rx={w / 2} ry={h / 2} fill="currentColor" />;
  },
  dent: (box) => {
    const [x, y, w, h] = box;
    return (
      <>
        <ellipse cx={x + w / 2} cy={y + h / 2} rx={w / 2} ry={h / 2} />
        <path
          d={`M${f(x + w * 0.2)} ${f(y + h * 0.4)}Q${f(x + w / 2)} ${f(y + h * 0.05)} ${f(x + w * 0.8)} ${f(y + h * 0.4)}M${f(x + w * 0.3)} ${f(y + h * 0.55)}Q${f(x + w / 2)} ${f(y + h * 0.3)} ${f(x + w * 0.7)} ${f(y + h * 0.55)}`}
        />
      </>
    );
  },
  chip: (box, random) => {
    const [x, y, w, h] = box;
    return (
      <path
        d={`M${x} ${y}${zigzag(x, y, x + w * 0.5, y + h, random, 4, 3)
          .slice(1)
          .replace(/^[^L]+/, '')}L${f(x + w)} ${f(y)}`}
        fill="currentColor"
        fillOpacity="0.4"
        strokeWidth="1.6"
      />
    );
  },
  step: ([x, y, w, h]) =>
    w >= h ? (
      <path d={`M${x} ${y}H${f(x + w / 2)}V${f(y + h)}H${f(x + w)}`} strokeWidth="2.4" />
    ) : (
      <path d={`M${x} ${y}V${f(y + h / 2)}H${f(x + w)}V${f(y + h)}`} strokeWidth="2.4" />
    ),
  band: ([x, y, w, h]) => (
    <rect x={x} y={y} width={w} height={h} fill="currentColor" fillOpacity="0.28" strokeDasharray="3 2" />
  ),
  strings: ([x, y, w, h], random) =>
    times(6, (i) => (
      <path
        key={i}
        d={`M${f(x + random() * w * 0.5)} ${f(y + random() * h)}q${f(10 + random() * 12)} ${f(-14 + random() * 28)} ${f(18 + random() * 14)} 0t${f(10 + random() * 10)} ${f(-6 + random() * 12)}`}
        strokeWidth="2"
        strokeLinecap="round"
      />
    )),
  sludge: (box, random) => {
    const [x, y, w, h] = box;
    return (
      <>
        <path
          d={`M${x} ${f(y + h * 0.4)}q${f(w * 0.25)} ${f(-h * 0.4)} ${f(w * 0.5)} 0t${f(w * 0.5)} 0V${f(y + h)}H${x}Z`}
          fill="currentColor"
          fillOpacity="0.4"
        />
        {times(5, (i) => (
          <path
            key={i}
            d={`M${f(x + random() * w * 0.8)} ${f(y + h * (0.55 + random() * 0.4))}h${f(5 + random() * 10)}`}
          />
        ))}
      </>
    );
  },
  flakes: (box, random) => {
    const [x, y, w, h] = box;
    return times(dense(box, 220, 22), (i) => {
      const s = 3 + random() * 6;
      return (
        <path
          key={i}
          d={blob(
            [x + random() * Math.max(1, w - s), y + random() * Math.max(1, h - s), s, s * 0.7],
            random,
            0.6,
            6,
          )}
          fill="currentColor"
          fillOpacity={0.2 + random() * 0.5}
        />
      );
    });
  },
  film: (box, random) => (
    <>
      <path d={blob(box, random, 0.15, 16)} fill="currentColor" fillOpacity="0.13" strokeDasharray="1 2.5" />
      <path
        d={blob([box[0] + box[2] * 0.2, box[1] + box[3] * 0.2, box[2] * 0.5, box[3] * 0.4], random, 0.2)}
        strokeWidth="0.7"
      />
    </>
  ),
  drops: ([x, y, w, h], random) =>
    times(5, (i) => {
      const cx = x + ((i + 0.3 + random() * 0.4) / 5) * w;
      const cy = y + h * (0.35 + random() * 0.5);
      const r = 2.2 + random() * 1.8;
      return (
        <path
          key={i}
          d={`M${f(cx)} ${f(cy - 2.4 * r)}Q${f(cx + 1.3 * r)} ${f(cy - 0.4 * r)} ${f(cx + r)} ${f(cy + 0.2 * r)}A${f(r)} ${f(r)} 0 1 1 ${f(cx - r)} ${f(cy + 0.2 * r)}Q${f(cx - 1.3 * r)} ${f(cy - 0.4 * r)} ${f(cx)} ${f(cy - 2.4 * r)}Z`}
          fill="currentColor"
          fillOpacity="0.35"
        />
      );
    }),
  wear: ([x, y, w, h]) => (
    <>
      <path d={`M${x} ${y}Q${f(x + w / 2)} ${f(y + h * 1.4)} ${f(x + w)} ${y}`} strokeWidth="2" />
      <path d={`M${x} ${y}H${f(x + w)}`} strokeDasharray="3 2.5" />
      <path d={`M${f(x + w / 2)} ${y}V${f(y + h * 0.65)}`} strokeWidth="0.8" />
    </>
  ),
  tilt: ([x, y, w, h]) => (
    <>
      <path d={`M${f(x + w / 2)} ${y}V${f(y + h)}`} strokeDasharray="6 3 1.5 3" />
      <path d={`M${f(x + w * 0.36)} ${y}L${f(x + w * 0.64)} ${f(y + h)}`} strokeWidth="2" />
    </>
  ),
  turn: ([x, y, w, h]) => {
    const r = Math.min(w, h) * 0.42;
    const [cx, cy] = [x + w / 2, y + h / 2];
    return (
      <path
        strokeWidth="2"
        d={`M${f(cx - r)} ${f(cy)}A${f(r)} ${f(r)} 0 0 1 ${f(cx + r * 0.8)} ${f(cy - r * 0.6)}m-7 -2.5l7 2.5l1.5 -7.5`}
      />
    );
  },
  gap: ([x, y, w, h]) => (
    <>
      <path d={`M${x} ${y}V${f(y + h)}M${f(x + w)} ${y}V${f(y + h)}`} strokeWidth="2" />
      <path
        d={`M${f(x - 12)} ${f(y + h / 2)}H${x}l-4 -3m4 3l-4 3M${f(x + w + 12)} ${f(y + h / 2)}H${f(x + w)}l4 -3m-4 3l4 3`}
      />
    </>
  ),
  figures: ([x, y, w, h]) => (
    <>
      <rect x={x} y={y} width={w} height={h} rx="2" strokeDasharray="2 2" />
      <text
        x={x + w / 2}
        y={y + h / 2}
        fill="currentColor"
        stroke="none"
        fontSize={Math.min(h * 0.9, w * 0.42, 15)}
        fontFamily="var(--font-mono)"
        fontWeight="700"
        textAnchor="middle"
        dominantBaseline="central"
      >
        ?≠?
      </text>
    </>
  ),
  missing: (box, random) => (
    <path
      d={blob(box, random, 0.3, 9)}
      fill="var(--color-paper)"
      strokeDasharray="2.5 2.5"
      strokeWidth="1.6"
    />
  ),
  bulge: ([x, y, w, h]) => (
    <>
      <path
        d={`M${x} ${f(y + h * 0.7)}Q${f(x + w / 2)} ${f(y - h * 0.1)} ${f(x + w)} ${f(y + h * 0.7)}`}
        strokeWidth="2"
      />
      <path d={`M${x} ${f(y + h * 0.7)}H${f(x + w)}`} strokeDasharray="4 3" />
    </>
  ),
  ripples: ([x, y, w, h]) =>
    times(7, (i) => {
      const at = x + ((i + 0.5) / 7) * w;
      return (
        <path key={i} d={`M${f(at)} ${f(y + h * 0.15)}q4 ${f(h * 0.17)} 0 ${f(h * 0.35)}t0 ${f(h * 0.35)}`} />
      );
    }),
  erosion: (box, random) => {
    const [x, y, w, h] = box;
    return (
      <>
        <path d={blob(box, random, 0.5, 14)} fill="currentColor" fillOpacity="0.2" />
        <path d={blob([x + w * 0.15, y + h * 0.15, w * 0.7, h * 0.7], random, 0.5, 12)} />
        <path
          d={blob([x + w * 0.32, y + h * 0.32, w * 0.36, h * 0.36], random, 0.5, 9)}
          fill="currentColor"
        />
      </>
    );
  },
};
