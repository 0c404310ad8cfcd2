import { draftsKept } from './keeps';

let owner = '';

/** Says whose drafts are shown: on a shared device nobody finds another's in the form. */
export const draftsBelongTo = (person: string) => {
  owner = person;
};

/** What stands in a form that was not sent yet, and the version of the record it was begun from. */
export interface Draft<T> {
  values: T;
  version: number;
}

/**
 * The draft of one form in the browser: a reload, a dead battery or a closed tab loses nothing. A field that the form did not have when it was
 * typed is as given; a number of before fields kept what was typed is shown as typed.
 */
export function draftOf<T extends object>(key: string, given: T, version: number) {
  const name = `draft/${owner}/${key}`;
  return {
    read(): Draft<T> | null {
      try {
        const kept = localStorage.getItem(name);
        const read = kept ? (JSON.parse(kept) as Draft<T> | T) : null;
        if (!read) return null;
        const draft: Draft<T> =
          'values' in read && 'version' in read ? (read as Draft<T>) : { values: read as T, version };
        return { ...draft, values: fitted(draft.values, given) };
      } catch {
        return null;
      }
    },
    /** A browser that keeps nothing is told of once, above all pages: what is typed still stands in the form. */
    write(draft: Draft<T>) {
      try {
        localStorage.setItem(name, JSON.stringify(draft));
        draftsKept(true);
      } catch {
        draftsKept(false);
      }
    },
    drop() {
      try {
        localStorage.removeItem(name);
      } catch {
        draftsKept(false);
      }
    },
  };
}

const fitted = <T extends object>(values: T, given: T) =>
  Object.fromEntries(
    Object.entries(given).map(([field, stands]) => {
      const kept = (values as Record<string, unknown>)[field];
      if (kept === undefined) return [field, stands];
      if (typeof stands === 'string' && (kept === null || typeof kept === 'number'))
        return [field, kept === null ? '' : String(kept)];
      return [field, kept];
    }),
  ) as T;
