import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { Field, Trouble, Waiting } from '../ui/basics';
import { baseUnit, figure, told, unitWords } from '../ui/figures';
import { ReckonerArt } from './ReckonerArt';

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
        <nav aria-label="Reckoners" className={reckoner ? 'hidden md:block' : ''}>
          <h1 className="mb-2 text-2xl">Bench reckoners</h1>
          {all.isPending && <Waiting what="the reckoners" />}
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
            Choose a formula. Each comes with figures that make a worked example; type your own over them.
          </p>
        )}
        <Trouble problem={all.error as unknown as ApiProblem | null} />
      </main>
    </>
  );
}

function One({ reckoner }: { reckoner: Reckoner }) {
  const [typed, setTyped] = useState<Record<string, string>>(() =>
    Object.fromEntries(reckoner.inputs.map((i) => [i.id, i.example])),
  );
  const reckon = useMutation<Schemas['ReckonerResult'][], ApiProblem, Record<string, string>>({
    mutationFn: (body) =>
      unwrap(
        api.POST('/api/reckoners/{id}', { params: { path: { id: reckoner.id } }, body: { typed: body } }),
      ),
  });
  const { mutate } = reckon;
  useEffect(() => {
    const wait = setTimeout(() => mutate(typed), 250);
    return () => clearTimeout(wait);
  }, [typed, mutate]);
  const wrong = reckon.error;
  return (
    <article className="space-y-4">
      <Link to="/reckon" className="key inline-flex items-center md:hidden">
        ◂ All reckoners
      </Link>
      <div>
        <h2 className="text-2xl">{reckoner.name}</h2>
        <p className="text-lg">{reckoner.says}</p>
      </div>
      <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <form className="card space-y-3 p-4" onSubmit={(e) => e.preventDefault()}>
          {reckoner.inputs.map((i) => {
            const mine = wrong?.of(i.id);
            return (
              <div key={i.id}>
                {i.kind === 'choice' ? (
                  <Field label={i.name}>
                    <select
                      className="entry"
                      value={typed[i.id]}
                      onChange={(e) => setTyped({ ...typed, [i.id]: e.target.value })}
                    >
                      {i.choices?.map((c) => (
                        <option key={c.id} value={c.id}>
                          {c.name}
                        </option>
                      ))}
                    </select>
                  </Field>
                ) : (
                  <Field
                    label={`${i.name}${i.unit === 'x' ? '' : `, ${unitWords(i.unit) || i.unit}`}`}
                    {...(i.kind === 'figures' ? { hint: 'several, with blanks between' } : {})}
                  >
                    <input
                      className="entry fig text-xl"
                      value={typed[i.id]}
                      spellCheck={false}
                      aria-invalid={mine ? true : undefined}
                      onChange={(e) => setTyped({ ...typed, [i.id]: e.target.value })}
                    />
                  </Field>
                )}
                {mine && (
                  <p role="alert" className="mt-1 text-sm font-semibold text-lead">
                    {mine.text} {mine.remedy}
                  </p>
                )}
              </div>
            );
          })}
        </form>
        <div className="space-y-4">
          <ReckonerArt name={reckoner.drawing} />
          <section aria-live="polite" className="card divide-y divide-line">
            {reckon.data && !wrong ? (
              reckon.data.map((r) => <Result key={r.name} r={r} />)
            ) : (
              <p className="p-4 text-soft">{wrong ? 'Put the marked figure right.' : '…'}</p>
            )}
          </section>
          {wrong && !reckoner.inputs.some((i) => wrong.of(i.id)) && <Trouble problem={wrong} />}
          <p className="text-sm">
            <b>Formula:</b> <span className="fig">{reckoner.equation}</span>
            <br />
            <b>Source:</b> {reckoner.source}
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
