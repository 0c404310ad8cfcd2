import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMemo, useRef, useState } from 'react';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import { dateKey, daysLater, daysOf, dayWords, grouped, stretch, type Plan, type Task } from './bars';
import { bodyOf } from './record';
import { TaskForm } from './TaskForm';

/** The plan as bars over the days: what is worked on is full, what is waited for is hatched, and a thin line is room to move. */
export function Bars({
  plan,
  open,
  pick,
}: {
  plan: Plan;
  open: string | null;
  pick: (key: string | null) => void;
}) {
  const days = useMemo(() => daysOf(plan), [plan]);
  const of = useMemo(() => grouped(plan.tasks), [plan]);
  const { from, to } = stretch(plan);
  const [shut, setShut] = useState<ReadonlySet<string>>(
    () => new Set(of.filter((g) => g.tasks.length > 8).map((g) => g.id)),
  );
  const opened = plan.tasks.find((t) => t.key === open);
  const toggle = (id: string) =>
    setShut((s) => {
      const next = new Set(s);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  return (
    <div className="space-y-1">
      <Scale plan={plan} days={days} />
      {of.map((g) => {
        const closed = shut.has(g.id) && !(opened && g.tasks.includes(opened));
        return (
          <section key={g.id}>
            <Row
              label={
                <button
                  className="flex min-h-11 w-full items-center gap-2 text-left"
                  aria-expanded={!closed}
                  onClick={() => toggle(g.id)}
                >
                  <span aria-hidden>{closed ? '▸' : '▾'}</span>
                  <b>{g.words}</b>
                  <span className="fig text-sm text-soft">{g.tasks.length}</span>
                </button>
              }
            >
              <Days days={days} from={from} to={to}>
                {closed &&
                  g.tasks.map((t) => (
                    <Bar key={t.key} task={t} from={from} to={to} className="h-2 opacity-70" />
                  ))}
              </Days>
            </Row>
            {!closed && (
              <ul>
                {g.tasks.map((t) => (
                  <li key={t.key}>
                    <Line
                      plan={plan}
                      task={t}
                      days={days}
                      from={from}
                      to={to}
                      open={t.key === open}
                      pick={() => pick(t.key === open ? null : t.key)}
                    />
                    {t.key === open && <TaskForm key={t.key} plan={plan} task={t} done={() => pick(null)} />}
                  </li>
                ))}
              </ul>
            )}
          </section>
        );
      })}
      <p className="pt-2 text-sm text-soft">
        <Swatch className="bg-dye" /> {tr`work`} <Swatch className="bar-wait" /> <Trans>waited for </Trans>
        <Swatch className="bg-lead" /> {tr`the end hangs on it`} <Swatch className="h-0.5! bg-soft" />{' '}
        <Trans>
          room to move.
          <span className="hidden md:inline">
            {' '}
            Pull a bar, or press ← and → on it, and it is not begun before that day.
          </span>
        </Trans>
      </p>
    </div>
  );
}

const Swatch = ({ className }: { className: string }) => (
  <span className={`mx-1 inline-block h-3 w-8 rounded-sm align-middle ${className}`} aria-hidden />
);

const share = (at: number, from: number, to: number) =>
  Math.min(100, Math.max(0, (100 * (at - from)) / (to - from)));

function Row({ label, children }: { label: React.ReactNode; children: React.ReactNode }) {
  return (
    <div className="md:grid md:grid-cols-[minmax(0,21rem)_minmax(0,1fr)] md:items-center md:gap-3">
      {label}
      {children}
    </div>
  );
}

/** Days along the top: each named where there is room for it, and each Monday where there is not. */
/** A day that begins further to the right, in hundredths, has a stroke and no name: it would run out of the side. */
const lastNamed = 86;

function Scale({ plan, days }: { plan: Plan; days: ReturnType<typeof daysOf> }) {
  const { from, to } = stretch(plan);
  const every = days.length <= 12 ? 1 : days.length <= 80 ? 7 : 28;
  const monday = days.findIndex((d) => new Date(`${d.key}T12:00:00Z`).getUTCDay() === 1);
  const marked = days.filter((_, i) => (every === 1 ? true : i >= monday && (i - monday) % every === 0));
  const weather = new Map(plan.weather.map((w) => [w.day, w]));
  return (
    <Row label={<span className="hidden md:block" />}>
      <div className="relative h-6 overflow-x-clip text-xs" aria-hidden>
        {marked.map((d) => (
          <span
            key={d.key}
            className="absolute border-l border-line pl-1 whitespace-nowrap"
            style={{ left: `${share(d.at, from, to)}%` }}
          >
            {share(d.at, from, to) <= lastNamed && (
              <>
                {dayWords(d.key).replace(/^\w+ /, every === 1 ? '$&' : '')}
                {weather.get(d.key)?.dry === false && ' ☂'}
              </>
            )}
          </span>
        ))}
      </div>
    </Row>
  );
}

function Days({
  days,
  from,
  to,
  children,
}: {
  days: ReturnType<typeof daysOf>;
  from: number;
  to: number;
  children?: React.ReactNode;
}) {
  return (
    <div className="relative h-5 overflow-hidden rounded-sm md:h-7">
      {days
        .filter((d) => !d.open)
        .map((d) => (
          <span
            key={d.key}
            className="absolute inset-y-0 bg-steel"
            style={{
              left: `${share(d.at, from, to)}%`,
              width: `${share(d.to, from, to) - share(d.at, from, to)}%`,
            }}
          />
        ))}
      {children}
    </div>
  );
}

const hung = 0.5;

function Bar({ task, from, to, className }: { task: Task; from: number; to: number; className: string }) {
  const [left, right] = [share(Date.parse(task.starts), from, to), share(Date.parse(task.ends), from, to)];
  return (
    <span
      className={`absolute top-1/2 min-w-1 -translate-y-1/2 rounded-sm ${
        task.hangs >= hung ? 'bg-lead' : 'bg-dye'
      } ${task.byItself ? 'bar-wait' : ''} ${className}`}
      style={{
        left: `${left}%`,
        width: `${right - left}%`,
        color: task.hangs >= hung ? 'var(--color-lead)' : 'var(--color-dye)',
      }}
    />
  );
}

function Line({
  plan,
  task,
  days,
  from,
  to,
  open,
  pick,
}: {
  plan: Plan;
  task: Task;
  days: ReturnType<typeof daysOf>;
  from: number;
  to: number;
  open: boolean;
  pick: () => void;
}) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const write = useWrite(engineCase.id, writes.buildTask);
  const [moved, setMoved] = useState(0);
  const held = useRef<{ x: number; day: number } | null>(null);
  const begins = dateKey(task.starts, plan.zone);
  const may = mayWrite && !task.begun;
  const move = (by: number) => {
    if (by === 0 || write.isPending) return;
    const today = dateKey(plan.at, plan.zone);
    const to = daysLater(task.notBefore && task.notBefore > begins ? task.notBefore : begins, by);
    write.mutate({ ...bodyOf(engineCase, task), notBefore: to > today ? to : null });
  };
  const latest = share(Date.parse(task.latest) + (Date.parse(task.ends) - Date.parse(task.starts)), from, to);
  const ends = share(Date.parse(task.ends), from, to);
  return (
    <Row
      label={
        <button
          className={`block min-h-11 w-full rounded-md px-2 py-1 text-left hover:bg-dye-tint md:min-h-8 ${open ? 'bg-dye-tint' : ''}`}
          aria-expanded={open}
          onClick={pick}
        >
          <span className="md:block md:truncate">
            {task.overdue && <span className="text-lead">{tr`! overdue:`} </span>}
            {task.name}
          </span>
          <span className="block text-sm text-soft md:hidden">
            {dayWords(begins)}
            {dateKey(task.ends, plan.zone) !== begins && tr` to ${dayWords(dateKey(task.ends, plan.zone))}`}
          </span>
        </button>
      }
    >
      <Days days={days} from={from} to={to}>
        {latest > ends && (
          <span
            className="absolute top-1/2 h-0.5 bg-soft opacity-60"
            style={{ left: `${ends}%`, width: `${latest - ends}%` }}
          />
        )}
        <button
          type="button"
          className={`absolute inset-y-0 min-w-3 touch-pan-y ${may ? 'cursor-grab active:cursor-grabbing' : ''}`}
          style={{
            left: `${share(Date.parse(task.starts), from, to)}%`,
            width: `${ends - share(Date.parse(task.starts), from, to)}%`,
            transform: moved ? `translateX(${moved}px)` : undefined,
          }}
          aria-label={tr`${task.name}, ${dayWords(begins)}: move with ← and →`}
          disabled={!may}
          onKeyDown={(e) => {
            if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
            e.preventDefault();
            move(e.key === 'ArrowRight' ? 1 : -1);
          }}
          onPointerDown={(e) => {
            const width = e.currentTarget.parentElement?.clientWidth ?? 1;
            held.current = { x: e.clientX, day: width / Math.max(1, days.length) };
            e.currentTarget.setPointerCapture(e.pointerId);
          }}
          onPointerMove={(e) => held.current && setMoved(e.clientX - held.current.x)}
          onPointerCancel={() => {
            held.current = null;
            setMoved(0);
          }}
          onPointerUp={(e) => {
            const by = held.current ? Math.round((e.clientX - held.current.x) / held.current.day) : 0;
            held.current = null;
            setMoved(0);
            if (by === 0) pick();
            else move(by);
          }}
        >
          <Bar
            task={task}
            from={Date.parse(task.starts)}
            to={Math.max(Date.parse(task.ends), Date.parse(task.starts) + 1)}
            className="h-4"
          />
        </button>
      </Days>
      {write.error && (
        <div className="md:col-span-2">
          <Trouble problem={write.error} />
        </div>
      )}
    </Row>
  );
}
