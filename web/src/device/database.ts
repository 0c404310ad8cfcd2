import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

interface Shelves extends DBSchema {
  outbox: { key: number; value: unknown };
  /** Bytes of the files of entries, under the number of the entry. */
  files: { key: number; value: ArrayBuffer };
  reads: { key: string; value: unknown };
}

let opened: Promise<IDBPDatabase<Shelves>> | null = null;

const open = () =>
  openDB<Shelves>('vivid-sleuth', 2, {
    async upgrade(db, before, _, transaction) {
      if (before < 1) {
        db.createObjectStore('outbox', { keyPath: 'seq', autoIncrement: true });
        db.createObjectStore('reads');
      }
      if (before < 2) {
        const files = db.createObjectStore('files');
        if (before < 1) return;
        // Files lay with their entries, and came into memory whenever the queue was looked at.
        for (
          let cursor = await transaction.objectStore('outbox').openCursor();
          cursor;
          cursor = await cursor.continue()
        ) {
          const entry = cursor.value as { file?: { name: string; type: string; data?: ArrayBuffer } };
          if (!entry.file?.data) continue;
          const { data, ...file } = entry.file;
          await files.put(data, cursor.key);
          await cursor.update({ ...entry, file: { ...file, size: data.byteLength } });
        }
      }
    },
    // Another tab holds the older form of it; that one lets go below.
    blocking: (_, __, event) => {
      (event.target as IDBDatabase).close();
      opened = null;
    },
    terminated: () => {
      opened = null;
    },
  });

/** What this device keeps: what waits to be sent, and what was read. One that could not be opened is tried again. */
export const database = () =>
  (opened ??= open().catch((e: unknown) => {
    opened = null;
    throw e;
  }));

/** What was read from the server, for opening a case without a network. */
export const reads = {
  get: async (name: string) => (await database()).get('reads', name),
  put: async (name: string, value: unknown) => void (await (await database()).put('reads', value, name)),
  remove: async (name: string) => (await database()).delete('reads', name),
  clear: async () => (await database()).clear('reads'),
};
