import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';
import { region } from '../ui/region';

export type Task = Schemas['BuildTaskState'];
export type Plan = Schemas['BuildPlan'];

/** What tasks are shown together, in the order in which an engine goes through them. */
export const groups = [
  ['waits', tr`Waited for`],
  ['strip', tr`Strip that is left`],
  ['read', tr`Read and decide`],
  ['work', tr`Own work at the bench`],
  ['order', tr`Send for, let in`],
  ['own', tr`Added here`],
  ['back', tr`The way back`],
  ['run', tr`First run, and after it`],
] as const;

export type Group = (typeof groups)[number][0];

const groupOf: Record<Schemas['TaskKind'], Group> = {
  strip: 'strip',
  look: 'read',
  measure: 'read',
  decide: 'read',
  work: 'work',
  send: 'order',
  check: 'order',
  away: 'waits',
  back: 'back',
  run: 'run',
  followUp: 'run',
  own: 'own',
  owner: 'waits',
  helper: 'waits',
  tool: 'waits',
  signature: 'waits',
  onPurpose: 'waits',
};

/** Tasks by group, those that are none left out. */
export const grouped = (tasks: readonly Task[]) =>
  groups.flatMap(([id, words]) => {
    const of = tasks.filter((t) => groupOf[t.kind] === id);
    return of.length > 0 ? [{ id, words, tasks: of }] : [];
  });

/** From when to when days are drawn, in ms: from the day of now until a day behind the end, or the safe day where that is later. */
export function stretch(plan: Plan) {
  const from = midnight(plan.at, plan.zone);
  const ends = [plan.ends, plan.safe && `${plan.safe}T12:00:00Z`].map((e) => (e ? Date.parse(e) : from));
  return { from, to: midnight(new Date(Math.max(...ends) + dayMs).toISOString(), plan.zone) };
}

export const dayMs = 86_400_000;

/** When the day of a moment began by the clock of a zone, in ms. */
export function midnight(iso: string, zone: string) {
  const at = Math.floor(Date.parse(iso) / 1000) * 1000;
  const guess = at - clockMs(at, zone);
  // Where the clock was put on or back since, it is off by that much.
  const off = clockMs(guess, zone);
  return off > dayMs / 2 ? guess + dayMs - off : guess - off;
}

/** What the clock of a zone shows, in ms since its midnight. */
function clockMs(at: number, zone: string) {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
    hourCycle: 'h23',
  }).formatToParts(at);
  const of = (type: string) => Number(parts.find((p) => p.type === type)?.value ?? 0);
  return (of('hour') * 3600 + of('minute') * 60 + of('second')) * 1000;
}

/** Days of a stretch: when each began, its number and whether the shop is open on it. */
export function daysOf(plan: Plan) {
  const { from, to } = stretch(plan);
  const days: { at: number; to: number; key: string; open: boolean }[] = [];
  for (let at = from; at < to;) {
    // Past the next midnight whatever the clock does in the night.
    const next = midnight(new Date(at + dayMs + dayMs / 8).toISOString(), plan.zone);
    days.push({
      at,
      to: next,
      key: dateKey(at, plan.zone),
      open: plan.open.some((o) => Date.parse(o.from) < next && Date.parse(o.to) > at),
    });
    at = next;
  }
  return days;
}

/** The day of a moment as 2026-11-28, by the clock of a zone. */
export const dateKey = (at: number | string, zone: string) =>
  new Intl.DateTimeFormat('en-CA', {
    timeZone: zone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
  }).format(typeof at === 'string' ? Date.parse(at) : at);

/** A day that is so many later. */
export const daysLater = (key: string, days: number) =>
  new Date(Date.parse(`${key}T12:00:00Z`) + days * dayMs).toISOString().slice(0, 10);

/** A day as it is said: Fri 4 Dec. */
export const dayWords = (key: string) =>
  new Date(`${key}T12:00:00Z`).toLocaleDateString(region(), {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  });

/** A length of time as it is said; of what goes on by itself in days. */
export function lengthWords(hours: number, byItself: boolean) {
  if (byItself && hours >= 36) return tr`${Math.round(hours / 24)} days`;
  if (hours < 1) return tr`${Math.max(1, Math.round(hours * 60))} min`;
  return `${hours < 10 ? Math.round(hours * 10) / 10 : Math.round(hours)} h`;
}

/** Three lengths, least to most. */
export const spellWords = (t: Pick<Task, 'least' | 'likely' | 'most' | 'byItself'>) =>
  t.least === t.most
    ? lengthWords(t.likely, t.byItself)
    : tr`${lengthWords(t.likely, t.byItself)}, ${lengthWords(t.least, t.byItself)} to ${lengthWords(t.most, t.byItself)}`;

/** What can be begun now, what most hangs on first: short enough for the time and the hands there are, and the rest. */
export function nowList(tasks: readonly Task[], minutes: number, hands: number) {
  const ready = tasks
    .filter((t) => t.ready)
    .sort((a, b) => Number(b.begun) - Number(a.begun) || b.hangs - a.hangs || a.likely - b.likely);
  const fits = (t: Task) => t.likely * 60 <= minutes && t.hands <= hands;
  return { fits: ready.filter(fits), longer: ready.filter((t) => !fits(t)) };
}

/** Page on which a task is done; null where it is done here. */
export function doneAt(task: Task): string | null {
  const [kind = '', of = ''] = task.key.split('/');
  if (kind === 'strip' || kind === 'look' || kind === 'sign') return `strip?step=${encodeURIComponent(of)}`;
  if (kind === 'measure') return `gauge?round=${encodeURIComponent(of)}`;
  if (kind === 'decide') return `verdict?group=${encodeURIComponent(of)}`;
  if (kind === 'send' || kind === 'come' || kind === 'check') return 'verdict?view=order';
  if (kind === 'away') return task.places[0] ? `index?part=${encodeURIComponent(task.places[0])}` : 'index';
  return null;
}
