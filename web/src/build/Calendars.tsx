import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { v7 } from 'uuid';
import { useRef } from 'react';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/keys';
import { useMayWriteShop } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { day, Trouble } from '../ui/basics';
import { EntryForm, TextField, useEntryForm } from '../ui/form';
import { FileKey } from '../ui/FileKey';

const schema = z.object({ for: z.string() });

/** The plan in somebody's own calendar: as a file, or at an address that the calendar fetches by itself. */
export function Calendars() {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWriteShop();
  return (
    <details className="card p-4">
      <summary className="min-h-8 cursor-pointer text-lg font-bold">{tr`In a calendar`}</summary>
      <div className="mt-2 space-y-4">
        <FileKey href={`/api/cases/${engineCase.id}/build.ics`} name="plan.ics">
          {tr`The plan as a file`}
        </FileKey>
        {mayWrite && <Addresses caseId={engineCase.id} />}
      </div>
    </details>
  );
}

function Addresses({ caseId }: { caseId: string }) {
  const client = useQueryClient();
  const key = [...keys.case(caseId), 'feeds'] as const;
  const id = useRef(v7());
  const { form, settle } = useEntryForm(schema, { for: '' }, { draft: `feed/${caseId}` });
  const feeds = useQuery<Schemas['FeedTold'][], ApiProblem>({
    queryKey: key,
    queryFn: () => unwrap(api.GET('/api/cases/{caseId}/feeds', { params: { path: { caseId } } })),
  });
  const again = () => client.invalidateQueries({ queryKey: key });
  const open = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (body) =>
      unwrap(
        api.POST('/api/cases/{caseId}/feeds', {
          params: { path: { caseId } },
          body: { id: id.current, ...body },
        }),
      ),
    onSuccess: () => {
      id.current = v7();
      settle({ for: '' });
      return again();
    },
  });
  const shut = useMutation<unknown, ApiProblem, Schemas['FeedTold']>({
    mutationFn: (f) =>
      unwrap(
        api.POST('/api/cases/{caseId}/feeds/{id}/withdraw', {
          params: { path: { caseId, id: f.id } },
          body: { why: '', version: f.version },
        }),
      ),
    onSuccess: again,
  });
  return (
    <div>
      <p className="text-soft">
        {tr`An address that a calendar fetches by itself. Whoever knows it reads this plan, and nothing else; shut, it answers no more.`}
      </p>
      <ul className="mt-2 space-y-3">
        {feeds.data?.map((f) => (
          <li key={f.id}>
            <label className="block">
              <span className="label">
                {f.for || tr`For a calendar`}
                <Trans>
                  , opened by {f.by} on {day(f.at)}
                </Trans>
              </span>
              <input
                className="entry fig text-sm"
                readOnly
                value={`${location.origin}${f.path}`}
                onFocus={(e) => e.target.select()}
              />
            </label>
            <button className="key mt-1 text-sm" disabled={shut.isPending} onClick={() => shut.mutate(f)}>
              {tr`Shut it`}
            </button>
          </li>
        ))}
      </ul>
      <EntryForm form={form} send={open.mutateAsync} className="mt-3 flex flex-wrap items-end gap-2">
        <TextField form={form} name="for" label={tr`For whose calendar`} className="least-40 flex-1" />
        <button className="key" disabled={open.isPending}>
          {tr`Open an address`}
        </button>
      </EntryForm>
      <Trouble problem={feeds.error ?? open.error ?? shut.error} />
    </div>
  );
}
