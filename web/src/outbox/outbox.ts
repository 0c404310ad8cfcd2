import { t as tr } from '@lingui/core/macro';
/**
 * What was entered and has not reached the server: kept in order, sent once each, surviving reload, a dead battery, a server that
 * restarts and signing out. Each entry carries the id that the client made, so that sending it twice writes it once.
 */
export interface Entry {
  /** Where it is sent. */
  path: string;
  caseId: string;
  /** What it becomes in the case, for showing it before it is sent. */
  kind: EntryKind;
  /** Record as JSON; of a picture or recording the fields of its form. */
  body: unknown;
  /** Of a picture or recording: its file, whose bytes are kept beside. */
  file?: { name: string; type: string; size: number };
  /** What it is, in words for the queue. */
  words: string;
  place: string;
  by: string;
  /** When it was entered, ISO. */
  at: string;
  /** How many changes of numbering the screen knew of. */
  numbering: number | null;
}

export type EntryKind =
  | 'finding'
  | 'findings'
  | 'photo'
  | 'photoMark'
  | 'pictureMeasure'
  | 'sound'
  | 'debris'
  | 'stepMark'
  | 'fastener'
  | 'backAct'
  | 'reading'
  | 'withdraw';

export interface Refusal {
  status: number;
  title: string;
  remedy: string;
  body: Record<string, unknown>;
}

export interface Kept extends Entry {
  seq: number;
  refused?: Refusal;
  /** How often the server failed on it. */
  failures?: number;
}

/** Where entries are kept; the browser's database, or memory in tests. Bytes of files are read one file at a time. */
export interface Box {
  add: (entry: Entry, bytes?: ArrayBuffer) => Promise<number>;
  all: () => Promise<Kept[]>;
  put: (entry: Kept) => Promise<void>;
  remove: (seq: number) => Promise<void>;
  bytes: (seq: number) => Promise<ArrayBuffer | null>;
}

/** `another`: somebody else has signed in with this browser; nothing is sent in a wrong name. */
export type Why = 'offline' | 'server' | 'signedOut' | 'another';

export type Outcome =
  /** `next`: nobody else wrote to the case since it was read here. */
  | { kind: 'sent'; data: unknown; next?: boolean }
  | { kind: 'refused'; refusal: Refusal }
  /** Failed where the server answered, but failed on this entry; stalled where nothing moved for a while. The others may still go. */
  | { kind: 'later'; why: Why; failed?: boolean; stalled?: boolean }
  /** The device could not keep it and the server did not take it: it exists nowhere but in the form. */
  | { kind: 'unkept'; refusal: Refusal };

const notKept = (why: Why): Refusal => ({
  status: 0,
  title: tr`This was not saved: the device has no room to keep it, and the server did not take it.`,
  remedy:
    why === 'signedOut' || why === 'another'
      ? tr`Sign in and enter it again. Free some space on the device.`
      : tr`Enter it again when the server answers. Until then keep the original; free some space on the device.`,
  body: {},
});

export interface State {
  entries: Kept[];
  /** Why nothing is sent just now; null while nothing hinders. */
  why: Why | null;
  sending: boolean;
  /** The device could not keep the last entry: such are sent directly, and only while the server answers. */
  full: boolean;
  /** Somebody holds pictures back: records go on. */
  held: boolean;
  /** The picture on its way: how many bytes of it the server has. */
  moving: { seq: number; sent: number } | null;
}

/** What a sender is told, and tells, while a file is on its way. */
export interface Way {
  moved: (sent: number) => void;
  /** Somebody does not want it sent now; what has come of it stays there. */
  stopped: AbortSignal;
}

export interface OutboxOptions {
  box: Box;
  send: (entry: Kept, bytes: () => Promise<ArrayBuffer | null>, way: Way) => Promise<Outcome>;
  /** Who is signed in; null when nobody is. Only a person's own entries are sent in the person's name. */
  who: () => string | null;
  /** Runs the work while no other tab sends. */
  alone?: (work: () => Promise<void>) => Promise<void>;
  /** Told of each entry that the server has, before it leaves the queue. */
  onSent?: (entry: Kept, data: unknown, next: boolean) => void;
  /** Calls again later; in milliseconds. */
  later?: (work: () => void, ms: number) => void;
  /** Calls when what goes on without waiting has been painted. */
  painted?: (work: () => void) => void;
}

/** After so many failures on one entry it is set aside, so that the others go on. */
const mostFailures = 3;

const parked = (stalled: boolean): Refusal => ({
  status: stalled ? 408 : 500,
  title: stalled
    ? tr`Sending this came to a stop ${mostFailures} times, so it is set aside and the others are sent.`
    : tr`The server failed on this ${mostFailures} times, so it is set aside and the others are sent.`,
  remedy: stalled
    ? tr`Nothing of it is lost. Try again where the line is better, or save it to a file.`
    : tr`Nothing of it is lost. Try again later, save it to a file, or tell whoever looks after the server.`,
  body: {},
});

const unreadable: Refusal = {
  status: 0,
  title: tr`This device does not give the file back that it kept.`,
  remedy: tr`Choose the file again where it lies, or record again, and give this entry up.`,
  body: {},
};

/** Ids that an entry makes. */
const idsOf = (entry: Entry) =>
  (Array.isArray(entry.body) ? entry.body : [entry.body]).map((b) => (b as { id?: string } | null)?.id ?? '');

/** Whether an entry speaks of what another makes, or of the same record: it must not come before it. */
const hangsOn = (entry: Entry, other: Entry) => {
  const said = entry.path + JSON.stringify(entry.body);
  return idsOf(other).some((id) => id !== '' && said.includes(id));
};

/** What stands for an entry whose file cannot be read any more. */
export const lostFile: Outcome = { kind: 'refused', refusal: unreadable };

/** Whether two readings of the queue tell the same: an entry changes only by being refused, or failing. */
const alike = (one: readonly Kept[], other: readonly Kept[]) =>
  one.length === other.length &&
  one.every((e, i) => {
    const o = other[i]!;
    return (
      e.seq === o.seq &&
      e.failures === o.failures &&
      e.refused?.title === o.refused?.title &&
      JSON.stringify(e.body) === JSON.stringify(o.body)
    );
  });

const pauses = [2_000, 5_000, 15_000, 30_000];

export function createOutbox({
  box,
  send,
  who,
  alone = (w) => w(),
  onSent,
  later,
  painted = (w) => void setTimeout(w),
}: OutboxOptions) {
  let state: State = { entries: [], why: null, sending: false, full: false, held: false, moving: null };
  let stop = new AbortController();
  let failures = 0;
  let running: Promise<void> | null = null;
  const listeners = new Set<() => void>();
  const waiting = new Map<number, (outcome: Outcome) => void>();
  /** Entries that are kept, and will be told of once whoever entered them has gone on. */
  const untold = new Set<Promise<void>>();

  const tell = (change: Partial<State>) => {
    // What is read again and is the same stays the same, so that nothing is drawn anew for it.
    const entries = change.entries && alike(change.entries, state.entries) ? state.entries : change.entries;
    const next = { ...state, ...change, ...(entries ? { entries } : {}) };
    if ((Object.keys(next) as (keyof State)[]).every((k) => next[k] === state[k])) return;
    state = next;
    for (const listener of listeners) listener();
  };
  /** A device that does not tell what it keeps is told as full: what is entered then goes straight to the server. */
  const reread = async () => {
    try {
      tell({ entries: await box.all() });
    } catch {
      tell({ full: true });
    }
  };

  /**
   * What is sent next: records before pictures, each in the order of entry, and nothing before what it hangs on. What hangs on one that was
   * set aside waits with it.
   */
  const nextOf = (entries: Kept[], me: string | null, stuck: Set<number>) => {
    const free = (e: Kept) =>
      !e.refused &&
      !(e.file && state.held) &&
      e.by === me &&
      !stuck.has(e.seq) &&
      !entries.some((a) => a.seq < e.seq && (a.refused || a.file || stuck.has(a.seq)) && hangsOn(e, a));
    return entries.find((e) => !e.file && free(e)) ?? entries.find(free);
  };

  /** Sends what is next until the queue is empty or something hinders. */
  async function work() {
    // What came to a stop in this round: the others go first.
    const stuck = new Set<number>();
    for (;;) {
      const me = who();
      const entries = await box.all();
      tell({ entries });
      const next = nextOf(entries, me, stuck);
      if (!next) {
        const waits = entries.some((e) => !e.refused);
        tell({ why: stuck.size > 0 ? 'server' : me === null && waits ? 'signedOut' : null });
        if (stuck.size > 0) again();
        return;
      }
      const { signal } = (stop = new AbortController());
      const outcome = await send(next, () => box.bytes(next.seq), {
        stopped: signal,
        moved: (sent) => tell({ moving: { seq: next.seq, sent } }),
      });
      tell({ moving: null });
      if (signal.aborted && outcome.kind === 'later') continue;
      const hit = outcome.kind === 'later' && (outcome.failed === true || outcome.stalled === true);
      if (outcome.kind === 'later' && hit && (next.failures ?? 0) + 1 >= mostFailures) {
        const refusal = parked(outcome.stalled === true);
        await box.put({ ...next, failures: mostFailures, refused: refusal });
        waiting.get(next.seq)?.({ kind: 'refused', refusal });
        waiting.delete(next.seq);
        continue;
      }
      if (outcome.kind === 'later') {
        if (hit) await box.put({ ...next, failures: (next.failures ?? 0) + 1 });
        if (outcome.stalled) {
          stuck.add(next.seq);
          continue;
        }
        tell({ why: outcome.why });
        if (outcome.why !== 'signedOut' && outcome.why !== 'another') again();
        return;
      }
      failures = 0;
      const answer = waiting.get(next.seq);
      waiting.delete(next.seq);
      try {
        if (outcome.kind === 'sent') {
          onSent?.(next, outcome.data, outcome.next ?? false);
          await box.remove(next.seq);
        } else if (answer && !next.file) {
          // Whoever entered it still has the form before them; a picture has no form and stays here with what is wrong.
          await box.remove(next.seq);
        } else {
          await box.put({ ...next, refused: outcome.refusal });
        }
      } finally {
        answer?.(outcome);
      }
      tell({ why: null });
    }
  }

  function again() {
    later?.(() => void flush(), pauses[Math.min(failures, pauses.length - 1)]!);
    failures++;
  }

  async function flush(): Promise<void> {
    // One that is running may have read the queue before the newest entry came in: it is followed by another.
    if (running) await running.catch(() => undefined);
    if (running) return running;
    running = (async () => {
      tell({ sending: true });
      try {
        await alone(work);
      } catch {
        // The device does not let go of what it keeps: it stays, and is tried again.
        tell({ full: true, why: 'server' });
        again();
      } finally {
        tell({ sending: false });
      }
    })();
    try {
      await running;
    } finally {
      running = null;
      await reread();
    }
  }

  /** Sends an entry that the device cannot keep. Whatever goes wrong is told to whoever still has it before them. */
  async function direct(entry: Entry, bytes?: ArrayBuffer): Promise<Outcome> {
    const unkept = { ...entry, seq: -1 };
    const outcome: Outcome =
      who() === entry.by
        ? await send(unkept, () => Promise.resolve(bytes ?? null), {
            stopped: new AbortController().signal,
            moved: () => undefined,
          })
        : { kind: 'later', why: 'signedOut' };
    if (outcome.kind === 'sent') onSent?.(unkept, outcome.data, outcome.next ?? false);
    if (outcome.kind === 'refused') return { ...outcome, kind: 'unkept' };
    return outcome.kind === 'later' ? { kind: 'unkept', refusal: notKept(outcome.why) } : outcome;
  }

  return {
    state: () => state,
    subscribe: (listener: () => void) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    /** Keeps an entry, then tries to send it. Answers as soon as it is kept and either settled or slow; with no patience, once it is kept. */
    put: async (entry: Entry, bytes?: ArrayBuffer, patience = 1_500): Promise<Outcome> => {
      let seq: number;
      try {
        seq = await box.add(entry, bytes);
      } catch {
        tell({ full: true });
        return direct(entry, bytes);
      }
      if (state.full) tell({ full: false });
      if (patience === 0) {
        // It is kept: the hand goes on first, and the queue is told and sent after that.
        const told = new Promise<void>((resolve) => painted(resolve)).then(reread);
        untold.add(told);
        void told.then(() => untold.delete(told)).then(flush);
        return { kind: 'later', why: state.why ?? 'server' };
      }
      const settled = new Promise<Outcome>((resolve) => waiting.set(seq, resolve));
      await reread();
      // Nobody waits at a form any more: should it be refused later, the queue keeps it. What is settled at this very moment is waited for.
      const leave = (why: Why): Outcome | Promise<Outcome> =>
        waiting.delete(seq) ? { kind: 'later', why } : settled;
      const tried = flush().then(() => leave(state.why ?? 'server'));
      const slow = new Promise<Outcome>((resolve) => setTimeout(() => resolve(leave('server')), patience));
      return await Promise.race([settled, tried, slow]);
    },
    flush,
    reread,
    /** Settles once everything that is kept is in the state. */
    told: async () => void (await Promise.all(untold)),
    /** Holds pictures back, the one on its way too, or lets them go. */
    hold: async (held: boolean) => {
      tell({ held });
      if (held) stop.abort();
      else await flush();
    },
    /** The file that an entry keeps. */
    bytes: (seq: number) => box.bytes(seq),
    /** Sends a refused entry again. */
    retry: async (entry: Kept) => {
      const { refused: _, failures: __, ...fresh } = entry;
      await box.put(fresh);
      await flush();
    },
    /** Gives an entry up. */
    drop: async (seq: number) => {
      await box.remove(seq);
      await reread();
    },
  };
}
