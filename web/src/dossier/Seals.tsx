import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/keys';
import { useMayWriteShop } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { Addr, moment, Trouble } from '../ui/basics';
import { EntryForm, TextField, useEntryForm } from '../ui/form';
import { changeWords, megabytes, writerOf } from '../ui/words';
import { digits } from './fingerprint';

const schema = z.object({ why: z.string() });

const alteredWords: Record<Schemas['Altered'], string> = {
  added: tr`written`,
  changed: tr`changed`,
  takenBack: tr`taken back`,
};

/** The case as it stood, under a number and a signature: kept for good, and anyone can check it. */
export function Seals() {
  const { engineCase } = useCaseContext();
  const caseId = engineCase.id;
  const seals = useQuery<Schemas['SealList'], ApiProblem>({
    queryKey: keys.room(caseId, 'seals'),
    queryFn: () => unwrap(api.GET('/api/cases/{caseId}/seals', { params: { path: { caseId } } })),
  });
  const list = seals.data?.seals ?? [];
  const since = seals.data?.since ?? [];
  return (
    <details className="card p-4">
      <summary className="min-h-8 cursor-pointer">
        <b className="text-lg">{tr`Seal it`}</b>{' '}
        <span className="text-soft">
          {seals.data && list.length === 0 && tr`not sealed yet`}
          {list.length > 0 && since.length === 0 && tr`as it stands it is seal ${list[0]!.number}`}
          {list.length > 0 && since.length > 0 && tr`changed since seal ${list[0]!.number}`}
        </span>
      </summary>
      <p className="mt-2 text-soft">
        {tr`The whole record as it stands, with every picture as it came, the papers and the figures, signed with the shop’s key. It is kept under its number whatever is written after, and whoever has it can check with common tools that nothing was changed.`}
      </p>
      {since.length > 0 && <Since number={list[0]!.number} since={since} />}
      <ul className="mt-3 space-y-3">
        {list.map((s, i) => (
          <Sealed key={s.id} seal={s} newest={i === 0} />
        ))}
      </ul>
      <SealNow caseId={caseId} />
      <p className="mt-3 text-sm text-soft">
        <Trans>
          Somebody who was given one can ask at{' '}
          <a className="underline" href="/check">
            {location.host}/check
          </a>{' '}
          whether it is sound, without signing in.
        </Trans>
      </p>
      <Trouble problem={seals.error} />
    </details>
  );
}

function Sealed({ seal, newest }: { seal: Schemas['Seal']; newest: boolean }) {
  const mayWrite = useMayWriteShop();
  return (
    <li className="rounded-lg border border-line p-3">
      <p>
        <b>
          <Trans>Seal {seal.number}</Trans>
        </b>
        {seal.why && ` · ${seal.why}`} · {moment(seal.at)}, {seal.by}
      </p>
      <p className="text-sm text-soft">
        <Trans>
          {seal.files} files, {megabytes(seal.bytes)} MB · signed with the key{' '}
          <span className="fig break-all">{digits(seal.fingerprint)}</span>
        </Trans>
      </p>
      {/* Not held in memory first: it may be gigabytes. */}
      {mayWrite && (
        <a
          className="key mt-2 inline-flex"
          href={`/api/cases/${seal.caseId}/seals/${seal.number}/bag`}
          download
        >
          {tr`Save the sealed bag`}
        </a>
      )}
      {!newest && <SinceEarlier seal={seal} />}
    </li>
  );
}

/** What was written since an earlier seal, asked for when it is opened. */
function SinceEarlier({ seal }: { seal: Schemas['Seal'] }) {
  const [open, setOpen] = useState(false);
  const since = useQuery<Schemas['CaseAlteration'][], ApiProblem>({
    queryKey: [...keys.room(seal.caseId, 'seals'), seal.number],
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/seals/{number}/since', {
          params: { path: { caseId: seal.caseId, number: seal.number } },
        }),
      ),
    enabled: open,
  });
  return (
    <details className="mt-2" open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="min-h-8 cursor-pointer">
        <Trans>What was written since seal {seal.number}</Trans>
      </summary>
      {since.data ? <Altered since={since.data} number={seal.number} /> : <Trouble problem={since.error} />}
    </details>
  );
}

/** What was written since, the newest first. */
function Since({ number, since }: { number: number; since: Schemas['CaseAlteration'][] }) {
  return (
    <details className="mt-3 rounded-lg border-2 border-brass p-3">
      <summary className="min-h-8 cursor-pointer font-semibold">
        <Trans>Changed since seal {number}:</Trans>{' '}
        {since.length === 1 ? tr`one entry` : tr`${since.length} entries`}
      </summary>
      <Altered since={since} number={number} />
    </details>
  );
}

function Altered({ number, since }: { number: number; since: Schemas['CaseAlteration'][] }) {
  return (
    <ul
      className="mt-2 max-h-64 space-y-1 overflow-y-auto"
      tabIndex={0}
      aria-label={tr`Changed since seal ${number}`}
    >
      {since.toReversed().map((a) => (
        <li key={a.id}>
          {changeWords[a.kind] ?? a.kind} {a.place && <Addr code={a.place} />} {alteredWords[a.what]},{' '}
          {moment(a.at)}, {writerOf(a)}
        </li>
      ))}
    </ul>
  );
}

function SealNow({ caseId }: { caseId: string }) {
  const mayWrite = useMayWriteShop();
  const client = useQueryClient();
  const id = useRef(v7());
  const { form, settle } = useEntryForm(schema, { why: '' }, { draft: `seal/${caseId}` });
  const seal = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (body) =>
      unwrap(
        api.POST('/api/cases/{caseId}/seals', {
          params: { path: { caseId } },
          body: { id: id.current, ...body },
        }),
      ),
    onSuccess: () => {
      id.current = v7();
      settle({ why: '' });
      return client.invalidateQueries({ queryKey: keys.room(caseId, 'seals') });
    },
  });
  if (!mayWrite) return null;
  return (
    <>
      <EntryForm form={form} send={seal.mutateAsync} className="mt-3 flex flex-wrap items-end gap-2">
        <TextField form={form} name="why" label={tr`What for (may stay empty)`} className="least-40 flex-1" />
        <button className="key key-go" disabled={seal.isPending}>
          {seal.isPending ? tr`Sealing every picture …` : tr`Seal it as it stands`}
        </button>
      </EntryForm>
      <Trouble problem={seal.error} />
    </>
  );
}
