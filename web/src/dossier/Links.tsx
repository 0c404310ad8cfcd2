import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/keys';
import { useMayWriteShop, type DossierKind } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { day, moment, Trouble } from '../ui/basics';
import { EntryForm, needed, TextField, TickField, useEntryForm } from '../ui/form';
import { kinds } from './kinds';

const schema = z.object({
  for: needed(tr`Type who will have it.`),
  until: needed(tr`Choose its last day.`),
  mayAnswer: z.boolean(),
});

/** Days that a link is offered for. */
const usual = 30;

const lastDay = () => new Date(Date.now() + usual * 86_400_000).toISOString().slice(0, 10);

/** An address at which somebody reads this dossier, and nothing else, until its last day. */
export function Links({ kind, leaveOutNames }: { kind: DossierKind; leaveOutNames: boolean }) {
  const { engineCase } = useCaseContext();
  const caseId = engineCase.id;
  const mayWrite = useMayWriteShop();
  const links = useQuery<Schemas['LinkTold'][], ApiProblem>({
    queryKey: keys.room(caseId, 'links'),
    queryFn: () => unwrap(api.GET('/api/cases/{caseId}/links', { params: { path: { caseId } } })),
    enabled: mayWrite,
  });
  const open = links.data?.filter((l) => !l.shut) ?? [];
  const shut = links.data?.filter((l) => l.shut) ?? [];
  if (!mayWrite) return null;
  return (
    <details className="card p-4">
      <summary className="min-h-8 cursor-pointer">
        <b className="text-lg">{tr`Let somebody read it`}</b>{' '}
        <span className="text-soft">
          {links.data &&
            (open.length === 0
              ? tr`nobody can`
              : open.length === 1
                ? tr`one link`
                : tr`${open.length} links`)}
        </span>
      </summary>
      <p className="mt-2 text-soft">
        <Trans>
          A link to the <b>{kinds[kind].name.toLowerCase()}</b> as it stands when it is read
        </Trans>
        {leaveOutNames && tr`, without names`}
        {tr`. Whoever has it reads that, and nothing else of the shop, until its last day or until you shut it. Each reading is noted.`}
      </p>
      <ul className="mt-3 space-y-3">
        {[...open, ...shut].map((l) => (
          <Opened key={l.id} caseId={caseId} link={l} />
        ))}
      </ul>
      <NewLink caseId={caseId} kind={kind} leaveOutNames={leaveOutNames} />
      <Trouble problem={links.error} />
    </details>
  );
}

function Opened({ caseId, link }: { caseId: string; link: Schemas['LinkTold'] }) {
  const client = useQueryClient();
  const shut = useMutation<unknown, ApiProblem>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/cases/{caseId}/links/{id}/withdraw', {
          params: { path: { caseId, id: link.id } },
          body: { why: '', version: link.version },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.room(caseId, 'links') }),
  });
  return (
    <li className="rounded-lg border border-line p-3">
      <p>
        <b>{link.for}</b> · {kinds[link.kind].name}
        {link.leaveOutNames && tr`, without names`}
        {link.mayAnswer && tr`, may approve`} ·{' '}
        {link.shut ? tr`shut; its last day was ${day(link.until)}` : tr`until ${day(link.until)}`}
      </p>
      {!link.shut && (
        <label className="mt-1 block">
          <span className="label">
            <Trans>
              Address, opened by {link.by} on {day(link.at)}
            </Trans>
          </span>
          <input
            className="entry fig w-full text-sm"
            readOnly
            value={`${location.origin}${link.path}`}
            onFocus={(e) => e.target.select()}
          />
        </label>
      )}
      <div className="mt-1 flex flex-wrap items-center gap-3">
        {link.views === 0 ? (
          <span className="text-soft">{tr`Nobody has read it yet.`}</span>
        ) : (
          <details>
            <summary className="min-h-8 cursor-pointer">
              {link.views === 1 ? tr`Read once` : tr`Read ${link.views} times`}
              <Trans>, last {moment(link.latest[0]!.at)}</Trans>
            </summary>
            <ul className="text-sm">
              {link.latest.map((v) => (
                <li key={v.id}>
                  {moment(v.at)}, {v.what === 'pdf' ? tr`as PDF` : tr`on the screen`}
                  <Trans>, from </Trans>
                  <span className="fig">{v.from || tr`an address unknown`}</span>
                </li>
              ))}
            </ul>
          </details>
        )}
        {!link.shut && (
          <button className="key text-sm" disabled={shut.isPending} onClick={() => shut.mutate()}>
            {tr`Shut it`}
          </button>
        )}
      </div>
      <Trouble problem={shut.error} />
    </li>
  );
}

function NewLink({
  caseId,
  kind,
  leaveOutNames,
}: {
  caseId: string;
  kind: DossierKind;
  leaveOutNames: boolean;
}) {
  const client = useQueryClient();
  const id = useRef(v7());
  const stands = useRef({ for: '', until: lastDay(), mayAnswer: true });
  const { form, settle } = useEntryForm(schema, stands.current, { draft: `link/${caseId}` });
  const open = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (body) =>
      unwrap(
        api.POST('/api/cases/{caseId}/links', {
          params: { path: { caseId } },
          body: { id: id.current, kind, leaveOutNames, ...body },
        }),
      ),
    onSuccess: () => {
      id.current = v7();
      settle(stands.current);
      return client.invalidateQueries({ queryKey: keys.room(caseId, 'links') });
    },
  });
  return (
    <>
      <EntryForm
        form={form}
        send={open.mutateAsync}
        className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-2"
      >
        <TextField form={form} name="for" label={tr`Who will have it`} className="least-40 flex-1" />
        <TextField form={form} name="until" label={tr`Its last day`} type="date" />
        <TickField form={form} name="mayAnswer" label={tr`May approve or refuse an option`} />
        <button className="key key-go" disabled={open.isPending}>
          {tr`Open a link`}
        </button>
      </EntryForm>
      <Trouble problem={open.error} />
    </>
  );
}
