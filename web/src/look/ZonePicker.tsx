import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import {
  columnHead,
  columnOrder,
  featureRuns,
  sector,
  toggled,
  zoneName,
  type ZoneFace,
  type ZoneMap,
} from './zones';

/** The part laid flat: touch the zones, or draw over them with one stroke. */
export function ZonePicker({
  map,
  zones,
  onChange,
  first,
}: {
  map: ZoneMap;
  zones: readonly string[];
  onChange: (zones: string[]) => void;
  /** Name of the face to begin with, where the map has several. */
  first?: string | undefined;
}) {
  const [name, setFace] = useState(first);
  // So large that a thumb in a glove meets each; then a finger moves the map and sets one zone at a time.
  const [near, setNear] = useState(false);
  const face = map.faces.find((f) => f.name === name) ?? map.faces.at(-1)!;
  // A stroke sets or clears, as its first zone was.
  const stroke = useRef<boolean | null>(null);
  const latest = useRef(zones);
  latest.current = zones;
  const put = (zone: string, on: boolean) => {
    latest.current = toggled(latest.current, zone, on);
    onChange([...latest.current]);
  };
  const zone = (code: string) => ({
    ...(near
      ? { onClick: () => put(code, !zones.includes(code)) }
      : {
          onPointerDown: (e: PointerEvent) => {
            // A finger's pointer is captured by the first zone; let go, so that the others are entered.
            if (e.currentTarget.hasPointerCapture(e.pointerId))
              e.currentTarget.releasePointerCapture(e.pointerId);
            stroke.current = !zones.includes(code);
            put(code, stroke.current);
          },
          onPointerEnter: (e: PointerEvent) => {
            if (stroke.current !== null && e.buttons > 0) put(code, stroke.current);
          },
        }),
    onKeyDown: (e: KeyboardEvent<Element>) => {
      if (e.key === ' ' || e.key === 'Enter') {
        e.preventDefault();
        put(code, !zones.includes(code));
        return;
      }
      move(e, code);
    },
  });
  return (
    <div
      className="space-y-3"
      onPointerUp={() => (stroke.current = null)}
      onPointerLeave={() => (stroke.current = null)}
      onPointerCancel={() => (stroke.current = null)}
    >
      <p className="text-sm text-soft">{map.says}</p>
      <div className="flex flex-wrap justify-between gap-1.5">
        <span className="flex gap-1.5" role="group" aria-label={tr`Which face`}>
          {map.faces.length > 1 &&
            map.faces.map((f) => {
              const n = touched(f, zones);
              return (
                <button
                  key={f.name}
                  type="button"
                  className="key"
                  aria-pressed={f === face}
                  onClick={() => setFace(f.name)}
                >
                  {f.name} {n > 0 && <span className="fig">{n}</span>}
                </button>
              );
            })}
        </span>
        <button type="button" className="key" aria-pressed={near} onClick={() => setNear(!near)}>
          {tr`Larger`}
        </button>
      </div>
      {face.shape === 'round' ? (
        <RoundFace face={face} zones={zones} zone={zone} near={near} />
      ) : (
        <FlatFace
          face={face}
          zones={zones}
          zone={zone}
          near={near}
          onRow={(row, on) =>
            onChange(row.reduce<string[]>((z, one) => [...toggled(z, one, on)], [...zones]))
          }
        />
      )}
    </div>
  );
}

/** Least side of a zone for a thumb in a glove, in px. */
const thumb = 44;

/** What is larger than the screen is moved with a finger, or by keys. */
const frame = (near: boolean, face: ZoneFace) =>
  near ? { tabIndex: 0, role: 'region', 'aria-label': tr`${face.name}, larger` } : {};

/** Width of a round face at which its narrowest ring and its innermost sector are as large as a thumb, in px. */
function roundWidth(face: ZoneFace) {
  const whole = face.rows.reduce((a, r) => a + r.size, 0);
  const inner = (face.rows.at(-1)!.size / whole) * 78;
  const ring = Math.min(...face.rows.map((r) => (r.size / whole) * 78));
  // Of the innermost sectors the middle of the arc counts: at the centre each comes to nothing.
  const arc = (2 * Math.PI * inner * 0.75) / face.columns;
  return Math.ceil((200 * thumb) / Math.min(ring, arc));
}

type ZoneProps = (code: string) => object;

const touched = (face: ZoneFace, zones: readonly string[]) =>
  zones.filter((z) => face.rows.some((r) => r.letter === z[0])).length;

/** Arrow keys walk from zone to zone. */
function move(e: KeyboardEvent<Element>, code: string) {
  const step = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[e.key];
  if (!step) return;
  e.preventDefault();
  const group = e.currentTarget.closest('[data-face]')!;
  const all = [...group.querySelectorAll<HTMLElement>('[data-zone]')];
  const here = all.find((z) => z.dataset.zone === code)!;
  const [row, column] = [Number(here.dataset.row) + step[0]!, Number(here.dataset.column) + step[1]!];
  all.find((z) => Number(z.dataset.row) === row && Number(z.dataset.column) === column)?.focus();
}

const tone = (on: boolean) =>
  on ? 'fill-lead stroke-paper text-paper' : 'fill-paper stroke-line text-soft hover:fill-dye-tint';

/** Name of a row, in two lines where it is long; pressing it touches the whole row. */
function RowName({
  words,
  x,
  y,
  most,
  onPress,
}: {
  words: string;
  x: number;
  y: number;
  most: number;
  onPress: () => void;
}) {
  const lines = words
    .split(' ')
    .reduce<string[]>((all, word) => {
      const last = all.at(-1);
      return last && last.length + word.length < most
        ? [...all.slice(0, -1), `${last} ${word}`]
        : [...all, word];
    }, [])
    .slice(0, 3);
  return (
    <text textAnchor="end" fontSize="10.5" className="cursor-pointer fill-ink" onClick={onPress}>
      {lines.map((line, i) => (
        <tspan key={line} x={x} y={y + 3.5 + (i - (lines.length - 1) / 2) * 11}>
          {line}
        </tspan>
      ))}
    </text>
  );
}

function FlatFace({
  face,
  zones,
  zone,
  near,
  onRow,
}: {
  face: ZoneFace;
  zones: readonly string[];
  zone: ZoneProps;
  near: boolean;
  onRow: (row: string[], on: boolean) => void;
}) {
  const order = columnOrder(face);
  // On a phone the picture is as wide as it is shown, so that a thumb meets a zone.
  const narrow = matchMedia('(max-width: 640px)').matches;
  const [left, top, w] = near
    ? [96, 30, Math.max(360, face.columns * thumb)]
    : narrow
      ? [72, 22, 258]
      : [96, 30, 360];
  const least = near ? thumb : narrow ? 36 : 20;
  const heights = face.rows.map((r) => Math.max(least, r.size * (narrow ? 160 : 150)));
  const h = heights.reduce((a, b) => a + b, 0);
  const cw = w / face.columns;
  const x = (column: number) => left + order.indexOf(column) * cw;
  return (
    <figure className={near ? 'overflow-x-auto' : ''} {...frame(near, face)}>
      <svg
        viewBox={`0 0 ${left + w + 14} ${top + h + 34}`}
        width={near ? left + w + 14 : undefined}
        className={near ? 'max-w-none select-none' : 'w-full touch-pan-y select-none'}
        role="group"
        aria-label={tr`${face.name}: zones`}
        data-face
      >
        {face.rows.map((row, r) => {
          const y = top + heights.slice(0, r).reduce((a, b) => a + b, 0);
          return (
            <g key={row.letter}>
              <RowName
                words={row.words}
                x={left - 5}
                y={y + heights[r]! / 2}
                most={narrow ? 13 : 18}
                onPress={() => {
                  const all = order.map((c) => `${row.letter}${c}`);
                  onRow(all, !all.every((z) => zones.includes(z)));
                }}
              />
              {order.map((column, c) => {
                const code = `${row.letter}${column}`;
                const on = zones.includes(code);
                return (
                  <rect
                    key={code}
                    data-zone={code}
                    data-row={r}
                    data-column={c}
                    x={x(column)}
                    y={y}
                    width={cw}
                    height={heights[r]}
                    strokeWidth="1"
                    className={`cursor-pointer ${tone(on)}`}
                    role="button"
                    tabIndex={r === 0 && c === 0 ? 0 : -1}
                    aria-pressed={on}
                    aria-label={zoneName(face, r, column)}
                    {...zone(code)}
                  />
                );
              })}
            </g>
          );
        })}
        {order.map((column) => (
          <text
            key={column}
            x={x(column) + cw / 2}
            y={top - 5}
            textAnchor="middle"
            fontSize={face.columns === 12 ? 12 : 9.5}
            className="fill-soft"
          >
            {columnHead(face, column)}
          </text>
        ))}
        {face.features.map((f, i) => {
          const row = face.rows.findIndex((r) => r.letter === f.row);
          const runs = featureRuns(face, f, order);
          const longest = runs.reduce((a, r) => (r[1] - r[0] > a[1] - a[0] ? r : a), runs[0]!);
          const middle = left + ((longest[0] + longest[1] + 1) / 2) * cw;
          const y = row < 0 ? top + h : top + heights.slice(0, row).reduce((a, b) => a + b, 0);
          const fits = row >= 0 && f.words.length * 5.4 < (longest[1] - longest[0] + 1) * cw;
          return (
            <g key={i} className="pointer-events-none">
              {runs.map(([from, to]) =>
                row < 0 ? (
                  <path
                    key={from}
                    d={`M${left + from * cw + 2} ${y + 4}H${left + (to + 1) * cw - 2}`}
                    className="stroke-dye"
                    strokeWidth="3"
                  />
                ) : (
                  <rect
                    key={from}
                    x={left + from * cw + 2}
                    y={y + 2}
                    width={(to - from + 1) * cw - 4}
                    height={heights[row]! - 4}
                    rx={f.width < 1 ? 8 : 4}
                    fill="none"
                    className="stroke-dye"
                    strokeWidth="1.6"
                    strokeDasharray="4 2"
                  />
                ),
              )}
              <text
                x={middle}
                y={fits ? y + heights[row]! / 2 + 3.5 : top + h + (row < 0 ? 16 : 29)}
                textAnchor="middle"
                fontSize="10.5"
                fontWeight="600"
                className="fill-dye"
              >
                {f.words}
              </text>
            </g>
          );
        })}
      </svg>
    </figure>
  );
}

function RoundFace({
  face,
  zones,
  zone,
  near,
}: {
  face: ZoneFace;
  zones: readonly string[];
  zone: ZoneProps;
  near: boolean;
}) {
  const whole = face.rows.reduce((a, r) => a + r.size, 0);
  const radius = (row: number) => (face.rows.slice(row).reduce((a, r) => a + r.size, 0) / whole) * 78;
  return (
    <figure className={near ? 'overflow-x-auto' : 'max-w-80'} {...frame(near, face)}>
      <svg
        viewBox="0 0 200 200"
        width={near ? roundWidth(face) : undefined}
        className={near ? 'max-w-none select-none' : 'w-full touch-pan-y select-none'}
        role="group"
        aria-label={tr`${face.name}: zones`}
        data-face
      >
        {face.rows.map((row, r) =>
          Array.from({ length: face.columns }, (_, i) => {
            const column = i + 1;
            const code = `${row.letter}${column}`;
            const on = zones.includes(code);
            return (
              <path
                key={code}
                data-zone={code}
                data-row={r}
                data-column={column % face.columns}
                d={sector(radius(r + 1), radius(r), column, face.columns)}
                strokeWidth="1"
                className={`cursor-pointer ${tone(on)}`}
                role="button"
                tabIndex={r === 0 && i === 0 ? 0 : -1}
                aria-pressed={on}
                aria-label={zoneName(face, r, column)}
                {...zone(code)}
              />
            );
          }),
        )}
        {Array.from({ length: 12 }, (_, i) => {
          const a = ((i + 1) / 12) * 2 * Math.PI - Math.PI / 2;
          return (
            <text
              key={i}
              x={100 + 88 * Math.cos(a)}
              y={100 + 88 * Math.sin(a) + 3.5}
              textAnchor="middle"
              fontSize="10"
              className="fill-soft"
            >
              {i + 1}
            </text>
          );
        })}
      </svg>
      {face.features.length > 0 && (
        <p className="text-center text-sm font-semibold text-dye">
          {face.features.map((f) => `${f.words} ${f.column}`).join(' · ')}
        </p>
      )}
      <p className="text-center text-sm text-soft">
        <Trans>from outside in: {face.rows.map((r) => r.words).join(', ')}</Trans>
      </p>
    </figure>
  );
}

/** Zones as a small picture, where there is no room to touch them. */
export function ZoneGlance({ map, zones }: { map: ZoneMap; zones: readonly string[] }) {
  const face = map.faces.find((f) => zones.some((z) => f.rows.some((r) => r.letter === z[0])));
  if (!face) return null;
  const order = columnOrder(face);
  const whole = face.rows.reduce((a, r) => a + r.size, 0);
  const at = (row: number) => (face.rows.slice(0, row).reduce((a, r) => a + r.size, 0) / whole) * 40;
  return face.shape === 'round' ? (
    <svg viewBox="10 10 180 180" className="size-12 shrink-0" aria-hidden>
      <circle cx="100" cy="100" r="78" className="fill-paper stroke-soft" strokeWidth="4" />
      {zones.map((z) => {
        const row = face.rows.findIndex((r) => r.letter === z[0]);
        const radius = (n: number) => (face.rows.slice(n).reduce((a, r) => a + r.size, 0) / whole) * 78;
        return row < 0 ? null : (
          <path
            key={z}
            d={sector(radius(row + 1), radius(row), Number(z.slice(1)), face.columns)}
            className="fill-lead"
          />
        );
      })}
    </svg>
  ) : (
    <svg viewBox="0 0 60 40" className="h-10 w-15 shrink-0" aria-hidden>
      <rect width="60" height="40" className="fill-paper stroke-soft" strokeWidth="1.6" />
      {zones.map((z) => {
        const row = face.rows.findIndex((r) => r.letter === z[0]);
        const column = order.indexOf(Number(z.slice(1)));
        return row < 0 || column < 0 ? null : (
          <rect
            key={z}
            x={(column / face.columns) * 60}
            y={at(row)}
            width={60 / face.columns + 0.2}
            height={at(row + 1) - at(row) + 0.2}
            className="fill-lead"
          />
        );
      })}
    </svg>
  );
}
