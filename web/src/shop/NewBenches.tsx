import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { v7 } from 'uuid';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useCases } from '../api/queries';
import { Addr, Field, Trouble } from '../ui/basics';
import { NumberField } from '../ui/NumberField';
import { useClassPeople } from './useClassPeople';

/** Benches set up in one go: how many, like which case, and who sits where. */
export function NewBenches({
  of,
  benches,
  done,
}: {
  of: Schemas['SchoolClass'];
  benches: readonly Schemas['BenchLine'][];
  done: () => void;
}) {
  const client = useQueryClient();
  const cases = useCases('');
  const people = useClassPeople();
  const seated = new Set(benches.flatMap((b) => b.bench.people));
  const free = people.data?.filter((p) => p.role === 'student' && !seated.has(p.id)) ?? [];
  const first = Math.max(0, ...benches.map((b) => b.bench.number)) + 1;
  const [count, setCount] = useState(Math.min(60, Math.max(1, free.length)));
  const [template, setTemplate] = useState(benches[0]?.bench.caseId ?? '');
  const [places, setPlaces] = useState<ReadonlyMap<string, number>>(new Map());
  // One to a bench as they come, the rest from the first on again; each can be put elsewhere.
  const place = (id: string, n: number) => places.get(id) ?? n % count;
  const ids = useRef<string[]>([]);
  while (ids.current.length < count) ids.current.push(v7());
  const save = useMutation<unknown, ApiProblem, void>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/classes/{id}/benches', {
          params: { path: { id: of.id } },
          body: {
            templateCase: template,
            benches: Array.from({ length: count }, (_, k) => ({
              id: ids.current[k]!,
              number: first + k,
              people: free.filter((p, n) => place(p.id, n) === k).map((p) => p.id),
            })),
          },
        }),
      ),
    onSuccess: async () => {
      ids.current = [];
      await client.invalidateQueries({ queryKey: keys.class(of.id) });
      done();
    },
  });
  const all = cases.data?.pages.flatMap((p) => p.cases) ?? [];
  return (
    <form
      className="card max-w-3xl space-y-4 p-4"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <div className="grid gap-3 sm:grid-cols-[minmax(0,1fr)_10rem]">
        <Field
          label={tr`Each case begins like`}
          hint={tr`its engine, script, limits, sizes and torques; nothing found or measured`}
        >
          <select className="entry" value={template} required onChange={(e) => setTemplate(e.target.value)}>
            <option value="">{tr`choose a case`}</option>
            {all.map((c) => (
              <option key={c.id} value={c.id}>
                {c.title} · {c.engineName}
              </option>
            ))}
          </select>
        </Field>
        <NumberField
          label={tr`Benches`}
          required
          whole
          min={1}
          max={60}
          value={count}
          onChange={(n) => n !== null && setCount(n)}
        />
      </div>
      <fieldset>
        <legend className="label">{tr`Who sits where`}</legend>
        {free.length === 0 && (
          <p className="text-soft">
            {tr`No student is free: invite them under People, or set up the benches now and seat them later.`}
          </p>
        )}
        <ul className="grid gap-x-6 gap-y-1 sm:grid-cols-2">
          {free.map((p, n) => (
            <li key={p.id} className="flex items-center gap-3">
              <span className="flex-1">{p.name}</span>
              <select
                className="entry w-28"
                aria-label={tr`Bench of ${p.name}`}
                value={place(p.id, n)}
                onChange={(e) => setPlaces(new Map(places).set(p.id, Number(e.target.value)))}
              >
                <option value={-1}>{tr`none`}</option>
                {Array.from({ length: count }, (_, k) => (
                  <option key={k} value={k}>
                    {of.mark}
                    {first + k}
                  </option>
                ))}
              </select>
            </li>
          ))}
        </ul>
      </fieldset>
      <Trouble problem={save.error} />
      <button className="key key-go" disabled={save.isPending || template === ''}>
        <Trans>
          Set up <Addr code={`${of.mark}${first}`} />
        </Trans>
        {count > 1 && (
          <>
            <Trans>
              {' '}
              to <Addr code={`${of.mark}${first + count - 1}`} />
            </Trans>
          </>
        )}
      </button>
    </form>
  );
}
