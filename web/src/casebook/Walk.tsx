import { t as tr } from '@lingui/core/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { type ApiProblem, type EngineCase } from '../api/client';
import { keys } from '../api/keys';
import { Trouble } from '../ui/basics';
import { importCase } from './importCase';
import { beginWalk, leaveWalk, walkedCase, walkedTo, walkSteps } from './walk';

/** Over the stage of the case that a newcomer is walked through: what is done next, how, and the way there. */
export function Walk({ engineCase }: { engineCase: EngineCase }) {
  const [left, setLeft] = useState(false);
  const { pathname } = useLocation();
  if (left || walkedCase() !== engineCase.id) return null;
  const next = walkedTo(engineCase, pathname);
  const step = walkSteps[next];
  return (
    <section
      aria-label={tr`First walk`}
      className="no-print flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line bg-dye-tint px-3 py-2 md:px-5"
    >
      <p className="least-60 flex-1" aria-live="polite">
        <b>
          {step
            ? tr`First walk, ${next + 1} of ${walkSteps.length}: ${step.says}.`
            : tr`That was the walk: tagged, photographed, looked at, measured, traced.`}
        </b>{' '}
        {step
          ? step.how
          : tr`Verdict says what becomes of each part, the dossier is what the owner gets. Your own engine begins with “New case”.`}
      </p>
      {step && (
        <Link className="key flex items-center" to={`/cases/${engineCase.id}/${step.to}`}>
          {tr`Take me there`}
        </Link>
      )}
      <button
        className="key"
        onClick={() => {
          leaveWalk();
          setLeft(true);
        }}
      >
        {step ? tr`Leave the walk` : tr`End`}
      </button>
    </section>
  );
}

/** Begins the walk on an engine that ships with the program, each time a new one. */
export function useBeginWalk() {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation<EngineCase, ApiProblem, void>({
    mutationFn: async () =>
      importCase(await (await fetch('/first-walk.case.json')).text(), { copy: crypto.randomUUID() }),
    onSuccess: async (made) => {
      beginWalk(made.id);
      await client.invalidateQueries({ queryKey: keys.cases });
      await navigate(`/cases/${made.id}/index`);
    },
  });
}

/** The key that begins it. */
export function BeginWalk() {
  const begin = useBeginWalk();
  return (
    <>
      <button className="key" disabled={begin.isPending} onClick={() => begin.mutate()}>
        {begin.isPending ? tr`Laying it out …` : tr`First walk, ten minutes`}
      </button>
      <Trouble problem={begin.error} />
    </>
  );
}
