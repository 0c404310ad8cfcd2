import { t as tr } from '@lingui/core/macro';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/keys';
import { Trouble, Waiting } from '../ui/basics';
import { anyNumber } from '../ui/number';
import { isEnough, isFull, pointsOf, sent, taskSays, type At } from './measure';
import { Answer, Canvas, quantityOf, toldWith } from './Measuring';

const sceneWords: Record<Schemas['SceneKind'], string> = {
  hatch: tr`How steep do the lines of the hatch cross?`,
  ringGap: tr`How wide is the gap of the ring?`,
  strip: tr`How wide is the bright strip?`,
  grooves: tr`How far apart are the grooves?`,
  particles: tr`How many particles lie on the ground?`,
};

/** A photograph to measure in, drawn from its number: set the points, commit to the figure, and be told. */
export function PracticePicture() {
  const seed = Number(useParams().seed ?? 0);
  const navigate = useNavigate();
  return (
    <main className="mx-auto max-w-6xl space-y-4 px-4 py-6">
      <h1 className="text-3xl">{tr`Practise measuring`}</h1>
      {seed > 0 ? (
        <Scene key={seed} seed={seed} />
      ) : (
        <p className="max-w-2xl text-lg">
          {tr`A part beside a card is drawn as a camera sees it, at a slant and perhaps with glare. Set the points, look at the uncertainty, and be told how far off you are.`}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className={seed > 0 ? 'key' : 'key key-go'}
          onClick={() => void navigate(`/practice/measure/${anyNumber()}`)}
        >
          {seed > 0 ? tr`Another picture` : tr`Any picture`}
        </button>
        <Link className="key inline-flex items-center" to="/practice">{tr`Other practice`}</Link>
      </div>
    </main>
  );
}

function Scene({ seed }: { seed: number }) {
  const view = useQuery({
    queryKey: [...keys.practice(seed), 'picture'],
    queryFn: () => unwrap(api.GET('/api/practice/pictures/{seed}', { params: { path: { seed } } })),
    staleTime: Infinity,
  });
  const [points, setPoints] = useState<At[]>([]);
  const task = view.data?.task ?? 'length';
  const ask: Schemas['PictureAsk'] = {
    task,
    points: sent(task, points),
    scale: [],
    scaleLength: null,
    above: 0,
    face: null,
    facing: null,
  };
  const ready = view.data !== undefined && isEnough(task, points);
  const answer = useQuery<Schemas['PictureAnswer'], ApiProblem>({
    queryKey: [...keys.practice(seed), 'measure', ask],
    queryFn: () =>
      unwrap(api.POST('/api/practice/pictures/{seed}/measure', { params: { path: { seed } }, body: ask })),
    enabled: ready,
    staleTime: Infinity,
    retry: false,
    placeholderData: (before) => before,
  });
  const guess = useMutation<Schemas['PictureScore'], ApiProblem>({
    mutationFn: () =>
      unwrap(api.POST('/api/practice/pictures/{seed}/guess', { params: { path: { seed } }, body: ask })),
  });
  if (view.error) return <Trouble problem={view.error as unknown as ApiProblem} />;
  if (!view.data) return <Waiting what={tr`the picture`} />;
  const got = ready && answer.data && !answer.isError ? answer.data : null;
  return (
    <div className="grid gap-3 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <Canvas
        picture={{ ...view.data, says: sceneWords[view.data.kind] }}
        url={`/api/practice/pictures/${seed}/view`}
        task={task}
        points={points}
        scale={[]}
        found={got ? pointsOf('length', got.found) : []}
        dots={[]}
        onPoint={(p, moved) => {
          if (guess.isSuccess) return;
          if (moved !== null) setPoints(points.map((q, i) => (i === moved ? p : q)));
          else setPoints(isFull(task, points) ? [p] : [...points, p]);
        }}
        onScale={() => undefined}
      />
      <div className="space-y-3">
        <h2 className="text-2xl">{sceneWords[view.data.kind]}</h2>
        <p className="text-lg" aria-live="polite">
          {taskSays[task]}
        </p>
        {got && <Answer of={got} length="mm" busy={answer.isFetching} />}
        {ready && <Trouble problem={answer.error} />}
        {got && !guess.data && (
          <button
            type="button"
            className="key key-go w-full text-lg"
            disabled={guess.isPending || answer.isFetching}
            onClick={() => guess.mutate()}
          >
            {tr`Commit and be told`}
          </button>
        )}
        <Trouble problem={guess.error} />
        {guess.data && <Told score={guess.data} task={task} />}
      </div>
    </div>
  );
}

function Told({ score, task }: { score: Schemas['PictureScore']; task: Schemas['PictureTask'] }) {
  const truth =
    task === 'particles'
      ? String(score.truth)
      : toldWith(score.truth, score.expanded / 10, quantityOf[task], 'mm').split(' ± ')[0]!;
  const unit = task === 'particles' ? '' : quantityOf[task] === 'angle' ? '°' : ' mm';
  const off = (100 * score.off).toFixed(1);
  return (
    <div role="status" className={`rounded-lg px-3 py-2 ${score.within ? 'bg-oil-tint' : 'bg-brass-tint'}`}>
      <p className="text-xl font-semibold">
        {score.within
          ? tr`The truth lies within what you told.`
          : tr`The truth lies outside of what you told.`}
      </p>
      <p className="fig">{tr`It is ${`${truth}${unit}`}; you are off by ${off} %.`}</p>
    </div>
  );
}
