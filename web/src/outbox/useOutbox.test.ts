import 'fake-indexeddb/auto';
import { hashKey } from '@tanstack/react-query';
import { afterEach, expect, it, vi } from 'vitest';
import type { EngineCase } from '../api/client';
import { keys } from '../api/keys';
import { reads } from '../device/database';
import { client } from '../device/queryClient';
import { enter, outbox, signedInAs } from './useOutbox';

vi.stubGlobal('navigator', {});

afterEach(() => vi.unstubAllGlobals());

it('what the server has taken stands in the case, and in what the device shows of it without a network', async () => {
  const record = keys.record('c1');
  const reading = { id: 'r1', place: 'K1', typed: '53.24' };
  client.setQueryData(record, { readings: [] } as unknown as EngineCase);
  vi.stubGlobal('fetch', async () => Response.json(reading));
  signedInAs('tomas');
  await enter('c1', {
    path: '/api/cases/c1/readings',
    kind: 'reading',
    body: reading,
    words: 'K1 53.24',
    place: 'K1',
  });
  await expect.poll(() => outbox.state().entries).toEqual([]);
  expect(client.getQueryData<EngineCase>(record)?.readings).toEqual([reading]);
  await expect
    .poll(
      async () =>
        (await reads.get(`tanstack-query-${hashKey(record)}`)) as { state: { data: EngineCase } } | undefined,
    )
    .toMatchObject({ state: { data: { readings: [reading] } } });
});
