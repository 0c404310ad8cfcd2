import type { EngineCase, Schemas } from '../api/client';
import { taskFields } from '../outbox/writes';
import type { Task } from './bars';

type Body = Omit<Schemas['BuildTaskEntry'], 'id'> & { standing: string | null };

/** What is recorded of a task, as it is written again; of one that is as it arises, nothing but its key. */
export function bodyOf(engineCase: EngineCase, task: Task | null): Body {
  const record = engineCase.buildTasks.find((r) => r.id === task?.record);
  if (record) return { ...taskFields(record), standing: record.id, version: record.version };
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
