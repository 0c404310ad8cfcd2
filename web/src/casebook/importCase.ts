import { api, ApiProblem, asked, unwrap, type EngineCase, type Schemas } from '../api/client';

const noAnswer = {
  title: 'The server does not answer.',
  detail: 'Check the connection and choose the bag once more; nothing was written.',
};

/**
 * A case file becomes a case. It is sent as it is read: a browser that took it apart and wrote it again might write it otherwise.
 * @param copy Any text: another one makes another case of the same file.
 */
export const importCase = (file: string, { copy, signal }: { copy?: string; signal?: AbortSignal } = {}) =>
  unwrap(
    api.POST('/api/cases/import', {
      params: { query: copy ? { copy } : {} },
      body: file as unknown as Schemas['CaseFile'],
      bodySerializer: (b) => b as unknown as string,
      headers: { 'Content-Type': 'application/json' },
      ...(signal ? { signal } : {}),
    }),
  );

/** A sealed bag becomes a case, with its pictures. It is sent as it lies on the disk and never held whole. */
export async function importBag(file: File, signal: AbortSignal): Promise<EngineCase> {
  const answer = await fetch('/api/cases/import-bag', {
    method: 'POST',
    body: file,
    signal,
    headers: {
      'Content-Type': 'application/zip',
      ...(asked.by ? { 'X-Writer': encodeURIComponent(asked.by) } : {}),
    },
  }).catch((e: unknown) => {
    throw signal.aborted ? e : new ApiProblem(0, noAnswer);
  });
  const body = (await answer.json().catch(() => ({}))) as Record<string, unknown>;
  if (!answer.ok) throw new ApiProblem(answer.status, body);
  return body as unknown as EngineCase;
}
