import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useKnowledge, useMayWrite } from '../api/queries';
import { useWriteId } from '../ui/useWriteId';
import { Trouble, Waiting } from '../ui/basics';
import {
  asTyped,
  EntryForm,
  FigureField,
  ListField,
  numberNeeded,
  TextField,
  useEntryForm,
} from '../ui/form';

const schema = z.object({
  kind: z.string(),
  fits: z.string(),
  grade: z.string(),
  count: numberNeeded({ whole: true, min: 0, max: 100_000 }),
  where: z.string(),
  remarks: z.string(),
});

const blank = { kind: 'rod-shell-upper', fits: '', grade: '', count: '1', where: '', remarks: '' };

const fieldsOf = (p: Schemas['StockPart']): z.input<typeof schema> => ({
  kind: p.kind,
  fits: p.fits,
  grade: p.grade,
  count: asTyped(p.count),
  where: p.where,
  remarks: p.remarks,
});

/** What lies on the shelves: a second block, other crankshafts, sets of shells. Each has a tag, T and a number. */
export function Stock() {
  const client = useQueryClient();
  const mayWrite = useMayWrite();
  const knowledge = useKnowledge();
  const stock = useQuery({ queryKey: keys.stock, queryFn: () => unwrap(api.GET('/api/stock')) });
  const [editing, setEditing] = useState<Schemas['StockPart'] | null>(null);
  const { form, settle: show } = useEntryForm(schema, blank);
  const id = useWriteId();
  const settle = () => client.invalidateQueries({ queryKey: keys.stock });
  const save = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (entry) => {
      const key = editing?.id ?? id.get();
      return unwrap(
        api.PUT('/api/stock/{id}', {
          params: { path: { id: key } },
          body: { id: key, version: editing?.version ?? 0, ...entry },
        }),
      );
    },
    onSuccess: () => {
      id.settle();
      setEditing(null);
      show(blank);
      return settle();
    },
  });
  const remove = useMutation<unknown, ApiProblem, Schemas['StockPart']>({
    mutationFn: (p) =>
      unwrap(
        api.POST('/api/stock/{id}/withdraw', {
          params: { path: { id: p.id } },
          body: { why: tr`used or scrapped`, version: p.version },
        }),
      ),
    onSuccess: settle,
  });
  const kinds = knowledge.data?.kinds ?? [];
  const name = (kind: string) => kinds.find((k) => k.id === kind)?.name ?? kind;
  return (
    <>
      <main className="mx-auto grid max-w-6xl grid-cols-[minmax(0,1fr)] gap-6 px-4 py-6 lg:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)]">
        <section>
          <div className="flex flex-wrap items-center gap-3">
            <h1 className="flex-1 text-2xl">{tr`Spare parts of the shop`}</h1>
            {stock.data && stock.data.length > 0 && (
              <a
                className="key flex items-center"
                href="/api/stock/labels?page=a4-24"
                target="_blank"
                rel="noreferrer"
              >
                {tr`Labels for all of them`}
              </a>
            )}
          </div>
          {stock.isPending && <Waiting what={tr`the shelf`} />}
          {stock.data?.length === 0 && <p className="card mt-3 p-5">{tr`The shelf is empty.`}</p>}
          <ul className="card mt-3 divide-y divide-line">
            {stock.data?.map((p) => (
              <li key={p.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2">
                <span className="fig w-14 text-2xl font-bold">
                  <Trans>T{p.number}</Trans>
                </span>
                <span className="least-48 flex-1">
                  <b>
                    {p.count} × {name(p.kind)}
                  </b>
                  {p.grade && <span className="fig"> {p.grade}</span>}
                  <span className="block text-sm text-soft">
                    {[p.fits, p.where, p.remarks].filter(Boolean).join(' · ')}
                  </span>
                </span>
                <a
                  className="key flex items-center text-sm"
                  href={`/api/stock/labels?numbers=T${p.number}&page=tag-62`}
                  target="_blank"
                  rel="noreferrer"
                  aria-label={tr`Label for T${p.number}`}
                >
                  {tr`Label`}
                </a>
                {mayWrite && (
                  <>
                    <button
                      className="key text-sm"
                      onClick={() => {
                        setEditing(p);
                        show(fieldsOf(p));
                      }}
                    >
                      {tr`Change`}
                    </button>
                    <button className="key text-sm" onClick={() => remove.mutate(p)}>
                      {tr`Take off`}
                    </button>
                  </>
                )}
              </li>
            ))}
          </ul>
          <Trouble problem={(stock.error as ApiProblem | null) ?? remove.error} />
        </section>
        {mayWrite && (
          <section className="card h-fit p-5">
            <EntryForm form={form} send={save.mutateAsync} className="space-y-3">
              <h2 className="text-xl">
                {editing ? tr`Change T${editing.number}` : tr`Put something on the shelf`}
              </h2>
              <ListField
                form={form}
                name="kind"
                label={tr`Kind of part`}
                words={kinds.map((k) => [k.id, k.name] as const)}
              />
              <TextField form={form} name="fits" label={tr`Fits which engines`} />
              <div className="grid grid-cols-2 gap-3">
                <TextField
                  form={form}
                  name="grade"
                  label={tr`Size grade`}
                  placeholder={tr`STD, 0.25 …`}
                  className="fig"
                />
                <FigureField form={form} name="count" label={tr`How many`} />
              </div>
              <TextField form={form} name="where" label={tr`Where it lies`} />
              <TextField form={form} name="remarks" label={tr`Remarks`} />
              <Trouble problem={save.error} />
              <div className="flex gap-2">
                <button className="key key-go" disabled={save.isPending}>
                  {editing ? tr`Write the change` : tr`Give it a tag`}
                </button>
                {editing && (
                  <button
                    type="button"
                    className="key"
                    onClick={() => {
                      setEditing(null);
                      show(blank);
                    }}
                  >
                    {tr`Leave it`}
                  </button>
                )}
              </div>
            </EntryForm>
          </section>
        )}
      </main>
    </>
  );
}
