import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useIsStudent, useMayWriteShop, useMe } from '../api/queries';
import { Addr, Trouble, Waiting } from '../ui/basics';
import { EntryForm, FigureField, needed, numberNeeded, TextField, useEntryForm } from '../ui/form';
import { useWriteId } from '../ui/useWriteId';
import { ClassBoard } from './ClassBoard';
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

export const useClasses = () =>
  useQuery({ queryKey: keys.classes, queryFn: () => unwrap(api.GET('/api/classes')) });

export const useClassPeople = (enabled = true) =>
  useQuery({
    queryKey: [...keys.classes, 'people'],
    queryFn: () => unwrap(api.GET('/api/classes/people')),
    enabled,
  });

function All() {
  const classes = useClasses();
  const mayWrite = useMayWriteShop();
  const [adding, setAdding] = useState(false);
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-3xl">Classes</h1>
          <p className="max-w-prose text-soft">
            Each bench has its own engine, its own case and its own mark before every tag, so that a
            neighbour’s cap is told at the scan. The teacher sees who waits, and signs at the bench.
          </p>
        </div>
        {mayWrite && (
          <button className="key" onClick={() => setAdding(!adding)}>
            {adding ? 'Close' : 'Begin a class'}
          </button>
        )}
      </div>
      {adding && <ClassForm of={null} done={() => setAdding(false)} />}
      {classes.isPending && <Waiting what="the classes" />}
      <Trouble problem={classes.error as ApiProblem | null} />
      {classes.data?.length === 0 && <p className="card p-5">No class yet.</p>}
      <ul className="card divide-y divide-line empty:hidden">
        {classes.data?.map((l) => (
          <li key={l.class.id}>
            <Link className="flex flex-wrap items-baseline gap-x-4 px-4 py-3" to={`/classes/${l.class.id}`}>
              <Addr code={l.class.mark} className="w-10 text-xl" />
              <b className="text-lg">{l.class.name}</b>
              <span className="text-soft">
                {l.benches} {l.benches === 1 ? 'bench' : 'benches'}, {l.people}{' '}
                {l.people === 1 ? 'student' : 'students'}, taught by {l.teachers.join(' and ')}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}

const schema = z.object({
  name: needed('Call it as the school does.'),
  mark: needed('One or two letters that stand before the number of a bench.'),
  stuckAfter: numberNeeded({ min: 1, max: 600, whole: true }),
});

/** A class: what it is called, its mark, who teaches it, and when it worries about a bench. */
export function ClassForm({
  of,
  sections = [],
  done,
}: {
  of: Schemas['SchoolClass'] | null;
  sections?: readonly Schemas['BoardSection'][];
  done: () => void;
}) {
  const client = useQueryClient();
  const people = useClassPeople();
  const me = useMe().data;
  const id = useWriteId();
  const { form, settle } = useEntryForm(
    schema,
    { name: of?.name ?? '', mark: of?.mark ?? '', stuckAfter: String(of?.stuckAfter ?? 20) },
    { draft: `class/${of?.id ?? 'new'}` },
  );
  const mine = people.data?.find((p) => p.name === me?.name)?.id;
  const [chosen, setChosen] = useState<readonly string[] | null>(of?.teachers ?? null);
  const teachers = chosen ?? (mine ? [mine] : []);
  const [looks, setLooks] = useState<readonly string[]>(of?.secondLooks ?? []);
  const toggled = (all: readonly string[], one: string) =>
    all.includes(one) ? all.filter((x) => x !== one) : [...all, one];
  const save = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (entry) =>
      unwrap(
        api.PUT('/api/classes/{id}', {
          params: { path: { id: of?.id ?? id.get() } },
          body: {
            ...entry,
            teachers: [...teachers],
            secondLooks: [...looks],
            version: of?.version ?? 0,
          },
        }),
      ),
    onSuccess: async () => {
      settle({ name: '', mark: '', stuckAfter: '20' });
      id.settle();
      await client.invalidateQueries({ queryKey: keys.classes });
      done();
    },
  });
  return (
    <div>
      <EntryForm form={form} send={save.mutateAsync} className="card max-w-3xl space-y-4 p-4">
        <div className="grid gap-3 sm:grid-cols-[minmax(0,1fr)_8rem_14rem]">
          <TextField form={form} name="name" label="Name" hint="such as: lifeboat engines, spring" />
          <TextField form={form} name="mark" label="Mark" hint="L makes L1, L2 …" />
          <FigureField
            form={form}
            name="stuckAfter"
            label="Stuck after, minutes"
            hint="without an entry, while others work"
          />
        </div>
        <fieldset>
          <legend className="label">Who teaches and signs</legend>
          <div className="flex flex-wrap gap-1.5">
            {people.data
              ?.filter((p) => p.role === 'lead' || p.role === 'mechanic')
              .map((p) => (
                <button
                  key={p.id}
                  type="button"
                  className="key"
                  aria-pressed={teachers.includes(p.id)}
                  onClick={() => setChosen(toggled(teachers, p.id))}
                >
                  {p.name}
                </button>
              ))}
          </div>
        </fieldset>
        {sections.length > 0 && (
          <fieldset>
            <legend className="label">Where a second pair of eyes looks before a teacher signs</legend>
            <div className="flex flex-wrap gap-1.5">
              {sections
                .filter((s) => s.id !== 'rest')
                .map((s) => (
                  <button
                    key={s.id}
                    type="button"
                    className="key"
                    aria-pressed={looks.includes(s.id)}
                    onClick={() => setLooks(toggled(looks, s.id))}
                  >
                    {s.name}
                  </button>
                ))}
            </div>
          </fieldset>
        )}
        <button className="key key-go">Save</button>
      </EntryForm>
    </div>
  );
}

/** What a student sees of the class: his own bench, and what he is set. */
function Mine({ id }: { id: string }) {
  const seats = useQuery({ queryKey: keys.seats, queryFn: () => unwrap(api.GET('/api/seats')) });
  const seat = seats.data?.find((s) => s.classId === id);
  if (seats.error) return <Trouble problem={seats.error as unknown as ApiProblem} />;
  if (!seats.data) return <Waiting what="your bench" />;
  return (
    <>
      <h1 className="text-3xl">{seat?.className ?? 'Your class'}</h1>
      {seat ? (
        <Link
          className="card flex flex-wrap items-center gap-x-6 gap-y-2 p-4"
          to={`/cases/${seat.caseId}/strip`}
        >
          <Addr code={seat.prefix} className="text-4xl" />
          <span>
            <b className="text-lg">Your engine</b>
            <span className="block text-soft">
              {seat.people.length > 1 ? `with ${seat.people.join(', ')}; ` : ''}signed by{' '}
              {seat.teachers.join(' or ')}
            </span>
          </span>
        </Link>
      ) : (
        <p className="card p-4">You are at no bench of this class.</p>
      )}
      <ClassHomework id={id} teaches={false} />
      <ClassStudies id={id} teaches={false} />
    </>
  );
}
