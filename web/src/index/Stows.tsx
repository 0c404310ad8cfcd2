import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useEffect, useRef, useState } from 'react';
import { useFieldArray, useWatch } from 'react-hook-form';
import { useSearchParams } from 'react-router';
import * as z from 'zod/mini';
import type { Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Trouble } from '../ui/basics';
import { EntryForm, FigureField, KeysField, numberNeeded, oneOf, TextField, useEntryForm } from '../ui/form';
import { WhyForm } from '../ui/WhyForm';
import { entriesOf, stands, stowWords } from '../ui/words';

const schema = z.object({
  kind: oneOf(stowWords),
  name: z.string(),
  in: z.string(),
  where: z.string(),
  remarks: z.string(),
  items: z.array(
    z.object({
      what: z.string(),
      count: numberNeeded({ whole: true, min: 1, max: 10_000 }),
      face: z.string(),
    }),
  ),
});

type Fields = z.input<typeof schema>;

const blankItem = { what: '', count: '1', face: '' };

const blank: Fields = { kind: 'bag', name: '', in: '', where: '', remarks: '', items: [blankItem] };

const fieldsOf = (s: Schemas['Stow']): Fields => ({
  kind: s.kind,
  name: s.name,
  in: s.in,
  where: s.where,
  remarks: s.remarks,
  items: s.items.map((i) => ({ what: i.place || i.what, count: String(i.count), face: i.face })),
});

/** Bags, boxes, trays and stacks, each with a label of its own and what is in it. */
export function Stows() {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState<string | null>(null);
  const stows = engineCase.stows
    .filter(stands)
    .sort((a, b) => a.code.localeCompare(b.code, undefined, { numeric: true }));
  return (
    <section id="bags">
      <h2 className="text-xl">
        <Trans>Bags, boxes and stacks, {stows.length}</Trans>
      </h2>
      <p className="mb-2 text-soft">
        {tr`The word on the label, what is in it, and where it lies. A stack keeps its order, the outermost first, and which face is out.`}
      </p>
      {stows.length > 0 && (
        <ul className="card mb-3 divide-y divide-line">
          {stows.map((s) => (
            <One key={s.id} stow={s} open={open === s.id} setOpen={(o) => setOpen(o ? s.id : null)} />
          ))}
        </ul>
      )}
      {mayWrite &&
        (open === 'new' ? (
          <div className="card p-4">
            <Form standing={null} done={() => setOpen(null)} />
          </div>
        ) : (
          <button className="key" onClick={() => setOpen('new')}>
            {tr`Fill a bag, box or stack`}
          </button>
        ))}
    </section>
  );
}

function One({
  stow: s,
  open,
  setOpen,
}: {
  stow: Schemas['Stow'];
  open: boolean;
  setOpen: (open: boolean) => void;
}) {
  const { engineCase, openPart, openBag } = useCaseContext();
  const mayWrite = useMayWrite();
  const [params] = useSearchParams();
  const asked = params.get('bag') === s.code;
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (asked) row.current?.scrollIntoView({ block: 'center' });
  }, [asked]);
  const back = useWrite(engineCase.id, writes.stowBack);
  const within = engineCase.stows.filter(stands).filter((o) => o.in === s.code);
  return (
    <li ref={row} className={`px-4 py-2 ${asked ? 'bg-dye-tint' : ''}`}>
      <div className="flex flex-wrap items-start gap-x-4 gap-y-1">
        <span className="fig least-24 text-2xl font-bold">{s.code}</span>
        <div className="least-44 flex-1">
          <p>
            <b>{s.name || stowWords[s.kind]}</b>{' '}
            <span className="text-soft">{[s.in && tr`in ${s.in}`, s.where].filter(Boolean).join(', ')}</span>
            {!s.in && !s.where && (
              <span className="font-bold text-lead">{tr`nobody wrote where it lies`}</span>
            )}
          </p>
          {s.kind === 'stack' ? (
            <ol className="mt-1 max-w-md">
              {s.items.map((i, n) => (
                <li
                  key={n}
                  className="flex items-baseline gap-3 border-x-2 border-t-2 border-ink px-2 py-0.5 first:rounded-t-lg last:rounded-b-lg last:border-b-2"
                >
                  <span className="fig w-5 text-soft">{n + 1}</span>
                  <Item item={i} open={openPart} />
                  {i.face && <span className="ml-auto text-sm">{i.face}</span>}
                </li>
              ))}
            </ol>
          ) : (
            <p className="flex flex-wrap items-baseline gap-x-3 gap-y-0.5">
              {s.items.map((i, n) => (
                <span key={n} className="whitespace-nowrap">
                  <Item item={i} open={openPart} />
                  {i.face && <span className="text-sm text-soft"> {i.face}</span>}
                </span>
              ))}
              {within.map((o) => (
                <button
                  key={o.id}
                  className="fig min-h-8 font-bold underline decoration-line"
                  onClick={() => openBag(o.code)}
                >
                  {o.code}
                </button>
              ))}
              {s.items.length + within.length === 0 && (
                <span className="text-soft">{tr`nothing entered`}</span>
              )}
            </p>
          )}
          {s.remarks && <p className="text-sm text-soft">{s.remarks}</p>}
        </div>
        {mayWrite && (
          <button className="key text-sm" aria-expanded={open} onClick={() => setOpen(!open)}>
            {tr`Change`}
          </button>
        )}
      </div>
      {open && (
        <div className="mt-2 border-t border-line pt-3">
          <Form standing={s} done={() => setOpen(false)} />
          <WhyForm
            press={tr`It is empty and gone`}
            send={(why) => back.mutateAsync({ id: s.id, version: s.version, why })}
          />
          <Trouble problem={back.error} />
        </div>
      )}
    </li>
  );
}

function Item({ item, open }: { item: Schemas['StowItem']; open: (address: string) => void }) {
  return item.place ? (
    <button className="min-h-8 underline decoration-line" onClick={() => open(item.place)}>
      <Addr code={item.place} />
    </button>
  ) : (
    <span>
      {item.count > 1 && <span className="fig font-bold">{item.count} × </span>}
      {item.what}
    </span>
  );
}

function Form({ standing, done }: { standing: Schemas['Stow'] | null; done: () => void }) {
  const { engineCase, section } = useCaseContext();
  const { form, settle, version } = useEntryForm(schema, standing ? fieldsOf(standing) : blank, {
    draft: `stow/${engineCase.id}/${standing?.id ?? 'new'}`,
    version: standing?.version ?? 0,
  });
  const { fields, append, remove, move } = useFieldArray({ control: form.control, name: 'items' });
  const typed = useWatch({ control: form.control, name: 'items' });
  const stack = useWatch({ control: form.control, name: 'kind' }) === 'stack';
  const save = useWrite(engineCase.id, writes.stow, () => {
    settle(blank);
    done();
  });
  const words = new Map(section.cells.map((c) => [c.address, c.words]));
  for (const p of engineCase.parts) if (!words.has(p.place)) words.set(p.place, p.place);
  const isPart = (what: string) => words.has(what.trim().toUpperCase());
  const send = ({ items, ...rest }: z.output<typeof schema>) =>
    save.mutateAsync({
      ...rest,
      code: standing?.code ?? '',
      step: standing?.step ?? '',
      version: version(),
      standing: standing?.id ?? null,
      items: items
        .filter((i) => i.what.trim())
        .map(({ what, count, face }) => {
          const place = isPart(what) ? what.trim().toUpperCase() : '';
          return { place, what: place ? '' : what.trim(), count: place ? 1 : count, face };
        }),
    });
  return (
    <EntryForm form={form} send={send} className="space-y-3">
      {!standing && (
        <KeysField form={form} name="kind" label={tr`What is it?`} options={entriesOf(stowWords)} />
      )}
      <TextField form={form} name="name" label={tr`What it holds`} placeholder={tr`section 2, group B`} />
      <div>
        <p className="label">
          {stack ? tr`Layer by layer, the outermost first` : tr`What is in it`}
          {tr`: an address, or in words`}
        </p>
        <ol className="space-y-2">
          {fields.map((f, i) => (
            <li
              key={f.id}
              className="grid grid-cols-[minmax(0,1fr)_4.5rem_auto] items-start gap-2 sm:grid-cols-[minmax(0,1.4fr)_4.5rem_minmax(0,1fr)_auto]"
            >
              <div>
                <TextField
                  form={form}
                  name={`items.${i}.what`}
                  label={tr`Thing ${i + 1}`}
                  unseen
                  placeholder={i === 0 ? tr`R4C, or M8 × 40` : ''}
                />
                {isPart(typed[i]?.what ?? '') && (
                  <p className="text-sm text-oil">{words.get(typed[i]!.what.trim().toUpperCase())}</p>
                )}
              </div>
              <FigureField
                form={form}
                name={`items.${i}.count`}
                label={tr`How many of thing ${i + 1}`}
                unseen
                disabled={isPart(typed[i]?.what ?? '')}
              />
              <TextField
                form={form}
                name={`items.${i}.face`}
                label={tr`Which face of thing ${i + 1} is out`}
                unseen
                placeholder={stack ? tr`which face is out` : tr`which way, if it matters`}
                className="col-span-2 sm:col-span-1"
              />
              <span className="flex gap-1">
                <button
                  type="button"
                  className="key px-2"
                  disabled={i === 0}
                  aria-label={tr`Thing ${i + 1} one up`}
                  onClick={() => move(i, i - 1)}
                >
                  ↑
                </button>
                <button
                  type="button"
                  className="key px-2"
                  aria-label={tr`Take thing ${i + 1} out`}
                  onClick={() => remove(i)}
                >
                  ✕
                </button>
              </span>
            </li>
          ))}
        </ol>
        <button type="button" className="key mt-2" onClick={() => append(blankItem)}>
          {tr`One more`}
        </button>
      </div>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField form={form} name="where" label={tr`Where it lies`} placeholder={tr`shelf 4`} />
        <TextField
          form={form}
          name="in"
          label={tr`In which box`}
          placeholder="BOX1"
          className="fig uppercase"
        />
      </div>
      <TextField form={form} name="remarks" label={tr`Remarks`} />
      <Trouble problem={save.error} />
      <div className="flex flex-wrap gap-2">
        <button className="key key-go" disabled={save.isPending}>
          {standing ? tr`Write ${standing.code}` : tr`Save and name it`}
        </button>
        <button type="button" className="key" onClick={done}>
          {tr`Not now`}
        </button>
      </div>
    </EntryForm>
  );
}
