import { t as tr } from '@lingui/core/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMe } from '../api/queries';
import { EntryForm, FigureField, needed, numberNeeded, TextField, useEntryForm } from '../ui/form';
import { useWriteId } from '../ui/useWriteId';
import { useClassPeople } from './useClassPeople';

const schema = z.object({
  name: needed(tr`Call it as the school does.`),
  mark: needed(tr`One or two letters that stand before the number of a bench.`),
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
          <TextField form={form} name="name" label={tr`Name`} hint={tr`such as: lifeboat engines, spring`} />
          <TextField form={form} name="mark" label={tr`Mark`} hint={tr`L makes L1, L2 …`} />
          <FigureField
            form={form}
            name="stuckAfter"
            label={tr`Stuck after, minutes`}
            hint={tr`without an entry, while others work`}
          />
        </div>
        <fieldset>
          <legend className="label">{tr`Who teaches and signs`}</legend>
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
            <legend className="label">{tr`Where a second pair of eyes looks before a teacher signs`}</legend>
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
        <button className="key key-go">{tr`Save`}</button>
      </EntryForm>
    </div>
  );
}
