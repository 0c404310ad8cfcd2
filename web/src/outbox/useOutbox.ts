import { t as tr } from '@lingui/core/macro';
import { onlineManager } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import { ApiProblem, knownNumbering, type CaseAnswers, type EngineCase, type Schemas } from '../api/client';
import { keys } from '../api/keys';
import { persistQueryByKey } from '../device/persist';
import { client } from '../device/queryClient';
import { lookForRoom } from '../device/room';
import { alone, browserBox, send } from './browser';
import { createOutbox, type Entry, type EntryKind, type Kept, type Outcome } from './outbox';

let who: string | null = null;
const news =
  typeof window !== 'undefined' && 'BroadcastChannel' in window ? new BroadcastChannel('outbox') : null;

const lists = {
  finding: 'findings',
  findings: 'findings',
  photo: 'photos',
  photoMark: 'photoMarks',
  pictureMeasure: 'pictureMeasures',
  sound: 'sounds',
  debris: 'debris',
  stepMark: 'stepMarks',
  fastener: 'fastenerMoves',
  backAct: 'backActs',
  reading: 'readings',
} as const satisfies Partial<Record<EntryKind, keyof EngineCase>>;

const pending = new Map<string, { whole: boolean; timer: ReturnType<typeof setTimeout> }>();

/** Whether somebody walks a round, figure after figure. */
let walking = false;

/** How long nothing must have been entered in a round before everything is worked out anew, in ms. */
const roundCalm = 20_000;

/** Tells that a round begins or is left; when it is left, what hangs on its figures is read. */
export function walksRound(caseId: string, now: boolean) {
  walking = now;
  const waits = pending.get(caseId);
  if (now || !waits) return;
  clearTimeout(waits.timer);
  pending.delete(caseId);
  void client.invalidateQueries({ queryKey: waits.whole ? keys.case(caseId) : keys.rooms(caseId) });
}

/** An instance of before an update answers with the reading alone. */
const isTaken = (entry: Kept, data: unknown): data is Schemas['ReadingTaken'] =>
  entry.kind === 'reading' && typeof data === 'object' && data !== null && 'figures' in data;

/** How a place stands with the figure goes into what the server worked out before it. */
function figuresIn(entry: Kept, { reading, figures }: Schemas['ReadingTaken']) {
  const of = reading.place.split('.')[1] ?? '';
  client.setQueryData<CaseAnswers['gauge']>(keys.room(entry.caseId, 'gauge', of), (gauge) => {
    if (!gauge) return gauge;
    const old = (f: Schemas['SheetFigure']) =>
      f.place === reading.place && f.characteristic === reading.characteristic;
    const rest = gauge.figures.filter((f) => !old(f));
    // Where the old one stood, so that those behind it are still the same to whoever compares.
    const at = gauge.figures.findIndex(old);
    return { ...gauge, figures: rest.toSpliced(at < 0 ? rest.length : at, 0, ...figures) };
  });
  return reading;
}

/**
 * What the server wrote goes into the case at once; what it works out from it is read again when the queue is through. The record itself needs
 * not be read again where nobody else wrote to it meanwhile.
 */
function take(entry: Kept, data: unknown, next: boolean) {
  const record = keys.record(entry.caseId);
  const whole = !next || entry.kind === 'withdraw' || client.isFetching({ queryKey: record }) > 0;
  if (entry.kind !== 'withdraw') {
    const list = lists[entry.kind];
    const taken = isTaken(entry, data) ? figuresIn(entry, data) : data;
    const fresh = (Array.isArray(taken) ? taken : [taken]) as { id: string }[];
    const ids = new Set(fresh.map((r) => r.id));
    client.setQueryData<EngineCase>(record, (c) =>
      c ? { ...c, [list]: [...(c[list] as { id: string }[]).filter((r) => !ids.has(r.id)), ...fresh] } : c,
    );
    // A bench that is opened again without a network knows it too.
    void persistQueryByKey(record, client);
  }
  const before = pending.get(entry.caseId);
  clearTimeout(before?.timer);
  const stale = whole || before?.whole === true;
  const again = () => {
    pending.delete(entry.caseId);
    void client.invalidateQueries({ queryKey: stale ? keys.case(entry.caseId) : keys.rooms(entry.caseId) });
  };
  // Who walks a round has all of the figure; the rest is worked out anew when the round is through, or nothing comes for a while.
  if (walking && entry.kind === 'reading' && !stale) {
    pending.set(entry.caseId, { whole: false, timer: setTimeout(again, roundCalm) });
    return;
  }
  const more = outbox.state().entries.some((e) => !e.refused && e.seq !== entry.seq);
  pending.set(entry.caseId, { whole: stale, timer: setTimeout(again, more ? 150 : 0) });
}

export const outbox = createOutbox({
  box: browserBox,
  send,
  who: () => who,
  alone,
  onSent: (entry, data, next) => {
    take(entry, data, next);
    news?.postMessage('changed');
  },
  later: (work, ms) => void setTimeout(work, ms),
  painted: (work) => {
    // A page that is not seen is not painted.
    const anyway = setTimeout(work, 200);
    requestAnimationFrame(() =>
      setTimeout(() => {
        clearTimeout(anyway);
        work();
      }),
    );
  },
});

/** Tells whose entries may be sent, and sends them. */
export function signedInAs(name: string | null) {
  if (who === name) return;
  who = name;
  void outbox.flush();
}

/** Sends whenever something may have changed for the better. */
export function watch() {
  const flush = () => void outbox.flush();
  addEventListener('online', flush);
  addEventListener('focus', flush);
  document.addEventListener('visibilitychange', () => document.visibilityState === 'visible' && flush());
  news?.addEventListener('message', () => void outbox.reread());
  setInterval(() => outbox.state().entries.some((e) => !e.refused) && flush(), 30_000);
  flush();
}

export const useOutboxState = () => useSyncExternalStore(outbox.subscribe, outbox.state);

const none: Kept[] = [];
let parted = { of: none, by: new Map<string, Kept[]>() };

/** Entries of one case that wait: the same list as long as they are the same. */
function waitingOf(caseId: string): Kept[] {
  const { entries } = outbox.state();
  if (parted.of !== entries) parted = { of: entries, by: new Map() };
  const known = parted.by.get(caseId);
  if (known) return known;
  const mine = entries.filter((e) => e.caseId === caseId);
  parted.by.set(caseId, mine.length > 0 ? mine : none);
  return parted.by.get(caseId)!;
}

/** Entries of one case that wait. */
export const useWaiting = (caseId: string) => useSyncExternalStore(outbox.subscribe, () => waitingOf(caseId));

export type NewEntry = Pick<Entry, 'path' | 'kind' | 'body' | 'words' | 'place'> & {
  file?: File;
  /** Whoever enters it goes on once the device has it; what the server has against it is told in the queue. */
  soon?: boolean;
};

function keptEntry(caseId: string, entry: NewEntry): Entry {
  const { file, soon: _, ...rest } = entry;
  return {
    ...rest,
    ...(file ? { file: { name: file.name, type: file.type, size: file.size } } : {}),
    caseId,
    by: who ?? '',
    at: new Date().toISOString(),
    numbering: knownNumbering.get(caseId) ?? null,
  };
}

const unreadFile = {
  title: tr`This file cannot be read on the device.`,
  detail: tr`Choose it again; where it lies on a card or in a cloud, save it on the device first.`,
};

/** What neither the device nor the server has: it must be told, as it is nowhere else. */
export class Unkept extends ApiProblem {}

/** What is being entered at this moment, by case. */
const entering = new Map<string, Set<Promise<Outcome>>>();

/** How long a write waits for what was entered before it, in ms. */
const longest = 4_000;

/**
 * What was entered into a case before has reached the server, so that a write which hangs on it is not ahead of it: a tick before “Done”. Pictures are
 * not waited for, nor is a line that is down; what the write then meets, the server tells.
 */
export function earlierSent(caseId: string): Promise<void> {
  if (!onlineManager.isOnline()) return Promise.resolve();
  const waits = () => outbox.state().entries.some((e) => e.caseId === caseId && !e.refused && !e.file);
  const through = async () => {
    await Promise.allSettled([...(entering.get(caseId) ?? [])]);
    await outbox.told();
    if (waits())
      await new Promise<void>((resolve) => {
        const off = outbox.subscribe(() => {
          if (waits()) return;
          off();
          resolve();
        });
      });
  };
  return Promise.race([through(), new Promise<void>((resolve) => setTimeout(resolve, longest))]);
}

/** Enters something into a case: kept first, then sent. Fails only where the server refuses it while the form is still open. */
export function enter(caseId: string, entry: NewEntry): Promise<Outcome> {
  const entered = enterOne(caseId, entry);
  if (entry.file) return entered;
  const now = entering.get(caseId) ?? new Set();
  entering.set(caseId, now.add(entered));
  const through = () => now.delete(entered);
  entered.then(through, through);
  return entered;
}

async function enterOne(caseId: string, entry: NewEntry): Promise<Outcome> {
  const bytes = await entry.file?.arrayBuffer().catch(() => {
    throw new Unkept(0, unreadFile);
  });
  const outcome = await outbox.put(keptEntry(caseId, entry), bytes, entry.soon ? 0 : undefined);
  void lookForRoom();
  news?.postMessage('changed');
  if (outcome.kind === 'unkept')
    throw new Unkept(outcome.refusal.status, {
      title: outcome.refusal.title,
      detail: outcome.refusal.remedy,
      ...outcome.refusal.body,
    });
  if (outcome.kind === 'refused') throw new ApiProblem(outcome.refusal.status, outcome.refusal.body);
  return outcome;
}
