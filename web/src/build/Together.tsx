import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import type { Plan } from './bars';
import { standsMarks, standsWords } from './SetIn';

const order = ['open', 'fingerTight', 'partTight', 'tight', 'checked'] as const;

/**
 * For whoever comes back after weeks: which joints are open, finger tight, part tight and tight, what is covered, and what of the new fasteners lies
 * about. Nothing while the way back has not begun.
 */
export function Together({ plan, pick }: { plan: Plan; pick: (key: string) => void }) {
  const [all, setAll] = useState(false);
  const open = new Set(plan.tasks.map((t) => t.key));
  const { joints } = plan;
  const begun = joints.some((j) => j.pass > 0 || !open.has(j.task)) || plan.covers.length > 0;
  if (!begun) return null;
  // Some are in again and some are not: forgotten, or lost.
  const partly = joints.filter((j) => j.out > 0 && j.out < j.expected);
  const loose = joints.filter((j) => j.stands === 'fingerTight' || j.stands === 'partTight');
  return (
    <section aria-label={tr`How far it is together`}>
      <h2 className="text-xl">{tr`How far it is together`}</h2>
      <dl className="mt-1 flex flex-wrap gap-x-8 gap-y-2">
        {order.map((s) => {
          const of = joints.filter((j) => j.stands === s);
          return of.length === 0 ? null : (
            <div key={s}>
              <dt className="label">
                {standsMarks[s]} {standsWords[s]}
              </dt>
              <dd
                className={`fig text-3xl font-bold ${s === 'open' ? 'text-lead' : s === 'fingerTight' || s === 'partTight' ? 'text-brass' : ''}`}
              >
                {of.length}
                <span className="text-base font-normal text-soft">
                  {' '}
                  {plural(of.length, { one: 'joint', other: 'joints' })}
                </span>
              </dd>
            </div>
          );
        })}
      </dl>
      {partly.length > 0 && (
        <p className="mt-2">
          <b className="text-lead">{tr`Left over:`}</b>{' '}
          {partly.map((j, i) => (
            <span key={`${j.task}/${j.set}`}>
              {i > 0 && '; '}
              <button className="underline underline-offset-4" onClick={() => pick(j.task)}>
                {j.name}
              </button>
              <Trans>
                , <b className="fig">{j.out}</b> of {j.expected} still out
              </Trans>
            </span>
          ))}
        </p>
      )}
      {loose.length > 0 && (
        <p className="mt-2">
          <b className="text-brass">{tr`Not tight yet:`}</b>{' '}
          {loose.map((j, i) => (
            <span key={`${j.task}/${j.set}`}>
              {i > 0 && '; '}
              <button className="underline underline-offset-4" onClick={() => pick(j.task)}>
                {j.name}
              </button>{' '}
              {j.stands === 'partTight' && tr`(pass ${j.pass} of ${j.passes})`}
            </span>
          ))}
        </p>
      )}
      {plan.covers.length > 0 && (
        <p className="mt-2 rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
          <b>{tr`Still covered:`}</b> {plan.covers.map((c) => `${c.text} (${c.by})`).join('; ')}
        </p>
      )}
      {plan.leftNew.length > 0 && (
        <p className="mt-2 rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
          <b>{tr`New, and in no hole:`}</b>{' '}
          {plan.leftNew.map((l) => tr`${l.left} of ${l.came} ${l.what}`).join('; ')}
        </p>
      )}
      <button className="key mt-2 text-sm" aria-expanded={all} onClick={() => setAll(!all)}>
        {all ? tr`Fewer` : tr`Joint by joint`}
      </button>
      {all && (
        <table className="mt-2 w-full text-sm">
          <tbody>
            {joints.map((j) => (
              <tr key={`${j.task}/${j.set}`} className="border-t border-line align-top">
                <td className="py-1 pr-3">
                  {open.has(j.task) ? (
                    <button
                      className="min-h-8 text-left font-semibold underline underline-offset-4"
                      onClick={() => pick(j.task)}
                    >
                      {j.name}
                    </button>
                  ) : (
                    j.name
                  )}
                  <span className="block text-soft">{j.step}</span>
                </td>
                <td className="fig py-1 pr-3 whitespace-nowrap">
                  <Trans>
                    {j.expected - j.out} of {j.expected} in
                  </Trans>
                </td>
                <td className="py-1 whitespace-nowrap">
                  {standsMarks[j.stands]} {standsWords[j.stands]}
                  {j.stands === 'partTight' && ` ${j.pass}/${j.passes}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
