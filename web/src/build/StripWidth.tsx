import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { Trouble } from '../ui/basics';
import { fixed, plainFigures } from '../ui/region';

const fields = [
  ['markWidth', tr`The nearest mark on the paper is wide, mm`],
  ['mark', tr`… and stands for, mm`],
  ['wide', tr`The strip at its widest, mm`],
  ['narrow', tr`… at its narrowest, mm`],
] as const;

type Field = (typeof fields)[number][0];

/** A plastic strip is read by its width: what that comes to, with its doubt, goes into the entry as if it were typed. */
export function StripWidth({ onWorked }: { onWorked: (typed: string) => void }) {
  const [typed, setTyped] = useState<Record<Field, string>>({
    markWidth: '',
    mark: '',
    wide: '',
    narrow: '',
  });
  const work = useMutation<Schemas['ReckonerResult'][], ApiProblem, void>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/reckoners/{id}', {
          params: { path: { id: 'strip' } },
          body: {
            typed: {
              markWidth: plainFigures(typed.markWidth),
              mark: plainFigures(typed.mark),
              wide: plainFigures(typed.wide),
              narrow: plainFigures(typed.narrow || typed.wide),
              eye: '0.15',
            },
          },
        }),
      ),
  });
  const [clearance, doubt, narrowest] = work.data ?? [];
  const told =
    clearance?.value != null && doubt?.value != null
      ? `${fixed(clearance.value, 3)} ± ${fixed(doubt.value, 3)} mm`
      : null;
  return (
    <form
      className="my-2 space-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        work.mutate();
      }}
    >
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        {fields.map(([id, label]) => (
          <label key={id} className="flex flex-col justify-end">
            <span className="label">{label}</span>
            <input
              className="entry fig"
              inputMode="decimal"
              value={typed[id]}
              onChange={(e) => setTyped({ ...typed, [id]: e.target.value })}
            />
          </label>
        ))}
      </div>
      <button className="key text-sm" disabled={work.isPending}>
        {tr`Work it out`}
      </button>
      {told && (
        <p>
          <Trans>
            <b className="fig text-xl">{told}</b>, the width read to 0.15 mm. {narrowest?.words}{' '}
          </Trans>
          <button type="button" className="key text-sm" onClick={() => onWorked(told)}>
            {tr`Take it over`}
          </button>
        </p>
      )}
      <Trouble problem={work.error} />
    </form>
  );
}
