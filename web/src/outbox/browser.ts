import { asked, noteRevision } from '../api/client';
import { database } from '../device/database';
import type { Box, Kept, Outcome } from './outbox';

/** The queue in the browser's database: strictly in the order in which things were entered. */
export const browserBox: Box = {
  add: async (entry) => (await (await database()).add('outbox', entry)) as number,
  all: async () => (await (await database()).getAll('outbox')) as Kept[],
  put: async (entry) => void (await (await database()).put('outbox', entry)),
  remove: async (seq) => (await database()).delete('outbox', seq),
};

/** One tab sends at a time; the browser frees the lock of a tab that dies. */
export const alone = async (work: () => Promise<void>): Promise<void> => {
  if ('locks' in navigator) await navigator.locks.request('outbox', work);
  else await work();
};

/** A minute, and what the file takes on a bad line, 10 kB a second. */
const patience = (entry: Kept) => 60_000 + (entry.file ? entry.file.data.byteLength / 10 : 0);

/** Sends one entry and says what became of it. Only an answer of the server itself counts as refused. */
export async function send(entry: Kept): Promise<Outcome> {
  const headers: Record<string, string> = { 'X-Entered-At': entry.at };
  if (entry.numbering !== null) headers['X-Numbering'] = String(entry.numbering);
  if (asked.lengths) headers['X-Lengths'] = asked.lengths;
  let body: BodyInit;
  if (entry.file) {
    const form = new FormData();
    for (const [name, value] of Object.entries(entry.body as Record<string, string>)) form.set(name, value);
    form.set('file', new File([entry.file.data], entry.file.name, { type: entry.file.type }));
    body = form;
  } else {
    headers['Content-Type'] = 'application/json';
    body = JSON.stringify(entry.body);
  }
  try {
    const answer = await fetch(entry.path, {
      method: 'POST',
      headers,
      body,
      signal: AbortSignal.timeout(patience(entry)),
    });
    if (answer.ok) {
      const next = noteRevision(entry.path, answer);
      return { kind: 'sent', data: await answer.json(), next };
    }
    if (answer.status === 401) return { kind: 'later', why: 'signedOut' };
    // 502 to 504 come of a proxy or of a database that is away, 500 of this very entry.
    if (answer.status >= 500 || answer.status === 408 || answer.status === 429)
      return { kind: 'later', why: 'server', failed: answer.status === 500 };
    const told = (await answer.json().catch(() => ({}))) as Record<string, unknown>;
    return {
      kind: 'refused',
      refusal: {
        status: answer.status,
        title: typeof told.title === 'string' ? told.title : 'The server refused it.',
        remedy: typeof told.detail === 'string' ? told.detail : 'Enter it again.',
        body: told,
      },
    };
  } catch {
    // Whether the answer or the request was lost cannot be told; sending it again is safe.
    return { kind: 'later', why: navigator.onLine ? 'server' : 'offline' };
  }
}
