import 'fake-indexeddb/auto';
import { hashKey } from '@tanstack/react-query';
import { afterEach, expect, it, vi } from 'vitest';
import type { EngineCase } from '../api/client';
import { keys } from '../api/keys';
import { reads } from '../device/database';
import { client } from '../device/queryClient';
import { earlierSent, enter, outbox, signedInAs } from './useOutbox';

vi.stubGlobal('navigator', {});

afterEach(() => vi.unstubAllGlobals());

it('what the server has taken stands in the case, and in what the device shows of it without a network', async () => {
  const record = keys.record('c1');
  const reading = { id: 'r1', place: 'K1', typed: '53.24' };
  const figure = { place: 'K1', characteristic: 'crankpin-diameter', value: 53.24 };
  client.setQueryData(record, { readings: [] } as unknown as EngineCase);
  const other = { ...figure, place: 'K2' };
  client.setQueryData(keys.room('c1', 'gauge'), { figures: [{ ...figure, value: 1 }, other] });
  vi.stubGlobal('fetch', async () =>
    Response.json({ reading: { ...reading, characteristic: figure.characteristic }, figures: [figure] }),
  );
  signedInAs('tomas');
  await enter('c1', {
    path: '/api/cases/c1/readings',
    kind: 'reading',
    body: reading,
    words: 'K1 53.24',
    place: 'K1',
  });
  await expect.poll(() => outbox.state().entries).toEqual([]);
  expect(client.getQueryData<EngineCase>(record)?.readings).toMatchObject([reading]);
  // How the place stands came with it, where the one before it stood, which is gone.
  expect(client.getQueryData(keys.room('c1', 'gauge'))).toEqual({ figures: [figure, other] });
  await expect
    .poll(
      async () =>
        (await reads.get(`tanstack-query-${hashKey(record)}`)) as { state: { data: EngineCase } } | undefined,
    )
    .toMatchObject({ state: { data: { readings: [reading] } } });
});

it('a write that hangs on a tick waits until the tick is there, and not for a picture', async () => {
  const tick = { id: 't1', step: 'record', kind: 'ticked', item: 0 };
  vi.stubGlobal('navigator', {});
  let answer = () => {};
  const slow = new Promise<void>((resolve) => (answer = resolve));
  vi.stubGlobal('fetch', async () => {
    await slow;
    return Response.json(tick);
  });
  client.setQueryData(keys.record('c2'), { stepMarks: [] } as unknown as EngineCase);
  signedInAs('tomas');
  void enter('c2', {
    path: '/api/cases/c2/step-marks',
    kind: 'stepMark',
    body: tick,
    words: 'Ticked',
    place: '',
  });
  let through = false;
  // At once, before the device has even kept it.
  const done = earlierSent('c2').then(() => (through = true));
  await new Promise((r) => setTimeout(r, 50));
  expect(through).toBe(false);
  answer();
  await done;
  expect(outbox.state().entries).toEqual([]);
  await earlierSent('c2');
});
