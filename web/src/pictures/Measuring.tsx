import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery, type QueryKey } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useRef, useState, type PointerEvent } from 'react';
import { Link } from 'react-router';
import { v7 } from 'uuid';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/keys';
import { useMayWrite } from '../api/queries';
import { useRoomSoon } from '../casebook/caseQueries';
import type { CaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import { baseUnit, figure, unitWords } from '../ui/figures';
import { called } from '../ui/called';
import { NumberField } from '../ui/NumberField';
import { phaseWords, stands, writerOf } from '../ui/words';
import { MeasuredParticles } from './MeasuredParticles';
import {
  isEnough,
  isFull,
  linesOf,
  ofAWall,
  pointsOf,
  sent,
  taskSays,
  taskWords,
  type At,
  type Task,
} from './measure';
import { usePictureUrl, type Photo } from './picture';

const tasks = Object.keys(taskWords) as Task[];

const digitsFor = (standard: number) =>
  Math.min(4, Math.max(0, 1 - Math.floor(Math.log10(Math.max(1e-6, standard)))));

/** The task of a figure that was asked for. */
const taskIn = (key: QueryKey | undefined) => (key?.at(-1) as Schemas['PictureAsk'] | undefined)?.task;

/** A unit behind its figure: a degree stands at it. */
const behind = (unit: string) => (unit === 'deg' ? '°' : ` ${unitWords(unit)}`);

/** A figure with what it may be off by, as many places as that makes sense of. */
export function toldWith(
  value: number,
  expanded: number,
  quantity: Schemas['Quantity'],
  length: 'mm' | 'in',
) {
  const unit = quantity === 'length' ? length : baseUnit[quantity];
  const digits = digitsFor(expanded);
  return `${figure(value, unit, digits)} ± ${figure(expanded, unit, digits)}${behind(unit)}`;
}

/** Measures in a picture: by the card that lies in it, by a length that is known, or angles alone. */
export function MeasuredPicture({ photo, context }: { photo: Photo; context: CaseContext }) {
  const { engineCase, knowledge, lengths } = context;
  const caseId = engineCase.id;
  const url = usePictureUrl(caseId, photo, 'view');
  const mayWrite = useMayWrite();
  const [task, setTask] = useState<Task>('length');
  const [points, setPoints] = useState<At[]>([]);
  const [scale, setScale] = useState<At[] | null>(null);
  const [scaleLength, setScaleLength] = useState<number | null>(null);
  const [above, setAbove] = useState<number | null>(0);
  const [lies, setLies] = useState<{ face: string; facing: number }>({ face: '', facing: 12 });
  const [chosen, setChosen] = useState<string | null>(null);
  const [point, setPoint] = useState({ station: '', direction: '' });
  const [phase, setPhase] = useState<Schemas['Phase']>('asFound');
  const kept = engineCase.pictureMeasures.filter((m) => m.photo === photo.id && stands(m));
  const waits = photo.version === 0;

  const card = useQuery<Schemas['CardView'], ApiProblem>({
    queryKey: [...keys.case(caseId), 'card', photo.id],
    queryFn: () =>
      unwrap(api.GET('/api/cases/{caseId}/photos/{id}/card', { params: { path: { caseId, id: photo.id } } })),
    staleTime: Infinity,
    enabled: !waits,
  });
  const marking = scale !== null && scale.length < 2;
  const ready = isEnough(task, points) && !marking && (scale === null || scaleLength !== null);
  const ask: Schemas['PictureAsk'] = {
    task,
    points: sent(task, points),
    scale: scale?.length === 2 ? scale.flatMap((p) => [p.x, p.y]) : [],
    scaleLength: scale?.length === 2 ? scaleLength : null,
    above: above ?? 0,
    face: lies.face || null,
    facing: lies.face ? lies.facing : null,
  };
  const answer = useQuery<Schemas['PictureAnswer'], ApiProblem>({
    queryKey: [...keys.case(caseId), 'measure', photo.id, ask],
    queryFn: () =>
      unwrap(
        api.POST('/api/cases/{caseId}/photos/{id}/measure', {
          params: { path: { caseId, id: photo.id } },
          body: ask,
        }),
      ),
    enabled: ready && !waits,
    staleTime: Infinity,
    retry: false,
    // A point that is dragged keeps its figure meanwhile; another task's figure is none of this one's.
    placeholderData: (before, of) => (taskIn(of?.queryKey) === task ? before : undefined),
  });
  const got = ready && answer.data && !answer.isError ? answer.data : null;

  const kind = context.section.cells.find((c) => c.address === photo.place)?.kind ?? '';
  const gauge = useRoomSoon(caseId, 'gauge');
  // Of what has a wall on its map, seen from above.
  const walled = useRoomSoon(caseId, 'look')?.maps.some(
    (m) => m.kind === kind && m.faces.some((f) => f.id === 'wall'),
  );
  const figures = knowledge.characteristics.filter(
    (c) => c.inPicture.includes(task) && c.on.includes(kind) && gauge?.measurable.includes(c.id),
  );
  // Where it can be but one figure of the part, it is that one.
  const characteristic = figures.find(
    (c) => c.id === (chosen ?? (figures.length === 1 ? figures[0]!.id : '')),
  );
  const name = called(knowledge);
  const add = useWrite(caseId, writes.pictureMeasure);
  const takeBack = useWrite(caseId, writes.takeBack);
  const [confirms, setConfirms] = useState(false);
  const keep = (confirmed: boolean) =>
    add.mutate(
      {
        body: {
          id: v7(),
          photo: photo.id,
          ask,
          reading: characteristic
            ? {
                id: v7(),
                characteristic: characteristic.id,
                station: point.station,
                direction: point.direction,
                phase,
                confirmed,
              }
            : null,
        },
        words: tr`${taskWords[task]} in ${photo.fileName}`,
        place: photo.place,
      },
      {
        onSuccess: () => {
          setPoints([]);
          setConfirms(false);
        },
        onError: (e) => setConfirms(e.of('confirmed') !== undefined),
      },
    );

  const set = (p: At, moved: number | null) => {
    if (scale !== null && moved === null && marking) return setScale([...scale, p]);
    if (moved !== null) return setPoints(points.map((q, i) => (i === moved ? p : q)));
    setPoints(isFull(task, points) ? [p] : [...points, p]);
  };

  return (
    <div className="grid gap-3 px-3 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <Canvas
        picture={{ width: photo.width, height: photo.height, says: photo.caption || photo.place }}
        url={url}
        task={task}
        points={points}
        scale={scale ?? []}
        found={got ? pointsOf('length', got.found) : []}
        dots={card.data ? pointsOf('length', card.data.dots) : []}
        onPoint={set}
        onScale={(i, p) => setScale((scale ?? []).map((q, n) => (n === i ? p : q)))}
      />
      <div className="space-y-3">
        {waits ? (
          <p className="rounded-lg bg-brass-tint px-3 py-2">
            {tr`The picture is not sent yet. Set the points and keep them: they are reckoned when the network is back.`}
          </p>
        ) : (
          <PlaneWords card={card.data} error={card.error} scaled={scale !== null} />
        )}
        <div role="group" aria-label={tr`What is measured`} className="flex flex-wrap gap-1.5">
          {tasks
            .filter((t) => !ofAWall(t) || walled)
            .map((t) => (
              <button
                key={t}
                type="button"
                className="key"
                aria-pressed={task === t}
                onClick={() => {
                  setTask(t);
                  setPoints([]);
                  setChosen(null);
                  setLies({ face: '', facing: 12 });
                }}
              >
                {taskWords[t]}
              </button>
            ))}
        </div>
        <p className="text-lg" aria-live="polite">
          {marking ? tr`Tap both ends of a length that you know.` : taskSays[task]}
        </p>
        {scale?.length === 2 && (
          <NumberField label={tr`Its length in mm`} value={scaleLength} onChange={setScaleLength} min={0} />
        )}
        {got && <Answer of={got} length={lengths} busy={answer.isFetching} />}
        {ready && !waits && <Trouble problem={answer.error} />}
        {got && got.faces.length > 0 && (
          <PatchPlace
            of={got}
            lies={lies}
            onChange={setLies}
            to={`/cases/${caseId}/look?part=${photo.place}`}
          />
        )}
        {got && task === 'particles' && <MeasuredParticles answer={got} photo={photo} caseId={caseId} />}
        {(got || (waits && isEnough(task, points))) && mayWrite && (
          <div className="space-y-2 rounded-lg border border-line p-3">
            {figures.length > 0 && (
              <label className="block">
                <span className="label">{tr`As a reading of`}</span>
                <select
                  className="entry"
                  value={characteristic?.id ?? ''}
                  onChange={(e) => {
                    setChosen(e.target.value);
                    setPoint({ station: '', direction: '' });
                  }}
                >
                  <option value="">{tr`no reading, a figure of the picture only`}</option>
                  {figures.map((c) => (
                    <option key={c.id} value={c.id}>
                      {c.name}
                    </option>
                  ))}
                </select>
              </label>
            )}
            {characteristic && (
              <div className="flex flex-wrap gap-2">
                {characteristic.stations.length > 0 && (
                  <Pick
                    label={tr`Level`}
                    value={point.station}
                    options={characteristic.stations.map((o) => [o, name(o)])}
                    onChange={(station) => setPoint({ ...point, station })}
                  />
                )}
                {Object.keys(characteristic.directions).length > 0 && (
                  <Pick
                    label={tr`Direction`}
                    value={point.direction}
                    options={Object.keys(characteristic.directions).map((o) => [o, name(o)])}
                    onChange={(direction) => setPoint({ ...point, direction })}
                  />
                )}
                <label>
                  <span className="label">{tr`When`}</span>
                  <select
                    className="entry"
                    value={phase}
                    onChange={(e) => setPhase(e.target.value as Schemas['Phase'])}
                  >
                    {(Object.keys(phaseWords) as Schemas['Phase'][]).map((p) => (
                      <option key={p} value={p}>
                        {phaseWords[p] || tr`As found`}
                      </option>
                    ))}
                  </select>
                </label>
              </div>
            )}
            <button
              type="button"
              className="key key-go w-full text-lg"
              disabled={add.isPending}
              onClick={() => keep(confirms)}
            >
              {confirms ? tr`Keep it as it is` : characteristic ? tr`Keep as a reading` : tr`Keep it`}
            </button>
            <Trouble problem={add.error} />
          </div>
        )}
        <details>
          <summary className="min-h-8 cursor-pointer font-semibold">{tr`Scale and height`}</summary>
          <div className="mt-2 space-y-2">
            <button
              type="button"
              className="key"
              aria-pressed={scale !== null}
              onClick={() => setScale(scale === null ? [] : null)}
            >
              {scale === null ? tr`Mark a length that I know` : tr`Go by the card again`}
            </button>
            <NumberField
              label={tr`It lies above the card by, mm`}
              hint={tr`Below it with a minus. What lies nearer to the camera looks larger.`}
              value={above}
              onChange={setAbove}
            />
            <a className="key inline-flex" href="/api/pictures/card.pdf" target="_blank" rel="noreferrer">
              {tr`The card to print`}
            </a>
          </div>
        </details>
        {kept.length > 0 && (
          <section aria-label={tr`Measured in this picture`}>
            <h3 className="font-semibold">{tr`Measured in this picture`}</h3>
            <ul className="divide-y divide-line">
              {kept.map((m) => (
                <li key={m.id} className="flex items-center gap-2 py-1">
                  <button
                    type="button"
                    className="min-h-11 min-w-0 flex-1 text-left"
                    onClick={() => {
                      setTask(m.task);
                      setPoints(pointsOf(m.task, m.points));
                      setScale(m.scale.length > 0 ? pointsOf('length', m.scale) : null);
                      setScaleLength(m.scaleLength ?? null);
                      setAbove(m.above);
                    }}
                  >
                    <b>{taskWords[m.task]}</b>{' '}
                    <span className="fig">
                      {m.version === 0
                        ? tr`reckoned when it is sent`
                        : m.task === 'particles'
                          ? `${m.value}`
                          : toldWith(m.value, 2 * m.standard, quantityOf[m.task], lengths)}
                    </span>
                    <span className="block text-sm text-soft">
                      {writerOf(m)}
                      {m.card !== null && `, ${tr`card ${m.card}`}`}
                    </span>
                  </button>
                  {mayWrite && (
                    <button
                      type="button"
                      className="key border-transparent px-2"
                      aria-label={tr`Take ${taskWords[m.task]} back`}
                      onClick={() =>
                        takeBack.mutate({
                          of: 'picture-measures',
                          record: m,
                          why: tr`Measured by mistake`,
                          words: taskWords[m.task],
                        })
                      }
                    >
                      ✕
                    </button>
                  )}
                </li>
              ))}
            </ul>
            <Trouble problem={takeBack.error} />
          </section>
        )}
      </div>
    </div>
  );
}

export const quantityOf: Record<Task, Schemas['Quantity']> = {
  length: 'length',
  across: 'length',
  pitch: 'length',
  radius: 'length',
  angle: 'angle',
  hatch: 'angle',
  area: 'area',
  share: 'share',
  grown: 'share',
  wallShare: 'share',
  wallGrown: 'share',
  particles: 'ratio',
};

function Pick({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: [string, string][];
  onChange: (v: string) => void;
}) {
  return (
    <label>
      <span className="label">{label}</span>
      <select className="entry" value={value} onChange={(e) => onChange(e.target.value)}>
        <option value="" />
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Where on the map of the part a patch lies: on which face, seen from where. */
function PatchPlace({
  of,
  lies,
  onChange,
  to,
}: {
  of: Schemas['PictureAnswer'];
  lies: { face: string; facing: number };
  onChange: (lies: { face: string; facing: number }) => void;
  /** Where a finding is entered at the part. */
  to: string;
}) {
  const face = of.faces.find((f) => f.id === lies.face);
  return (
    <section
      className="space-y-2 rounded-lg border border-line p-3"
      aria-label={tr`Where on the part it lies`}
    >
      <h3 className="font-semibold">{tr`Where on the part it lies`}</h3>
      <div className="flex flex-wrap gap-2">
        <label>
          <span className="label">{tr`The face is`}</span>
          <select
            className="entry"
            value={lies.face}
            onChange={(e) => onChange({ ...lies, face: e.target.value })}
          >
            <option value="">{tr`no face of the map`}</option>
            {of.faces.map((f) => (
              <option key={f.id} value={f.id}>
                {f.name}
              </option>
            ))}
          </select>
        </label>
        {face && face.facing.length > 0 && (
          <label>
            <span className="label">{tr`Toward the camera, or up`}</span>
            <select
              className="entry"
              value={lies.facing}
              onChange={(e) => onChange({ ...lies, facing: Number(e.target.value) })}
            >
              {face.facing.map((words, i) => (
                <option key={i} value={i + 1}>
                  {words}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {face && face.facing.length === 0 && (
        <p className="text-sm text-soft">{tr`The free end of the crank is up in the picture.`}</p>
      )}
      {of.zones.length > 0 && (
        <>
          <ul>
            {of.zones.map((z) => (
              <li key={z.code}>
                {z.row}, {z.column} <span className="fig text-soft">{Math.round(100 * z.covered)} %</span>
              </li>
            ))}
          </ul>
          <Dialog.Close asChild>
            <Link
              className="key inline-flex items-center"
              to={`${to}&zones=${of.zones.map((z) => z.code).join('.')}`}
            >
              {tr`Record it in Look with these zones`}
            </Link>
          </Dialog.Close>
        </>
      )}
    </section>
  );
}

/** By what it is measured, or what keeps it from being. */
function PlaneWords({
  card,
  error,
  scaled,
}: {
  card: Schemas['CardView'] | undefined;
  error: ApiProblem | null;
  scaled: boolean;
}) {
  if (error) return <Trouble problem={error} />;
  if (!card) return <p className="text-soft">{tr`Looking for the card …`}</p>;
  if (scaled) return <p className="text-soft">{tr`By the length that you mark.`}</p>;
  return card.number !== null && card.says.length === 0 ? (
    <p className="rounded-lg bg-oil-tint px-3 py-2">
      <b>
        <Trans>Card {card.number} found</Trans>
      </b>
      , <Trans>seen at {Math.round(card.tilt ?? 0)}° off square.</Trans>
    </p>
  ) : (
    <p className="rounded-lg bg-brass-tint px-3 py-2">
      {card.says.join(' ')}{' '}
      {card.number === null && tr`Mark a length that you know, or measure angles and shares only.`}
    </p>
  );
}

export function Answer({
  of,
  length,
  busy,
}: {
  of: Schemas['PictureAnswer'];
  length: 'mm' | 'in';
  busy: boolean;
}) {
  const unit = of.quantity === 'length' ? length : baseUnit[of.quantity];
  const digits = digitsFor(of.expanded);
  const counted = of.classes.length > 0;
  return (
    <section aria-label={tr`What was measured`} aria-busy={busy} className={busy ? 'opacity-60' : ''}>
      <p className="fig text-3xl font-bold">
        {counted
          ? plural(of.value, { one: '# particle', other: '# particles' })
          : `${figure(of.value, unit, digits)}${behind(unit)}`}
      </p>
      <p className="fig text-lg text-soft">
        ± {figure(of.expanded, counted ? 'x' : unit, counted ? 0 : digits)}
        {counted ? '' : behind(unit)}
      </p>
      <dl className="mt-1 grid grid-cols-[1fr_auto] gap-x-4">
        {of.beside.map((b, i) => (
          <Beside key={i} of={b} length={length} />
        ))}
      </dl>
      {of.notes.map((n, i) => (
        <p key={i} className="text-sm text-soft">
          {n}
        </p>
      ))}
      <details className="mt-1">
        <summary className="min-h-8 cursor-pointer text-sm">{tr`Where the uncertainty comes from`}</summary>
        <ul className="text-sm">
          {of.influences.map((i, n) => (
            <li key={n} className="flex justify-between gap-3">
              <span>{i.name}</span>
              <span className="fig">{Math.round(100 * i.share)} %</span>
            </li>
          ))}
        </ul>
      </details>
    </section>
  );
}

function Beside({ of, length }: { of: Schemas['PictureBeside']; length: 'mm' | 'in' }) {
  const unit = of.quantity === 'length' ? length : baseUnit[of.quantity];
  return (
    <>
      <dt>{of.name}</dt>
      <dd className="fig text-right">
        {figure(of.value, unit, of.standard > 0 ? digitsFor(2 * of.standard) : 3)}
        {behind(unit)}
      </dd>
    </>
  );
}

const loupe = 132;

/** The picture with its points; under a finger that sets one, a loupe shows what it covers. */
export function Canvas({
  picture,
  url,
  task,
  points,
  scale,
  found,
  dots,
  onPoint,
  onScale,
}: {
  picture: { width: number; height: number; says: string };
  url: string;
  task: Task;
  points: At[];
  scale: At[];
  found: At[];
  dots: At[];
  onPoint: (p: At, moved: number | null) => void;
  onScale: (i: number, p: At) => void;
}) {
  const aspect = picture.width / picture.height || 4 / 3;
  const [held, setHeld] = useState<{
    of: 'point' | 'scale' | 'new';
    i: number;
    at: At;
    from: At;
    moved: boolean;
  } | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const at = (e: PointerEvent) => {
    const r = box.current!.getBoundingClientRect();
    const share = (v: number) => Math.min(1, Math.max(0, v));
    return { x: share((e.clientX - r.left) / r.width), y: share((e.clientY - r.top) / r.height) };
  };
  const pixels = (a: At, b: At) => {
    const r = box.current!.getBoundingClientRect();
    return Math.hypot((a.x - b.x) * r.width, (a.y - b.y) * r.height);
  };
  /** The nearest of those within reach of a finger; -1 where none is. */
  const near = (p: At, list: At[]) => {
    const away = list.map((q) => pixels(p, q));
    const least = Math.min(...away);
    return least < 24 ? away.indexOf(least) : -1;
  };
  const shown =
    held?.of === 'point' && held.moved ? points.map((p, i) => (i === held.i ? held.at : p)) : points;
  const ends = held?.of === 'scale' && held.moved ? scale.map((p, i) => (i === held.i ? held.at : p)) : scale;
  const path = (list: At[], closed: boolean) =>
    `M${list.map((p) => `${p.x * aspect} ${p.y}`).join('L')}${closed ? 'Z' : ''}`;
  const pairs = task === 'across';
  return (
    <div
      ref={box}
      className="relative mx-auto h-fit w-full touch-none self-start bg-steel select-none"
      style={{ aspectRatio: aspect, maxWidth: `calc((100dvh - 7rem) * ${aspect})` }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        const p = at(e);
        const [i, s] = [near(p, points), near(p, scale)];
        const of = i >= 0 ? 'point' : s >= 0 ? 'scale' : 'new';
        setHeld({ of, i: i >= 0 ? i : s, at: p, from: p, moved: false });
      }}
      onPointerMove={(e) => {
        if (!held) return;
        const p = at(e);
        setHeld({ ...held, at: p, moved: held.moved || pixels(p, held.from) > 5 });
      }}
      onPointerUp={() => {
        if (!held) return;
        setHeld(null);
        // A tap sets a point, also close to another; one that is dragged is moved.
        if (held.of === 'scale' && held.moved) onScale(held.i, held.at);
        else onPoint(held.at, held.of === 'point' && held.moved ? held.i : null);
      }}
      onPointerCancel={() => setHeld(null)}
    >
      <img src={url} alt={picture.says} draggable={false} className="size-full object-contain" />
      <svg
        className="pointer-events-none absolute inset-0 size-full"
        viewBox={`0 0 ${aspect} 1`}
        preserveAspectRatio="none"
        role="img"
        aria-label={tr`Points set: ${points.length}`}
      >
        {dots.map((d, i) => (
          <circle
            key={i}
            cx={d.x * aspect}
            cy={d.y}
            r="0.006"
            fill="none"
            stroke="#1f9d55"
            strokeWidth="0.003"
          />
        ))}
        {pairs
          ? Array.from({ length: found.length / 2 }, (_, i) => (
              <path
                key={i}
                d={path(found.slice(2 * i, 2 * i + 2), false)}
                stroke="#1f9d55"
                strokeWidth="0.0025"
              />
            ))
          : found
              .slice(0, 3000)
              .map((f, i) => (
                <circle
                  key={i}
                  cx={f.x * aspect}
                  cy={f.y}
                  r="0.005"
                  fill="none"
                  stroke="#1f9d55"
                  strokeWidth="0.002"
                />
              ))}
        {linesOf(task, shown, aspect)
          .filter((l) => l.points.length > 1)
          .map((l, i) => (
            <g key={i} fill="none">
              <path d={path(l.points, l.closed)} stroke="#fff" strokeWidth="0.006" />
              <path d={path(l.points, l.closed)} stroke="#b3361b" strokeWidth="0.003" />
            </g>
          ))}
        {ends.length === 2 && <path d={path(ends, false)} stroke="#1d3f8f" strokeWidth="0.004" />}
        {shown.map((p, i) => (
          <Handle key={i} at={p} aspect={aspect} colour="#b3361b" />
        ))}
        {ends.map((p, i) => (
          <Handle key={i} at={p} aspect={aspect} colour="#1d3f8f" />
        ))}
      </svg>
      {held && (
        <div
          aria-hidden
          className="pointer-events-none absolute overflow-hidden rounded-full border-4 border-white shadow-lg"
          style={{
            width: loupe,
            height: loupe,
            // Beside the finger, and never under it.
            left: held.at.x < 0.5 ? 'auto' : 8,
            right: held.at.x < 0.5 ? 8 : 'auto',
            top: 8,
            backgroundColor: '#17212b',
          }}
        >
          <Loupe url={url} at={held.at} box={box.current} />
        </div>
      )}
    </div>
  );
}

function Loupe({ url, at, box }: { url: string; at: At; box: HTMLDivElement | null }) {
  const [w, h] = [3 * (box?.clientWidth ?? 300), 3 * (box?.clientHeight ?? 200)];
  return (
    <>
      <img
        src={url}
        alt=""
        draggable={false}
        style={{
          position: 'absolute',
          width: w,
          height: h,
          maxWidth: 'none',
          left: loupe / 2 - 4 - at.x * w,
          top: loupe / 2 - 4 - at.y * h,
        }}
      />
      <span className="absolute inset-x-0 top-1/2 h-px bg-lead" />
      <span className="absolute inset-y-0 left-1/2 w-px bg-lead" />
    </>
  );
}

function Handle({ at, aspect, colour }: { at: At; aspect: number; colour: string }) {
  return (
    <g fill="none" strokeWidth="0.003">
      <circle cx={at.x * aspect} cy={at.y} r="0.014" stroke="#fff" strokeWidth="0.006" />
      <circle cx={at.x * aspect} cy={at.y} r="0.014" stroke={colour} />
      <path
        d={`M${at.x * aspect - 0.005} ${at.y}h0.01M${at.x * aspect} ${at.y - 0.005}v0.01`}
        stroke={colour}
      />
    </g>
  );
}
