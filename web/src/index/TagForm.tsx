import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import { type Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Trouble } from '../ui/basics';
import {
  asTyped,
  dayGiven,
  EntryForm,
  FigureField,
  KeysField,
  ListField,
  LostRace,
  numberTyped,
  oneOf,
  TextField,
  TickField,
  sending,
  useEntryForm,
} from '../ui/form';
import { WhyForm } from '../ui/WhyForm';
import { custodyText, custodyWords, entriesOf, facingWords, isOut, methodWords, stands } from '../ui/words';

const schema = z.object({
  mark: z.string(),
  method: oneOf(methodWords),
  sameOnAll: z.boolean(),
  facing: oneOf(facingWords),
  gradeStamped: z.string(),
  custody: oneOf(custodyWords),
  where: z.string(),
  sent: dayGiven,
  dueBack: dayGiven,
  sideUp: z.string(),
  weight: numberTyped({ min: 0 }),
  remarks: z.string(),
  on: z.string(),
});

type Fields = z.input<typeof schema>;

/** What is usually marked on a part: the number of its station, behind the engine's own prefix. */
export const usualMark = (place: string, prefix: string) => {
  const [own = place, letter = ''] = place.split('.');
  const number = letter + (own.replace(/[A-Z]+$/, '').replace(/^[A-Z]+/, '') || own);
  return prefix ? `${prefix}-${number}` : number;
};

const blank = (place: string, prefix: string): Fields => ({
  mark: usualMark(place, prefix),
  method: 'none',
  sameOnAll: false,
  facing: 'unknown',
  gradeStamped: '',
  custody: 'bench',
  where: '',
  sent: '',
  dueBack: '',
  sideUp: '',
  weight: '',
  remarks: '',
  on: '',
});

const fieldsOf = (p: Schemas['Part']): Fields => ({
  mark: p.mark,
  method: p.method,
  sameOnAll: p.sameOnAll,
  facing: p.facing,
  gradeStamped: p.gradeStamped,
  custody: p.custody,
  where: p.where,
  sent: p.sent ?? '',
  dueBack: p.dueBack ?? '',
  sideUp: p.sideUp,
  weight: asTyped(p.weight),
  remarks: p.remarks,
  on: p.on,
});

const tagWords = (tag: Parameters<typeof custodyText>[0] & Pick<Schemas['Part'], 'mark' | 'facing'>) =>
  tr`mark ${tag.mark || '—'}, ${facingWords[tag.facing].toLowerCase()}, ${custodyText(tag)}`;

/** The tag of one part: its mark, which way it faces, where it is now. */
export function TagForm({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase } = context;
  const standing = engineCase.parts.filter(stands).find((p) => p.place === address);
  const entry = useEntryForm(schema, standing ? fieldsOf(standing) : blank(address, engineCase.prefix), {
    draft: `tag/${engineCase.id}/${address}`,
    version: standing?.version ?? 0,
  });
  const { form, touched } = entry;
  const isShell = /^[RM]\d+[UL](\.|$)/.test(address);
  const save = useWrite(engineCase.id, writes.part, (saved) => entry.settle(fieldsOf(saved), saved.version));
  const send = (version: number) => (values: z.output<typeof schema>) =>
    save.mutateAsync({ ...values, place: address, version, standing: standing?.id ?? null });
  const theirs = save.error?.status === 409 ? (save.error.theirs as Schemas['Part'] | undefined) : undefined;
  const shown = useWatch({ control: form.control, compute: (fields: Fields) => fields });
  const elsewhere = !['onEngine', 'scrapped', 'onPart'].includes(shown.custody);
  const bag = engineCase.stows.filter(stands).find((s) => s.items.some((i) => i.place === address));

  return (
    <>
      <EntryForm form={form} send={send(entry.version())}>
        <KeysField form={form} name="method" label={tr`Mark made with`} options={entriesOf(methodWords)} />
        {standing?.markedAs && (
          <p className="rounded-lg border-2 border-lead bg-lead-tint px-3 py-1.5">
            <Trans>
              On the metal it is still <Addr code={standing.markedAs} className="text-lg" />: the numbering
              was changed. Mark it <Addr code={address} /> and write the tag anew.
            </Trans>
          </p>
        )}
        {shown.method === 'numberPunch' && (
          <p className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-1.5">
            {tr`A punch can distort a cap. Back it up, strike lightly, away from the bearing seat. Eye protection.`}
          </p>
        )}
        <div className="grid grid-cols-2 gap-3">
          <TextField form={form} name="mark" label={tr`Mark on the part`} className="fig" />
          {isShell && (
            <TextField
              form={form}
              name="gradeStamped"
              label={tr`Size stamped on it`}
              placeholder={tr`STD, 0.25 …`}
              className="fig"
            />
          )}
        </div>
        {shown.method === 'makersMark' && (
          <TickField form={form} name="sameOnAll" label={tr`The maker’s mark is the same on all of them`} />
        )}
        <KeysField
          form={form}
          name="facing"
          label={tr`In its place the mark faces (seen from the free end)`}
          options={entriesOf(facingWords)}
        />
        <ListField form={form} name="custody" label={tr`Where it is now`} words={custodyWords} />
        {shown.custody === 'onPart' && (
          <TextField
            form={form}
            name="on"
            label={tr`On which part`}
            placeholder="P4"
            className="fig uppercase"
            hint={tr`The pin and its clips back in the piston, a cap on its rod.`}
          />
        )}
        {bag && (
          <p>
            <Trans>It lies in </Trans>
            <button
              type="button"
              className="fig font-bold underline"
              onClick={() => context.openBag(bag.code)}
            >
              {bag.code}
            </button>
            {bag.name && `, ${bag.name}`}.
          </p>
        )}
        {elsewhere && <TextField form={form} name="where" label={tr`Which row, bag, box or shop`} />}
        {isOut(shown.custody) && (
          <div className="grid grid-cols-2 gap-3">
            <TextField form={form} name="sent" label={tr`Sent on`} type="date" />
            <TextField form={form} name="dueBack" label={tr`Due back`} type="date" />
          </div>
        )}
        <div className="grid grid-cols-2 gap-3">
          <TextField
            form={form}
            name="sideUp"
            label={tr`Side up, if it has one`}
            placeholder={tr`dot up, chamfer in …`}
          />
          <FigureField form={form} name="weight" label={tr`Weight, g`} />
        </div>
        <TextField form={form} name="remarks" label={tr`Remarks`} />
        {theirs ? (
          <LostRace
            says={
              <>
                <Trans>
                  {theirs.by} changed the tag of <Addr code={address} /> meanwhile.
                </Trans>
              </>
            }
            theirs={tagWords(theirs)}
            yours={tagWords(shown)}
            onKeep={() => void sending(form, send(theirs.version))()}
            onTake={() => {
              entry.settle(fieldsOf(theirs), theirs.version);
              save.reset();
            }}
          />
        ) : (
          <Trouble problem={save.error} />
        )}
        <button
          className="key key-go w-full"
          disabled={save.isPending || (standing !== undefined && !touched)}
        >
          {standing ? tr`Change the tag` : tr`Tag ${address}`}
        </button>
      </EntryForm>
      {standing && <TakeBack key={standing.id} part={standing} />}
    </>
  );
}

/** Takes a tag back that is no slip of a moment ago: the part then has none. */
function TakeBack({ part }: { part: Schemas['Part'] }) {
  const [asks, setAsks] = useState(false);
  const back = useWrite(part.caseId, writes.partBack);
  return (
    <div className="mt-3">
      {asks ? (
        <WhyForm
          press={tr`Take the tag back`}
          send={(why) => back.mutateAsync({ id: part.id, version: part.version, why })}
        />
      ) : (
        <button type="button" className="key text-sm" onClick={() => setAsks(true)}>
          {tr`Take the tag back`}
        </button>
      )}
      <Trouble problem={back.error} />
    </div>
  );
}
