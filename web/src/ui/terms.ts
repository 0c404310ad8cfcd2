import { stemmer } from 'stemmer';

/** Words of the trade that mean the same; the first stands for all of them. Common practice, no source. */
const alike: readonly (readonly string[])[] = [
  ['cylinder', 'cyl', 'pot'],
  ['crankshaft', 'crank'],
  ['camshaft', 'cam'],
  ['rod', 'conrod', 'con-rod'],
  ['joint', 'gasket'],
  ['shell', 'slipper', 'insert'],
  ['seize', 'seized', 'siezed', 'seisure', 'seizure', 'nipped', 'nip'],
  ['wrist', 'gudgeon'],
  ['main', 'mains'],
  ['grey', 'gray'],
  ['colour', 'color'],
  ['babbitt', 'babbit', 'whitemetal'],
  ['oil', 'lube'],
  ['burn', 'burnt', 'burned'],
  ['break', 'broke', 'broken', 'snapped'],
  ['ignition', 'preignition'],
  ['water', 'hydrolock', 'hydrolocked', 'hydraulic'],
  ['revved', 'overspeed', 'overrevved', 'overspeeding'],
  ['struck', 'dropped'],
  ['worn', 'knackered', 'shot'],
  ['bent', 'misaligned', 'misalignment', 'tulipped'],
];

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
