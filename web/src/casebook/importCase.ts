import { api, unwrap, type EngineCase, type Schemas } from '../api/client';
import { sendFile } from '../api/sendFile';

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

/** A sealed bag becomes a case, with its pictures. */
export const importBag = (file: File, signal: AbortSignal) =>
  sendFile<EngineCase>('/api/cases/import-bag', file, signal);
