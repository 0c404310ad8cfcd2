import { t as tr } from '@lingui/core/macro';
import { useState } from 'react';
import { Link } from 'react-router';
import { useCaseContext } from '../casebook/context';
import { called } from '../ui/called';
import { Choice } from '../ui/basics';
import { doneAt, lengthWords, nowList, type Plan, type Task } from './bars';
import { Marks } from './Marks';

const times = [
  ['20', tr`20 min`],
  ['40', tr`40 min`],
  ['120', '2 h'],
  ['480', tr`the day`],
] as const;

/** As many are shown before somebody asks for more. */
const first = 6;

/** What can be done now, in the time and with the hands there are; what the date hangs on first. */
export function NowList({ plan, pick }: { plan: Plan; pick: (key: string) => void }) {
  const [minutes, setMinutes] = useState<(typeof times)[number][0]>('120');
  const [hands, setHands] = useState<'1' | '2'>(plan.hands > 1 ? '2' : '1');
  const [all, setAll] = useState(false);
  const { fits, longer } = nowList(plan.tasks, Number(minutes), Number(hands));
  const held = plan.tasks.filter((t) => t.held);
  return (
    <section aria-label={tr`Now`}>
      <h2 className="text-xl">{tr`Now`}</h2>
      <div className="mt-1 flex flex-wrap gap-x-6">
        <Choice label={tr`In`} value={minutes} options={times} onChange={setMinutes} />
        <Choice
          label={tr`With`}
          value={hands}
          options={[
            ['1', tr`one`],
            ['2', tr`two`],
          ]}
          onChange={setHands}
        />
      </div>
      {fits.length === 0 && (
        <p className="mt-2">
          {longer.length > 0
            ? tr`Nothing is through in that time with those hands. It can be begun:`
            : tr`Nothing can be done now: all that is left waits.`}
        </p>
      )}
      <ul className="mt-2 divide-y divide-line">
        {(fits.length > 0 ? fits : longer).slice(0, all ? undefined : first).map((t) => (
          <Ready key={t.key} task={t} pick={pick} />
        ))}
      </ul>
      {(fits.length > 0 ? fits : longer).length > first && (
        <button className="key mt-2 text-sm" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? tr`Fewer` : tr`All ${(fits.length > 0 ? fits : longer).length}`}
        </button>
      )}
      {held.length > 0 && (
        <ul className="mt-3 space-y-1 text-sm">
          {held.map((t) => (
            <li key={t.key}>
              <span className="text-brass">‖</span> {t.name}: {t.held}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Ready({ task, pick }: { task: Task; pick: (key: string) => void }) {
  const { engineCase, knowledge } = useCaseContext();
  const at = doneAt(task);
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 py-2">
      <button className="least-40 min-h-11 flex-1 text-left" onClick={() => pick(task.key)}>
        <b>{task.name}</b>
        <span className="block text-sm text-soft">
          {[
            tr`about ${lengthWords(task.likely, task.byItself)}`,
            task.hands > 1 && tr`two pairs of hands`,
            task.tools[0] && called(knowledge)(task.tools[0]),
            task.hangs > 0.5 && tr`the date hangs on it`,
            task.begun && 'begun',
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </button>
      {at ? (
        <Link className="key text-sm" to={`/cases/${engineCase.id}/${at}`}>
          {tr`Go there`}
        </Link>
      ) : task.way ? (
        <button className="key key-go text-sm" onClick={() => pick(task.key)}>
          {task.way.stops.length > 0 ? tr`Go on with it` : tr`Open it`}
        </button>
      ) : (
        <Marks task={task} />
      )}
    </li>
  );
}
