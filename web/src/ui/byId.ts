const made = new WeakMap<readonly { id: string }[], Map<string, { id: string }>>();

/** What is looked up by its id, of a list that is never changed in place. */
export function byId<T extends { id: string }>(list: readonly T[]): ReadonlyMap<string, T> {
  let map = made.get(list);
  if (!map) made.set(list, (map = new Map(list.map((e) => [e.id, e]))));
  return map as unknown as ReadonlyMap<string, T>;
}
