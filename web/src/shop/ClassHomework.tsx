import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { day, Trouble } from '../ui/basics';
import { dayGiven, EntryForm, needed, TextField, useEntryForm } from '../ui/form';
import { fixed } from '../ui/region';
import { useWriteId } from '../ui/useWriteId';

type Line = Schemas['HomeworkLine'];

/** Engines to practise on that the class is set: who is in; and once all are told, how each did. */
export function ClassHomework({ id, teaches }: { id: string; teaches: boolean }) {
  const client = useQueryClient();
  const homework = useQuery({
    queryKey: [...keys.class(id), 'homework'],
    queryFn: () => unwrap(api.GET('/api/classes/{classId}/homework', { params: { path: { classId: id } } })),
  });
  const again = () => client.invalidateQueries({ queryKey: [...keys.class(id), 'homework'] });
  const [adding, setAdding] = useState(false);
  return (
    <section className="card space-y-3 p-4" aria-labelledby="homework">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2 id="homework" className="text-xl">
          {tr`Homework`}
        </h2>
        {teaches && (
          <button className="key" aria-expanded={adding} onClick={() => setAdding(!adding)}>
            {adding ? tr`Close` : tr`Set an engine`}
          </button>
        )}
      </div>
      {adding && (
        <HomeworkForm
          id={id}
          done={() => {
            setAdding(false);
            void again();
          }}
        />
      )}
      <Trouble problem={homework.error as ApiProblem | null} />
      {homework.data?.length === 0 && (
        <p className="text-soft">
          {teaches
            ? tr`None is set. An engine is drawn from the causes, the same for all; nobody is told what it was before all are in.`
            : tr`None is set.`}
        </p>
      )}
      {homework.data?.map((h) => (
        <One key={h.id} of={h} classId={id} teaches={teaches} again={again} />
      ))}
    </section>
  );
}

const schema = z.object({ name: needed(tr`Call it by the week, or what it is about.`), until: dayGiven });

function HomeworkForm({ id, done }: { id: string; done: () => void }) {
  const write = useWriteId();
  const { form, settle } = useEntryForm(schema, { name: '', until: '' }, { draft: `homework/${id}` });
  const save = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: ({ name, until }) =>
      unwrap(
        api.PUT('/api/classes/{classId}/homework/{id}', {
          params: { path: { classId: id, id: write.get() } },
          body: { name, until: until || null, version: 0 },
        }),
      ),
    onSuccess: () => {
      settle({ name: '', until: '' });
      write.settle();
      done();
    },
  });
  return (
    <EntryForm form={form} send={save.mutateAsync} className="flex flex-wrap items-end gap-3">
      <TextField form={form} name="name" label={tr`Name`} />
      <TextField form={form} name="until" label={tr`To be in by`} type="date" />
      <button className="key key-go">{tr`Set it`}</button>
    </EntryForm>
  );
}

function One({
  of: h,
  classId,
  teaches,
  again,
}: {
  of: Line;
  classId: string;
  teaches: boolean;
  again: () => Promise<unknown>;
}) {
  const [asks, setAsks] = useState(false);
  const tell = useMutation<unknown, ApiProblem, void>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/classes/{classId}/homework/{id}/tell', { params: { path: { classId, id: h.id } } }),
      ),
    onSuccess: again,
  });
  const missing = h.rows.filter((r) => !r.in).map((r) => r.person);
  return (
    <article className="rounded-lg border-2 border-line p-3">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <b className="flex-1 text-lg">{h.name}</b>
        <span className="text-soft">
          {h.until && tr`by ${day(h.until)} · `}
          <Trans>
            <span className="fig">
              {h.in} of {h.of}
            </span>{' '}
            in
          </Trans>
        </span>
        {h.mine !== null && (
          <Link
            className={h.mine ? 'key flex items-center' : 'key key-go flex items-center'}
            to={`/homework/${h.id}`}
          >
            {h.told ? tr`What it was` : h.mine ? tr`Yours is in` : tr`Look at the engine`}
          </Link>
        )}
        {teaches && !h.told && (
          <button className="key" aria-expanded={asks} onClick={() => setAsks(!asks)}>
            {tr`Tell now`}
          </button>
        )}
      </div>
      {asks && !h.told && (
        <div className="mt-2 rounded-lg border-2 border-brass bg-brass-tint p-3">
          <p>
            <Trans>Then all see what it was, and nobody hands in after that. Not in yet: </Trans>
            {missing.join(', ') || tr`nobody`}.
          </p>
          <button className="key key-go mt-2" disabled={tell.isPending} onClick={() => tell.mutate()}>
            {tr`Tell all`}
          </button>
          <Trouble problem={tell.error} />
        </div>
      )}
      {h.told ? (
        <table className="mt-2 text-left">
          <thead className="text-sm text-soft">
            <tr>
              <th className="pr-6 font-semibold">{tr`Who`}</th>
              <th className="pr-6 font-semibold">{tr`Cause`}</th>
              <th className="pr-6 text-right font-semibold">{tr`Bits`}</th>
              <th className="pr-6 text-right font-semibold">{tr`Minutes`}</th>
            </tr>
          </thead>
          <tbody>
            {h.rows.map((r) => (
              <tr key={r.person} className="border-t border-line">
                <td className="pr-6">{r.person}</td>
                <td className="pr-6">{!r.in ? tr`not in` : r.right ? tr`✓ right` : tr`another`}</td>
                <td className="fig pr-6 text-right">{r.logScore === null ? '' : fixed(r.logScore, 1)}</td>
                <td className="fig pr-6 text-right">{r.minutes ?? ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        <p className="mt-1 text-sm text-soft">
          {h.in > 0 &&
            tr`In: ${h.rows
              .filter((r) => r.in)
              .map((r) => r.person)
              .join(', ')}. `}
          {tr`Nobody is told before all are in.`}
        </p>
      )}
    </article>
  );
}
