import { api, unwrap, type Schemas } from '../api/client';

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
