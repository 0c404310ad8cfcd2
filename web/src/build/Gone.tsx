import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { moment, Trouble } from '../ui/basics';
import { WhyForm } from '../ui/WhyForm';
import { stands, writerOf } from '../ui/words';
import type { Schemas } from '../api/client';

/** What somebody said is through, or left out: with who and when, and a way to take it back. */
export function Gone() {
  const { engineCase } = useCaseContext();
  const gone = engineCase.buildTasks
    .filter((t) => stands(t) && (t.mark === 'through' || t.mark === 'leftOut'))
    .sort((a, b) => b.at.localeCompare(a.at));
  if (gone.length === 0) return null;
  return (
    <details className="card p-4">
      <summary className="min-h-8 cursor-pointer text-lg font-bold">
        <Trans>
          Through or left out <span className="fig text-sm text-soft">{gone.length}</span>
        </Trans>
      </summary>
      <ul className="mt-2 divide-y divide-line">
        {gone.map((t) => (
          <Line key={t.id} task={t} />
        ))}
      </ul>
    </details>
  );
}

function Line({ task }: { task: Schemas['BuildTask'] }) {
  const mayWrite = useMayWrite();
  const [asks, setAsks] = useState(false);
  const back = useWrite(task.caseId, writes.buildTaskBack);
  return (
    <li className="py-2">
      <span className="flex flex-wrap items-center gap-x-3">
        <span className="least-40 flex-1">
          {task.mark === 'through' ? '✓' : '—'} <b>{task.name || task.of}</b>
          <span className="block text-sm text-soft">
            {task.mark === 'through' ? tr`through` : tr`left out`}, {writerOf(task)}, {moment(task.at)}
            {task.note && ` · ${task.note}`}
          </span>
        </span>
        {mayWrite && (
          <button className="key text-sm" onClick={() => setAsks(!asks)}>
            {tr`Take that back`}
          </button>
        )}
      </span>
      {asks && (
        <WhyForm
          press={tr`Take back`}
          send={(why) => back.mutateAsync({ id: task.id, version: task.version, why })}
        />
      )}
      <Trouble problem={back.error} />
    </li>
  );
}
