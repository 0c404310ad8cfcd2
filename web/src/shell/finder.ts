import MiniSearch from 'minisearch';
import { term, words } from '../ui/terms';

/** Something that can be gone to, or done. */
export interface Goal {
  id: string;
  /** What kind of thing it is, as one says it. */
  kind: string;
  name: string;
  /** The trade's other names for it. */
  also?: readonly string[];
  /** Address within the program; or what it does. */
  to: string | (() => void);
  /** Code of a part, shown beside its name. */
  code?: string;
}

/** An index over what can be gone to. Stems, the trade's other words, beginnings of words and slips of the pen are found. */
export class Finder {
  readonly #goals: ReadonlyMap<string, Goal>;
  readonly #index: MiniSearch;

  constructor(goals: readonly Goal[]) {
    this.#goals = new Map(goals.map((g) => [g.id, g]));
    this.#index = new MiniSearch({
      fields: ['name', 'also', 'code'],
      tokenize: words,
      processTerm: term,
      searchOptions: {
        tokenize: words,
        processTerm: term,
        prefix: true,
        fuzzy: (t) => (t.length > 7 ? 0.25 : t.length > 3 ? 0.2 : 0),
        boost: { code: 6, name: 3 },
        combineWith: 'AND',
      },
    });
    this.#index.addAll(
      goals.map((g) => ({ id: g.id, name: g.name, also: (g.also ?? []).join(' / '), code: g.code ?? '' })),
    );
  }

  /**
   * What a text may mean, the likeliest first.
   * @param used How often this person went to a goal, by its id.
   */
  find(text: string, used: Readonly<Record<string, number>> = {}, most = 12): Goal[] {
    if (!text.trim()) return [];
    const hits = this.#index.search(text);
    const found = (hits.length > 0 ? hits : this.#index.search(text, { combineWith: 'OR' })).map((hit) => ({
      goal: this.#goals.get(hit.id as string)!,
      score: hit.score * (1 + Math.log1p(used[hit.id as string] ?? 0)),
    }));
    return found
      .sort((a, b) => b.score - a.score)
      .slice(0, most)
      .map((f) => f.goal);
  }
}
