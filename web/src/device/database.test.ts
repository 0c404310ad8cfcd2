import 'fake-indexeddb/auto';
import { openDB } from 'idb';
import { expect, it } from 'vitest';
import { database } from './database';

/** A device that has kept pictures since before an update sends them after it. */
it('takes over what an earlier version kept, each file out of its entry', async () => {
  const before = await openDB('vivid-sleuth', 1, {
    upgrade(db) {
      db.createObjectStore('outbox', { keyPath: 'seq', autoIncrement: true });
      db.createObjectStore('reads');
    },
  });
  await before.add('outbox', { words: 'a finding' });
  const data = new Uint8Array([7, 8, 9]).buffer;
  await before.add('outbox', { words: 'a picture', file: { name: 'a.jpg', type: 'image/jpeg', data } });
  before.close();
  const now = await database();
  expect(await now.getAll('outbox')).toEqual([
    { seq: 1, words: 'a finding' },
    { seq: 2, words: 'a picture', file: { name: 'a.jpg', type: 'image/jpeg', size: 3 } },
  ]);
  expect(new Uint8Array((await now.get('files', 2))!)).toEqual(new Uint8Array([7, 8, 9]));
});
