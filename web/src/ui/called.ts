import type { Schemas } from '../api/client';

/** What a word is called here by which records know a tick, a tool or a level of measuring; the word itself where it is the shop's own. */
export const called =
  (knowledge: Pick<Schemas['KnowledgeView'], 'called'>) =>
  (key: string): string =>
    knowledge.called[key] ?? key;
