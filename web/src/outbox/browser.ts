import { asked, noteRevision } from '../api/client';
import { database } from '../device/database';
import { judge } from './answer';
import { lostFile, type Box, type Kept, type Outcome, type Way } from './outbox';
import { sendPieces } from './pieces';

/** The queue in the browser's database: strictly in the order in which things were entered. */
export const browserBox: Box = {
  add: async (entry, bytes) => {
    const both = (await database()).transaction(['outbox', 'files'], 'readwrite');
    // Both or neither: an entry whose file is not there would be told as kept.
    try {
      const seq = (await both.objectStore('outbox').add(entry)) as number;
      if (bytes) await both.objectStore('files').put(bytes, seq);
      await both.done;
      return seq;
    } catch (e) {
      both.done.catch(() => undefined);
      throw e;
    }
  },
  all: async () => (await (await database()).getAll('outbox')) as Kept[],
  put: async (entry) => void (await (await database()).put('outbox', entry)),
  remove: async (seq) => {
    const both = (await database()).transaction(['outbox', 'files'], 'readwrite');
    await Promise.all([
      both.objectStore('outbox').delete(seq),
      both.objectStore('files').delete(seq),
      both.done,
    ]);
  },
  bytes: async (seq) => (await (await database()).get('files', seq)) ?? null,
};

/** One tab sends at a time; the browser frees the lock of a tab that dies. */
export const alone = async (work: () => Promise<void>): Promise<void> => {
  if ('locks' in navigator) await navigator.locks.request('outbox', work);
  else await work();
};

/** So long a request may go without an answer; a large picture is many requests. */
const patience = 60_000;

/** What every request of an entry says: who entered it, when, and what the screen knew. */
function headersOf(entry: Kept): Record<string, string> {
  const headers: Record<string, string> = {
    'X-Entered-At': entry.at,
    'X-Writer': encodeURIComponent(entry.by),
  };
  if (entry.numbering !== null) headers['X-Numbering'] = String(entry.numbering);
  if (asked.lengths) headers['X-Lengths'] = asked.lengths;
  return headers;
}

/** Sends one entry and says what became of it. Only an answer of the server itself counts as refused. */
export async function send(
  entry: Kept,
  bytes: () => Promise<ArrayBuffer | null>,
  way: Way,
): Promise<Outcome> {
  const headers = headersOf(entry);
  try {
    let body: BodyInit;
    if (entry.file) {
      const data = await bytes().catch(() => null);
      if (!data) return lostFile;
      const form = new FormData();
      for (const [name, value] of Object.entries(entry.body as Record<string, string | number | null>))
        if (value !== null) form.set(name, String(value));
      const missing = await sendPieces(entry, data, headers, way);
      if (missing) return missing;
      form.set('name', entry.file.name);
      form.set('bytes', String(data.byteLength));
      body = form;
    } else {
      headers['Content-Type'] = 'application/json';
      body = JSON.stringify(entry.body);
    }
    const answer = await fetch(entry.path, {
      method: 'POST',
      headers,
      body,
      signal: AbortSignal.timeout(patience),
    });
    // Pieces that were here are here no more: the next try begins with what is.
    if (entry.file && answer.status === 409) return { kind: 'later', why: 'server', failed: true };
    if (!answer.ok) return await judge(answer);
    const next = noteRevision(entry.path, answer);
    return { kind: 'sent', data: await answer.json(), next };
  } catch (e) {
    // Whether the answer or the request was lost cannot be told; sending it again is safe.
    const stalled = e instanceof DOMException && e.name === 'TimeoutError' && navigator.onLine;
    return { kind: 'later', why: navigator.onLine ? 'server' : 'offline', ...(stalled ? { stalled } : {}) };
  }
}
