import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { Trouble, Waiting } from '../ui/basics';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';

const schema = z.object({
  name: needed(tr`Call it as engines of it are called.`),
  says: z.string(),
  theirs: z.string(),
  why: needed(tr`Say where it is from.`),
});

type Sheet = Schemas['KindSheet'];

/** How much a sheet holds, in words. */
const holds = (s: Sheet) =>
  [
    [s.limits.length, tr`limit`, tr`limits`],
    [s.sizes.length, tr`list of sizes`, tr`lists of sizes`],
    [s.tightenings.length, tr`torque`, tr`torques`],
    [s.services.length, tr`service`, tr`services`],
    [s.notes.length, tr`note`, tr`notes`],
  ]
    .filter(([n]) => n)
    .map(([n, one, more]) => `${n} ${n === 1 ? one : more}`)
    .join(', ') || tr`no figures yet`;

/** A case whose figures become those of its kind. */
export function CaseToKind({ caseId }: { caseId: string }) {
  const [id] = useState(() => v7());
  const sheet = useQuery({
    queryKey: [...keys.kinds, 'of-case', caseId],
    queryFn: () => unwrap(api.GET('/api/cases/{caseId}/of-kind/sheet', { params: { path: { caseId } } })),
    staleTime: Infinity,
  });
  const engineCase = useQuery({
    queryKey: [...keys.kinds, 'title', caseId],
    queryFn: () => unwrap(api.GET('/api/cases/{id}', { params: { path: { id: caseId } } })),
  });
  if (!sheet.data || !engineCase.data) return <Waiting what={tr`the case`} />;
  return (
    <>
      <h1 className="text-3xl">{tr`A kind of engine, of what this case holds`}</h1>
      <p className="text-soft">
        <Trans>
          From <b>{engineCase.data.title}</b>: {holds(sheet.data)}. Look through it once it is kept; each
          figure can be changed.
        </Trans>
      </p>
      <Keep
        id={id}
        sheet={sheet.data}
        version={0}
        theirs=""
        why={tr`Figures of ${engineCase.data.title}`}
        takeInto={caseId}
      />
    </>
  );
}

/** A file of another shop, read and not kept yet. */
export function FileToKind() {
  const client = useQueryClient();
  const read = client.getQueryData<{ file: Schemas['KindRead']; id: string }>(keys.kindRead);
  if (!read)
    return (
      <p className="card p-5">
        <Trans>
          The file is no longer here.{' '}
          <Link className="underline" to="/kinds">
            Read it again.
          </Link>
        </Trans>
      </p>
    );
  const { file, problems, standing } = read.file;
  return (
    <>
      <h1 className="text-3xl">
        <Trans>{file.kind.name}, from a file</Trans>
      </h1>
      <p className="text-soft">
        {holds(file.kind)}
        {file.lessons.length > 0 && tr`, ${file.lessons.length} lessons`}
        {file.script && tr`, and a strip script of its own, “${file.script.name}”`}
        {tr`. They are another shop’s: hold them against your manual before you cut metal by them.`}
      </p>
      {standing && (
        <p className="mt-3 rounded-lg border-2 border-brass bg-brass-tint px-4 py-2">
          <Trans>
            The shop has a kind of this name, version {standing.version}. Keeping this one puts it in its
            place as version {standing.version + 1}; what stood before stays in the record, and cases stay by
            what they took.
          </Trans>
        </p>
      )}
      {problems.length > 0 && (
        <section className="mt-3 rounded-lg border-2 border-lead bg-lead-tint px-4 py-2">
          <h2 className="text-lg">{tr`Left out, as it cannot stand`}</h2>
          <ul className="mt-1 space-y-1 text-sm">
            {problems.map((p) => (
              <li key={p.field + p.text}>
                <span className="fig">{p.field}</span>: {p.text} {p.remedy}
              </li>
            ))}
          </ul>
        </section>
      )}
      <Keep
        id={read.id}
        sheet={file.kind}
        script={file.script}
        lessons={file.lessons}
        version={standing?.version ?? 0}
        theirs={file.from || tr`another shop`}
        why={tr`Read from a file`}
      />
    </>
  );
}

function Keep({
  id,
  sheet,
  script = null,
  lessons = [],
  version,
  theirs,
  why,
  takeInto,
}: {
  id: string;
  sheet: Sheet;
  script?: Schemas['StripScript'] | null;
  lessons?: Schemas['KindLesson'][];
  version: number;
  theirs: string;
  why: string;
  /** The case that is judged by it from now on. */
  takeInto?: string;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [ids] = useState(() => ({ script: v7(), take: v7() }));
  const { form } = useEntryForm(schema, { name: sheet.name, says: sheet.says, theirs, why });
  const keep = useMutation<Schemas['EngineKind'], ApiProblem, z.output<typeof schema>>({
    mutationFn: async (entry) => {
      if (script) {
        const known = await api.GET('/api/scripts/{script}', { params: { path: { script: script.id } } });
        // A script of that id which the shop has already is the shop's, and stays as it is.
        if (known.response.status === 404)
          await unwrap(
            api.PUT('/api/scripts/{id}', {
              params: { path: { id: ids.script } },
              body: { script, why: entry.why, version: 0 },
            }),
          );
      }
      const kept = await unwrap(
        api.PUT('/api/engine-kinds/{id}', {
          params: { path: { id } },
          body: {
            sheet: { ...sheet, name: entry.name, says: entry.says },
            why: entry.why,
            version,
            theirs: entry.theirs,
            lessons,
          },
        }),
      );
      if (takeInto)
        await unwrap(
          api.POST('/api/cases/{caseId}/of-kind/take', {
            params: { path: { caseId: takeInto } },
            body: { id: ids.take, kindId: kept.id, version: kept.version, keys: null },
          }),
        );
      return kept;
    },
    onSuccess: async (kept) => {
      await client.invalidateQueries({ queryKey: keys.kinds });
      await client.invalidateQueries({ queryKey: keys.knowledge });
      if (takeInto) await client.invalidateQueries({ queryKey: keys.case(takeInto) });
      await navigate(`/kinds/${kept.id}`);
    },
  });
  return (
    <EntryForm form={form} send={keep.mutateAsync} className="card mt-4 max-w-2xl space-y-4 p-5">
      <TextField
        form={form}
        name="name"
        label={tr`Name of the kind`}
        hint={tr`As the name of its engines begins, up to the first comma: then their cases find it by themselves.`}
      />
      <TextField
        form={form}
        name="says"
        label={tr`By what it is told`}
        placeholder={tr`build years, code on the block`}
      />
      {theirs !== '' && <TextField form={form} name="theirs" label={tr`Whose it is`} />}
      <TextField form={form} name="why" label={tr`Where its figures are from`} />
      <Trouble problem={keep.error} />
      <button className="key key-go" disabled={keep.isPending}>
        {tr`Keep the kind`}
      </button>
    </EntryForm>
  );
}
