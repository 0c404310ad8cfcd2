import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, unwrap, type ApiProblem } from '../api/client';
import { keys, useIsStudent, useMayWriteShop } from '../api/queries';
import { Addr, Trouble, Waiting } from '../ui/basics';
import { ClassBoard } from './ClassBoard';
import { ClassForm } from './ClassForm';
import { ClassHomework } from './ClassHomework';
import { ClassStudies } from './ClassStudies';

/** Classes that strip engines of one kind, each bench its own. */
export function Classes() {
  const { class: id } = useParams();
  const student = useIsStudent();
  return (
    <main className="mx-auto max-w-7xl space-y-6 px-4 py-6">
      {id === undefined ? <All /> : student ? <Mine key={id} id={id} /> : <ClassBoard key={id} id={id} />}
    </main>
  );
}

const useClasses = () => useQuery({ queryKey: keys.classes, queryFn: () => unwrap(api.GET('/api/classes')) });

function All() {
  const classes = useClasses();
  const mayWrite = useMayWriteShop();
  const [adding, setAdding] = useState(false);
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-3xl">{tr`Classes`}</h1>
          <p className="max-w-prose text-soft">
            {tr`Each bench has its own engine, its own case and its own mark before every tag, so that a neighbour’s cap is told at the scan. The teacher sees who waits, and signs at the bench.`}
          </p>
        </div>
        {mayWrite && (
          <button className="key" onClick={() => setAdding(!adding)}>
            {adding ? tr`Close` : tr`Begin a class`}
          </button>
        )}
      </div>
      {adding && <ClassForm of={null} done={() => setAdding(false)} />}
      {classes.isPending && <Waiting what={tr`the classes`} />}
      <Trouble problem={classes.error as ApiProblem | null} />
      {classes.data?.length === 0 && <p className="card p-5">{tr`No class yet.`}</p>}
      <ul className="card divide-y divide-line empty:hidden">
        {classes.data?.map((l) => (
          <li key={l.class.id}>
            <Link className="flex flex-wrap items-baseline gap-x-4 px-4 py-3" to={`/classes/${l.class.id}`}>
              <Addr code={l.class.mark} className="w-10 text-xl" />
              <b className="text-lg">{l.class.name}</b>
              <span className="text-soft">
                {l.benches} {plural(l.benches, { one: 'bench', other: 'benches' })}, {l.people}{' '}
                {plural(l.people, { one: 'student', other: 'students' })}
                {tr`, taught by`} {l.teachers.join(tr` and `)}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}

/** What a student sees of the class: his own bench, and what he is set. */
function Mine({ id }: { id: string }) {
  const seats = useQuery({ queryKey: keys.seats, queryFn: () => unwrap(api.GET('/api/seats')) });
  const seat = seats.data?.find((s) => s.classId === id);
  if (seats.error) return <Trouble problem={seats.error as unknown as ApiProblem} />;
  if (!seats.data) return <Waiting what={tr`your bench`} />;
  return (
    <>
      <h1 className="text-3xl">{seat?.className ?? tr`Your class`}</h1>
      {seat ? (
        <Link
          className="card flex flex-wrap items-center gap-x-6 gap-y-2 p-4"
          to={`/cases/${seat.caseId}/strip`}
        >
          <Addr code={seat.prefix} className="text-4xl" />
          <span>
            <b className="text-lg">{tr`Your engine`}</b>
            <span className="block text-soft">
              {seat.people.length > 1 ? tr`with ${seat.people.join(', ')}; ` : ''}
              <Trans>signed by </Trans>
              {seat.teachers.join(tr` or `)}
            </span>
          </span>
        </Link>
      ) : (
        <p className="card p-4">{tr`You are at no bench of this class.`}</p>
      )}
      <ClassHomework id={id} teaches={false} />
      <ClassStudies id={id} teaches={false} />
    </>
  );
}
