import { t as tr } from '@lingui/core/macro';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { useWatch } from 'react-hook-form';
import { Link, useParams } from 'react-router';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { Trouble, Waiting } from '../ui/basics';
import { EntryForm, ListField, TextField, useEntryForm } from '../ui/form';
import { baseUnit, figure, told, unitWords } from '../ui/figures';
import { ReckonerArt } from './ReckonerArt';
import { plainFigures } from '../ui/region';

type Reckoner = Schemas['BenchReckoner'];

/** Every formula of Gauge by itself, without a case. */
export function Reckoners() {
  const picked = useParams().reckoner;
  const all = useQuery({
    queryKey: keys.reckoners,
    queryFn: () => unwrap(api.GET('/api/reckoners')),
    staleTime: Infinity,
  });
  const groups = [...new Set(all.data?.map((r) => r.group) ?? [])];
  const reckoner = all.data?.find((r) => r.id === picked);
  return (
    <>
      <main className="mx-auto grid max-w-6xl gap-6 px-4 py-6 md:grid-cols-[17rem_minmax(0,1fr)]">
        <nav aria-label={tr`Calculators`} className={reckoner ? 'hidden md:block' : ''}>
          <h1 className="mb-2 text-2xl">{tr`Calculators`}</h1>
          {all.isPending && <Waiting what={tr`the reckoners`} />}
          {groups.map((g) => (
            <div key={g} className="mb-3">
              <h2 className="label">{g}</h2>
              <ul>
                {all.data
                  ?.filter((r) => r.group === g)
                  .map((r) => (
                    <li key={r.id}>
                      <Link
                        to={`/reckon/${r.id}`}
                        aria-current={r.id === picked ? 'page' : undefined}
                        className={`flex min-h-11 items-center rounded-lg px-3 ${r.id === picked ? 'bg-dye-tint font-bold' : 'hover:bg-steel'}`}
                      >
                        {r.name}
                      </Link>
                    </li>
                  ))}
              </ul>
            </div>
          ))}
        </nav>
        {reckoner ? (
          <One key={reckoner.id} reckoner={reckoner} />
        ) : (
          <p className="hidden text-lg text-soft md:block">
            {tr`Choose a formula. Each comes with figures that make a worked example; type your own over them.`}
          </p>
        )}
        <Trouble problem={all.error as unknown as ApiProblem | null} />
      </main>
    </>
  );
}

// The figures are read by the server, which knows what each formula takes.
const typedFigures = z.record(z.string(), z.string());

function One({ reckoner }: { reckoner: Reckoner }) {
  const { form } = useEntryForm(
    typedFigures,
    Object.fromEntries(reckoner.inputs.map((i) => [i.id, i.example])),
  );
  const typed = useWatch({
    control: form.control,
    compute: (fields: Record<string, string>) => ({ ...fields }),
  });
  const reckon = useMutation<Schemas['ReckonerResult'][], ApiProblem, Record<string, string>>({
    mutationFn: (body) =>
      unwrap(
        api.POST('/api/reckoners/{id}', {
          params: { path: { id: reckoner.id } },
          body: {
            typed: Object.fromEntries(Object.entries(body).map(([id, text]) => [id, plainFigures(text)])),
          },
        }),
      ),
    onSuccess: () => form.clearErrors(),
    onError: (e) => {
      form.clearErrors();
      for (const p of e.problems) form.setError(p.field, { message: `${p.text} ${p.remedy}` });
    },
  });
  const { mutate } = reckon;
  const told = JSON.stringify(typed);
  useEffect(() => {
    const wait = setTimeout(() => mutate(JSON.parse(told) as Record<string, string>), 250);
    return () => clearTimeout(wait);
  }, [told, mutate]);
  const wrong = reckon.error;
  return (
    <article className="space-y-4">
      <Link to="/reckon" className="key inline-flex items-center md:hidden">
        {tr`◂ All reckoners`}
      </Link>
      <div>
        <h2 className="text-2xl">{reckoner.name}</h2>
        <p className="text-lg">{reckoner.says}</p>
      </div>
      <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <EntryForm form={form} send={(figures) => reckon.mutateAsync(figures)} className="card space-y-3 p-4">
          {reckoner.inputs.map((i) =>
            i.kind === 'choice' ? (
              <ListField
                key={i.id}
                form={form}
                name={i.id}
                label={i.name}
                words={i.choices?.map((c) => [c.id, c.name] as const) ?? []}
              />
            ) : (
              <TextField
                key={i.id}
                form={form}
                name={i.id}
                label={`${i.name}${i.unit === 'x' ? '' : `, ${unitWords(i.unit) || i.unit}`}`}
                hint={i.kind === 'figures' ? tr`several, with blanks between` : undefined}
                className="fig text-xl"
              />
            ),
          )}
        </EntryForm>
        <div className="space-y-4">
          <ReckonerArt name={reckoner.drawing} />
          <section aria-live="polite" className="card divide-y divide-line">
            {reckon.data && !wrong ? (
              reckon.data.map((r) => <Result key={r.name} r={r} />)
            ) : (
              <p className="p-4 text-soft">{wrong ? tr`Put the marked figure right.` : '…'}</p>
            )}
          </section>
          {wrong && !reckoner.inputs.some((i) => wrong.of(i.id)) && <Trouble problem={wrong} />}
          <p className="text-sm">
            <b>{tr`Formula:`}</b> <span className="fig">{reckoner.equation}</span>
            <br />
            <b>{tr`Source:`}</b> {reckoner.source}
          </p>
        </div>
      </div>
    </article>
  );
}

function Result({ r }: { r: Schemas['ReckonerResult'] }) {
  const unit = baseUnit[r.quantity];
  return (
    <div className="flex flex-wrap items-baseline justify-between gap-x-4 px-4 py-2">
      <span>{r.name}</span>
      <span className="text-right">
        {r.value !== null && (
          <>
            <span className="fig text-2xl font-bold">{figure(r.value, unit, r.places)}</span>{' '}
            {unitWords(unit)}
            {r.quantity === 'length' && (
              <span className="fig text-soft"> = {told(r.value, 'in', Math.max(3, r.places))}</span>
            )}
          </>
        )}{' '}
        <span className={r.value === null ? 'text-xl font-bold' : 'block text-sm'}>{r.words}</span>
      </span>
    </div>
  );
}
