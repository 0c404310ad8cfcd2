import { t as tr } from '@lingui/core/macro';
import type { Outcome } from './outbox';

/** What an answer that is no success means for the entry. */
export async function judge(answer: Response): Promise<Outcome> {
  if (answer.status === 401) return { kind: 'later', why: 'signedOut' };
  if (answer.status === 412) return { kind: 'later', why: 'another' };
  // 502 to 504 come of a proxy or of a database that is away, 507 of a disk that is full, 500 of this very entry.
  if (answer.status >= 500 || answer.status === 408 || answer.status === 429)
    return { kind: 'later', why: 'server', failed: answer.status === 500 };
  const told = (await answer.json().catch(() => ({}))) as Record<string, unknown>;
  return {
    kind: 'refused',
    refusal: {
      status: answer.status,
      title: typeof told.title === 'string' ? told.title : tr`The server refused it.`,
      remedy: typeof told.detail === 'string' ? told.detail : tr`Enter it again.`,
      body: told,
    },
  };
}
