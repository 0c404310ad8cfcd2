import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Layout, type Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { LayoutFields, layoutOf, taken, type Rows, type Shape } from '../casebook/LayoutFields';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Field, Trouble } from '../ui/basics';
import { useEntryForm } from '../ui/form';
import { WhyForm } from '../ui/WhyForm';

/** The layout was chosen by mistake, or the engine has a part that nobody foresaw: put right without losing a record. */
export function CorrectLayout() {
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState(false);
  if (!mayWrite) return null;
  return (
    <section className="card p-4">
      <h2 className="text-xl">{tr`The engine as it is`}</h2>
      <p className="text-soft">
        {tr`A wrong choice in the layout, or a part without a place: put it right here. Nothing recorded is lost.`}
      </p>
      {open ? (
        <Correction onEnd={() => setOpen(false)} />
      ) : (
        <button className="key mt-2" onClick={() => setOpen(true)}>
          {tr`Correct the layout`}
        </button>
      )}
    </section>
  );
}

const schema = z.object({ shape: z.custom<Shape>(), rows: z.custom<Rows>(), own: z.custom<Own[]>() });

function Correction({ onEnd }: { onEnd: () => void }) {
  const { engineCase } = useCaseContext();
  const stands = { ...taken(engineCase.layout), own: engineCase.layout.ownParts };
  const { form, settle, version } = useEntryForm(schema, stands, {
    draft: `layout/${engineCase.id}`,
    version: engineCase.version,
  });
  const [shape, rows, own] = useWatch({ control: form.control, name: ['shape', 'rows', 'own'] });
  const layout = layoutOf(shape, rows, own);
  const preview = useMutation<Schemas['LayoutChange'], ApiProblem, Layout>({
    mutationFn: (asked) =>
      unwrap(
        api.POST('/api/cases/{caseId}/layout/preview', {
          params: { path: { caseId: engineCase.id } },
          body: { id: v7(), version: version(), layout: asked, why: '' },
        }),
      ),
  });
  const leave = () => {
    settle(stands);
    onEnd();
  };
  const correct = useWrite(engineCase.id, writes.layout, leave);
  const change = preview.data;
  const set = (next: Partial<z.input<typeof schema>>) => {
    if (next.shape) form.setValue('shape', next.shape, { shouldDirty: true });
    if (next.rows) form.setValue('rows', next.rows, { shouldDirty: true });
    if (next.own) form.setValue('own', next.own, { shouldDirty: true });
    preview.reset();
  };
  return (
    <div className="mt-3 space-y-4 border-t border-line pt-3">
      <LayoutFields shape={shape} rows={rows} onChange={set} numbering={false} />
      <OwnParts own={own} onChange={(next) => set({ own: next })} />
      <Trouble problem={preview.error ?? correct.error} />
      {change && (
        <div className="rounded-lg bg-well p-3">
          <h3 className="font-semibold">{tr`What would change`}</h3>
          <Codes title={tr`Called otherwise`} codes={change.map.map((m) => `${m.old} → ${m.new}`)} />
          <Codes title={tr`New places`} codes={change.added} />
          <Codes title={tr`Places that go; nothing is recorded there`} codes={change.gone} />
          <Codes
            title={tr`No longer of this engine, kept since something is recorded there`}
            codes={change.left.map((l) => l.code)}
          />
          <Codes title={tr`Of this engine again`} codes={change.back} />
          {change.map.length +
            change.added.length +
            change.gone.length +
            change.left.length +
            change.back.length ===
            0 && <p>{tr`No address changes.`}</p>}
          <WhyForm
            press={tr`Correct it`}
            send={(why) => correct.mutateAsync({ version: version(), layout, why })}
          />
        </div>
      )}
      <div className="flex flex-wrap gap-2">
        {!change && (
          <button className="key key-go" disabled={preview.isPending} onClick={() => preview.mutate(layout)}>
            {tr`See what would change`}
          </button>
        )}
        <button className="key" onClick={leave}>
          {tr`Leave it`}
        </button>
      </div>
    </div>
  );
}

function Codes({ title, codes }: { title: string; codes: string[] }) {
  if (codes.length === 0) return null;
  return (
    <details className="py-1" open={codes.length <= 24}>
      <summary className="cursor-pointer py-1">
        {title}: <span className="fig">{codes.length}</span>
      </summary>
      <ul
        className="fig flex max-h-48 flex-wrap gap-x-4 gap-y-0.5 overflow-y-auto"
        tabIndex={0}
        aria-label={title}
      >
        {codes.map((c) => (
          <li key={c} className="whitespace-nowrap">
            {c}
          </li>
        ))}
      </ul>
    </details>
  );
}

type Own = Layout['ownParts'][number];

/** Parts that nobody foresaw: an idler hub, a water tube, pinion shims, a stud in the sump. */
function OwnParts({ own, onChange }: { own: Own[]; onChange: (own: Own[]) => void }) {
  const kinds = useQuery({ queryKey: ['kinds'], queryFn: () => unwrap(api.GET('/api/kinds')) });
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  const [like, setLike] = useState('');
  const [mates, setMates] = useState('');
  const add = () => {
    const part = {
      code: code.trim().toUpperCase(),
      name: name.trim(),
      like,
      mates: mates
        .toUpperCase()
        .split(/[\s,]+/)
        .filter(Boolean),
      stratum: kinds.data?.find((k) => k.id === like)?.stratum ?? 'accessories',
      left: false,
    } satisfies Own;
    onChange([...own.filter((o) => o.code !== part.code), part]);
    setCode('');
    setName('');
    setMates('');
  };
  return (
    <details className="border-t border-line py-2" open={own.length > 0}>
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        {tr`Parts that only this engine has`}
      </summary>
      <ul className="divide-y divide-line">
        {own.map((o) => (
          <li key={o.code} className="flex flex-wrap items-center gap-x-3 py-1">
            <Addr code={o.code} />
            <span className="grow">
              {o.left ? tr`of an earlier layout` : o.name}
              {o.mates.length > 0 && (
                <span className="text-soft">
                  {' '}
                  <Trans>with {o.mates.join(', ')}</Trans>
                </span>
              )}
            </span>
            <button className="key text-sm" onClick={() => onChange(own.filter((x) => x !== o))}>
              <Trans>Take {o.code} away</Trans>
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-2 grid gap-3 sm:grid-cols-2">
        <Field label={tr`Address`} hint={tr`One or two letters, if need be a number: HU, HU2.`}>
          <input className="entry fig" value={code} maxLength={6} onChange={(e) => setCode(e.target.value)} />
        </Field>
        <Field label={tr`What you call it`}>
          <input className="entry" value={name} maxLength={80} onChange={(e) => setName(e.target.value)} />
        </Field>
        <Field label={tr`Most like`} hint={tr`Its signs and measures are offered.`}>
          <select className="entry" value={like} onChange={(e) => setLike(e.target.value)}>
            <option value="">{tr`choose`}</option>
            {kinds.data?.map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
          </select>
        </Field>
        <Field label={tr`Runs with`} hint={tr`Addresses of its mates: CA CR.`}>
          <input className="entry fig" value={mates} onChange={(e) => setMates(e.target.value)} />
        </Field>
      </div>
      <button className="key mt-2" disabled={!code.trim() || !name.trim() || !like} onClick={add}>
        {tr`Give it a place`}
      </button>
    </details>
  );
}
