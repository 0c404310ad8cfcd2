import { t as tr } from '@lingui/core/macro';
import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { CaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { Addr } from '../ui/basics';
import { levelWords, stands } from '../ui/words';
import { LevelBadge } from './LevelBadge';
import { PatternList } from './PatternList';
import { Picture } from '../pictures/Photos';
import type { Photo } from '../pictures/picture';

interface Tile {
  key: string;
  place: string;
  photo: Photo | null;
}

/** Peers side by side: the same view of all of a kind, or every picture of the case; the odd one out pointed to. */
export function Peers({ context }: { context: CaseContext }) {
  const { engineCase, knowledge, section } = context;
  const look = useRoom(engineCase.id, 'look');
  const [params, setParams] = useSearchParams();
  const kind = params.get('peers') ?? 'all';
  const put = (changes: Record<string, string | null>) =>
    setParams((p) => {
      const next = new URLSearchParams(p);
      for (const [key, value] of Object.entries(changes)) {
        if (value === null) next.delete(key);
        else next.set(key, value);
      }
      return next;
    });
  const photos = useMemo(() => engineCase.photos.filter(stands), [engineCase.photos]);
  const cells = section.cells;
  const kinds = useMemo(() => {
    const count = new Map<string, number>();
    for (const c of cells) count.set(c.kind, (count.get(c.kind) ?? 0) + 1);
    const seen = new Set([...photos.map((p) => p.place), ...engineCase.findings.map((f) => f.place)]);
    const alive = new Set(cells.filter((c) => seen.has(c.address)).map((c) => c.kind));
    return knowledge.kinds.filter((k) => k.id === kind || ((count.get(k.id) ?? 0) > 1 && alive.has(k.id)));
  }, [cells, photos, engineCase.findings, knowledge.kinds, kind]);
  const shots = knowledge.shots.filter((s) => s.on.includes(kind));
  // The view that most peers have; pictures of one view can be compared.
  const usual = useMemo(() => {
    const places = new Set(cells.filter((c) => c.kind === kind).map((c) => c.address));
    const count = new Map<string, number>();
    for (const p of photos)
      if (p.shot && places.has(p.place)) count.set(p.shot, (count.get(p.shot) ?? 0) + 1);
    return [...count].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'latest';
  }, [cells, photos, kind]);
  const shot = params.get('shot') ?? usual;
  const tiles = useMemo<Tile[]>(() => {
    if (kind === 'all') return photos.map((p) => ({ key: p.id, place: p.place, photo: p }));
    return cells
      .filter((c) => c.kind === kind)
      .map((c) => {
        const of = photos.filter((p) => p.place === c.address && (shot === 'latest' || p.shot === shot));
        return { key: c.address, place: c.address, photo: of.at(-1) ?? null };
      });
  }, [kind, shot, photos, cells]);
  const odd = look.odd.find((o) => o.kind === kind);
  const patterns = look.patterns.filter((p) => p.kind === kind);
  return (
    <section>
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <h2 className="mr-auto text-2xl">{kind === 'all' ? tr`All pictures` : tr`Side by side`}</h2>
        <label className="least-44">
          <span className="label">{tr`Of which parts`}</span>
          <select className="entry" value={kind} onChange={(e) => put({ peers: e.target.value, shot: null })}>
            <option value="all">{tr`every picture of the case`}</option>
            {kinds.map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
          </select>
        </label>
        {shots.length > 0 && (
          <label className="least-44">
            <span className="label">{tr`Which view`}</span>
            <select className="entry" value={shot} onChange={(e) => put({ shot: e.target.value })}>
              <option value="latest">{tr`the latest picture`}</option>
              {shots.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
            </select>
          </label>
        )}
        <button className="key" onClick={() => put({ peers: null, shot: null })}>
          {tr`Back to the parts`}
        </button>
      </div>
      {odd && <p className="mb-2 text-lg font-bold text-lead">{odd.words}</p>}
      <PatternList patterns={patterns} context={context} />
      {tiles.length === 0 && <p className="text-soft">{tr`No picture yet.`}</p>}
      <SideBySide tiles={tiles} context={context} odd={odd?.place ?? null} />
    </section>
  );
}

const least = 190;
const gap = 12;

/** A grid of which only the rows in sight are in the page, so that thousands scroll as fast as ten. */
function SideBySide({ tiles, context, odd }: { tiles: Tile[]; context: CaseContext; odd: string | null }) {
  const pictures = useMemo(() => tiles.flatMap((t) => t.photo ?? []), [tiles]);
  const list = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  const [top, setTop] = useState(0);
  useEffect(() => {
    const measure = () => {
      setWidth(list.current?.clientWidth ?? 0);
      setTop((list.current?.getBoundingClientRect().top ?? 0) + scrollY);
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(list.current!);
    return () => watch.disconnect();
  }, []);
  const columns = Math.max(2, Math.floor((width + gap) / (least + gap)));
  const tile = (width - gap * (columns - 1)) / columns;
  const rows = Math.ceil(tiles.length / columns);
  const height = tile * 0.75 + 76;
  const rowsOf = useWindowVirtualizer({
    count: width > 0 ? rows : 0,
    estimateSize: () => height + gap,
    overscan: 2,
    scrollMargin: top,
  });
  useEffect(() => rowsOf.measure(), [rowsOf, height]);
  const worst = useMemo(() => {
    const map = new Map<string, { level: number; names: string[] }>();
    const name = new Map(context.knowledge.signs.map((s) => [s.id, s.name]));
    for (const f of context.engineCase.findings.filter(stands)) {
      const at = map.get(f.place) ?? { level: 0, names: [] };
      at.level = Math.max(at.level, f.level);
      if (f.level > 0) at.names.push(name.get(f.sign) ?? f.sign);
      map.set(f.place, at);
    }
    return map;
  }, [context.engineCase.findings, context.knowledge.signs]);
  return (
    <div ref={list} className="relative mt-3" style={{ height: rowsOf.getTotalSize() }}>
      {rowsOf.getVirtualItems().map((row) => (
        <ul
          key={row.key}
          className="absolute inset-x-0 grid"
          style={{
            gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
            gap,
            top: row.start - rowsOf.options.scrollMargin,
            height,
          }}
        >
          {tiles.slice(row.index * columns, (row.index + 1) * columns).map((t) => {
            const at = worst.get(t.place);
            return (
              <li
                key={t.key}
                className={`flex min-w-0 flex-col overflow-hidden rounded-lg border-2 bg-paper ${t.place === odd ? 'border-lead' : 'border-line'}`}
              >
                {t.photo ? (
                  <Picture photo={t.photo} among={pictures} context={context} className="aspect-4/3 w-full" />
                ) : (
                  <button
                    className="flex aspect-4/3 w-full items-center justify-center bg-steel text-soft"
                    onClick={() => context.openPart(t.place)}
                  >
                    {tr`no such picture`}
                  </button>
                )}
                <div className="flex items-start gap-2 px-2 py-1.5">
                  {at ? <LevelBadge level={at.level} /> : null}
                  <div className="min-w-0 leading-tight">
                    <p>
                      <Addr code={t.place} className="text-lg" />
                      {t.place === odd && <b className="ml-2 text-lead">{tr`odd one out`}</b>}
                    </p>
                    <p className="truncate text-sm text-soft" title={at?.names.join(', ')}>
                      {at ? at.names.join(', ') || tr`looked, clean` : tr`not read yet`}
                    </p>
                  </div>
                  <span className="sr-only">{at ? levelWords[at.level] : tr`not read yet`}</span>
                </div>
              </li>
            );
          })}
        </ul>
      ))}
    </div>
  );
}
