import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useKnowledge, useMayWrite } from '../api/queries';
import { LongSection } from '../section/LongSection';
import { Hatches } from '../section/Swatch';
import { moment, Trouble, Waiting } from '../ui/basics';
import { FileKey } from '../ui/FileKey';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';
import { useDraft } from '../ui/useDraft';
import { fileName, layoutWords } from '../ui/words';
import { LimitIn, NoteIn, ServiceIn } from './KindEntries';

type Sheet = Schemas['KindSheet'];
type View = Schemas['EngineKindView'];

/** One kind of engine: its figures, its script, what is due when, its cases and its versions. */
export function Kind({ id }: { id: string }) {
  const [params] = useSearchParams();
  const version = Number(params.get('version')) || undefined;
  const view = useQuery({
    queryKey: [...keys.kinds, id, version ?? 'now'],
    queryFn: () =>
      unwrap(
        api.GET('/api/engine-kinds/{id}', { params: { path: { id }, query: version ? { version } : {} } }),
      ),
  });
  if (view.error) return <Trouble problem={view.error as ApiProblem} />;
  if (!view.data) return <Waiting what={tr`the kind`} />;
  return <Open key={view.data.kind.version} view={view.data} />;
}

const groups: [Schemas['KindItemOf'][], string][] = [
  [['stroke', 'rodLength', 'limit'], tr`Limits and sizes of the maker`],
  [['sizes'], tr`Sizes that can be bought`],
  [['tightening'], tr`How it is tightened`],
];

function Open({ view }: { view: View }) {
  const { kind, latest } = view;
  const stands = kind.version === latest;
  const mayWrite = useMayWrite() && stands;
  const { draft, set, settle, touched } = useDraft<{ sheet: Sheet; from: number }>(`kind/${kind.id}`, {
    sheet: kind.sheet,
    from: kind.version,
  });
  // A draft that was begun from an older version is told when it is saved.
  const sheet = stands ? draft.sheet : kind.sheet;
  const change = (part: Partial<Sheet>) => set({ sheet: { ...sheet, ...part } });
  const out = new Set(view.items.filter((i) => !has(sheet, i.key)).map((i) => i.key));
  return (
    <>
      <Hatches />
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <p className="text-sm">
            <Link className="underline underline-offset-4" to="/kinds">
              {tr`Kinds of engines`}
            </Link>
          </p>
          <h1 className="text-3xl">{kind.name}</h1>
          <p className="text-soft">
            {[layoutWords(sheet.layout), kind.sheet.says, kind.theirs && tr`came from ${kind.theirs}`]
              .filter(Boolean)
              .join(' · ')}
          </p>
        </div>
        <div className="flex flex-wrap gap-2">
          <FileKey
            href={`/api/engine-kinds/${kind.id}/kind.yaml`}
            name={`${fileName(kind.name, 'kind')}.yaml`}
          >
            {tr`Hand on (YAML)`}
          </FileKey>
          {mayWrite && (
            <Link className="key key-go" to={`/new?kind=${kind.id}`}>
              {tr`New case of it`}
            </Link>
          )}
        </div>
      </div>
      {!stands && (
        <p className="mt-3 rounded-lg border-2 border-brass bg-brass-tint px-4 py-2">
          <Trans>
            This is version {kind.version}, as cases took it then. Version {latest} stands.{' '}
            <Link className="underline" to={`/kinds/${kind.id}`}>
              Show that
            </Link>
          </Trans>
        </p>
      )}
      {mayWrite && touched && (
        <Save
          kind={kind}
          draft={draft}
          saved={(k) => settle({ sheet: k.sheet, from: k.version })}
          dropped={() => settle({ sheet: kind.sheet, from: kind.version })}
        />
      )}
      <div className="mt-5 grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
        <div className="space-y-6">
          {groups.map(([of, title]) => {
            const items = view.items.filter((i) => of.includes(i.of));
            return (
              <section key={title}>
                <h2 className="text-xl">{title}</h2>
                {items.length === 0 && <p className="text-soft">{tr`None entered.`}</p>}
                <ul className="divide-y divide-line">
                  {items.map((i) => (
                    <li key={i.key} className="flex flex-wrap items-center gap-x-4 py-1.5">
                      <span className={`least-48 flex-1 ${out.has(i.key) ? 'line-through opacity-60' : ''}`}>
                        <b>{i.name}</b> <span className="fig block">{i.says}</span>
                      </span>
                      {mayWrite && !out.has(i.key) && (
                        <button
                          className="key text-sm"
                          aria-label={tr`Take out ${i.name}`}
                          onClick={() => change(without(sheet, i.key))}
                        >
                          {tr`Take out`}
                        </button>
                      )}
                    </li>
                  ))}
                </ul>
                {of.includes('limit') && (
                  <>
                    <Fresh sheet={sheet} view={view} />
                    {mayWrite && <LimitIn sheet={sheet} change={change} />}
                  </>
                )}
              </section>
            );
          })}
          <Services sheet={sheet} change={mayWrite ? change : null} />
          <Notes sheet={sheet} change={mayWrite ? change : null} />
        </div>
        <div className="space-y-6">
          <Drawn sheet={sheet} />
          <Script view={view} />
          <Learned view={view} />
          <Cases view={view} />
          <Versions view={view} />
        </div>
      </div>
    </>
  );
}

const keyOfLimit = (l: Schemas['Limit']) =>
  `limit/${l.characteristic}/${l.on}/${l.source.charAt(0).toUpperCase()}${l.source.slice(1)}`;
const keyOfSizes = (s: Schemas['ServiceSizes']) => `sizes/${s.kind}`;
const keyOfTightening = (t: Schemas['Tightening']) => `tightening/${t.step}/${t.set}`;

const has = (s: Sheet, key: string) =>
  (key === 'stroke' && s.stroke !== null) ||
  (key === 'rod-length' && s.rodLength !== null) ||
  s.limits.some((l) => keyOfLimit(l) === key) ||
  s.sizes.some((x) => keyOfSizes(x) === key) ||
  s.tightenings.some((t) => keyOfTightening(t) === key);

const without = (s: Sheet, key: string): Partial<Sheet> => ({
  stroke: key === 'stroke' ? null : s.stroke,
  rodLength: key === 'rod-length' ? null : s.rodLength,
  limits: s.limits.filter((l) => keyOfLimit(l) !== key),
  sizes: s.sizes.filter((x) => keyOfSizes(x) !== key),
  tightenings: s.tightenings.filter((t) => keyOfTightening(t) !== key),
});

/** Limits that were typed here and are not saved yet. */
function Fresh({ sheet, view }: { sheet: Sheet; view: View }) {
  const knowledge = useKnowledge();
  const known = new Map(view.kind.sheet.limits.map((l) => [keyOfLimit(l), JSON.stringify(l)]));
  const fresh = sheet.limits.filter((l) => known.get(keyOfLimit(l)) !== JSON.stringify(l));
  if (fresh.length === 0) return null;
  return (
    <ul className="mt-1 rounded bg-brass-tint px-3 py-1">
      {fresh.map((l) => (
        <li key={keyOfLimit(l)} className="py-1">
          <b>
            {knowledge.data?.characteristics.find((c) => c.id === l.characteristic)?.name ?? l.characteristic}
          </b>{' '}
          <span className="fig">
            {[
              l.nominal !== null && tr`new ${l.nominal}`,
              l.least !== null && tr`from ${l.least}`,
              l.most !== null && tr`to ${l.most}`,
              l.wear !== null && tr`wears to ${l.wear}`,
            ]
              .filter(Boolean)
              .join(' ')}
          </span>
          <Trans> ({l.sourceText}), not saved yet</Trans>
        </li>
      ))}
    </ul>
  );
}

function Drawn({ sheet }: { sheet: Sheet }) {
  const preview = useQuery({
    queryKey: ['preview', JSON.stringify(sheet.layout)],
    queryFn: () => unwrap(api.POST('/api/layouts/preview', { body: sheet.layout })),
    staleTime: Infinity,
  });
  return (
    <div className="card hidden p-3 sm:block">
      {preview.data && <LongSection section={preview.data.section} quiet fit />}
    </div>
  );
}

const whySchema = z.object({ why: needed(tr`Say why: a page, a bulletin, a mistake.`) });

function Save({
  kind,
  draft,
  saved,
  dropped,
}: {
  kind: Schemas['EngineKind'];
  draft: { sheet: Sheet; from: number };
  saved: (kind: Schemas['EngineKind']) => void;
  dropped: () => void;
}) {
  const client = useQueryClient();
  const { form } = useEntryForm(whySchema, { why: '' }, { draft: `kind-why/${kind.id}` });
  const save = useMutation<Schemas['EngineKind'], ApiProblem, string>({
    mutationFn: (why) =>
      unwrap(
        api.PUT('/api/engine-kinds/{id}', {
          params: { path: { id: kind.id } },
          body: { sheet: draft.sheet, why, version: draft.from, theirs: null, lessons: null },
        }),
      ),
    onSuccess: async (k) => {
      saved(k);
      await client.invalidateQueries({ queryKey: keys.kinds });
    },
  });
  return (
    <section className="sticky top-2 z-10 mt-4 rounded-lg border-2 border-brass bg-brass-tint px-4 py-3">
      <EntryForm
        form={form}
        send={({ why }) => save.mutateAsync(why)}
        className="flex flex-wrap items-start gap-2"
      >
        <b className="self-center">{tr`Not saved yet.`}</b>
        <TextField
          form={form}
          name="why"
          label={tr`Why it is changed`}
          unseen
          placeholder={tr`Why? It stays in the record.`}
          className="least-48 flex-1"
        />
        <button className="key key-go" disabled={save.isPending}>
          <Trans>Save as version {draft.from + 1}</Trans>
        </button>
        <button className="key" type="button" onClick={dropped}>
          {tr`Leave it as it was`}
        </button>
      </EntryForm>
      <Trouble problem={save.error} />
    </section>
  );
}

function Services({ sheet, change }: { sheet: Sheet; change: ((part: Partial<Sheet>) => void) | null }) {
  return (
    <section>
      <h2 className="text-xl">{tr`What is due when`}</h2>
      {sheet.services.length === 0 && <p className="text-soft">{tr`No services entered.`}</p>}
      {sheet.services.length > 0 && (
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={tr`Services`}>
          <table className="w-full text-left [&_td]:pr-3 [&_td]:align-top [&_th]:pr-3">
            <thead className="text-sm text-soft">
              <tr>
                <th>{tr`Service`}</th>
                <th className="text-right">{tr`Ordinary`}</th>
                <th className="text-right">{tr`Race`}</th>
                <th className="text-right">{tr`Standby`}</th>
                <th className="text-right">{tr`Months`}</th>
                <th>{tr`By`}</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {sheet.services.map((s) => (
                <tr key={s.id} className="border-t border-line">
                  <td className="py-1">
                    {s.what}
                    {s.opens && (
                      <span className="block text-sm text-soft">{tr`the engine is opened for it`}</span>
                    )}
                  </td>
                  {[s.ordinary, s.race, s.standby].map((h, n) => (
                    <td key={n} className="fig py-1 text-right whitespace-nowrap">
                      {h === null ? '–' : `${h} h`}
                    </td>
                  ))}
                  <td className="fig py-1 text-right">{s.months ?? '–'}</td>
                  <td className="py-1 text-sm text-soft">{s.sourceText}</td>
                  <td className="py-1">
                    {change && (
                      <button
                        className="key text-sm"
                        aria-label={tr`Take out ${s.what}`}
                        onClick={() => change({ services: sheet.services.filter((x) => x.id !== s.id) })}
                      >
                        {tr`Take out`}
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {change && <ServiceIn sheet={sheet} change={change} />}
    </section>
  );
}

function Notes({ sheet, change }: { sheet: Sheet; change: ((part: Partial<Sheet>) => void) | null }) {
  return (
    <section>
      <h2 className="text-xl">{tr`What its drawings say`}</h2>
      {sheet.notes.length === 0 && <p className="text-soft">{tr`Nothing noted.`}</p>}
      <ul className="divide-y divide-line">
        {sheet.notes.map((n, i) => (
          <li key={i} className="flex flex-wrap items-center gap-3 py-1.5">
            <span className="least-48 flex-1">
              <b>{n.title}</b> {n.text} {n.page && <span className="text-sm text-soft">({n.page})</span>}
            </span>
            {change && (
              <button
                className="key text-sm"
                aria-label={tr`Take out the note ${n.title}`}
                onClick={() => change({ notes: sheet.notes.filter((_, x) => x !== i) })}
              >
                {tr`Take out`}
              </button>
            )}
          </li>
        ))}
      </ul>
      {change && <NoteIn sheet={sheet} change={change} />}
    </section>
  );
}

/** The script it goes by, with the fasteners that were counted. */
function Script({ view }: { view: View }) {
  const [all, setAll] = useState(false);
  const counted = view.sets.filter((s) => s.counted);
  const shown = all ? view.sets : counted;
  return (
    <section>
      <h2 className="text-xl">{tr`How it comes apart and goes together`}</h2>
      <p>
        <Trans>
          By{' '}
          <Link className="font-semibold underline underline-offset-4" to={`/scripts/${view.script}`}>
            {view.scriptName}
          </Link>
          , about <span className="fig">{Math.round(view.minutes / 60)} h</span> of strip.
        </Trans>
      </p>
      <p className="mt-1 text-soft">
        {counted.length === 0
          ? tr`No fasteners counted yet: counts are those that such engines usually have. Keep the script of a strip as it was done, and its counts stand here.`
          : tr`${counted.length} of ${view.sets.length} sets of fasteners counted.`}
      </p>
      <ul className="mt-1 divide-y divide-line">
        {shown.map((s, i) => (
          <li key={i} className="flex justify-between gap-3 py-1">
            <span>
              {s.name} <span className="text-sm text-soft">{s.step}</span>
            </span>
            <span className="fig whitespace-nowrap">
              {s.count}
              {s.counted ? '' : tr` usual`}
            </span>
          </li>
        ))}
      </ul>
      <button className="key mt-2 text-sm" onClick={() => setAll(!all)}>
        {all ? tr`Only those counted` : tr`All ${view.sets.length} sets`}
      </button>
    </section>
  );
}

function Learned({ view }: { view: View }) {
  return (
    <section>
      <h2 className="text-xl">{tr`What was learned on them`}</h2>
      {view.lessons.length === 0 ? (
        <p className="text-soft">{tr`Nothing noted yet. A lesson typed at a step of the strip stands here.`}</p>
      ) : (
        <ul className="divide-y divide-line">
          {view.lessons.map((l) => (
            <li key={l.id} className="py-1.5">
              {l.text} <span className="text-sm text-soft">{l.step}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Cases({ view }: { view: View }) {
  return (
    <section>
      <h2 className="text-xl">{tr`Cases of it`}</h2>
      {view.cases.length === 0 && <p className="text-soft">{tr`None yet.`}</p>}
      <ul className="divide-y divide-line">
        {view.cases.map((c) => (
          <li key={c.id} className="py-1.5">
            <Link className="font-semibold underline underline-offset-4" to={`/cases/${c.id}/arrival`}>
              {c.title}
            </Link>{' '}
            <span className="text-sm text-soft">
              {[c.serial, c.version === 0 ? tr`took none of its figures` : tr`by version ${c.version}`]
                .filter(Boolean)
                .join(' · ')}
              {c.version > 0 && c.version < view.latest && tr`, an earlier one`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Versions({ view: { kind, latest } }: { view: View }) {
  const changes = useQuery({
    queryKey: [...keys.kinds, kind.id, 'changes', latest],
    queryFn: () => unwrap(api.GET('/api/engine-kinds/{id}/changes', { params: { path: { id: kind.id } } })),
  });
  return (
    <section>
      <h2 className="text-xl">{tr`Versions`}</h2>
      <ul className="divide-y divide-line">
        {changes.data?.map((c, i) => {
          const version = latest - i;
          return (
            <li key={c.id} className="flex flex-wrap justify-between gap-x-3 py-1.5">
              <span>
                <Trans>
                  Version {version}, {c.by}, {moment(c.at)}
                </Trans>
              </span>
              {version !== kind.version && version > 0 && (
                <Link className="underline underline-offset-4" to={`/kinds/${kind.id}?version=${version}`}>
                  {tr`Show`}
                </Link>
              )}
            </li>
          );
        })}
      </ul>
      {kind.why && <p className="mt-1 text-sm text-soft">{kind.why}</p>}
    </section>
  );
}
