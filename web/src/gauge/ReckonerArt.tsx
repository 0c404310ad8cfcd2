import { t as tr } from '@lingui/core/macro';
import type { ReactNode } from 'react';

const ink = { fill: 'none', stroke: 'var(--color-ink)', strokeWidth: 2 } as const;
const metal = { fill: 'var(--color-steel)', stroke: 'var(--color-ink)', strokeWidth: 1.6 } as const;
const size = { stroke: 'var(--color-dye)', strokeWidth: 1.8, fill: 'none' } as const;

/** A dimension: a line between two ends with its name beside it. */
function Dim({
  x1,
  y1,
  x2,
  y2,
  children,
}: {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
  children: string;
}) {
  const level = Math.abs(y2 - y1) < Math.abs(x2 - x1);
  return (
    <g>
      <path
        d={
          level
            ? `M${x1} ${y1 - 5}v10M${x2} ${y2 - 5}v10M${x1} ${y1}L${x2} ${y2}`
            : `M${x1 - 5} ${y1}h10M${x2 - 5} ${y2}h10M${x1} ${y1}L${x2} ${y2}`
        }
        {...size}
      />
      <text
        x={(x1 + x2) / 2 + (level ? 0 : 7)}
        y={(y1 + y2) / 2 + (level ? -5 : 4)}
        fontSize="12"
        textAnchor={level ? 'middle' : 'start'}
        fill="var(--color-dye)"
        fontWeight="700"
      >
        {children}
      </text>
    </g>
  );
}

const art: Record<string, ReactNode> = {
  thimble: (
    <>
      <path d="M20 20H40V60H60V84H40V120H20z" {...metal} />
      <rect x="76" y="58" width="150" height="28" {...metal} />
      <path d="M90 58v14M104 58v9M118 58v9M132 58v9M146 58v14" {...ink} />
      <rect x="156" y="46" width="100" height="52" {...metal} />
      <path d="M156 72h16M156 62h9M156 82h9" {...ink} />
      <Dim x1={60} y1={120} x2={76} y2={120}>
        {tr`size`}
      </Dim>
    </>
  ),
  rule: (
    <>
      <rect x="20" y="50" width="240" height="40" {...metal} />
      {Array.from({ length: 33 }, (_, i) => (
        <path
          key={i}
          d={`M${24 + i * 7} 50v${i % 8 === 0 ? 24 : i % 4 === 0 ? 18 : i % 2 === 0 ? 13 : 8}`}
          {...ink}
          strokeWidth={1}
        />
      ))}
      <Dim x1={24} y1={34} x2={136} y2={34}>
        {tr`in, thou, 64ths, mm`}
      </Dim>
    </>
  ),
  thermometer: (
    <>
      <rect x="60" y="40" width="130" height="70" rx="6" {...metal} />
      <rect x="60" y="40" width="146" height="70" rx="6" {...ink} strokeDasharray="5 4" />
      <path d="M236 20v80" stroke="var(--color-lead)" strokeWidth="6" />
      <circle cx="236" cy="110" r="10" fill="var(--color-lead)" />
      <Dim x1={60} y1={28} x2={190} y2={28}>
        {tr`at 20 °C`}
      </Dim>
      <Dim x1={60} y1={128} x2={206} y2={128}>
        {tr`as read, warm`}
      </Dim>
    </>
  ),
  repeats: (
    <>
      <path d="M20 120H264" {...ink} />
      <path d="M40 118C100 116 110 30 142 30S184 116 244 118" {...size} />
      {[118, 132, 141, 150, 163].map((x) => (
        <circle key={x} cx={x} cy={108} r={5} fill="var(--color-ink)" />
      ))}
      <Dim x1={112} y1={136} x2={172} y2={136}>
        {tr`± uncertainty`}
      </Dim>
    </>
  ),
  zones: (
    <>
      <rect x="70" y="50" width="140" height="34" fill="var(--color-oil-tint)" stroke="var(--color-oil)" />
      <rect x="50" y="50" width="40" height="34" fill="var(--color-brass-tint)" stroke="var(--color-brass)" />
      <rect
        x="190"
        y="50"
        width="40"
        height="34"
        fill="var(--color-brass-tint)"
        stroke="var(--color-brass)"
      />
      <path d="M70 40V96M210 40V96" {...ink} />
      <text x="140" y="72" fontSize="13" textAnchor="middle" fill="var(--color-ink)">
        {tr`inside`}
      </text>
      <text x="26" y="72" fontSize="13" textAnchor="middle" fill="var(--color-ink)">
        {tr`out`}
      </text>
      <text x="254" y="72" fontSize="13" textAnchor="middle" fill="var(--color-ink)">
        {tr`out`}
      </text>
      <Dim x1={50} y1={116} x2={90} y2={116}>
        {tr`± U`}
      </Dim>
    </>
  ),
  shells: (
    <>
      <circle cx="140" cy="76" r="62" {...metal} />
      <circle
        cx="140"
        cy="76"
        r="50"
        fill="var(--color-brass-tint)"
        stroke="var(--color-brass)"
        strokeWidth="2"
      />
      <circle cx="140" cy="76" r="41" fill="var(--color-paper)" stroke="var(--color-dye)" />
      <circle cx="140" cy="79" r="36" {...metal} />
      <path d="M74 76H206" stroke="var(--color-soft)" strokeDasharray="6 4" />
      <Dim x1={220} y1={26} x2={220} y2={126}>
        {tr`housing`}
      </Dim>
      <Dim x1={104} y1={79} x2={176} y2={79}>
        {tr`journal`}
      </Dim>
    </>
  ),
  journal: (
    <>
      <path
        d="M20 30H50V120H20zM230 30h30v90h-30zM50 44C58 50 60 54 70 54H210C220 54 222 50 230 44V106C222 100 220 96 210 96H70C60 96 58 100 50 106z"
        {...metal}
      />
      <path d="M70 48H210M70 102H210" stroke="var(--color-soft)" strokeDasharray="5 4" />
      <Dim x1={120} y1={54} x2={120} y2={96}>
        {tr`measured`}
      </Dim>
      <Dim x1={180} y1={48} x2={180} y2={102}>
        {tr`new`}
      </Dim>
    </>
  ),
  bore: (
    <>
      <path d="M40 20H84L80 60L84 136H40zM196 20h44V136H196L200 60z" {...metal} />
      <path d="M84 20V136M196 20V136" stroke="var(--color-soft)" strokeDasharray="5 4" />
      <Dim x1={80} y1={60} x2={200} y2={60}>
        {tr`largest found`}
      </Dim>
      <Dim x1={70} y1={112} x2={210} y2={112}>
        {tr`oversize`}
      </Dim>
    </>
  ),
  oval: (
    <>
      <ellipse cx="140" cy="76" rx="72" ry="54" transform="rotate(-25 140 76)" {...metal} />
      <circle cx="140" cy="76" r="62" stroke="var(--color-soft)" fill="none" strokeDasharray="5 4" />
      <path d="M75 106L205 46M78 76H202M140 16V136" {...size} />
    </>
  ),
  chamber: (
    <>
      <path d="M60 14H220V44C190 44 190 24 140 24S90 44 60 44z" {...metal} />
      <path d="M60 44H76V140H60zM204 44h16V140H204z" {...metal} />
      <rect x="76" y="44" width="128" height="5" fill="var(--color-brass)" />
      <rect x="78" y="58" width="124" height="60" {...metal} />
      <Dim x1={236} y1={44} x2={236} y2={58}>
        {tr`deck`}
      </Dim>
      <Dim x1={76} y1={136} x2={204} y2={136}>
        {tr`bore`}
      </Dim>
    </>
  ),
  gap: (
    <>
      <path d="M150 22A56 56 0 1 1 130 22" stroke="var(--color-ink)" strokeWidth="10" fill="none" />
      <circle cx="140" cy="77" r="64" {...ink} />
      <Dim x1={128} y1={12} x2={152} y2={12}>
        {tr`gap`}
      </Dim>
    </>
  ),
  flutter: (
    <>
      <path d="M40 20V130M40 50H170V72H40M40 96H170V130" {...ink} />
      <rect
        x="70"
        y="60"
        width="116"
        height="16"
        fill="var(--color-brass-tint)"
        stroke="var(--color-brass)"
        strokeWidth="2"
      />
      <path d="M190 10V140" {...ink} />
      <path d="M120 20V46M112 38l8 9 8-9" {...size} />
      <path d="M120 118V88M112 96l8-9 8 9" stroke="var(--color-lead)" fill="none" strokeWidth="2" />
      <text x="134" y="34" fontSize="12" fill="var(--color-dye)" fontWeight="700">
        {tr`gas`}
      </text>
      <text x="134" y="112" fontSize="12" fill="var(--color-lead)" fontWeight="700">
        {tr`inertia`}
      </text>
    </>
  ),
  crank: (
    <>
      <circle cx="140" cy="108" r="30" {...ink} strokeDasharray="4 4" />
      <path d="M140 108L161 87L140 36" {...ink} strokeWidth={4} />
      <rect x="112" y="18" width="56" height="34" {...metal} />
      <path d="M104 8V70M176 8V70" {...ink} />
      <Dim x1={194} y1={10} x2={194} y2={18}>
        {tr`down by`}
      </Dim>
    </>
  ),
  hatch: (
    <>
      <rect x="40" y="16" width="200" height="120" {...ink} />
      {Array.from({ length: 9 }, (_, i) => (
        <path
          key={i}
          d={`M${40 + i * 25} 136L${Math.min(240, 40 + i * 25 + 120)} 76M${40 + i * 25} 16L${Math.min(240, 40 + i * 25 + 120)} 76`}
          stroke="var(--color-soft)"
        />
      ))}
      <path d="M96 104L180 62M96 48L180 90" {...size} />
      <text x="188" y="80" fontSize="13" fill="var(--color-dye)" fontWeight="700">
        {tr`angle`}
      </text>
    </>
  ),
  clock: (
    <>
      <circle cx="140" cy="76" r="60" {...ink} />
      <circle cx="140" cy="76" r="48" stroke="var(--color-line)" strokeWidth="6" fill="none" />
      <path d="M140 22V34" stroke="var(--color-soft)" strokeWidth="4" />
      <path d="M140 28A48 48 0 0 1 174 42" stroke="var(--color-dye)" strokeWidth="5" fill="none" />
      <circle cx="174" cy="42" r="6" fill="var(--color-dye)" />
      <text x="140" y="10" fontSize="11" textAnchor="middle" fill="var(--color-ink)">
        {tr`free end`}
      </text>
    </>
  ),
  film: (
    <>
      <circle cx="140" cy="76" r="62" {...metal} />
      <circle cx="140" cy="76" r="54" fill="var(--color-oil-tint)" stroke="var(--color-oil)" />
      <circle cx="146" cy="86" r="42" {...metal} />
      <path d="M140 8V40M133 32l7 9 7-9" stroke="var(--color-lead)" fill="none" strokeWidth="2.4" />
      <text x="200" y="18" fontSize="12" fill="var(--color-lead)" fontWeight="700">
        {tr`load`}
      </text>
      <path d="M168 122L178 132" {...size} />
      <text x="184" y="142" fontSize="12" fill="var(--color-dye)" fontWeight="700">
        {tr`least film`}
      </text>
    </>
  ),
  ballbearing: (
    <>
      <circle cx="140" cy="76" r="62" {...metal} />
      <circle cx="140" cy="76" r="50" fill="var(--color-paper)" stroke="var(--color-ink)" />
      <circle cx="140" cy="76" r="34" {...metal} />
      <circle cx="140" cy="76" r="24" fill="var(--color-paper)" stroke="var(--color-dye)" strokeWidth="3" />
      {Array.from({ length: 8 }, (_, i) => (
        <circle
          key={i}
          cx={140 + 42 * Math.cos((i * Math.PI) / 4)}
          cy={76 + 42 * Math.sin((i * Math.PI) / 4)}
          r="7"
          {...metal}
        />
      ))}
      <Dim x1={116} y1={76} x2={164} y2={76}>
        {tr`shaft`}
      </Dim>
    </>
  ),
  spring: (
    <>
      <path d="M90 120L190 110L90 96L190 86L90 72L190 62L90 48L190 40" {...ink} strokeWidth={5} />
      <path d="M80 36H200M80 126H200" {...ink} strokeWidth={4} />
      <Dim x1={220} y1={36} x2={220} y2={126}>
        {tr`height`}
      </Dim>
    </>
  ),
  scales: (
    <>
      <path d="M90 120H190L180 96H100z" {...metal} />
      <rect x="126" y="100" width="28" height="14" fill="var(--color-paper)" stroke="var(--color-ink)" />
      <circle cx="140" cy="72" r="22" {...ink} strokeWidth={8} />
      <path d="M160 64L250 30" {...ink} strokeWidth={6} />
      <path d="M250 30V8" {...size} />
    </>
  ),
  puller: (
    <>
      <path d="M60 30H220V50H60zM70 50V120H84V50zM196 50v70h14V50z" {...metal} />
      <rect x="130" y="14" width="20" height="90" {...metal} />
      <path d="M84 120H110V112H170V120H196" {...ink} strokeWidth={3} />
      <path d="M77 132V146M203 132V146M71 140l6 8 6-8M197 140l6 8 6-8" {...size} />
    </>
  ),
};

/** What a reckoner measures, drawn. */
export function ReckonerArt({ name }: { name: string }) {
  return (
    <svg
      viewBox="0 0 280 156"
      className="card w-full max-w-lg p-2"
      role="img"
      aria-label={tr`What is measured`}
    >
      {art[name] ?? null}
    </svg>
  );
}

export const drawn = Object.keys(art);
