import { t as tr } from '@lingui/core/macro';
import {
  memo,
  useCallback,
  useId,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type FocusEvent,
  type KeyboardEvent,
  type MouseEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import {
  draw,
  fine,
  leastWidth,
  neighbour,
  type Banks,
  type Cell,
  type Drawing,
  type Section,
  type Shape,
} from './geometry';
import { useNarrow } from '../device/narrow';
import { remember, remembered } from '../device/remember';
import type { Sight } from './lenses';
import { fills, inks, Mark, Swatch } from './Swatch';

/** Both lenses of a place, where two are compared. */
type Sights = Map<string, Sight>;

interface Shown {
  sights: Sights | undefined;
  beside: Sights | undefined;
  selected: string | null;
  quiet: boolean;
}

/** What somebody points at, is on, or holds a finger on. */
export type Told = (address: string | null) => void;

/** Without a mouse there is no hovering: a finger that stays tells, and does not open. */
const hold = 450;

const wordsOf = (cell: Cell, sight: Sight | undefined, other: Sight | undefined) =>
  [cell.address, cell.words, sight?.words, other?.words].filter(Boolean).join(', ');

/**
 * The section along the crankshaft: every part is where it sits, and can be pressed. What hangs on an end stands at that end by name.
 * Arrow keys walk from part to part; the drawing is one stop of the tab key.
 */
export function LongSection({
  section,
  sights,
  beside,
  selected = null,
  onPick,
  onTold,
  onStation,
  quiet = false,
  fit = false,
  bare: asked = false,
  cell = fine,
  banks = 'both',
}: {
  section: Section;
  sights?: Sights | undefined;
  /** A second lens: it has the right half of each part. */
  beside?: Sights | undefined;
  selected?: string | null;
  onPick?: (address: string) => void;
  onTold?: Told;
  /** The number over a cylinder opens all of it. */
  onStation?: (cylinder: number) => void;
  /** Without marks and codes, for a preview. */
  quiet?: boolean;
  /** As wide as its frame, scaled down where that is narrow: for paper and previews, where nothing is pressed. */
  fit?: boolean;
  /** Without what hangs on the ends: a phone lists it apart. */
  bare?: boolean;
  /** Least side of what is touched. */
  cell?: number;
  banks?: Banks;
}) {
  const narrow = useNarrow();
  const bare = asked || narrow;
  const frame = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useWidth(`${bare}${fit}${quiet}`);
  useLayoutEffect(() => {
    const heard = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)));
    heard.observe(frame.current!);
    return () => heard.disconnect();
  }, [setWidth]);
  const drawing = useMemo(
    () => draw(section, fit ? leastWidth(section, cell, banks) * 1.15 : width, cell, banks),
    [section, fit, width, cell, banks],
  );
  const host = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const part = selected && frame.current?.querySelector(`[data-address="${selected}"]`);
    if (!part) return;
    const [here, seen] = [part.getBoundingClientRect(), frame.current!.getBoundingClientRect()];
    if (here.left < seen.left || here.right > seen.right)
      frame.current!.scrollLeft += here.left + here.width / 2 - (seen.left + seen.width / 2);
  }, [selected, drawing]);
  const [walked, setWalked] = useState<string | null>(null);
  const stop = walked ?? selected ?? drawing.shapes.find((s) => s.cell.kind === 'rod')?.cell.address;
  const shown: Shown = { sights, beside, selected, quiet };

  const walk = (event: KeyboardEvent, address: string) => {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      onPick?.(address);
      return;
    }
    if (!by) return;
    event.preventDefault();
    const places = standing(drawing, cell);
    const from = places.find((p) => p.address === address);
    const next = from && neighbour(places, from, by[0]!, by[1]!);
    if (!next) return;
    setWalked(next.address);
    host.current?.querySelector<HTMLElement | SVGElement>(`[data-address="${next.address}"]`)?.focus();
  };
  const over = useTouch(onPick, onTold, setWalked, walk);
  const pressed = onPick !== undefined;

  const end = (cells: Cell[], side: string, hung: string) =>
    !quiet && !bare && cells.length > 0 ? (
      <ul className="flex w-35 shrink-0 flex-col gap-px text-xs" aria-label={side}>
        <li className="px-0.5 font-bold text-soft">
          {side} <span className="font-normal">({hung})</span>
        </li>
        {cells.map((c) => (
          <li key={c.address} className="contents">
            <EndPart cell={c} shown={shown} pressed={pressed} stop={stop === c.address} height={cell} />
          </li>
        ))}
      </ul>
    ) : null;
  return (
    <div
      ref={host}
      role="group"
      aria-label={tr`Long section of the engine`}
      className="flex items-end gap-1 select-none"
      onPointerLeave={() => onTold?.(null)}
      {...over}
    >
      {!fit && end(drawing.ends.left, tr`free end`, hangs(section, 'freeEnd'))}
      {!fit && !quiet && !bare && <RowNames drawing={drawing} />}
      <div ref={frame} className="min-w-0 flex-1 self-stretch overflow-x-auto overflow-y-hidden">
        {(width > 0 || fit) && (
          <Picture
            drawing={drawing}
            shown={shown}
            pressed={pressed}
            titled={onTold === undefined}
            stop={stop}
            onStation={onStation}
            fit={fit}
            cell={cell}
          />
        )}
        {fit && !quiet && (
          <ul className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(min(10rem,100%),1fr))] gap-x-2">
            {[...drawing.ends.left, ...drawing.ends.right]
              .filter((c) => sights?.get(c.address)?.mark)
              .map((c) => (
                <li key={c.address} className="contents">
                  <EndPart cell={c} shown={shown} pressed={pressed} stop={stop === c.address} height={cell} />
                </li>
              ))}
          </ul>
        )}
      </div>
      {!fit && end(drawing.ends.right, tr`drive end`, hangs(section, 'driveEnd'))}
    </div>
  );
}

/**
 * How wide there is room, as it was the last time on a screen like this: measuring before drawing lays the whole page out twice.
 * @param kind What else the width hangs on.
 */
function useWidth(kind: string): [number, (width: number) => void] {
  const name = `width ${kind}`;
  const [width, setWidth] = useState(() => {
    const [screen, was] = (remembered(name) ?? '').split(':').map(Number);
    return screen === innerWidth && was ? was : 0;
  });
  const measured = useCallback(
    (now: number) => {
      setWidth(now);
      if (now > 0) remember(name, `${innerWidth}:${now}`);
    },
    [name],
  );
  return [width, measured];
}

/** What one tells an end of the crankshaft by. */
const hangs = ({ make }: Section, end: Section['numberOneEnd']) =>
  make.flywheel === end
    ? tr`flywheel`
    : make.valves !== null && make.timing === end
      ? tr`pulley, timing`
      : tr`pulley`;

/** Where each part stands on the screen, for the arrow keys: those at the ends are beside the drawing. */
function standing({ shapes, ends, width, height }: Drawing, cell: number) {
  const stack = (cells: Cell[], x: number) =>
    cells.map((c, i) => ({ address: c.address, x, y: height - (cells.length - i - 0.5) * (cell + 1) }));
  return [
    ...shapes.map((s) => ({ address: s.cell.address, x: s.x, y: s.y })),
    ...stack(ends.left, -80),
    ...stack(ends.right, width + 80),
  ];
}

function RowNames({ drawing }: { drawing: Drawing }) {
  return (
    <svg width={52} height={drawing.height} aria-hidden className="hidden shrink-0 lg:block">
      {drawing.rows.map((row) => (
        <text
          key={`${row.name}${row.y}`}
          x={50}
          y={row.y}
          textAnchor="end"
          dominantBaseline="central"
          fontSize={12}
          fill="var(--color-soft)"
        >
          {row.name}
        </text>
      ))}
    </svg>
  );
}

const grounds = {
  block: { fill: 'var(--color-steel)', opacity: 0.5 },
  crank: { fill: 'var(--color-steel)', stroke: 'var(--color-ink)', strokeWidth: 1 },
  paper: { fill: 'var(--color-paper)', stroke: 'var(--color-ink)', strokeWidth: 1 },
  line: { stroke: 'var(--color-soft)', strokeWidth: 2 },
} as const;

function Picture({
  drawing,
  shown,
  pressed,
  titled,
  stop,
  onStation,
  fit,
  cell,
}: {
  drawing: Drawing;
  shown: Shown;
  pressed: boolean;
  titled: boolean;
  stop: string | undefined;
  onStation: ((cylinder: number) => void) | undefined;
  fit: boolean;
  cell: number;
}) {
  const ground = (of: Drawing['behind'][number], i: number) => (
    <path key={i} d={of.d} {...grounds[of.fill]} pointerEvents="none" />
  );
  const front = (of: Drawing['behind'][number]) => of.fill === 'paper' || of.fill === 'line';
  return (
    <svg
      viewBox={`0 0 ${drawing.width} ${drawing.height}`}
      width={fit ? undefined : drawing.width}
      height={fit ? undefined : drawing.height}
      className={fit ? 'mx-auto block max-h-full w-full' : 'mx-auto block'}
      // Not a picture: what is in it can be pressed.
      role="group"
      aria-label={tr`Parts along the crankshaft`}
    >
      {drawing.behind.filter((b) => !front(b)).map(ground)}
      {drawing.shapes.map((shape) => (
        <Part
          key={shape.cell.address}
          shape={shape}
          sight={shown.sights?.get(shape.cell.address)}
          other={shown.beside?.get(shape.cell.address)}
          halved={shown.beside !== undefined}
          on={shown.selected === shape.cell.address}
          quiet={shown.quiet}
          pressed={pressed}
          titled={titled}
          stop={stop === shape.cell.address}
          cell={cell}
          coded={coded(shape)}
        />
      ))}
      {drawing.behind.filter(front).map(ground)}
      {drawing.numbers.map((n) => (
        <g
          key={n.cylinder}
          className={onStation ? 'cursor-pointer' : undefined}
          {...(onStation
            ? {
                role: 'button',
                tabIndex: -1,
                'aria-label': tr`Cylinder ${n.cylinder}, all of it`,
                onClick: () => onStation(n.cylinder),
              }
            : {})}
        >
          <rect x={n.x - cell} y={n.y - cell / 2} width={2 * cell} height={cell} rx={4} fill="transparent" />
          <text
            x={n.x}
            y={n.y}
            textAnchor="middle"
            dominantBaseline="central"
            fontSize={16}
            fontWeight="800"
            className="fig"
            fill="var(--color-ink)"
            textDecoration={/[69]/.test(String(n.cylinder)) ? 'underline' : undefined}
            pointerEvents="none"
          >
            {n.cylinder}
          </text>
        </g>
      ))}
    </svg>
  );
}

/** Parts that carry their address where no mark needs the place. */
function coded({ cell }: Shape) {
  return ['rod', 'crankpin', 'main-journal', 'head'].includes(cell.kind);
}

/** Drawn anew only where it has become another: there are hundreds of them, and a case is read again with each thing that is written. */
const Part = memo(function Part({
  shape,
  sight,
  other,
  halved,
  on,
  quiet,
  pressed,
  titled,
  stop,
  cell,
  coded,
}: {
  shape: Shape;
  sight: Sight | undefined;
  other: Sight | undefined;
  /** Two lenses share it. */
  halved: boolean;
  on: boolean;
  quiet: boolean;
  pressed: boolean;
  titled: boolean;
  /** The tab key stops here. */
  stop: boolean;
  cell: number;
  coded: boolean;
}) {
  const clip = useId();
  const { address, kind } = shape.cell;
  const words = wordsOf(shape.cell, sight, other);
  const open = sight?.open && !on;
  // The head's name stands at its side, before the first cylinder.
  const x = kind === 'head' ? 15 : shape.x;
  return (
    <g
      data-address={address}
      role={pressed ? 'button' : 'img'}
      aria-label={words}
      aria-pressed={pressed ? on : undefined}
      tabIndex={pressed ? (stop ? 0 : -1) : undefined}
      className={pressed ? 'group cursor-pointer focus:outline-none' : undefined}
    >
      {titled && <title>{words}</title>}
      {shape.hit && <path d={shape.hit} fill="transparent" />}
      <path
        d={shape.path}
        fill={fills[sight?.tone ?? 'none']}
        fillOpacity={sight?.open ? 0.35 : 1}
        strokeDasharray={open ? '5 3' : undefined}
        stroke={on ? 'var(--color-dye)' : 'var(--color-ink)'}
        strokeWidth={on ? 4 : 1.2}
        strokeLinejoin="round"
        className={
          pressed
            ? 'group-hover:stroke-(--color-dye) group-hover:[stroke-width:3] group-focus-visible:stroke-(--color-dye) group-focus-visible:[stroke-width:4]'
            : undefined
        }
      />
      {shape.balls?.map((b) => (
        <circle
          key={b.x}
          cx={b.x}
          cy={b.y}
          r={b.r}
          fill="var(--color-paper)"
          stroke="var(--color-ink)"
          strokeWidth={1.2}
          pointerEvents="none"
        />
      ))}
      {halved && (
        <>
          <clipPath id={clip}>
            <rect x={x} y={0} width={4000} height={4000} />
          </clipPath>
          <path
            d={shape.path}
            clipPath={`url(#${clip})`}
            fill={fills[other?.tone ?? 'none']}
            fillOpacity={other?.open ? 0.35 : 1}
            stroke="var(--color-ink)"
            strokeWidth={1.2}
            pointerEvents="none"
          />
        </>
      )}
      {!quiet && (
        <Inside shape={shape} x={x} sight={sight} other={other} halved={halved} coded={coded} cell={cell} />
      )}
    </g>
  );
}, same);

/** A sight is made anew with each reading of the case, and is mostly what it was. */
function same<P extends { sight: Sight | undefined; other: Sight | undefined }>(a: P, b: P) {
  const alike = (x: Sight | undefined, y: Sight | undefined) =>
    x === y ||
    (x !== undefined &&
      y !== undefined &&
      x.tone === y.tone &&
      x.mark === y.mark &&
      x.words === y.words &&
      x.open === y.open);
  return (Object.keys(a) as (keyof P)[]).every((k) =>
    k === 'sight' || k === 'other' ? alike(a[k] as Sight, b[k] as Sight) : a[k] === b[k],
  );
}

/** What stands in a part: its marks, or its address where it has room for it and no mark. */
function Inside({
  shape,
  x,
  sight,
  other,
  halved,
  coded,
  cell,
}: {
  shape: Shape;
  x: number;
  sight: Sight | undefined;
  other: Sight | undefined;
  halved: boolean;
  coded: boolean;
  cell: number;
}) {
  const { address } = shape.cell;
  const size = (mark: string) =>
    Math.min(cell * 0.62, shape.room * (mark.length > 2 ? 0.5 : mark.length > 1 ? 0.62 : 0.8));
  if (halved) {
    const aside = Math.max(6, shape.room / 4);
    return (
      <>
        {sight?.mark && (
          <Mark x={x - aside} y={shape.y} sight={sight} size={Math.min(12, size(sight.mark))} />
        )}
        {other?.mark && (
          <Mark x={x + aside} y={shape.y} sight={other} size={Math.min(12, size(other.mark))} />
        )}
      </>
    );
  }
  return (
    <>
      {coded && !sight?.mark && (
        <text
          x={x}
          y={shape.y}
          textAnchor="middle"
          dominantBaseline="central"
          fontSize={Math.min(14, cell * 0.52)}
          fontWeight="700"
          className="fig"
          fill={sight?.open ? 'var(--color-ink)' : inks[sight?.tone ?? 'none']}
          stroke={sight && ['mid', 'light', 'dyeDots'].includes(sight.tone) ? 'var(--color-paper)' : 'none'}
          strokeWidth={3.5}
          paintOrder="stroke"
          textDecoration={/[69]/.test(address) ? 'underline' : undefined}
          pointerEvents="none"
        >
          {address}
        </text>
      )}
      {sight?.mark && <Mark x={x} y={shape.y} sight={sight} size={size(sight.mark)} />}
    </>
  );
}

/** A part that hangs on an end or belongs to the whole: by mark, address and name. */
function EndPart({
  cell,
  shown,
  pressed,
  stop,
  height,
}: {
  cell: Cell;
  shown: Shown;
  pressed: boolean;
  stop: boolean;
  height: number;
}) {
  const sight = shown.sights?.get(cell.address);
  const other = shown.beside?.get(cell.address);
  const on = shown.selected === cell.address;
  const inside: ReactNode = (
    <>
      {shown.sights && <Swatch sight={sight ?? { tone: 'none', mark: '', words: '' }} />}
      {shown.beside && <Swatch sight={other ?? { tone: 'none', mark: '', words: '' }} />}
      <b className="fig" style={/[69]/.test(cell.address) ? { textDecoration: 'underline' } : undefined}>
        {cell.address}
      </b>
      <span className="truncate">{cell.words}</span>
    </>
  );
  const look = 'flex w-full items-center gap-1 rounded-sm px-0.5 text-left text-xs leading-tight';
  if (!pressed)
    return (
      <span className={look} style={{ height }}>
        {inside}
      </span>
    );
  return (
    <button
      type="button"
      data-address={cell.address}
      aria-label={wordsOf(cell, sight, other)}
      aria-pressed={on}
      tabIndex={stop ? 0 : -1}
      className={`${look} border hover:border-dye ${on ? 'border-dye bg-dye-tint' : 'border-transparent'}`}
      style={{ height }}
    >
      {inside}
    </button>
  );
}

/** What a mouse, a key or a finger does on a part, heard once for all of them. */
function useTouch(
  onPick: ((address: string) => void) | undefined,
  onTold: Told | undefined,
  setWalked: (address: string) => void,
  walk: (event: KeyboardEvent, address: string) => void,
) {
  const timer = useRef<number | undefined>(undefined);
  const held = useRef(false);
  const leave = () => window.clearTimeout(timer.current);
  if (!onPick && !onTold) return {};
  const at = (e: { target: EventTarget }) =>
    (e.target as Element).closest<HTMLElement | SVGElement>('[data-address]')?.dataset['address'];
  return {
    onClick: (e: MouseEvent) => {
      const address = at(e);
      if (address && !held.current) onPick?.(address);
      held.current = false;
    },
    onFocus: (e: FocusEvent) => {
      const address = at(e);
      if (!address) return;
      setWalked(address);
      onTold?.(address);
    },
    onKeyDown: (e: KeyboardEvent) => {
      const address = at(e);
      if (address) walk(e, address);
    },
    onPointerOver: (e: PointerEvent) => {
      const address = at(e);
      if (address && e.pointerType === 'mouse') onTold?.(address);
    },
    onPointerDown: (e: PointerEvent) => {
      held.current = false;
      const address = at(e);
      if (e.pointerType === 'mouse' || !address) return;
      timer.current = window.setTimeout(() => {
        held.current = true;
        onTold?.(address);
      }, hold);
    },
    onPointerUp: leave,
    onPointerCancel: leave,
    onContextMenu: (e: MouseEvent) => {
      if (held.current) e.preventDefault();
    },
  };
}
