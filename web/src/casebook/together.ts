/**
 * Joins what is asked for in one moment into one question: of each asker the whole answer. `alone` asks by itself, for what would keep the
 * others waiting.
 */
export function together<Name extends string, Answer>(ask: (of: string, names: Name[]) => Promise<Answer>) {
  const open = new Map<string, { names: Set<Name>; answer: Promise<Answer> }>();
  return (of: string, name: Name, alone = false): Promise<Answer> => {
    if (alone) return ask(of, [name]);
    const joined = open.get(of);
    if (joined) {
      joined.names.add(name);
      return joined.answer;
    }
    const names = new Set([name]);
    const answer = new Promise<void>((resolve) => setTimeout(resolve)).then(() => {
      open.delete(of);
      return ask(of, [...names].sort());
    });
    open.set(of, { names, answer });
    return answer;
  };
}
