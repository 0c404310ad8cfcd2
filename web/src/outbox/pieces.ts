import { judge } from './answer';
import type { Kept, Outcome, Way } from './outbox';

const first = 128 * 1024;
const least = 16 * 1024;
const most = 768 * 1024;

/** So long a piece may take; on a worse line the next try is of a smaller one. */
const patience = 30_000;

/** A piece that came quicker than this is followed by a larger one. */
const quick = 2_000;

/** What the last try found the line to carry. */
let size = first;

/**
 * Sends a file in pieces, from where the last try ended: over a bad line each piece that has come stays. It gives up when a piece does not move,
 * however large the file is.
 * @returns Null when all of it is there, else what became of the entry.
 */
export async function sendPieces(
  entry: Kept,
  data: ArrayBuffer,
  headers: Record<string, string>,
  way?: Way,
): Promise<Outcome | null> {
  const id = (entry.body as { id: string }).id;
  const address = `${entry.path}/${id}/pieces`;
  let at = 0;
  for (;;) {
    const piece = data.slice(at, at + size);
    const began = Date.now();
    let answer: Response;
    try {
      answer = await fetch(`${address}?offset=${at}`, {
        method: 'PUT',
        headers: { ...headers, 'Content-Type': 'application/octet-stream' },
        body: piece,
        signal: way
          ? AbortSignal.any([way.stopped, AbortSignal.timeout(patience)])
          : AbortSignal.timeout(patience),
      });
    } catch (e) {
      if (way?.stopped.aborted) return { kind: 'later', why: 'server' };
      size = Math.max(least, size / 2);
      throw e;
    }
    // 409 tells how much is there already: sent before, or by another tab.
    if (!answer.ok && answer.status !== 409) return judge(answer);
    const { received } = (await answer.json()) as { received: number };
    if (received >= data.byteLength) return null;
    if (!answer.ok && received === at) return { kind: 'later', why: 'server', failed: true };
    at = received;
    way?.moved(at);
    if (Date.now() - began < quick) size = Math.min(most, size * 2);
  }
}
