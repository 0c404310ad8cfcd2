import { t as tr } from '@lingui/core/macro';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/keys';
import type { CaseContext } from '../casebook/context';
import { Trouble } from '../ui/basics';
import { moment } from '../ui/basics';
import { stands } from '../ui/words';
import { undone } from './measure';
import { usePictureUrl, type Photo } from './picture';

/** Two pictures brought over each other, swiped or blinked, with what changed beyond noise. */
export function ComparedPicture({ photo, context }: { photo: Photo; context: CaseContext }) {
  const caseId = context.engineCase.id;
  const kindOf = (place: string) => context.section.cells.find((c) => c.address === place)?.kind;
  // Of the same place first, then of its fellows.
  const others = context.engineCase.photos
    .filter((p) => stands(p) && p.id !== photo.id && p.version > 0 && kindOf(p.place) === kindOf(photo.place))
    .sort((a, b) => Number(b.place === photo.place) - Number(a.place === photo.place));
  const [chosen, setChosen] = useState(others[0]?.id ?? '');
  const other = others.find((p) => p.id === chosen);
  const over = useQuery<Schemas['OverlayView'], ApiProblem>({
    queryKey: [...keys.case(caseId), 'over', photo.id, chosen],
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/photos/{id}/over/{other}', {
          params: { path: { caseId, id: photo.id, other: chosen } },
        }),
      ),
    enabled: chosen !== '' && photo.version > 0,
    staleTime: Infinity,
    retry: false,
  });
  if (others.length === 0)
    return (
      <p className="px-3 text-lg">
        {tr`There is no other picture of this part or of its fellows to lay over it.`}
      </p>
    );
  return (
    <div className="grid gap-3 px-3 lg:grid-cols-[minmax(0,1fr)_20rem]">
      {other && over.data ? (
        <Laid key={other.id} first={photo} second={other} over={over.data} caseId={caseId} />
      ) : (
        <div className="min-h-40 text-soft">{over.isFetching && tr`Laying one over the other …`}</div>
      )}
      <div className="space-y-3">
        <label className="block">
          <span className="label">{tr`Lay over it`}</span>
          <select className="entry" value={chosen} onChange={(e) => setChosen(e.target.value)}>
            {others.map((p) => (
              <option key={p.id} value={p.id}>
                {p.place} · {p.caption || p.fileName} · {moment(p.at)}
              </option>
            ))}
          </select>
        </label>
        <Trouble problem={over.error} />
        {over.data && (
          <p className="text-sm text-soft">
            {tr`Turned by ${Math.round(over.data.turn * 10) / 10}°, ${Math.round(over.data.larger * 100)} % as large, alike by ${Math.round(over.data.alike * 100)} %.`}
          </p>
        )}
      </div>
    </div>
  );
}

function Laid({
  first,
  second,
  over,
  caseId,
}: {
  first: Photo;
  second: Photo;
  over: Schemas['OverlayView'];
  caseId: string;
}) {
  const [at, setAt] = useState(50);
  const [blink, setBlink] = useState(false);
  const [on, setOn] = useState(true);
  const [marked, setMarked] = useState(true);
  const one = usePictureUrl(caseId, first, 'view');
  const two = usePictureUrl(caseId, second, 'view');
  useEffect(() => {
    if (!blink) return;
    const timer = setInterval(() => setOn((o) => !o), 600);
    return () => clearInterval(timer);
  }, [blink]);
  const { width, height } = first;
  const changed = over.changes.reduce((sum, [l, t, r, b]) => sum + (r! - l!) * (b! - t!), 0);
  const shown = blink ? (on ? width : 0) : (at / 100) * width;
  return (
    <div>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="max-h-[70dvh] w-full bg-steel"
        role="img"
        aria-label={tr`${first.caption || first.fileName} with ${second.caption || second.fileName} laid over it`}
      >
        <clipPath id="laid">
          <rect x="0" y="0" width={shown} height={height} />
        </clipPath>
        <image href={one} width={width} height={height} />
        <g clipPath="url(#laid)">
          <rect width={width} height={height} fill="#17212b" />
          <image
            href={two}
            width={second.width}
            height={second.height}
            transform={`matrix(${undone(over.matrix).join(' ')})`}
          />
        </g>
        {!blink && <rect x={shown - 2} y="0" width="4" height={height} fill="#fff" />}
        {marked &&
          over.changes.map(([l, t, r, b], i) => (
            <rect
              key={i}
              x={l! * width}
              y={t! * height}
              width={(r! - l!) * width}
              height={(b! - t!) * height}
              fill="none"
              stroke="#b3361b"
              strokeWidth={width / 300}
              rx={width / 200}
            />
          ))}
      </svg>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <input
          type="range"
          min="0"
          max="100"
          value={at}
          disabled={blink}
          className="min-h-11 min-w-40 flex-1 accent-dye"
          aria-label={tr`How much of the other is shown`}
          onChange={(e) => setAt(Number(e.target.value))}
        />
        <button type="button" className="key" aria-pressed={blink} onClick={() => setBlink(!blink)}>
          {tr`Blink`}
        </button>
        <button type="button" className="key" aria-pressed={marked} onClick={() => setMarked(!marked)}>
          {tr`What changed`}
        </button>
      </div>
      <p role="status" className="mt-1">
        {over.changes.length === 0
          ? tr`Nothing changed beyond noise.`
          : changed > 0.25
            ? tr`So much differs that the two were likely not taken from the same side: what is marked may be that.`
            : tr`Changed beyond noise at places marked: ${over.changes.length}. Light and focus change a picture too.`}
      </p>
    </div>
  );
}
