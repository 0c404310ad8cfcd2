import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { day, Trouble } from '../ui/basics';
import { useWriteId } from '../ui/useWriteId';

type Row = Schemas['KindRow'];

const stateWords: Record<Schemas['KindRowState'], string> = {
  same: tr`the same in both`,
  onlyKind: tr`the kind says it, this case does not`,
  onlyCase: tr`this case says it, the kind does not`,
  differs: tr`they differ`,
  dropped: tr`the kind no longer says it`,
};

/** The kind of this engine: what it says for it, and what this engine could teach it. */
export function OfKind() {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const of = useQuery({
    queryKey: [...keys.rooms(engineCase.id), 'of-kind', engineCase.engineName, engineCase.kindId],
    queryFn: () =>
      unwrap(api.GET('/api/cases/{caseId}/of-kind', { params: { path: { caseId: engineCase.id } } })),
  });
  if (!of.data) return null;
  const { kind, pinned, rows, traps } = of.data;
  if (!kind)
    return mayWrite && engineCase.limits.some((l) => l.withdrawnAt === null) ? (
      <p className="card mb-4 flex flex-wrap items-center gap-x-4 gap-y-2 px-4 py-3">
        <span className="least-48 flex-1">{tr`Its figures are written down in this case alone.`}</span>
        <Link className="key" to={`/kinds?from=${engineCase.id}`}>
          {tr`Keep as a kind`}
        </Link>
      </p>
    ) : null;
  const take = rows.filter((r) => r.state === 'onlyKind' || r.state === 'differs' || r.state === 'dropped');
  const give = rows.filter((r) => r.state === 'onlyCase' || r.state === 'differs');
  return (
    <details className="card mb-4 px-4 py-3" open={pinned === 0 && take.length > 0}>
      <summary className="min-h-8 cursor-pointer">
        <b>{kind.name}</b>
        <span className="text-soft">
          {pinned === 0
            ? tr`: a kind of this shop, version ${kind.version}; nothing taken from it yet`
            : pinned < kind.version
              ? tr`: judged by version ${pinned}, version ${kind.version} stands`
              : tr`: judged by version ${pinned}`}
          {take.length > 0 && tr`; ${take.length} to take`}
          {give.length + traps.length > 0 && tr`; ${give.length + traps.length} that it could learn`}
        </span>
      </summary>
      <p className="mt-2 text-sm">
        <Link className="underline underline-offset-4" to={`/kinds/${kind.id}`}>
          {tr`Open the kind`}
        </Link>
        {pinned > 0 && pinned < kind.version && (
          <>
            {' · '}
            <Link className="underline underline-offset-4" to={`/kinds/${kind.id}?version=${pinned}`}>
              {tr`as it was taken`}
            </Link>
          </>
        )}
      </p>
      {take.length > 0 && <Take key={kind.version} kind={kind} rows={take} mayWrite={mayWrite} />}
      {pinned > 0 && pinned < kind.version && take.length === 0 && mayWrite && <Pin kind={kind} />}
      {give.length > 0 && <Give key={`give-${kind.version}`} kind={kind} rows={give} mayWrite={mayWrite} />}
      {traps.length > 0 && <Traps kind={kind} traps={traps} mayWrite={mayWrite} />}
    </details>
  );
}

function Rows({
  rows,
  chosen,
  toggle,
  fresh,
}: {
  rows: Row[];
  chosen: ReadonlySet<string>;
  toggle: (key: string) => void;
  /** Which side would stand then. */
  fresh: 'kind' | 'case';
}) {
  return (
    <ul className="divide-y divide-line">
      {rows.map((r) => (
        <li key={r.key} className="py-1.5">
          <label className="flex min-h-11 items-start gap-3">
            <input
              type="checkbox"
              className="tick mt-1"
              checked={chosen.has(r.key)}
              onChange={() => toggle(r.key)}
            />
            <span className="min-w-0 flex-1">
              <b>{r.name}</b> <span className="text-sm text-soft">{stateWords[r.state]}</span>
              {(fresh === 'kind' ? [r.kind, r.case] : [r.case, r.kind]).map(
                (says, i) =>
                  says && (
                    <span key={i} className={`fig block text-sm ${i === 1 ? 'text-soft line-through' : ''}`}>
                      {says}
                    </span>
                  ),
              )}
            </span>
          </label>
        </li>
      ))}
    </ul>
  );
}

function useChosen(rows: Row[]) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const chosen = new Set(rows.map((r) => r.key).filter((k) => !left.has(k)));
  const toggle = (key: string) =>
    setLeft((l) => {
      const next = new Set(l);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  return { chosen, toggle };
}

function useTake(kind: Schemas['EngineKind']) {
  const { engineCase } = useCaseContext();
  const client = useQueryClient();
  const id = useWriteId();
  return useMutation<unknown, ApiProblem, string[]>({
    mutationFn: (chosen) =>
      unwrap(
        api.POST('/api/cases/{caseId}/of-kind/take', {
          params: { path: { caseId: engineCase.id } },
          body: { id: id.get(), kindId: kind.id, version: kind.version, keys: chosen },
        }),
      ),
    onSuccess: async () => {
      id.settle();
      await client.invalidateQueries({ queryKey: keys.case(engineCase.id) });
    },
  });
}

/** What the kind says for this engine, taken by a person. */
function Take({ kind, rows, mayWrite }: { kind: Schemas['EngineKind']; rows: Row[]; mayWrite: boolean }) {
  const { chosen, toggle } = useChosen(rows);
  const take = useTake(kind);
  return (
    <section className="mt-3">
      <h3 className="text-lg">{tr`The kind says for this engine`}</h3>
      <Rows rows={rows} chosen={chosen} toggle={toggle} fresh="kind" />
      <Trouble problem={take.error} />
      {mayWrite && (
        <button
          className="key key-go mt-2"
          disabled={take.isPending}
          onClick={() => take.mutate([...chosen])}
        >
          {chosen.size === 0
            ? tr`Judge by version ${kind.version}, take nothing`
            : tr`Take ${chosen.size} into this case`}
        </button>
      )}
    </section>
  );
}

function Pin({ kind }: { kind: Schemas['EngineKind'] }) {
  const take = useTake(kind);
  return (
    <div className="mt-3">
      <p>{tr`Nothing of what changed since is another here.`}</p>
      <Trouble problem={take.error} />
      <button className="key mt-2" disabled={take.isPending} onClick={() => take.mutate([])}>
        <Trans>Judge by version {kind.version}</Trans>
      </button>
    </div>
  );
}

/** What this engine’s case says and the kind does not. */
function Give({ kind, rows, mayWrite }: { kind: Schemas['EngineKind']; rows: Row[]; mayWrite: boolean }) {
  const { engineCase } = useCaseContext();
  const client = useQueryClient();
  const [wanted, setWanted] = useState<ReadonlySet<string>>(new Set());
  const give = useMutation<unknown, ApiProblem, string[]>({
    mutationFn: (chosen) =>
      unwrap(
        api.POST('/api/cases/{caseId}/of-kind/offer', {
          params: { path: { caseId: engineCase.id } },
          body: { kindId: kind.id, version: kind.version, keys: chosen, why: tr`From ${engineCase.title}` },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: keys.kinds });
      await client.invalidateQueries({ queryKey: keys.rooms(engineCase.id) });
    },
  });
  return (
    <section className="mt-3">
      <h3 className="text-lg">{tr`This case says what the kind does not`}</h3>
      <p className="text-sm text-soft">
        {tr`Tick what holds for every engine of the kind. What is of this engine alone stays here.`}
      </p>
      <Rows
        rows={rows}
        chosen={wanted}
        toggle={(key) =>
          setWanted((w) => {
            const next = new Set(w);
            if (!next.delete(key)) next.add(key);
            return next;
          })
        }
        fresh="case"
      />
      <Trouble problem={give.error} />
      {mayWrite && wanted.size > 0 && (
        <button
          className="key key-go mt-2"
          disabled={give.isPending}
          onClick={() => give.mutate([...wanted])}
        >
          <Trans>
            Give {wanted.size} to the kind, as version {kind.version + 1}
          </Trans>
        </button>
      )}
    </section>
  );
}

/** What the strip ran into, which becomes a lesson at its step when somebody says so. */
function Traps({
  kind,
  traps,
  mayWrite,
}: {
  kind: Schemas['EngineKind'];
  traps: Schemas['KindTrap'][];
  mayWrite: boolean;
}) {
  const { engineCase } = useCaseContext();
  const client = useQueryClient();
  const id = useWriteId();
  const learn = useMutation<unknown, ApiProblem, Schemas['KindTrap']>({
    mutationFn: async (trap) => {
      const view = await unwrap(api.GET('/api/engine-kinds/{id}', { params: { path: { id: kind.id } } }));
      return unwrap(
        api.POST('/api/lessons', {
          body: {
            id: id.get(),
            script: view.script,
            step: trap.step,
            engineName: kind.name,
            text: trap.says,
            caseId: engineCase.id,
          },
        }),
      );
    },
    onSuccess: async () => {
      id.settle();
      await client.invalidateQueries({ queryKey: keys.lessons });
      await client.invalidateQueries({ queryKey: keys.rooms(engineCase.id) });
    },
  });
  return (
    <section className="mt-3">
      <h3 className="text-lg">{tr`What the next one should know`}</h3>
      <ul className="divide-y divide-line">
        {traps.map((t) => (
          <li key={t.step + t.says} className="flex flex-wrap items-center gap-3 py-1.5">
            <span className="least-48 flex-1">
              {t.says} <span className="text-sm text-soft">{t.stepName}</span>
            </span>
            {mayWrite && (
              <button className="key text-sm" disabled={learn.isPending} onClick={() => learn.mutate(t)}>
                {tr`Tell the next one`}
              </button>
            )}
          </li>
        ))}
      </ul>
      <Trouble problem={learn.error} />
      <p className="mt-1 text-sm">
        <Trans>
          Counts, order and times:{' '}
          <Link className="underline underline-offset-4" to={`/scripts?from=${engineCase.id}`}>
            keep the script as it was done here
          </Link>
          .
        </Trans>
      </p>
    </section>
  );
}

/** Services for which an engine is opened: of this one, while it is open. */
export function WhileOpen() {
  const { engineCase } = useCaseContext();
  const service = useQuery({
    queryKey: [...keys.rooms(engineCase.id), 'service', engineCase.serial],
    queryFn: () =>
      unwrap(api.GET('/api/cases/{caseId}/service', { params: { path: { caseId: engineCase.id } } })),
  });
  const line = service.data?.line;
  if (!line || service.data!.whileOpen.length === 0) return null;
  return (
    <section className="card mb-4 px-4 py-3">
      <h2 className="text-lg">
        <Trans>While it is open </Trans>
        <Link className="text-base font-normal underline underline-offset-4" to={`/fleet/${line.engine.id}`}>
          {line.engine.name}
          {line.now !== null && tr`, about ${line.now} h`}
        </Link>
      </h2>
      <ul className="divide-y divide-line">
        {service.data!.whileOpen.map((d) => (
          <li key={d.service.id} className="flex flex-wrap justify-between gap-x-4 py-1.5">
            <span>{d.service.what}</span>
            <span className="fig">
              {d.left === null
                ? d.due
                  ? tr`due ${day(d.due)}`
                  : tr`not known when`
                : d.left <= 0
                  ? tr`over by ${Math.round(-d.left)} h`
                  : tr`else opened again in ${Math.round(d.left)} h`}
              {d.left !== null && d.left > 0 && d.due && `, ${day(d.due)}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
