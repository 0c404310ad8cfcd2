import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import * as z from 'zod/mini';
import { api, ApiProblem, unwrap } from '../api/client';
import { keys } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useRoomSoon } from '../casebook/caseQueries';
import { Addr, Trouble } from '../ui/basics';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';
import { attitudeWords, minutesText } from './useStrip';

const schema = z.object({ part: needed(tr`Type its address, such as K3.`) });

/** Take off only what exposes the suspect: the least work to one part. */
export function Dig({ onStep }: { onStep: (id: string) => void }) {
  const { engineCase } = useCaseContext();
  const trace = useRoomSoon(engineCase.id, 'trace');
  const { form, settle } = useEntryForm(schema, { part: '' });
  const [target, setTarget] = useState<string | null>(null);
  const suspect = trace?.ranking[0]?.place;
  const dig = useQuery({
    queryKey: [...keys.rooms(engineCase.id), 'dig', target],
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/dig', {
          params: { path: { caseId: engineCase.id }, query: { target: target! } },
        }),
      ),
    enabled: target !== null,
    retry: false,
  });
  return (
    <div>
      <h2 className="text-xl">{tr`The least work to one part`}</h2>
      <EntryForm
        form={form}
        send={async ({ part }) => setTarget(part.trim().toUpperCase())}
        className="mt-2 flex items-end gap-2"
      >
        <div className="flex-1">
          <TextField
            form={form}
            name="part"
            label={tr`Which part do you want to see?`}
            placeholder="K3, P1T …"
            className="fig text-xl uppercase"
          />
        </div>
        <button className="key key-go">{tr`Dig`}</button>
      </EntryForm>
      {suspect && target === null && (
        <button
          className="key mt-2"
          onClick={() => {
            settle({ part: suspect });
            setTarget(suspect);
          }}
        >
          <Trans>
            To the suspect, <Addr code={suspect} />
          </Trans>
        </button>
      )}
      <div className="mt-3" aria-live="polite">
        <Trouble problem={dig.error as ApiProblem | null} />
        {dig.data && !dig.error && (
          <>
            <p className="text-lg font-bold">{dig.data.words}</p>
            {dig.data.variant && (
              <p>
                <Trans>
                  By another way, chosen under “Other ways” of the plan: <b>{dig.data.variant}</b>.
                </Trans>
              </p>
            )}
            <ol className="card mt-2 divide-y divide-line">
              {dig.data.steps.map((s, i) => (
                <li key={s.id}>
                  <button
                    className="flex min-h-11 w-full items-center gap-3 px-3 py-1 text-left"
                    onClick={() => onStep(s.id)}
                  >
                    <span className="fig w-6 text-right text-soft">{i + 1}</span>
                    <span className="flex-1 leading-tight">
                      {s.name}
                      {s.share < 1 && (
                        <b>
                          {' '}
                          <Trans>(only at {dig.data.target})</Trans>
                        </b>
                      )}
                      {s.attitude !== 'upright' && (
                        <span className="text-sm text-soft"> · {attitudeWords[s.attitude]}</span>
                      )}
                    </span>
                    <span className="fig text-sm">{minutesText(s.minutes)}</span>
                  </button>
                </li>
              ))}
            </ol>
          </>
        )}
      </div>
    </div>
  );
}
