import { t as tr } from '@lingui/core/macro';
import { ApiProblem, asked } from './client';

const noAnswer = {
  title: tr`The server does not answer.`,
  detail: tr`Check the connection and choose the file once more; nothing was written.`,
};

/** Sends a file as it lies on the disk, never held whole, and reads the answer. */
export async function sendFile<T>(address: string, file: File, signal?: AbortSignal): Promise<T> {
  const answer = await fetch(address, {
    method: 'POST',
    body: file,
    ...(signal && { signal }),
    headers: {
      'Content-Type': file.type || 'application/octet-stream',
      ...(asked.by && { 'X-Writer': encodeURIComponent(asked.by) }),
    },
  }).catch((e: unknown) => {
    throw signal?.aborted ? e : new ApiProblem(0, noAnswer);
  });
  const body = (await answer.json().catch(() => ({}))) as Record<string, unknown>;
  if (!answer.ok) throw new ApiProblem(answer.status, body);
  return body as T;
}
