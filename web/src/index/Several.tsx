import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Trouble } from '../ui/basics';
import { EntryForm, KeysField, ListField, oneOf, TextField, useEntryForm } from '../ui/form';
import { custodyWords, entriesOf, facingWords, methodWords } from '../ui/words';
import { usualMark } from './TagForm';

const schema = z.object({
  method: oneOf(methodWords),
  facing: oneOf(facingWords),
  custody: oneOf(custodyWords),
  where: z.string(),
});

const blank: z.input<typeof schema> = { method: 'none', facing: 'unknown', custody: 'bench', where: '' };

/** Several parts that are marked alike and lie together: one entry tags them all, each with its own number. */
export function Several({ untagged }: { untagged: string[] }) {
  const { engineCase, section } = useCaseContext();
  const kinds = [
    ...new Map(
      section.cells.filter((c) => untagged.includes(c.address)).map((c) => [c.kind, c.words] as const),
    ).keys(),
  ];
  const kindOf = (address: string) => section.cells.find((c) => c.address === address)?.kind;
  const [chosen, setChosen] = useState<string[]>([]);
  const [open, setOpen] = useState(false);
  const { form, settle } = useEntryForm(schema, blank, { draft: `several/${engineCase.id}` });
  const save = useWrite(engineCase.id, writes.parts, () => {
    settle(blank);
    setChosen([]);
    setOpen(false);
  });
  const send = (typed: z.output<typeof schema>) =>
    save.mutateAsync(
      chosen.map((place) => ({
        id: v7(),
        version: 0,
        place,
        mark: usualMark(place, engineCase.prefix),
        sameOnAll: false,
        gradeStamped: '',
        sent: null,
        dueBack: null,
        sideUp: '',
        weight: null,
        remarks: '',
        on: '',
        ...typed,
      })),
    );
  if (!open)
    return (
      <button className="key mb-3" onClick={() => setOpen(true)}>
        {tr`Tag several at once`}
      </button>
    );
  return (
    <section className="card mb-3 space-y-3 p-4">
      <h3 className="text-lg">{tr`Several that are marked alike and lie together`}</h3>
      <p className="label">{tr`All of a kind`}</p>
      <div className="flex flex-wrap gap-1.5" role="group" aria-label={tr`All of a kind`}>
        {kinds.map((k) => {
          const of = untagged.filter((a) => kindOf(a) === k);
          const all = of.every((a) => chosen.includes(a));
          return of.length < 2 ? null : (
            <button
              key={k}
              type="button"
              className="key text-sm"
              aria-pressed={all}
              onClick={() =>
                setChosen(all ? chosen.filter((a) => !of.includes(a)) : [...new Set([...chosen, ...of])])
              }
            >
              {of[0]}–{of.at(-1)}
            </button>
          );
        })}
      </div>
      <p className="label">{tr`Or one by one`}</p>
      <div className="flex flex-wrap gap-1.5" role="group" aria-label={tr`Which parts`}>
        {untagged.map((a) => (
          <button
            key={a}
            type="button"
            className="key px-2"
            aria-pressed={chosen.includes(a)}
            onClick={() => setChosen(chosen.includes(a) ? chosen.filter((c) => c !== a) : [...chosen, a])}
          >
            <Addr code={a} />
          </button>
        ))}
      </div>
      <EntryForm form={form} send={send}>
        <KeysField form={form} name="method" label={tr`Mark made with`} options={entriesOf(methodWords)} />
        <div className="grid gap-3 sm:grid-cols-3">
          <ListField form={form} name="facing" label={tr`Its mark faces`} words={facingWords} />
          <ListField form={form} name="custody" label={tr`They are`} words={custodyWords} />
          <TextField form={form} name="where" label={tr`Which row, bag or box`} />
        </div>
        <Trouble problem={save.error} />
        <div className="flex gap-2">
          <button className="key key-go" disabled={save.isPending || chosen.length === 0}>
            <Trans>Tag {chosen.length}</Trans>
          </button>
          <button type="button" className="key" onClick={() => setOpen(false)}>
            {tr`Not now`}
          </button>
        </div>
      </EntryForm>
    </section>
  );
}
