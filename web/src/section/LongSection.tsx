import { useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { draw, neighbour, type Section, type Shape } from './geometry';
import type { Sight } from './lenses';

const fills: Record<Sight['tone'], string> = {
  none: 'var(--color-paper)',
  calm: 'var(--color-oil-tint)',
  light: 'url(#hatch-thin)',
  mid: 'url(#hatch-thick)',
  heavy: 'var(--color-lead)',
  dye: 'var(--color-dye)',
  dyeDots: 'url(#dots)',
};

const inks: Record<Sight['tone'], string> = {
  none: 'var(--color-soft)',
  calm: 'var(--color-oil)',
  light: 'var(--color-ink)',
  mid: 'var(--color-ink)',
  heavy: 'var(--color-paper)',
  dye: 'var(--color-paper)',
  dyeDots: 'var(--color-dye)',
};

/** Hatches of the lenses, so that a state is told by pattern as well as by tone. */
export function Hatches() {
  return (
    <svg width="0" height="0" className="absolute" aria-hidden>
      <defs>
        <pattern
          id="hatch-thin"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="7" height="7" fill="var(--color-brass-tint)" />
          <path d="M0 0V7" stroke="var(--color-brass)" strokeWidth="1.6" />
        </pattern>
        <pattern
          id="hatch-thick"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="6" height="6" fill="var(--color-lead-tint)" />
          <path d="M0 0V6" stroke="var(--color-lead)" strokeWidth="4" />
        </pattern>
        <pattern id="dots" width="6" height="6" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="var(--color-dye-tint)" />
          <circle cx="3" cy="3" r="1.1" fill="var(--color-dye)" />
        </pattern>
      </defs>
    </svg>
  );
}

/** A small swatch of a lens' tone with its mark, for the legend. */
export function Swatch({ sight }: { sight: Sight }) {
  return (
    <svg width="30" height="20" viewBox="0 0 30 20" aria-hidden className="shrink-0">
      <rect
        x="1"
        y="1"
        width="28"
        height="18"
        rx="3"
        fill={fills[sight.tone]}
        fillOpacity={sight.open ? 0.35 : 1}
        stroke="var(--color-ink)"
        strokeWidth="1.2"
        strokeDasharray={sight.open ? '4 3' : undefined}
      />
      {sight.mark && <Mark x={15} y={10} sight={sight} size={12} />}
    </svg>
  );
}

function Mark({ x, y, sight, size }: { x: number; y: number; sight: Sight; size: number }) {
  const plain = sight.tone === 'light' || sight.tone === 'mid';
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      dominantBaseline="central"
      fontSize={size}
      fontWeight="800"
      fill={sight.open ? 'var(--color-ink)' : inks[sight.tone]}
      stroke={plain ? 'var(--color-paper)' : 'none'}
      strokeWidth={plain ? 4 : 0}
      paintOrder="stroke"
      pointerEvents="none"
    >
      {sight.mark}
    </text>
  );
}

/**
 * The section along the crankshaft: every part is where it sits, and can be pressed. Arrow keys walk from part to part; the
 * drawing is one stop of the tab key.
 */
export function LongSection({
  section,
  sights,
  selected,
  onPick,
  quiet = false,
  onColumn,
}: {
  section: Section;
  sights?: Map<string, Sight>;
  selected?: string | null;
  onPick?: (address: string) => void;
  /** Without marks and codes, for a preview. */
  quiet?: boolean;
  /** For a phone: whole columns are pressed, not parts. */
  onColumn?: (column: number) => void;
}) {
  const drawing = useMemo(() => draw(section), [section]);
  const host = useRef<SVGSVGElement>(null);
  const [walked, setWalked] = useState<string | null>(null);
  const stop = walked ?? selected ?? drawing.shapes.find((s) => s.cell.kind === 'rod')?.cell.address;

  const walk = (event: KeyboardEvent, shape: Shape) => {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      onPick?.(shape.cell.address);
    } else if (by) {
      event.preventDefault();
      const next = neighbour(drawing.shapes, shape, by[0]!, by[1]!);
      if (!next) return;
      setWalked(next.cell.address);
      host.current?.querySelector<SVGElement>(`[data-address="${next.cell.address}"]`)?.focus();
    }
  };

  const height = drawing.bottom - drawing.top;
  return (
    <svg
      ref={host}
      viewBox={`0 ${drawing.top} ${drawing.width} ${height}`}
      role="group"
      aria-label="Long section of the engine"
      className="block h-full w-full select-none"
    >
      <rect
        x={8}
        y={-60}
        width={drawing.width - 16}
        height={drawing.bottom + 56}
        rx={14}
        fill="var(--color-steel)"
        opacity={0.55}
      />
      {drawing.blocks.map((d, i) => (
        <path key={i} d={d} fill="var(--color-steel)" opacity={0.4} />
      ))}
      {drawing.webs.map((d, i) => (
        <path key={i} d={d} fill="var(--color-steel)" stroke="var(--color-ink)" strokeWidth={1.2} />
      ))}
      {drawing.shapes.map((shape) => {
        const sight = sights?.get(shape.cell.address);
        const on = selected === shape.cell.address;
        const inCase = shape.cell.column === null && shape.cell.scope === 'engine';
        const coded = inCase || ['rod', 'crankpin', 'main-journal'].includes(shape.cell.kind);
        const words = `${shape.cell.address}, ${shape.cell.words}${sight?.words ? `, ${sight.words}` : ''}`;
        return (
          <g
            key={shape.cell.address}
            data-address={shape.cell.address}
            role={onPick ? 'button' : 'img'}
            aria-label={words}
            aria-pressed={onPick ? on : undefined}
            tabIndex={onPick ? (stop === shape.cell.address ? 0 : -1) : undefined}
            className={onPick ? 'group cursor-pointer focus:outline-none' : undefined}
            onClick={() => onPick?.(shape.cell.address)}
            onFocus={() => setWalked(shape.cell.address)}
            onKeyDown={(e) => walk(e, shape)}
          >
            <title>{words}</title>
            {onPick && shape.room < 12 && (
              <path d={shape.path} fill="none" stroke="transparent" strokeWidth={5} pointerEvents="stroke" />
            )}
            <path
              d={shape.path}
              fill={fills[sight?.tone ?? 'none']}
              fillOpacity={sight?.open ? 0.35 : 1}
              strokeDasharray={sight?.open && !on ? '5 3' : undefined}
              stroke={on ? 'var(--color-dye)' : 'var(--color-ink)'}
              strokeWidth={on ? 4 : 1.3}
              strokeLinejoin="round"
              className={
                onPick
                  ? 'group-hover:stroke-(--color-dye) group-hover:[stroke-width:3] group-focus-visible:stroke-(--color-dye) group-focus-visible:[stroke-width:4]'
                  : undefined
              }
            />
            {coded && !quiet && (
              <text
                x={shape.cell.kind === 'rod' ? shape.x + 14 : shape.x}
                y={
                  inCase
                    ? shape.y - (sight?.mark ? 5 : 0)
                    : shape.cell.kind === 'rod'
                      ? shape.y - 14
                      : shape.y
                }
                textAnchor={shape.cell.kind === 'rod' ? 'start' : 'middle'}
                dominantBaseline="central"
                fontSize={inCase ? 13 : 12}
                fontWeight="700"
                className="fig"
                fill={
                  shape.cell.kind === 'rod' || sight?.open ? 'var(--color-ink)' : inks[sight?.tone ?? 'none']
                }
                stroke={
                  sight && ['mid', 'light', 'dyeDots'].includes(sight.tone) ? 'var(--color-paper)' : 'none'
                }
                strokeWidth={3.5}
                paintOrder="stroke"
                textDecoration={/[69]/.test(shape.cell.address) ? 'underline' : undefined}
                pointerEvents="none"
              >
                {shape.cell.address}
              </text>
            )}
            {sight?.mark && (!coded || inCase || shape.cell.kind === 'rod') && shape.room > 5 && (
              <Mark
                x={shape.x}
                y={inCase ? shape.y + 8 : shape.y}
                sight={sight}
                size={
                  inCase ? 11 : shape.room < 9 ? 9 : Math.min(sight.mark.length > 1 ? 11 : 15, shape.room)
                }
              />
            )}
          </g>
        );
      })}
      {drawing.columns
        .filter((c) => c.column.kind === 'crankpin')
        .map((c) => (
          <g key={c.column.number} pointerEvents="none">
            {c.column.cylinderA !== null && <Number x={c.x} y={drawing.top + 14} n={c.column.cylinderA} />}
            {c.column.cylinderB !== null && <Number x={c.x} y={278} n={c.column.cylinderB} />}
          </g>
        ))}
      {onColumn &&
        drawing.columns.map((c, i) => (
          <rect
            key={i}
            role="button"
            tabIndex={0}
            aria-label={`${c.column.kind === 'main' ? 'Main' : 'Crankpin'} ${c.column.number}, parts of this station`}
            x={c.x - c.width / 2}
            y={drawing.top}
            width={c.width}
            height={height}
            fill="transparent"
            onClick={() => onColumn(i)}
            onKeyDown={(e) => e.key === 'Enter' && onColumn(i)}
          />
        ))}
      <text x={10} y={drawing.top + 14} fontSize={14} fontWeight="700" fill="var(--color-soft)">
        free end
      </text>
      <text
        x={drawing.width - 10}
        y={drawing.top + 14}
        fontSize={14}
        fontWeight="700"
        fill="var(--color-soft)"
        textAnchor="end"
      >
        drive end
      </text>
    </svg>
  );
}

function Number({ x, y, n }: { x: number; y: number; n: number }) {
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      dominantBaseline="central"
      fontSize={20}
      fontWeight="800"
      className="fig"
      fill="var(--color-ink)"
      textDecoration={n === 6 || n === 9 ? 'underline' : undefined}
    >
      {n}
    </text>
  );
}
