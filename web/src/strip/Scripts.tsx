import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, type ApiProblem, unwrap, type Knowledge, type Schemas } from '../api/client';
import { useKnowledge, useMayWrite } from '../api/queries';
import { Trouble, Waiting } from '../ui/basics';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';
import { WhyForm } from '../ui/WhyForm';
import { anyEngine } from '../ui/words';
import { bareStep, StepFields, stepFields, stepId, stepOf, stepSchema } from './StepForm';
import { attitudeWords, minutesText } from './useStrip';
import { WayBackList } from './WayBackList';
import { bareWay, WayForm, waysWithout, type Way } from './WayForm';
import { FileKey } from '../ui/FileKey';

type Script = Schemas['StripScript'];
type View = Schemas['ScriptView'];

const scriptKey = (id: string) => ['scripts', id] as const;

/** The strip scripts known here: those that ship, and the shop's own, written, changed and handed on. */
export function Scripts() {
  const { script } = useParams();
  const [params] = useSearchParams();
  const knowledge = useKnowledge();
  const from = params.get('from');
  return (
    <main className="mx-auto max-w-6xl px-4 py-6">
      {!knowledge.data ? (
        <Waiting what={tr`the scripts`} />
      ) : from ? (
        <OfCase key={from} caseId={from} knowledge={knowledge.data} />
      ) : script ? (
        <One key={script} id={script} knowledge={knowledge.data} />
      ) : (
        <All knowledge={knowledge.data} />
      )}
    </main>
  );
}

function All({ knowledge }: { knowledge: Knowledge }) {
  const own = knowledge.scripts.filter((s) => s.shop);
  const others = knowledge.scripts.filter((s) => !s.shop);
  const mayWrite = useMayWrite();
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="text-3xl">{tr`Strip scripts`}</h1>
          <p className="text-soft">
            {tr`In which order an engine comes apart, and what bites. Change one, and it is this shop’s.`}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          {own.length > 0 && (
            <FileKey href="/api/scripts/own.yaml" name="scripts.yaml">
              {tr`Hand ours on (YAML)`}
            </FileKey>
          )}
          {mayWrite && <ReadFile />}
        </div>
      </div>
      {[
        [tr`This shop’s own`, own],
        [tr`That came with the program`, others],
      ].map(([name, scripts]) =>
        scripts!.length === 0 ? null : (
          <section key={name as string} className="mt-6">
            <h2 className="text-xl">{name as string}</h2>
            <ul className="card mt-2 divide-y divide-line">
              {(scripts as Knowledge['scripts']).map((s) => (
                <li key={s.id}>
                  <Link className="flex min-h-12 items-center gap-4 px-4 py-2" to={`/scripts/${s.id}`}>
                    <span className="min-w-0 flex-1 leading-tight">
                      <b>{s.name}</b>
                      <span className="block text-sm text-soft">{s.says}</span>
                    </span>
                    <span className="fig shrink-0 text-sm">
                      <Trans>{s.steps} steps</Trans>
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        ),
      )}
    </>
  );
}

/** A file from another shop: looked at first, and kept when it is saved. */
function ReadFile() {
  const input = useRef<HTMLInputElement>(null);
  const client = useQueryClient();
  const navigate = useNavigate();
  const read = useMutation<Script[], ApiProblem, File>({
    mutationFn: async (file) =>
      unwrap(
        api.POST('/api/scripts/read', {
          body: await file.text(),
          bodySerializer: (b) => b,
          headers: { 'Content-Type': 'application/yaml' },
        }),
      ),
    onSuccess: (scripts) => {
      const first = scripts[0];
      if (!first) return;
      client.setQueryData(['scripts', 'read'], first);
      void navigate('/scripts?from=file');
    },
  });
  return (
    <>
      <button className="key" onClick={() => input.current?.click()}>
        {tr`Read a file`}
      </button>
      <input
        ref={input}
        type="file"
        className="hidden"
        accept=".yaml,.yml"
        aria-label={tr`A file of strip scripts`}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) read.mutate(file);
        }}
      />
      <Trouble problem={read.error} />
    </>
  );
}

/** What was done on one engine, to be looked at, named, and kept for the next of its kind. */
function OfCase({ caseId, knowledge }: { caseId: string; knowledge: Knowledge }) {
  const script = useQuery({
    queryKey: ['scripts', caseId === 'file' ? 'read' : `of-${caseId}`],
    queryFn: () => unwrap(api.GET('/api/cases/{caseId}/script', { params: { path: { caseId } } })),
    enabled: caseId !== 'file',
    staleTime: Infinity,
  });
  return script.data ? (
    <Editor
      view={{ script: script.data, own: null, shipping: false, assembly: [] }}
      knowledge={knowledge}
      fresh
    />
  ) : (
    <>
      <Trouble problem={script.error as ApiProblem | null} />
      <Waiting what={tr`the script`} />
    </>
  );
}

function One({ id, knowledge }: { id: string; knowledge: Knowledge }) {
  const script = useQuery({
    queryKey: scriptKey(id),
    queryFn: () => unwrap(api.GET('/api/scripts/{script}', { params: { path: { script: id } } })),
  });
  return script.data ? (
    <Editor view={script.data} knowledge={knowledge} fresh={false} />
  ) : script.error ? (
    <Trouble problem={script.error as ApiProblem} />
  ) : (
    <Waiting what={tr`the script`} />
  );
}

const headSchema = z.object({
  // The steps as they are changed; each was read by its own form.
  steps: z.custom<Script['steps']>(),
  variants: z.custom<Script['variants']>(),
  assembly: z.custom<Script['assembly']>(),
  assemblyDrops: z.custom<string[]>(),
  id: z.string(),
  name: needed(tr`Say for which engine it is.`),
  says: z.string(),
  kind: z.string(),
  provenance: needed(tr`Say on which engine and when it was learned.`),
  why: needed(tr`Say why; it stays in the record of changes.`),
});

function Editor({ view, knowledge, fresh }: { view: View; knowledge: Knowledge; fresh: boolean }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const mayWrite = useMayWrite();
  const { script, own } = view;
  const stands = {
    steps: script.steps,
    variants: script.variants,
    assembly: script.assembly,
    assemblyDrops: script.assemblyDrops,
    id: script.id,
    name: script.name,
    says: script.says,
    kind: script.kind,
    provenance: script.provenance,
    why: '',
  };
  const { form, settle, touched, version } = useEntryForm(headSchema, stands, {
    draft: `script/${fresh ? 'new-' : ''}${script.id}`,
    version: own?.version ?? 0,
  });
  const [editing, setEditing] = useState<string | null>(null);
  const [id] = useState(() => own?.id ?? v7());
  const [taking, setTaking] = useState(false);
  const save = useMutation<Schemas['ShopScript'], ApiProblem, z.output<typeof headSchema>>({
    mutationFn: ({ why, ...typed }) =>
      unwrap(
        api.PUT('/api/scripts/{id}', {
          params: { path: { id } },
          // One for a kind of engine stands beside the one that came, which others go by.
          body: {
            script: {
              ...script,
              ...typed,
              id: typed.kind.trim() && view.shipping ? slugOf(typed.kind) : typed.id,
            },
            why,
            version: version(),
          },
        }),
      ),
    onSuccess: async (saved) => {
      const { steps, variants, assembly, assemblyDrops } = saved.script;
      settle({ ...stands, steps, variants, assembly, assemblyDrops });
      await client.invalidateQueries();
      void navigate(`/scripts/${saved.scriptId}`);
    },
  });
  const steps = form.watch('steps');
  const put = (next: Script['steps']) => form.setValue('steps', next, { shouldDirty: true });
  const ways = form.watch('variants');
  const putWays = (next: Way[]) => form.setValue('variants', next, { shouldDirty: true });
  // A way that is changed, and the step of it that is.
  const [way, setWay] = useState<Way | null>(null);
  const [wayStep, setWayStep] = useState<string | null>(null);
  if (way && wayStep !== null)
    return (
      <OneStep
        step={[...way.steps, ...steps].find((s) => s.id === wayStep) ?? bareStep}
        scriptId={`${script.id}/${way.id}`}
        steps={steps}
        knowledge={knowledge}
        onEnd={(changed) => {
          setWayStep(null);
          if (changed) setWay({ ...way, steps: [...way.steps.filter((s) => s.id !== changed.id), changed] });
        }}
      />
    );
  if (way)
    return (
      <WayForm
        key={way.id}
        way={way}
        scriptId={script.id}
        steps={steps}
        others={ways.filter((w) => w.id !== way.id)}
        onStep={(typed, step) => {
          setWay(typed);
          setWayStep(step);
        }}
        onChange={setWay}
        onEnd={(changed) => {
          setWay(null);
          if (changed)
            putWays(
              ways.some((w) => w.id === changed.id)
                ? ways.map((w) => (w.id === changed.id ? changed : w))
                : [...ways, changed],
            );
        }}
      />
    );
  const open = editing === null ? null : (steps.find((s) => s.id === editing) ?? bareStep);
  if (open)
    return (
      <OneStep
        step={open}
        scriptId={script.id}
        steps={steps}
        knowledge={knowledge}
        onEnd={(changed) => {
          setEditing(null);
          if (changed === null) return;
          put(
            steps.some((s) => s.id === changed.id)
              ? steps.map((s) => (s.id === changed.id ? changed : s))
              : [...steps, changed],
          );
        }}
      />
    );
  return (
    <>
      <p>
        <Link className="underline underline-offset-4" to="/scripts">
          {tr`All strip scripts`}
        </Link>
      </p>
      <div className="mt-2 grid gap-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.25fr)]">
        <EntryForm form={form} send={save.mutateAsync} className="space-y-4" disabled={!mayWrite}>
          <h1 className="text-3xl">{script.name}</h1>
          <p className="text-soft">
            {own
              ? tr`This shop’s, version ${own.version}, ${own.by}.`
              : fresh
                ? tr`Not kept yet: look it over, name it, and keep it.`
                : tr`It came with the program. Kept with a change, it is this shop’s and stands in its place.`}
          </p>
          <TextField form={form} name="name" label={tr`Name`} />
          {fresh && <TextField form={form} name="id" label={tr`Short name, for files`} className="fig" />}
          <TextField form={form} name="says" label={tr`For which engines`} rows={2} />
          <TextField
            form={form}
            name="kind"
            label={tr`Kind of engine`}
            hint={tr`As its cases begin their name, before the first comma. The next engine of that name goes by this script by itself.`}
          />
          <TextField form={form} name="provenance" label={tr`Learned where`} />
          <TextField form={form} name="why" label={tr`Why it is changed`} />
          <Trouble problem={save.error} />
          {mayWrite && (
            <div className="flex flex-wrap gap-2">
              <button className="key key-go" disabled={save.isPending || (!touched && !fresh)}>
                {tr`Keep it as ours`}
              </button>
              <FileKey href={`/api/scripts/own.yaml?script=${script.id}`} name={`${script.id}.yaml`}>
                {tr`YAML`}
              </FileKey>
              {own && (
                <button
                  type="button"
                  className="key"
                  aria-expanded={taking}
                  onClick={() => setTaking(!taking)}
                >
                  {view.shipping ? tr`Back to the one that came` : tr`Take it back`}
                </button>
              )}
            </div>
          )}
        </EntryForm>
        <section>
          <h2 className="text-xl">
            <Trans>{steps.length} steps</Trans>
          </h2>
          {taking && own && (
            <WhyForm
              press={tr`Take it back`}
              send={async (why) => {
                await unwrap(
                  api.POST('/api/scripts/{id}/withdraw', {
                    params: { path: { id: own.id } },
                    body: { why, version: own.version },
                  }),
                );
                await client.invalidateQueries();
                void navigate('/scripts');
              }}
            />
          )}
          <ol className="card mt-2 divide-y divide-line">
            {steps.map((s, i) => (
              <li key={s.id} className="flex items-center gap-2 px-3 py-1">
                <span className="fig w-6 shrink-0 text-right text-soft">{i + 1}</span>
                <button
                  type="button"
                  className="min-h-11 min-w-0 flex-1 text-left leading-tight"
                  onClick={() => setEditing(s.id)}
                >
                  <b>{s.name}</b>
                  <span className="block text-sm text-soft">
                    {[
                      minutesText(s.minutes),
                      s.attitude !== 'upright' && attitudeWords[s.attitude],
                      s.fasteners.length > 0 && plural(s.fasteners.length, { one: '# set', other: '# sets' }),
                      s.holdPoint && tr`sign-off`,
                      s.parts && tr`locked by count`,
                    ]
                      .filter(Boolean)
                      .join(' · ')}
                  </span>
                </button>
                {mayWrite && (
                  <button
                    type="button"
                    className="key"
                    aria-label={tr`Without ${s.name}`}
                    onClick={() => {
                      put(without(steps, s.id));
                      putWays(waysWithout(ways, s.id));
                    }}
                  >
                    ✕
                  </button>
                )}
              </li>
            ))}
          </ol>
          {mayWrite && (
            <button type="button" className="key mt-3" onClick={() => setEditing('')}>
              {tr`Add a step`}
            </button>
          )}
          <WayBackList
            known={view.assembly}
            own={form.watch('assembly')}
            drops={form.watch('assemblyDrops')}
            scriptId={script.id}
            applies={script.applies}
            onOwn={(next) => form.setValue('assembly', next, { shouldDirty: true })}
            onDrops={(next) => form.setValue('assemblyDrops', next, { shouldDirty: true })}
          />
          <h2 className="mt-6 text-xl">{tr`Other ways`}</h2>
          <ul className="card mt-2 divide-y divide-line empty:hidden">
            {ways.map((v) => (
              <li key={v.id} className="flex items-center gap-2 px-3 py-1">
                <button
                  type="button"
                  className="min-h-11 min-w-0 flex-1 text-left leading-tight"
                  disabled={!mayWrite}
                  onClick={() => setWay(v)}
                >
                  <b>{v.name}</b>
                  <span className="block text-sm text-soft">{v.says}</span>
                </button>
                {mayWrite && (
                  <button
                    type="button"
                    className="key"
                    aria-label={tr`Without the way ${v.name}`}
                    onClick={() =>
                      putWays(
                        ways
                          .filter((w) => w.id !== v.id)
                          .map((w) => ({ ...w, excludes: w.excludes.filter((e) => e !== v.id) })),
                      )
                    }
                  >
                    ✕
                  </button>
                )}
              </li>
            ))}
          </ul>
          {mayWrite && (
            <button
              type="button"
              className="key mt-3"
              onClick={() => setWay(bareWay(`way-${v7().slice(-6)}`, anyEngine))}
            >
              {tr`Add a way`}
            </button>
          )}
        </section>
      </div>
    </>
  );
}

const slugOf = (kind: string) =>
  kind
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60);

/** The steps without one: nothing waits for it any more. */
const without = (steps: Script['steps'], id: string) =>
  steps
    .filter((s) => s.id !== id)
    .map((s) => ({
      ...s,
      after: Object.fromEntries(Object.entries(s.after).filter(([k]) => k !== id)),
      usually: Object.fromEntries(Object.entries(s.usually).filter(([k]) => k !== id)),
    }));

// A step of a script is changed with the reason of the script.
const stepOnly = z.extend(stepSchema, { reason: z.string() });

function OneStep({
  step,
  scriptId,
  steps,
  knowledge,
  onEnd,
}: {
  step: Script['steps'][number];
  scriptId: string;
  steps: Script['steps'];
  knowledge: Knowledge;
  onEnd: (changed: Script['steps'][number] | null) => void;
}) {
  const { form, settle } = useEntryForm(stepOnly, stepFields(step), {
    draft: `script-step/${scriptId}/${step.id || 'new'}`,
  });
  const [suffix] = useState(() => v7().slice(-4));
  const leave = (changed: Script['steps'][number] | null) => {
    settle(stepFields(step));
    onEnd(changed);
  };
  return (
    <section className="card mx-auto max-w-3xl p-5">
      <EntryForm
        form={form}
        send={async (typed) => leave(stepOf(step, step.id || stepId(typed.name, suffix), typed))}
        className="space-y-4"
      >
        <h2 className="text-2xl">{step.name || tr`A new step`}</h2>
        <StepFields form={form} self={step.id} steps={steps} kinds={knowledge.kinds} />
        <div className="flex gap-2">
          <button className="key key-go">{tr`Into the script`}</button>
          <button type="button" className="key" onClick={() => leave(null)}>
            {tr`Leave it as it was`}
          </button>
        </div>
      </EntryForm>
    </section>
  );
}
