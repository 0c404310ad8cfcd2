import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { scatter } from '../art/marks';
import { browserBox } from './browser';
import { createOutbox, type Box, type Entry, type Kept, type Outcome } from './outbox';

const entry = (n: number, more: Partial<Entry> = {}): Entry => ({
  path: '/api/x',
  caseId: 'case',
  kind: 'finding',
  body: { id: `id-${n}` },
  words: `entry ${n}`,
  place: 'R4U',
  by: 'tomas',
  at: new Date(n * 1000).toISOString(),
  numbering: 0,
  ...more,
});

function memoryBox(): Box {
  const kept = new Map<number, Kept>();
  const files = new Map<number, ArrayBuffer>();
  let seq = 0;
  return {
    add: async (e, bytes) => {
      kept.set(++seq, { ...e, seq });
      if (bytes) files.set(seq, bytes);
      return seq;
    },
    bytes: async (s) => files.get(s) ?? null,
    all: async () => [...kept.values()].sort((a, b) => a.seq - b.seq),
    put: async (e) => void kept.set(e.seq, e),
    remove: async (s) => void kept.delete(s),
  };
}

/** A server that writes each id once, and a network that may lose the request or the answer. */
function fakeServer(lose: () => 'request' | 'answer' | null) {
  const written: string[] = [];
  const seen = new Set<string>();
  const send = async (e: Kept): Promise<Outcome> => {
    await Promise.resolve();
    const fate = lose();
    if (fate === 'request') return { kind: 'later', why: 'offline' };
    const { id } = e.body as { id: string };
    if (!seen.has(id)) {
      seen.add(id);
      written.push(id);
    }
    return fate === 'answer' ? { kind: 'later', why: 'server' } : { kind: 'sent', data: { id } };
  };
  return { written, send };
}

const id = (n: number) => `id-${n}`;

describe('an entry on which the server fails', () => {
  /** A server that fails on one id and takes the others. */
  const failing = (bad: string) => {
    const written: string[] = [];
    let broken = true;
    const mend = () => {
      broken = false;
    };
    const send = async (e: Kept): Promise<Outcome> => {
      await Promise.resolve();
      const { id = 'withdraw' } = e.body as { id?: string };
      if (broken && id === bad) return { kind: 'later', why: 'server', failed: true };
      written.push(id);
      return { kind: 'sent', data: {} };
    };
    return { written, send, mend };
  };

  const sendAll = async (server: { send: (e: Kept) => Promise<Outcome> }, entries: Entry[]) => {
    const box = memoryBox();
    for (const e of entries) await box.add(e);
    const outbox = createOutbox({ box, send: server.send, who: () => 'tomas' });
    for (let i = 0; i < 5; i++) await outbox.flush();
    return { outbox, left: await box.all() };
  };

  it('is set aside after three failures with its reason, and the others go on', async () => {
    const server = failing(id(1));
    const { left } = await sendAll(server, [entry(1), entry(2), entry(3)]);
    expect(server.written).toEqual([id(2), id(3)]);
    expect(left).toHaveLength(1);
    expect(left[0]!.refused?.title).toContain('set aside');
  });

  it('keeps back what hangs on it, in its order, until it is sent again', async () => {
    const server = failing(id(1));
    const mark = entry(2, { kind: 'photoMark', body: { id: id(2), photo: id(1) } });
    const struck = entry(3, { kind: 'withdraw', path: `/api/x/${id(1)}/withdraw`, body: { why: 'no' } });
    const { outbox, left } = await sendAll(server, [entry(1), mark, struck, entry(4)]);
    expect(server.written).toEqual([id(4)]);
    expect(left.map((e) => e.seq)).toEqual([1, 2, 3]);
    server.mend();
    await outbox.retry(left[0]!);
    expect(server.written).toEqual([id(4), id(1), id(2), 'withdraw']);
  });

  it('is not set aside for a network that is away', async () => {
    const away = { send: async (): Promise<Outcome> => ({ kind: 'later', why: 'server' }) };
    const { left } = await sendAll(away, [entry(1), entry(2)]);
    expect(left.map((e) => e.refused)).toEqual([undefined, undefined]);
  });
});

describe('the queue', () => {
  it('sends in order and once each, whatever the network loses: 500 random interleavings', async () => {
    for (let seed = 1; seed <= 500; seed++) {
      const random = scatter(seed);
      const box = memoryBox();
      const server = fakeServer(() => (random() < 0.25 ? 'request' : random() < 0.25 ? 'answer' : null));
      const timers: (() => void)[] = [];
      // A page that is closed leaves its queue behind; the next one goes on with it.
      const page = () =>
        createOutbox({ box, send: server.send, who: () => 'tomas', later: (work) => timers.push(work) });
      let open = page();
      const n = 3 + Math.floor(random() * 6);
      const works: Promise<unknown>[] = [];
      for (let i = 0; i < n; i++) {
        works.push(open.put(entry(i), undefined, 50));
        // Without waiting, the next is put while this one is on its way.
        if (random() < 0.5) await works.at(-1);
        if (random() < 0.3) open = page();
        if (random() < 0.3) works.push(open.flush());
      }
      await Promise.all(works);
      for (let round = 0; (await box.all()).length > 0 && round < 200; round++) {
        timers.splice(0).forEach((t) => t());
        await open.flush();
      }
      expect(await box.all(), `seed ${seed}`).toEqual([]);
      expect(server.written, `seed ${seed}`).toEqual(Array.from({ length: n }, (_, i) => id(i)));
    }
  }, 60_000);

  it('answers the form that waits with the refusal, and keeps nothing that the form still has', async () => {
    const box = memoryBox();
    const refusal = { status: 422, title: 'No such zone.', remedy: 'Touch the map.', body: {} };
    const out = createOutbox({ box, send: async () => ({ kind: 'refused', refusal }), who: () => 'tomas' });
    expect(await out.put(entry(1))).toEqual({ kind: 'refused', refusal });
    expect(await box.all()).toEqual([]);
  });

  it('loses no refusal that comes in the very moment in which the form is left', async () => {
    const refusal = { status: 422, title: 'No such zone.', remedy: 'Touch the map.', body: {} };
    // However the device's own writing falls before or after the moment in which nobody waits any more.
    for (const takes of [0, 1, 5, 20, 60]) {
      const slow = memoryBox();
      const pause = () => new Promise((go) => setTimeout(go, takes));
      const box: Box = {
        ...slow,
        all: async () => {
          await pause();
          return slow.all();
        },
        remove: async (seq) => {
          await pause();
          await slow.remove(seq);
        },
      };
      const out = createOutbox({ box, send: async () => ({ kind: 'refused', refusal }), who: () => 'tomas' });
      const outcome = await out.put(entry(1), undefined, 3 * takes);
      await out.flush();
      const left = await slow.all();
      // Told to the form, or kept with what is wrong: never neither.
      expect([outcome.kind, ...left.map((e) => e.refused?.title)]).toEqual(
        outcome.kind === 'refused' ? ['refused'] : ['later', refusal.title],
      );
    }
  });

  it('keeps a refused picture with what is wrong, and sends the others of the batch', async () => {
    const box = memoryBox();
    const sent: string[] = [];
    const send = async (e: Kept): Promise<Outcome> => {
      if (e.file?.name === 'bad.jpg')
        return {
          kind: 'refused',
          refusal: { status: 422, title: 'bad.jpg is damaged', remedy: '', body: {} },
        };
      sent.push(e.file!.name);
      return { kind: 'sent', data: {} };
    };
    const out = createOutbox({ box, send, who: () => 'tomas' });
    const picture = (n: number, name: string) =>
      entry(n, { kind: 'photo', file: { name, type: 'image/jpeg', size: 4 } });
    await Promise.all([
      out.put(picture(1, 'a.jpg')),
      out.put(picture(2, 'bad.jpg')),
      out.put(picture(3, 'c.jpg')),
    ]);
    expect(sent).toEqual(['a.jpg', 'c.jpg']);
    const [left] = await box.all();
    expect(left!.refused!.title).toContain('bad.jpg');
    await out.drop(left!.seq);
    expect(out.state().entries).toEqual([]);
  });

  it('holds pictures back while somebody wants it, the one on its way too, and lets records go', async () => {
    const sent: string[] = [];
    let began: () => void = () => undefined;
    const onItsWay = new Promise<void>((go) => (began = go));
    const seen: (number | undefined)[] = [];
    const out = createOutbox({
      box: memoryBox(),
      who: () => 'tomas',
      send: async (e, _, way): Promise<Outcome> => {
        if (e.file?.name === 'a.jpg' && !sent.includes('half of a.jpg')) {
          sent.push('half of a.jpg');
          way.moved(2);
          seen.push(out.state().moving?.sent);
          began();
          await new Promise((go) => way.stopped.addEventListener('abort', go));
          return { kind: 'later', why: 'server' };
        }
        sent.push(e.file?.name ?? e.words);
        return { kind: 'sent', data: {} };
      },
    });
    const picture = (n: number, name: string) =>
      entry(n, { kind: 'photo', file: { name, type: 'image/jpeg', size: 4 } });
    const first = out.put(picture(1, 'a.jpg'), undefined, 0);
    await onItsWay;
    expect(seen).toEqual([2]);
    await out.hold(true);
    await first;
    await out.put(picture(2, 'b.jpg'), undefined, 0);
    await out.put(entry(3));
    await out.flush();
    expect(sent).toEqual(['half of a.jpg', 'entry 3']);
    expect(out.state()).toMatchObject({ held: true, moving: null, why: null });
    expect(out.state().entries.map((e) => e.file?.name)).toEqual(['a.jpg', 'b.jpg']);
    await out.hold(false);
    expect(sent).toEqual(['half of a.jpg', 'entry 3', 'a.jpg', 'b.jpg']);
    expect(out.state().entries).toEqual([]);
  });

  it('with no patience answers once it is kept, and tells and sends it when that has been painted', async () => {
    const box = memoryBox();
    let paint = () => {};
    let sends = 0;
    const out = createOutbox({
      box,
      send: async () => (sends++, { kind: 'sent', data: {} }),
      who: () => 'tomas',
      painted: (work) => void (paint = work),
    });
    expect((await out.put(entry(1), undefined, 0)).kind).toBe('later');
    expect((await box.all()).map((e) => e.words)).toEqual(['entry 1']);
    expect([out.state().entries.length, sends]).toEqual([0, 0]);
    const told = out.told().then(() => out.state().entries.map((e) => e.words));
    paint();
    expect(await told).toEqual(['entry 1']);
    await out.flush();
    expect([out.state().entries.length, sends]).toEqual([0, 1]);
  });

  it('keeps a refused entry whose form is gone, and sends it again when asked', async () => {
    const box = memoryBox();
    let mended = false;
    const send = async (): Promise<Outcome> =>
      mended
        ? { kind: 'sent', data: {} }
        : { kind: 'refused', refusal: { status: 409, title: 'Changed.', remedy: '', body: {} } };
    await box.add(entry(1));
    const out = createOutbox({ box, send, who: () => 'tomas' });
    await out.flush();
    const [left] = out.state().entries;
    expect(left!.refused!.title).toBe('Changed.');
    mended = true;
    await out.retry(left!);
    expect(out.state().entries).toEqual([]);
  });

  it('sends in nobody else’s name, and waits while nobody is signed in', async () => {
    const box = memoryBox();
    const server = fakeServer(() => null);
    let who: string | null = null;
    const out = createOutbox({ box, send: server.send, who: () => who });
    await out.put(entry(1), undefined, 10);
    expect(out.state().why).toBe('signedOut');
    who = 'ines';
    await out.flush();
    expect(server.written).toEqual([]);
    who = 'tomas';
    await out.flush();
    expect(server.written).toEqual(['id-1']);
  });

  it('stops at a session that ended and goes on after signing in', async () => {
    const box = memoryBox();
    let session = false;
    const sent: number[] = [];
    const send = async (e: Kept): Promise<Outcome> =>
      session ? (sent.push(e.seq), { kind: 'sent', data: {} }) : { kind: 'later', why: 'signedOut' };
    const out = createOutbox({ box, send, who: () => 'tomas' });
    await out.put(entry(1), undefined, 10);
    await out.put(entry(2), undefined, 10);
    expect(out.state().why).toBe('signedOut');
    session = true;
    await out.flush();
    expect(sent).toEqual([1, 2]);
    expect(out.state().why).toBeNull();
  });

  it('tells a slow server from a lost one: the bench is not held up', async () => {
    const out = createOutbox({
      box: memoryBox(),
      send: () => new Promise(() => undefined),
      who: () => 'tomas',
    });
    expect(await out.put(entry(1), undefined, 20)).toEqual({ kind: 'later', why: 'server' });
    expect(out.state().entries).toHaveLength(1);
  });

  it('waits longer after each failure', async () => {
    const pauses: number[] = [];
    const out = createOutbox({
      box: memoryBox(),
      send: async () => ({ kind: 'later', why: 'offline' }),
      who: () => 'tomas',
      later: (_, ms) => pauses.push(ms),
    });
    await out.put(entry(1), undefined, 10);
    for (let i = 0; i < 5; i++) await out.flush();
    expect(pauses).toEqual([...pauses].sort((a, b) => a - b));
    expect(pauses.at(-1)).toBe(30_000);
  });

  it('keeps order and files in the browser’s database, over a page that was closed', async () => {
    const data = new Uint8Array([1, 2, 3]).buffer;
    await browserBox.add(entry(1));
    const seq = await browserBox.add(
      entry(2, { file: { name: 'a.jpg', type: 'image/jpeg', size: 3 } }),
      data,
    );
    const server = fakeServer(() => null);
    const out = createOutbox({ box: browserBox, send: server.send, who: () => 'tomas' });
    await out.reread();
    expect(out.state().entries.map((e) => e.words)).toEqual(['entry 1', 'entry 2']);
    // The queue is looked at without the files in it; each is read by itself.
    expect(JSON.stringify(out.state().entries[1])).not.toContain('data');
    expect(new Uint8Array((await out.bytes(seq))!)).toEqual(new Uint8Array([1, 2, 3]));
    await out.flush();
    expect(server.written).toEqual(['id-1', 'id-2']);
    expect(await browserBox.all()).toEqual([]);
    expect(await browserBox.bytes(seq)).toBeNull();
  });

  it('sends directly what the device cannot keep, and says so when the server does not take it either', async () => {
    const full: Box = {
      ...memoryBox(),
      add: async () => Promise.reject(new DOMException('', 'QuotaExceededError')),
    };
    let fate: 'request' | null = null;
    const server = fakeServer(() => fate);
    const sent: unknown[] = [];
    const open = createOutbox({
      box: full,
      send: server.send,
      who: () => 'tomas',
      onSent: (_, data) => sent.push(data),
    });
    expect(await open.put(entry(1))).toEqual({ kind: 'sent', data: { id: id(1) } });
    expect(open.state().full).toBe(true);
    expect(sent).toEqual([{ id: id(1) }]);
    fate = 'request';
    const lost = await open.put(entry(2));
    expect(lost.kind).toBe('unkept');
    expect(lost.kind === 'unkept' && lost.refusal.title).toContain('not saved');
    expect(server.written).toEqual([id(1)]);
  });

  it('tells a device that does not open its store, and sends directly', async () => {
    const broken: Box = {
      ...memoryBox(),
      add: async () => Promise.reject(new DOMException('', 'InvalidStateError')),
      all: async () => Promise.reject(new DOMException('', 'InvalidStateError')),
    };
    const server = fakeServer(() => null);
    const out = createOutbox({ box: broken, send: server.send, who: () => 'tomas' });
    await out.reread();
    expect(out.state().full).toBe(true);
    const bytes = new ArrayBuffer(3);
    const seen: (ArrayBuffer | null)[] = [];
    const picture = createOutbox({
      box: broken,
      send: async (e, file) => (seen.push(await file()), server.send(e)),
      who: () => 'tomas',
    });
    expect((await picture.put(entry(1), bytes)).kind).toBe('sent');
    expect(seen).toEqual([bytes]);
    await out.flush();
    expect(server.written).toEqual([id(1)]);
  });

  const picture = (n: number) =>
    entry(n, { kind: 'photo', body: { id: id(n) }, file: { name: `${n}.jpg`, type: 'image/jpeg', size: 4 } });

  it('sends records before pictures, and nothing before what it hangs on', async () => {
    const box = memoryBox();
    const server = fakeServer(() => null);
    const mark = entry(4, { kind: 'photoMark', body: { id: id(4), photo: id(1) } });
    for (const e of [picture(1), picture(2), entry(3), mark, entry(5)]) await box.add(e);
    await createOutbox({ box, send: server.send, who: () => 'tomas' }).flush();
    expect(server.written).toEqual([3, 5, 1, 4, 2].map(id));
  });

  it('goes on past what does not move, and sets it aside after three times', async () => {
    const box = memoryBox();
    const sent: string[] = [];
    let slow = true;
    const send = async (e: Kept): Promise<Outcome> => {
      if (slow && e.file?.name === '1.jpg') return { kind: 'later', why: 'server', stalled: true };
      sent.push((e.body as { id: string }).id);
      return { kind: 'sent', data: {} };
    };
    const mark = entry(4, { kind: 'photoMark', body: { id: id(4), photo: id(1) } });
    for (const e of [picture(1), picture(2), mark]) await box.add(e);
    const out = createOutbox({ box, send, who: () => 'tomas' });
    await out.flush();
    expect(sent).toEqual([id(2)]);
    expect(out.state().why).toBe('server');
    await out.flush();
    await out.flush();
    const [aside] = out.state().entries;
    expect(aside!.refused!.title).toContain('came to a stop 3 times');
    slow = false;
    await out.retry(aside!);
    expect(sent).toEqual([2, 1, 4].map(id));
  });

  it('keeps what the server holds for another person’s, until its writer is back', async () => {
    const box = memoryBox();
    let other = true;
    const server = fakeServer(() => null);
    const out = createOutbox({
      box,
      send: async (e) => (other ? { kind: 'later', why: 'another' } : server.send(e)),
      who: () => 'tomas',
      later: () => expect.unreachable('it waits for a person and not for a while'),
    });
    await out.put(entry(1), undefined, 10);
    expect(out.state().why).toBe('another');
    expect(out.state().entries.map((e) => e.refused)).toEqual([undefined]);
    other = false;
    await out.flush();
    expect(server.written).toEqual([id(1)]);
  });
});
