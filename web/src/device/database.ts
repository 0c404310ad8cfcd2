import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

interface Shelves extends DBSchema {
  outbox: { key: number; value: unknown };
  reads: { key: string; value: unknown };
}

let opened: Promise<IDBPDatabase<Shelves>> | null = null;

/** What this device keeps: what waits to be sent, and what was read. */
export const database = () =>
  (opened ??= openDB<Shelves>('vivid-sleuth', 1, {
    upgrade(db) {
      db.createObjectStore('outbox', { keyPath: 'seq', autoIncrement: true });
      db.createObjectStore('reads');
    },
    terminated: () => {
      opened = null;
    },
  }));

/** What was read from the server, for opening a case without a network. */
export const reads = {
  get: async (name: string) => (await database()).get('reads', name),
  put: async (name: string, value: unknown) => void (await (await database()).put('reads', value, name)),
  remove: async (name: string) => (await database()).delete('reads', name),
  clear: async () => (await database()).clear('reads'),
};
