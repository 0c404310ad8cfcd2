import { t as tr } from '@lingui/core/macro';
import { useMutation, useQuery } from '@tanstack/react-query';
import * as z from 'zod/mini';
import { Link, useNavigate, useParams } from 'react-router';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { Hatches } from '../section/Swatch';
import { Trouble, Waiting } from '../ui/basics';
import { EntryForm, FigureField, numberNeeded, useEntryForm } from '../ui/form';
import { anyNumber } from '../ui/number';
import { useDraft } from '../ui/useDraft';
import { guessed, PracticeBench, type Guess } from './PracticeBench';

type Look = Schemas['PracticeLook'];

interface Kept {
  looks: Look[];
  guesses: Guess[];
}

const schema = z.object({ number: numberNeeded({ whole: true, min: 1, max: 1_000_000 }) });

/** An engine drawn from the causes: look, commit to a cause, and be told. The number gives a class the same engine. */
export function Practice() {
  const seed = Number(useParams().seed ?? 0);
  const navigate = useNavigate();
  const { form } = useEntryForm(schema, { number: '' });
  return (
    <>
      <Hatches />
      {seed > 0 ? (
        <Engine key={seed} seed={seed} />
      ) : (
        <main className="mx-auto max-w-xl space-y-4 px-4 py-8">
          <h1 className="text-3xl">{tr`Practice`}</h1>
          <p className="text-lg">
            {tr`An engine that failed is drawn from what this program knows. You hear what the owner says, choose where to look, each look costs its minutes, and you commit to a cause with how sure you are. Then you are told.`}
          </p>
          <EntryForm
            form={form}
            send={async ({ number }) => navigate(`/practice/${number}`)}
            className="card flex items-end gap-3 p-4"
          >
            <FigureField
              form={form}
              name="number"
              label={tr`Number of the engine`}
              hint={tr`the same number gives everybody the same engine`}
            />
            <button className="key mb-6 shrink-0 whitespace-nowrap">{tr`Open it`}</button>
          </EntryForm>
          <button className="key key-go mt-4" onClick={() => void navigate(`/practice/${anyNumber()}`)}>
            {tr`Any engine`}
          </button>
          <div className="flex flex-wrap gap-2 border-t border-line pt-4">
            <Link
              className="key inline-flex items-center"
              to="/practice/measure"
            >{tr`Practise measuring in pictures`}</Link>
            <Link
              className="key inline-flex items-center"
              to="/practice/listen"
            >{tr`Practise listening`}</Link>
          </div>
        </main>
      )}
    </>
  );
}

function Engine({ seed }: { seed: number }) {
  const view = useQuery({
    queryKey: keys.practice(seed),
    queryFn: () => unwrap(api.GET('/api/practice/{seed}', { params: { path: { seed } } })),
    staleTime: Infinity,
  });
  const { draft, set, settle } = useDraft<Kept>(`practice/${seed}`, { looks: [], guesses: [] });
  const look = useMutation<Look, ApiProblem, { sign: string; place: string }>({
    mutationFn: (query) =>
      unwrap(api.GET('/api/practice/{seed}/look', { params: { path: { seed }, query } })),
    onSuccess: (l) => set({ looks: [...draft.looks, l] }),
  });
  const commit = useMutation<Schemas['PracticeScore'], ApiProblem, void>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/practice/{seed}/commit', {
          params: { path: { seed } },
          body: {
            looked: draft.looks.map((l) => ({ sign: l.sign, place: l.place })),
            guesses: guessed(draft.guesses),
          },
        }),
      ),
  });
  if (view.error)
    return (
      <div className="mx-auto mt-10 max-w-lg px-4">
        <Trouble problem={view.error as unknown as ApiProblem} />
      </div>
    );
  if (!view.data) return <Waiting what={tr`the engine`} />;
  return (
    <PracticeBench
      title={tr`Engine ${seed}: ${view.data.engine.kind}`}
      view={view.data}
      looks={draft.looks}
      look={look}
      guesses={draft.guesses}
      setGuesses={(guesses) => set({ guesses })}
      press={tr`Commit and be told`}
      commit={commit}
      told={commit.data ?? null}
    >
      {commit.data && (
        <div className="flex gap-2">
          <button
            className="key"
            onClick={() => {
              settle({ looks: [], guesses: [] });
              commit.reset();
            }}
          >
            {tr`Again from the start`}
          </button>
          <Link className="key flex items-center" to="/practice">
            {tr`Another engine`}
          </Link>
        </div>
      )}
    </PracticeBench>
  );
}
