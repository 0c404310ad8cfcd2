import { stemmer } from 'stemmer';
import alike from '../../../knowledge/alike.json';

/** Words of the trade that mean the same; the first stands for all of them. The server searches by the same ones. */
const first = new Map(alike.flatMap((words) => words.map((w) => [w, words[0]!] as const)));

/** A word as the index has it: small, of its stem, and the one of several that mean the same. */
export const term = (word: string) => {
  const small = word.toLowerCase();
  return stemmer(first.get(small) ?? small);
};

/** The words of a text, without what stands between them. */
export const words = (text: string) => text.split(/[\s,.;:()/“”"’'‑–-]+/).filter(Boolean);

/** Whether every word that is looked for begins a word of one of the names, in whatever form the trade has it. */
export const named = (names: readonly string[], search: string) => {
  const terms = names.flatMap(words).map(term);
  return words(search).every((w) =>
    terms.some((t) => t.startsWith(term(w)) || t.startsWith(w.toLowerCase())),
  );
};
