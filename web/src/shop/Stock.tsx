import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useKnowledge, useMayWrite } from '../api/queries';
import { useWriteId } from '../ui/useWriteId';
import { Field, Trouble, Waiting } from '../ui/basics';
import { NumberField } from '../ui/NumberField';

type Entry = Omit<Schemas['StockEntry'], 'id' | 'version'>;

const blank: Entry = { kind: 'rod-shell-upper', fits: '', grade: '', count: 1, where: '', remarks: '' };

/** What lies on the shelves: a second block, other crankshafts, sets of shells. Each has a tag, T and a number. */
export function Stock() {
  const client = useQueryClient();
  const mayWrite = useMayWrite();
  const knowledge = useKnowledge();
  const stock = useQuery({ queryKey: keys.stock, queryFn: () => unwrap(api.GET('/api/stock')) });
  const [editing, setEditing] = useState<Schemas['StockPart'] | null>(null);
  const [entry, setEntry] = useState<Entry>(blank);
  const id = useWriteId();
  const set = (change: Partial<Entry>) => setEntry((e) => ({ ...e, ...change }));
  const settle = () => client.invalidateQueries({ queryKey: keys.stock });
  const save = useMutation<unknown, ApiProblem, void>({
    mutationFn: () => {
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
      setEntry(blank);
      return settle();
    },
  });
  const remove = useMutation<unknown, ApiProblem, Schemas['StockPart']>({
    mutationFn: (p) =>
      unwrap(
        api.POST('/api/stock/{id}/withdraw', {
          params: { path: { id: p.id } },
          body: { why: 'used or scrapped', version: p.version },
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
          <h1 className="text-2xl">Spare parts of the shop</h1>
          {stock.isPending && <Waiting what="the shelf" />}
          {stock.data?.length === 0 && <p className="card mt-3 p-5">The shelf is empty.</p>}
          <ul className="card mt-3 divide-y divide-line">
            {stock.data?.map((p) => (
              <li key={p.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2">
                <span className="fig w-14 text-2xl font-bold">T{p.number}</span>
                <span className="min-w-48 flex-1">
                  <b>
                    {p.count} × {name(p.kind)}
                  </b>
                  {p.grade && <span className="fig"> {p.grade}</span>}
                  <span className="block text-sm text-soft">
                    {[p.fits, p.where, p.remarks].filter(Boolean).join(' · ')}
                  </span>
                </span>
                {mayWrite && (
                  <>
                    <button
                      className="key text-sm"
                      onClick={() => {
                        setEditing(p);
                        setEntry({
                          kind: p.kind,
                          fits: p.fits,
                          grade: p.grade,
                          count: p.count,
                          where: p.where,
                          remarks: p.remarks,
                        });
                      }}
                    >
                      Change
                    </button>
                    <button className="key text-sm" onClick={() => remove.mutate(p)}>
                      Take off
                    </button>
                  </>
                )}
              </li>
            ))}
          </ul>
          <Trouble problem={(stock.error as ApiProblem | null) ?? remove.error} />
        </section>
        {mayWrite && (
          <form
            className="card h-fit space-y-3 p-5"
            onSubmit={(e) => {
              e.preventDefault();
              if (!save.isPending) save.mutate();
            }}
          >
            <h2 className="text-xl">
              {editing ? `Change T${editing.number}` : 'Put something on the shelf'}
            </h2>
            <Field label="Kind of part">
              <select className="entry" value={entry.kind} onChange={(e) => set({ kind: e.target.value })}>
                {kinds.map((k) => (
                  <option key={k.id} value={k.id}>
                    {k.name}
                  </option>
                ))}
              </select>
            </Field>
            <Field label="Fits which engines">
              <input className="entry" value={entry.fits} onChange={(e) => set({ fits: e.target.value })} />
            </Field>
            <div className="grid grid-cols-2 gap-3">
              <Field label="Size grade">
                <input
                  className="entry fig"
                  placeholder="STD, 0.25 …"
                  value={entry.grade}
                  onChange={(e) => set({ grade: e.target.value })}
                />
              </Field>
              <NumberField
                label="How many"
                required
                whole
                min={0}
                max={100_000}
                value={entry.count}
                onChange={(count) => set({ count: count ?? 0 })}
              />
            </div>
            <Field label="Where it lies">
              <input className="entry" value={entry.where} onChange={(e) => set({ where: e.target.value })} />
            </Field>
            <Field label="Remarks">
              <input
                className="entry"
                value={entry.remarks}
                onChange={(e) => set({ remarks: e.target.value })}
              />
            </Field>
            <Trouble problem={save.error} />
            <div className="flex gap-2">
              <button className="key key-go" disabled={save.isPending}>
                {editing ? 'Write the change' : 'Give it a tag'}
              </button>
              {editing && (
                <button
                  type="button"
                  className="key"
                  onClick={() => {
                    setEditing(null);
                    setEntry(blank);
                  }}
                >
                  Leave it
                </button>
              )}
            </div>
          </form>
        )}
      </main>
    </>
  );
}
