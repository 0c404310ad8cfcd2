import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useParams } from 'react-router';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { Hatches } from '../section/Swatch';
import { guessed, PracticeBench, type Guess } from './PracticeBench';
import { Trouble, Waiting } from '../ui/basics';
import { useDraft } from '../ui/useDraft';

/** An engine set as homework. What is looked at is kept by the server and counts. */
export function Homework() {
  const id = useParams().homework!;
  const client = useQueryClient();
  const view = useQuery({
    queryKey: keys.homework(id),
    queryFn: () => unwrap(api.GET('/api/homework/{id}', { params: { path: { id } } })),
  });
  const { draft, set, settle } = useDraft<{ guesses: Guess[] }>(`homework/${id}`, { guesses: [] });
  const look = useMutation<Schemas['PracticeLook'], ApiProblem, { sign: string; place: string }>({
    mutationFn: (body) => unwrap(api.POST('/api/homework/{id}/looks', { params: { path: { id } }, body })),
    onSuccess: (l) =>
      client.setQueryData<Schemas['HomeworkView']>(
        keys.homework(id),
        (v) => v && { ...v, looks: [...v.looks.filter((x) => x.sign !== l.sign || x.place !== l.place), l] },
      ),
  });
  const commit = useMutation<Schemas['HomeworkView'], ApiProblem, void>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/homework/{id}/in', {
          params: { path: { id } },
          body: { guesses: guessed(draft.guesses) },
        }),
      ),
    onSuccess: (v) => {
      settle({ guesses: [] });
      client.setQueryData(keys.homework(id), v);
      void client.invalidateQueries({ queryKey: keys.classes });
    },
  });
  if (view.error)
    return (
      <div className="mx-auto mt-10 max-w-lg px-4">
        <Trouble problem={view.error as unknown as ApiProblem} />
      </div>
    );
  if (!view.data) return <Waiting what={tr`the homework`} />;
  const h = view.data;
  const committed = h.guesses.map((g) => ({ cause: g.cause, percent: Math.round(100 * g.probability) }));
  return (
    <>
      <Hatches />
      <PracticeBench
        title={`${h.name}: ${h.practice.engine.kind}`}
        view={h.practice}
        looks={h.looks}
        look={look}
        guesses={h.in ? committed : draft.guesses}
        setGuesses={(guesses) => set({ guesses })}
        press={h.in ? tr`It is in` : tr`Hand it in`}
        commit={commit}
        told={h.score}
        closed={h.in}
      >
        {h.in && h.score === null && (
          <p className="card p-4">
            <Trans>
              Yours is in. <span className="fig">{h.inOf}</span> of <span className="fig">{h.of}</span> are;
              when all are, it is told.
            </Trans>
          </p>
        )}
      </PracticeBench>
    </>
  );
}
