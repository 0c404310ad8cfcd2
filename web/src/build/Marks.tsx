import { t as tr } from '@lingui/core/macro';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import type { Schemas } from '../api/client';
import { doneAt, type Task } from './bars';
import { bodyOf } from './record';

/** One touch says that a task is begun, or through; what Strip, Gauge or Verdict records is through by the record. */
export function Marks({ task }: { task: Task }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const write = useWrite(engineCase.id, writes.buildTask);
  if (!mayWrite || doneAt(task)) return null;
  const mark = (to: Schemas['TaskMark']) => write.mutate({ ...bodyOf(engineCase, task), mark: to });
  return (
    <>
      {!task.byItself && !task.begun && (
        <button className="key text-sm" disabled={write.isPending} onClick={() => mark('begun')}>
          {tr`Begun`}
        </button>
      )}
      <button className="key text-sm" disabled={write.isPending} onClick={() => mark('through')}>
        {task.byItself ? tr`It is here` : tr`Through`}
      </button>
      <Trouble problem={write.error} />
    </>
  );
}
