import { t as tr } from '@lingui/core/macro';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/keys';
import { Trouble, Waiting } from '../ui/basics';
import { figure } from '../ui/figures';
import { anyNumber } from '../ui/number';
import { CircleOfTurns, OrderBars } from './HeardDrawings';

type Fault = Schemas['DrawnFault'];

const faultWords: Record<Fault, string> = {
  sound: tr`Nothing stands out`,
  oncePerCycle: tr`A knock once a cycle`,
  oncePerTurn: tr`A knock at every turn`,
  doubleRap: tr`Two raps close together`,
  rolling: tr`Something at an order of its own`,
  misfire: tr`A cylinder does not fire`,
  puffs: tr`A puff at the breather`,
};

const ofACylinder: Fault[] = ['oncePerCycle', 'oncePerTurn', 'doubleRap', 'misfire'];

const beatWords: Record<Schemas['NoiseBeat'], string> = {
  none: tr`nothing that stands out`,
  cycle: tr`a noise once a cycle`,
  turn: tr`a noise at every turn`,
  either: tr`a noise whose rhythm it cannot tell`,
  apart: tr`something at an order of its own`,
};

/** An engine to listen to, drawn from its number: hear it, read its circle, say what it is, and be told. */
export function PracticeSound() {
  const seed = Number(useParams().seed ?? 0);
  const navigate = useNavigate();
  return (
    <main className="mx-auto max-w-3xl space-y-4 px-4 py-6">
      <h1 className="text-3xl">{tr`Practise listening`}</h1>
      {seed > 0 ? (
        <Heard key={seed} seed={seed} />
      ) : (
        <p className="text-lg">
          {tr`An engine with a fault, or none, is made up and recorded. Hear it, read the circle of its cycle, say what it is and of which cylinder, and be told.`}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className={seed > 0 ? 'key' : 'key key-go'}
          onClick={() => void navigate(`/practice/listen/${anyNumber()}`)}
        >
          {seed > 0 ? tr`Another engine` : tr`Any engine`}
        </button>
        <Link className="key inline-flex items-center" to="/practice">{tr`Other practice`}</Link>
      </div>
    </main>
  );
}

function Heard({ seed }: { seed: number }) {
  const view = useQuery({
    queryKey: [...keys.practice(seed), 'sound'],
    queryFn: () => unwrap(api.GET('/api/practice/sounds/{seed}', { params: { path: { seed } } })),
    staleTime: Infinity,
  });
  const [fault, setFault] = useState<Fault | null>(null);
  const [cylinder, setCylinder] = useState(0);
  const [band, setBand] = useState(0);
  const guess = useMutation<Schemas['SoundScore'], ApiProblem>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/practice/sounds/{seed}/guess', {
          params: { path: { seed } },
          body: { fault: fault!, cylinder },
        }),
      ),
  });
  if (view.error) return <Trouble problem={view.error as unknown as ApiProblem} />;
  if (!view.data) return <Waiting what={tr`the engine`} />;
  const v = view.data;
  const heard = { ...v, band, at: null, placed: true, lines: [] };
  const asksCylinder = fault !== null && ofACylinder.includes(fault);
  return (
    <>
      <p>
        <b>{tr`Engine ${seed}`}</b>,{' '}
        {v.twoStroke
          ? tr`two-stroke, fires ${v.firingOrder.join('-')}, ${figure(v.rpm, 'rpm', 0)} rpm.`
          : tr`four-stroke, fires ${v.firingOrder.join('-')}, ${figure(v.rpm, 'rpm', 0)} rpm.`}
      </p>
      <audio
        controls
        loop
        className="w-full"
        src={`/api/practice/sounds/${seed}/wave`}
        aria-label={tr`The engine`}
      />
      <section className="card grid gap-4 p-4 sm:grid-cols-2" aria-label={tr`What the sound looks like`}>
        <div>
          <CircleOfTurns heard={heard} />
          <div role="group" aria-label={tr`Band`} className="mt-2 flex flex-wrap gap-1.5">
            {v.circles.map((c, i) => (
              <button
                key={i}
                type="button"
                className="key"
                aria-pressed={band === i}
                onClick={() => setBand(i)}
              >
                {tr`from ${figure(c.from, 'Hz', 0)} Hz`}
              </button>
            ))}
          </div>
        </div>
        <OrderBars heard={heard} />
      </section>
      <section className="card space-y-3 p-4" aria-label={tr`What it is`}>
        <div role="group" aria-label={tr`What do you hear?`}>
          <h2 className="mb-2 text-xl">{tr`What do you hear?`}</h2>
          <div className="flex flex-wrap gap-1.5">
            {v.faults.map((f) => (
              <button
                key={f}
                type="button"
                className="key"
                aria-pressed={fault === f}
                disabled={guess.isSuccess}
                onClick={() => setFault(f)}
              >
                {faultWords[f]}
              </button>
            ))}
          </div>
        </div>
        {asksCylinder && (
          <div role="group" aria-label={tr`Of which cylinder?`}>
            <h2 className="mb-2 text-xl">{tr`Of which cylinder?`}</h2>
            <div className="flex flex-wrap gap-1.5">
              {[...v.firingOrder]
                .sort((a, b) => a - b)
                .map((c) => (
                  <button
                    key={c}
                    type="button"
                    className="key fig min-w-12"
                    aria-pressed={cylinder === c}
                    disabled={guess.isSuccess}
                    onClick={() => setCylinder(c)}
                  >
                    {c}
                  </button>
                ))}
            </div>
          </div>
        )}
        {!guess.data && (
          <button
            type="button"
            className="key key-go w-full text-lg"
            disabled={fault === null || (asksCylinder && cylinder === 0) || guess.isPending}
            onClick={() => guess.mutate()}
          >
            {tr`Commit and be told`}
          </button>
        )}
        <Trouble problem={guess.error} />
        {guess.data && <Told score={guess.data} />}
      </section>
    </>
  );
}

function Told({ score }: { score: Schemas['SoundScore'] }) {
  const truth = faultWords[score.fault];
  const right = score.right && score.cylinderRight !== false;
  return (
    <div role="status" className={`rounded-lg px-3 py-2 ${right ? 'bg-oil-tint' : 'bg-brass-tint'}`}>
      <p className="text-xl font-semibold">
        {right ? tr`Right.` : score.right ? tr`The rhythm is right, the cylinder is not.` : tr`Not that.`}
      </p>
      <p>{score.cylinder > 0 ? tr`${truth}; cylinder ${score.cylinder}.` : `${truth}.`}</p>
      <p className="text-soft">
        {score.missing.length > 0
          ? tr`The program hears that cylinder ${score.missing.join(', ')} does not fire.`
          : score.whose.length > 0
            ? tr`The program hears ${beatWords[score.beat]} and names cylinder ${score.whose.join(tr` or `)}.`
            : tr`The program hears ${beatWords[score.beat]}.`}
      </p>
    </div>
  );
}
