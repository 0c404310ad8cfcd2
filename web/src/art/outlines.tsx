import type { ReactNode } from 'react';

/** An outline of a part, and the part of it on which damage is drawn. */
export interface Outline {
  /** Left, top, width and height of the face, in the drawing's 160 × 120. */
  face: [number, number, number, number];
  lines: ReactNode;
}

const round = (cx: number, cy: number, ...radii: number[]) =>
  radii.map((r) => <circle key={r} cx={cx} cy={cy} r={r} />);

/** A wheel of teeth as one path. */
function teeth(cx: number, cy: number, inner: number, outer: number, n: number) {
  const at = (r: number, a: number) =>
    `${(cx + r * Math.cos(a)).toFixed(1)} ${(cy + r * Math.sin(a)).toFixed(1)}`;
  const step = (2 * Math.PI) / n;
  return (
    'M' +
    Array.from({ length: n }, (_, i) => {
      const a = i * step;
      return `${at(inner, a)}L${at(outer, a + 0.2 * step)}L${at(outer, a + 0.5 * step)}L${at(inner, a + 0.7 * step)}`;
    }).join('L') +
    'Z'
  );
}

/** The outlines by name, as knowledge/signs/ names them. */
export const outlines: Record<string, Outline> = {
  piston: {
    face: [36, 8, 88, 104],
    lines: (
      <>
        <path d="M36 14Q36 8 42 8H118Q124 8 124 14V106Q124 112 118 112H98Q80 100 62 112H42Q36 112 36 106Z" />
        <path d="M36 20H124M36 25H124M36 32H124M36 37H124M36 45H124M36 52H124" />
        <circle cx="80" cy="76" r="12" />
        <circle cx="80" cy="76" r="8" />
      </>
    ),
  },
  crown: {
    face: [32, 12, 96, 96],
    lines: (
      <>
        {round(80, 60, 48, 44)}
        <path d="M80 8v8M60 40a20 14 0 0 1 18 0M84 40a20 14 0 0 1 16 2" />
      </>
    ),
  },
  ring: {
    face: [30, 10, 100, 100],
    lines: <path d="M74 10A50 50 0 1 0 86 10L85 19A41 41 0 1 1 75 19Z" />,
  },
  groove: {
    face: [30, 20, 100, 80],
    lines: (
      <>
        <path d="M130 12H30V30H96V72H30V108" />
        <path d="M130 12V108" strokeDasharray="4 4" />
        <rect x="20" y="36" width="70" height="30" rx="3" />
        <path d="M12 6V114" />
      </>
    ),
  },
  bore: {
    face: [40, 16, 80, 88],
    lines: (
      <>
        <ellipse cx="80" cy="16" rx="40" ry="9" />
        <path d="M40 16V104M120 16V104M40 104A40 9 0 0 0 120 104" />
        <path d="M28 16H40M120 16H132M28 16V108M132 16V108" />
      </>
    ),
  },
  shell: {
    face: [26, 24, 108, 72],
    lines: (
      <>
        <path d="M26 24H134V96H26Z" />
        <path d="M26 24Q20 60 26 96M134 24Q140 60 134 96" />
        <circle cx="80" cy="60" r="5" />
        <path d="M26 32h-7v10h6" />
      </>
    ),
  },
  back: {
    face: [26, 24, 108, 72],
    lines: (
      <>
        <path d="M26 24H134V96H26Z" />
        <path d="M26 24Q34 60 26 96M134 24Q126 60 134 96" />
        <path d="M26 50h9v14h-9" />
      </>
    ),
  },
  journal: {
    face: [48, 36, 64, 48],
    lines: (
      <>
        <path d="M48 36H112M48 84H112" />
        <path d="M48 36Q44 34 44 30V10H22V110H44V90Q44 86 48 84M112 36Q116 34 116 30V10H138V110H116V90Q116 86 112 84" />
        <ellipse cx="80" cy="60" rx="4" ry="5" />
      </>
    ),
  },
  'ball-bearing': {
    face: [30, 10, 100, 100],
    lines: (
      <>
        {round(80, 60, 50, 41, 27, 18)}
        {Array.from({ length: 9 }, (_, i) => {
          const a = (i * 2 * Math.PI) / 9;
          return <circle key={i} cx={80 + 34 * Math.cos(a)} cy={60 + 34 * Math.sin(a)} r={6.5} />;
        })}
      </>
    ),
  },
  race: {
    face: [14, 30, 132, 60],
    lines: (
      <>
        <path d="M14 24H146M14 96H146M14 24V96M146 24V96" />
        <path d="M14 40H146M14 80H146" strokeDasharray="3 3" />
      </>
    ),
  },
  lobe: {
    face: [46, 8, 68, 104],
    lines: (
      <>
        <path d="M46 76A34 34 0 1 0 114 76Q112 52 96 24A17 17 0 0 0 64 24Q48 52 46 76Z" />
        {round(80, 76, 13)}
        <path d="M80 63v-7M80 89v7" />
      </>
    ),
  },
  lifter: {
    face: [38, 18, 84, 84],
    lines: <>{round(80, 60, 42, 38)}</>,
  },
  valve: {
    face: [34, 6, 92, 108],
    lines: (
      <path d="M75 6H85V16H83V20H85V66Q86 84 126 92L124 104Q80 112 36 104L34 92Q74 84 75 66V20H77V16H75Z" />
    ),
  },
  seat: {
    face: [34, 14, 92, 92],
    lines: <>{round(80, 60, 46, 38, 28)}</>,
  },
  spring: {
    face: [50, 8, 60, 104],
    lines: (
      <>
        {Array.from({ length: 7 }, (_, i) => (
          <path
            key={i}
            d={`M50 ${12 + i * 15}Q80 ${4 + i * 15} 110 ${18 + i * 15}M110 ${18 + i * 15}Q80 ${30 + i * 15} 50 ${27 + i * 15}`}
          />
        ))}
      </>
    ),
  },
  rocker: {
    face: [16, 30, 128, 60],
    lines: (
      <>
        <path d="M18 58Q16 46 30 46L66 36Q80 28 94 36L132 52Q146 58 142 72Q134 82 124 72L98 70Q80 86 62 70L30 74Q18 72 18 58Z" />
        {round(80, 54, 11)}
        <circle cx="28" cy="60" r="5" />
      </>
    ),
  },
  rod: {
    face: [46, 4, 68, 112],
    lines: (
      <>
        {round(80, 20, 15, 9)}
        <path d="M72 33L68 62M88 33L92 62M76 36L74 60M84 36L86 60" />
        <circle cx="80" cy="86" r="20" />
        <path d="M68 62Q52 68 50 82H58M92 62Q108 68 110 82H102M50 90H58M110 90H102M50 90V104Q56 112 66 113H94Q104 112 110 104V90" />
        <path d="M50 82V90M110 82V90" strokeDasharray="2 2" />
      </>
    ),
  },
  pin: {
    face: [20, 40, 120, 40],
    lines: (
      <>
        <path d="M26 40H134M26 80H134" />
        <ellipse cx="26" cy="60" rx="8" ry="20" />
        <ellipse cx="26" cy="60" rx="4" ry="11" />
        <path d="M134 40Q142 60 134 80" />
      </>
    ),
  },
  head: {
    face: [10, 16, 140, 88],
    lines: (
      <>
        <path d="M10 22Q10 16 16 16H144Q150 16 150 22V98Q150 104 144 104H16Q10 104 10 98Z" />
        {[46, 114].map((x) => (
          <g key={x}>
            <circle cx={x} cy={60} r={26} />
            <circle cx={x - 10} cy={54} r={10} />
            <circle cx={x + 12} cy={56} r={8} />
            <circle cx={x} cy={76} r={4} />
          </g>
        ))}
        {[
          [20, 26],
          [80, 26],
          [140, 26],
          [20, 94],
          [80, 94],
          [140, 94],
        ].map(([x, y]) => (
          <circle key={`${x}${y}`} cx={x} cy={y} r={4} />
        ))}
      </>
    ),
  },
  pan: {
    face: [22, 34, 116, 60],
    lines: (
      <>
        <path d="M8 26H152L138 94Q136 100 130 100H30Q24 100 22 94Z" />
        <path d="M8 26V20H152V26" />
        <circle cx="124" cy="88" r="5" />
      </>
    ),
  },
  screen: {
    face: [38, 18, 84, 84],
    lines: (
      <>
        {round(80, 60, 44, 39)}
        <path
          strokeWidth="0.6"
          d={Array.from({ length: 9 }, (_, i) => `M44 ${28 + i * 8}H116M${48 + i * 8} 24V96`).join('')}
        />
      </>
    ),
  },
  tube: {
    face: [14, 28, 132, 64],
    lines: (
      <>
        <path d="M14 34H92Q124 34 124 66V92M14 54H86Q104 54 104 72V92" />
        <ellipse cx="14" cy="44" rx="4" ry="10" />
        <path d="M96 92H132V102H96Z" />
        <path d="M52 34V24H72V34" />
      </>
    ),
  },
  plunger: {
    face: [50, 14, 60, 92],
    lines: (
      <>
        <path d="M40 8V112M120 8V112" />
        <path d="M50 14H110V58H50Z" />
        <path d="M56 58V62L104 68L56 76L104 84L56 92L104 100V108" />
      </>
    ),
  },
  plug: {
    face: [50, 6, 60, 110],
    lines: (
      <>
        <path d="M74 6H86V16H74ZM68 16H92L96 40H64ZM56 40H104V56H56ZM62 56H98V92H62Z" />
        <path d="M62 62H98M62 68H98M62 74H98M62 80H98M62 86H98" strokeWidth="0.7" />
        <path d="M74 92L77 104H83L86 92M94 92V112H76" />
      </>
    ),
  },
  disc: {
    face: [30, 10, 100, 100],
    lines: (
      <>
        {round(80, 60, 50, 20, 10)}
        {Array.from({ length: 6 }, (_, i) => {
          const a = (i * Math.PI) / 3;
          return <circle key={i} cx={80 + 15 * Math.cos(a)} cy={60 + 15 * Math.sin(a)} r={2} />;
        })}
      </>
    ),
  },
  gear: {
    face: [28, 8, 104, 104],
    lines: (
      <>
        <path d={teeth(80, 60, 42, 52, 22)} />
        {round(80, 60, 16)}
        <path d="M76 44V39H84V44" />
      </>
    ),
  },
  chain: {
    face: [10, 40, 140, 40],
    lines: (
      <>
        {Array.from({ length: 5 }, (_, i) => (
          <g key={i}>
            <rect x={12 + i * 28} y={48} width={24} height={24} rx={12} />
            <circle cx={19 + i * 28} cy={60} r={4} />
            <circle cx={29 + i * 28} cy={60} r={4} />
          </g>
        ))}
        <path d="M34 52h8M62 52h8M90 52h8M118 52h8M34 68h8M62 68h8M90 68h8M118 68h8" />
      </>
    ),
  },
  casting: {
    face: [20, 14, 120, 92],
    lines: (
      <>
        <path d="M20 22L34 14H126L140 22V98L126 106H34L20 98Z" />
        <circle cx="80" cy="60" r="26" />
        <circle cx="36" cy="30" r="4" />
        <circle cx="124" cy="30" r="4" />
        <circle cx="36" cy="90" r="4" />
        <circle cx="124" cy="90" r="4" />
      </>
    ),
  },
  cloth: {
    face: [20, 16, 120, 88],
    lines: <path d="M16 20Q40 12 80 18T146 16Q140 60 148 104Q110 100 80 106T14 102Q22 60 16 20Z" />,
  },
  stick: {
    face: [30, 10, 100, 100],
    lines: (
      <>
        <path d="M74 10H86V86L80 96L74 86ZM70 4H90V10H70Z" />
        <path d="M74 56H86M74 78H86" />
        <path d="M34 104Q80 96 126 104" strokeDasharray="4 3" />
      </>
    ),
  },
  bolt: {
    face: [14, 38, 132, 44],
    lines: (
      <>
        <path d="M14 36H34V84H14ZM34 46H100V74H34ZM100 48H144V72H100" />
        <path d={Array.from({ length: 7 }, (_, i) => `M${102 + i * 6} 48L${106 + i * 6} 72`).join('')} />
      </>
    ),
  },
  'shaft-end': {
    face: [30, 30, 100, 60],
    lines: (
      <>
        <path d="M10 24H52V96H10M52 34H112V86H52M112 42H142V78H112" />
        <path d="M78 34V52H96V34" />
      </>
    ),
  },
  dial: {
    face: [34, 14, 92, 92],
    lines: (
      <>
        {round(80, 60, 46)}
        <path d="M48 86A42 42 0 1 1 112 86M80 60L104 36" />
        <circle cx="80" cy="60" r="4" />
        <path d="M44 64h-6M51 36l-5-4M80 20v-6M109 36l5-4M116 64h6" />
      </>
    ),
  },
  port: {
    face: [30, 24, 100, 72],
    lines: (
      <>
        <path d="M8 12V108M152 12V108" />
        <rect x="38" y="34" width="84" height="52" rx="8" />
        <rect x="42" y="38" width="76" height="44" rx="6" />
      </>
    ),
  },
};
