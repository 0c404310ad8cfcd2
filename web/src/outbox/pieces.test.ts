import { afterEach, expect, it, vi } from 'vitest';
import { send } from './browser';
import type { Kept } from './outbox';
import { sendPieces } from './pieces';

afterEach(() => vi.unstubAllGlobals());

const entry = (id: string) => ({ path: '/api/cases/c/photos', body: { id }, seq: 1 }) as unknown as Kept;

/** A server that keeps what has come, over a line that loses requests and answers. */
function line(fate: () => 'request' | 'answer' | null) {
  let here = new Uint8Array();
  const sizes: number[] = [];
  const fetch = async (url: string, init: { body: ArrayBuffer }) => {
    const lost = fate();
    if (lost === 'request') throw new TypeError('lost');
    const piece = new Uint8Array(init.body);
    sizes.push(piece.length);
    const offset = Number(new URL(url, 'http://x').searchParams.get('offset'));
    const fits = offset === here.length;
    if (fits) here = Buffer.concat([here, piece]);
    if (lost === 'answer') throw new TypeError('lost');
    return Response.json({ received: here.length }, { status: fits ? 200 : 409 });
  };
  vi.stubGlobal('fetch', fetch);
  return { here: () => here, sizes };
}

const file = (bytes: number) => Uint8Array.from({ length: bytes }, (_, i) => (i * 31) % 251);

it('brings a file over in pieces that grow, whole and in order', async () => {
  const server = line(() => null);
  const data = file(1_500_000);
  expect(await sendPieces(entry('p'), data.buffer, {})).toBeNull();
  expect(Buffer.from(server.here()).equals(data)).toBe(true);
  expect(Math.max(...server.sizes)).toBeLessThanOrEqual(768 * 1024);
  expect(server.sizes.length).toBeGreaterThan(2);
});

it('goes on where the last try ended, whatever the line loses', async () => {
  let n = 0;
  const server = line(() => (++n % 3 === 1 ? 'request' : n % 5 === 0 ? 'answer' : null));
  const data = file(900_000);
  let tries = 0;
  for (; tries < 200; tries++)
    if ((await sendPieces(entry('q'), data.buffer, {}).catch(() => 'lost')) === null) break;
  expect(Buffer.from(server.here()).equals(data)).toBe(true);
  expect(tries).toBeGreaterThan(0);
  // What was there was not sent again each time.
  expect(server.sizes.reduce((a, b) => a + b, 0)).toBeLessThan(2 * data.length);
});

it('says what the server says of a piece that it does not take', async () => {
  vi.stubGlobal('fetch', async () =>
    Response.json({ title: 'Too large.', detail: 'Smaller.' }, { status: 422 }),
  );
  expect(await sendPieces(entry('r'), file(10).buffer, {})).toMatchObject({
    kind: 'refused',
    refusal: { title: 'Too large.' },
  });
  vi.stubGlobal('fetch', async () => new Response(null, { status: 412 }));
  expect(await sendPieces(entry('r'), file(10).buffer, {})).toEqual({ kind: 'later', why: 'another' });
});

it('begins again where pieces that had come are gone when the picture is to be made of them', async () => {
  const server = line(() => null);
  const pieces = fetch;
  vi.stubGlobal('fetch', (url: string, init: RequestInit) =>
    url.includes('/pieces')
      ? pieces(url, init)
      : Promise.resolve(Response.json({ title: 'Not all has come.' }, { status: 409 })),
  );
  const photo = {
    ...entry('p'),
    file: { name: 'a.jpg', type: 'image/jpeg', size: 9 },
    by: 'tomas',
    at: '2026-11-26T08:00:00Z',
    numbering: 0,
  } as Kept;
  const told: number[] = [];
  const way = { stopped: new AbortController().signal, moved: (n: number) => void told.push(n) };
  expect(await send(photo, () => Promise.resolve(file(9).buffer), way)).toEqual({
    kind: 'later',
    why: 'server',
    failed: true,
  });
  expect(server.here()).toHaveLength(9);
  // Held back: what has come stays there, and it counts as no failure.
  vi.stubGlobal('fetch', (_: string, init: RequestInit) =>
    init.signal?.aborted
      ? Promise.reject(init.signal.reason as Error)
      : Promise.reject(new TypeError('line')),
  );
  const held = { ...way, stopped: AbortSignal.abort() };
  expect(await send(photo, () => Promise.resolve(file(9).buffer), held)).toEqual({
    kind: 'later',
    why: 'server',
  });
});
