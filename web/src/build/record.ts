import type { EngineCase, Schemas } from '../api/client';
import type { Task } from './bars';

type Body = Omit<Schemas['BuildTaskEntry'], 'id'> & { standing: string | null };

/** What is recorded of a task, as it is written again; of one that is as it arises, nothing but its key. */
export function bodyOf(engineCase: EngineCase, task: Task | null): Body {
  const record = engineCase.buildTasks.find((r) => r.id === task?.record);
  if (record)
    return {
      standing: record.id,
      version: record.version,
      of: record.of,
      kind: record.kind,
      name: record.name,
      least: record.least,
      likely: record.likely,
      most: record.most,
      hands: record.hands,
      tools: record.tools,
      after: record.after,
      holds: record.holds,
      notBefore: record.notBefore,
      expected: record.expected,
      byItself: record.byItself,
      dry: record.dry,
      warmerThan: record.warmerThan,
      mark: record.mark,
      note: record.note,
    };
  return {
    standing: null,
    version: 0,
    of: task?.key ?? '',
    kind: task?.kind ?? 'own',
    // What it was called then, for when it is in no plan any more.
    name: task?.name ?? '',
    least: null,
    likely: null,
    most: null,
    hands: null,
    tools: [],
    after: [],
    holds: [],
    notBefore: null,
    expected: null,
    byItself: false,
    dry: false,
    warmerThan: null,
    mark: 'open',
    note: '',
  };
}
