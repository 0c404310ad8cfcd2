import { t as tr } from '@lingui/core/macro';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { keys } from '../api/keys';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { Bars } from './Bars';
import { Calendars } from './Calendars';
import { Gone } from './Gone';
import { Hangs, Headline } from './Headline';
import { NowList } from './NowList';
import { TaskForm } from './TaskForm';
import { Together } from './Together';

/** How long a plan is shown before it is asked for again: what can be done now is another as time goes by. */
const quarter = 15 * 60_000;

/** When it runs again, what can be done now, and what waits for what. */
export function Build() {
  const { engineCase } = useCaseContext();
  const plan = useRoom(engineCase.id, 'build');
  const mayWrite = useMayWrite();
  const [params, setParams] = useSearchParams();
  const [adding, setAdding] = useState(false);
  const client = useQueryClient();
  const id = engineCase.id;
  useEffect(() => {
    const again = () => void client.invalidateQueries({ queryKey: keys.room(id, 'build') });
    // One that the device kept may be of weeks ago.
    if (Date.now() - Date.parse(plan.at) > quarter) again();
    const timer = setInterval(again, quarter);
    return () => clearInterval(timer);
  }, [client, id, plan.at]);
  const open = params.get('task');
  const pick = (key: string | null) => {
    setAdding(false);
    setParams((p) => {
      const next = new URLSearchParams(p);
      if (key === null) next.delete('task');
      else next.set('task', key);
      return next;
    });
  };
  if (plan.tasks.length === 0)
    return (
      <p className="card max-w-2xl p-5">
        {tr`Nothing is left to do: the strip, the orders and the way back are through. What remains is the dossier.`}
      </p>
    );
  return (
    <div className="space-y-6">
      <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] lg:grid-rows-[auto_1fr]">
        <Headline plan={plan} />
        <div className="lg:col-start-2 lg:row-span-2 lg:row-start-1">
          <NowList plan={plan} pick={pick} />
        </div>
        <Hangs plan={plan} pick={pick} />
      </div>
      <Together plan={plan} pick={pick} />
      <section>
        <div className="mb-2 flex flex-wrap items-center gap-3">
          <h2 className="text-xl">{tr`What waits for what`}</h2>
          {mayWrite && (
            <button className="key" aria-pressed={adding} onClick={() => setAdding(!adding)}>
              {tr`Add a task or a wait`}
            </button>
          )}
        </div>
        {adding && <TaskForm plan={plan} task={null} done={() => setAdding(false)} />}
        <Bars plan={plan} open={open} pick={pick} />
      </section>
      <Gone />
      <Calendars />
    </div>
  );
}
