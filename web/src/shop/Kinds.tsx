import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { v7 } from 'uuid';
import { api, unwrap, type ApiProblem } from '../api/client';
import { keys, useMayWrite } from '../api/queries';
import { Trouble, Waiting } from '../ui/basics';
import { CaseToKind, FileToKind } from './KindIn';
import { Kind } from './Kind';

/** Kinds of engines: their figures written once, for every later case. */
export function Kinds() {
  const { kind } = useParams();
  const [params] = useSearchParams();
  const from = params.get('from');
  return (
    <main className="mx-auto max-w-6xl px-4 py-6">
      {from === 'file' ? (
        <FileToKind />
      ) : from ? (
        <CaseToKind key={from} caseId={from} />
      ) : kind ? (
        <Kind key={kind} id={kind} />
      ) : (
        <All />
      )}
    </main>
  );
}

function All() {
  const kinds = useQuery({ queryKey: keys.kinds, queryFn: () => unwrap(api.GET('/api/engine-kinds')) });
  const mayWrite = useMayWrite();
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-3xl">{tr`Kinds of engines`}</h1>
          <p className="text-soft">
            {tr`The maker’s figures with their pages, sizes, torques, script, lessons and services: written once, taken into every later case.`}
          </p>
        </div>
        {mayWrite && <ReadFile />}
      </div>
      {kinds.isPending && <Waiting what={tr`the kinds`} />}
      <Trouble problem={kinds.error as ApiProblem | null} />
      {kinds.data?.length === 0 && (
        <p className="card mt-6 p-5">
          <Trans>
            None yet. Open a case whose limits and torques are entered, and on its Arrival press{' '}
            <b>Keep as a kind</b>; or read a file from another shop.
          </Trans>
        </p>
      )}
      {kinds.data && kinds.data.length > 0 && (
        <ul className="card mt-6 divide-y divide-line">
          {kinds.data.map((k) => (
            <li key={k.id}>
              <Link
                className="flex min-h-14 flex-wrap items-center gap-x-6 gap-y-1 px-4 py-2"
                to={`/kinds/${k.id}`}
              >
                <span className="least-48 min-w-0 flex-1 leading-tight">
                  <b className="text-lg">{k.name}</b>
                  <span className="block text-sm text-soft">
                    {[k.says, k.theirs && tr`came from ${k.theirs}`].filter(Boolean).join(' · ')}
                  </span>
                </span>
                <span className="fig text-sm">
                  <Trans>version {k.version} ·</Trans>{' '}
                  {plural(k.figures, { one: '# figure', other: '# figures' })} ·{' '}
                  {plural(k.services, { one: '# service', other: '# services' })} · {cases(k.cases)}
                </span>
                {k.behind > 0 && (
                  <span className="rounded bg-brass-tint px-2 text-sm">
                    {tr`${cases(k.behind)} by an earlier version`}
                  </span>
                )}
              </Link>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

/** A file from another shop: looked at first, and kept when it is saved. */
function ReadFile() {
  const input = useRef<HTMLInputElement>(null);
  const client = useQueryClient();
  const navigate = useNavigate();
  const read = useMutation({
    mutationFn: async (file: File) =>
      unwrap(
        api.POST('/api/engine-kinds/read', {
          body: await file.text(),
          bodySerializer: (b) => b,
          headers: { 'Content-Type': 'application/yaml' },
        }),
      ),
    onSuccess: (file) => {
      client.setQueryData(keys.kindRead, { file, id: file.standing?.id ?? v7() });
      void navigate('/kinds?from=file');
    },
  });
  return (
    <div className="max-w-xl">
      <button className="key" onClick={() => input.current?.click()} disabled={read.isPending}>
        {tr`Read a file`}
      </button>
      <input
        ref={input}
        type="file"
        className="hidden"
        accept=".yaml,.yml"
        aria-label={tr`A file of a kind of engine`}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) read.mutate(file);
        }}
      />
      <Trouble problem={read.error as ApiProblem | null} />
    </div>
  );
}

const cases = (n: number) => plural(n, { one: '# case', other: '# cases' });
