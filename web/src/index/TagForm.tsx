import { useState } from 'react';
import { type Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Choice, Field, Trouble } from '../ui/basics';
import { custodyText, custodyWords, entriesOf, facingWords, methodWords, stands } from '../ui/words';
import { NumberField } from '../ui/NumberField';

type Entry = Omit<Schemas['PartEntry'], 'id' | 'version' | 'place'>;

const blank = (place: string): Entry => ({
  mark: place.replace(/[A-Z]+$/, '').replace(/^[A-Z]+/, '') || place,
  method: 'none',
  sameOnAll: false,
  facing: 'unknown',
  gradeStamped: '',
  custody: 'bench',
  where: '',
  sent: null,
  dueBack: null,
  sideUp: '',
  weight: null,
  remarks: '',
});

const entryOf = (p: Schemas['Part']): Entry => ({
  mark: p.mark,
  method: p.method,
  sameOnAll: p.sameOnAll,
  facing: p.facing,
  gradeStamped: p.gradeStamped,
  custody: p.custody,
  where: p.where,
  sent: p.sent,
  dueBack: p.dueBack,
  sideUp: p.sideUp,
  weight: p.weight,
  remarks: p.remarks,
});

const outside: Schemas['Custody'][] = ['machineShop', 'welder', 'supplier', 'customer'];

/** The tag of one part: its mark, which way it faces, where it is now. */
export function TagForm({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase } = context;
  const standing = engineCase.parts.filter(stands).find((p) => p.place === address);
  const [draft, setDraft] = useState<Entry | null>(null);
  const entry = draft ?? (standing ? entryOf(standing) : blank(address));
  const set = (change: Partial<Entry>) => setDraft({ ...entry, ...change });
  const isShell = /^[RM]\d+[UL]$/.test(address);
  const save = useWrite(engineCase.id, writes.part, () => setDraft(null));
  const send = (version: number) =>
    save.mutate({ ...entry, place: address, version, standing: standing?.id ?? null });
  const theirs = save.error?.status === 409 ? (save.error.theirs as Schemas['Part'] | undefined) : undefined;
  const elsewhere = entry.custody !== 'onEngine' && entry.custody !== 'scrapped';

  return (
    <form
      className="space-y-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!save.isPending) send(standing?.version ?? 0);
      }}
    >
      <Choice
        label="Mark made with"
        value={entry.method}
        onChange={(method) => set({ method })}
        options={entriesOf(methodWords)}
      />
      {standing?.markedAs && (
        <p className="rounded-lg border-2 border-lead bg-lead-tint px-3 py-1.5">
          On the metal it is still <Addr code={standing.markedAs} className="text-lg" />: the numbering was
          changed. Mark it <Addr code={address} /> and write the tag anew.
        </p>
      )}
      {entry.method === 'numberPunch' && (
        <p className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-1.5">
          A punch can distort a cap. Back it up, strike lightly, away from the bearing seat. Eye protection.
        </p>
      )}
      <div className="grid grid-cols-2 gap-3">
        <Field label="Mark on the part">
          <input className="entry fig" value={entry.mark} onChange={(e) => set({ mark: e.target.value })} />
        </Field>
        {isShell && (
          <Field label="Size stamped on it">
            <input
              className="entry fig"
              placeholder="STD, 0.25 …"
              value={entry.gradeStamped}
              onChange={(e) => set({ gradeStamped: e.target.value })}
            />
          </Field>
        )}
      </div>
      {entry.method === 'makersMark' && (
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="size-6"
            checked={entry.sameOnAll}
            onChange={(e) => set({ sameOnAll: e.target.checked })}
          />
          The maker’s mark is the same on all of them
        </label>
      )}
      <Choice
        label="In its place the mark faces (seen from the free end)"
        value={entry.facing}
        onChange={(facing) => set({ facing })}
        options={entriesOf(facingWords)}
      />
      <Field label="Where it is now">
        <select
          className="entry"
          value={entry.custody}
          onChange={(e) => set({ custody: e.target.value as Schemas['Custody'] })}
        >
          {entriesOf(custodyWords).map(([c, name]) => (
            <option key={c} value={c}>
              {name}
            </option>
          ))}
        </select>
      </Field>
      {elsewhere && (
        <Field label="Which row, bag, box or shop">
          <input className="entry" value={entry.where} onChange={(e) => set({ where: e.target.value })} />
        </Field>
      )}
      {outside.includes(entry.custody) && (
        <div className="grid grid-cols-2 gap-3">
          <Field label="Sent on">
            <input
              className="entry"
              type="date"
              value={entry.sent ?? ''}
              onChange={(e) => set({ sent: e.target.value || null })}
            />
          </Field>
          <Field label="Due back">
            <input
              className="entry"
              type="date"
              value={entry.dueBack ?? ''}
              onChange={(e) => set({ dueBack: e.target.value || null })}
            />
          </Field>
        </div>
      )}
      <div className="grid grid-cols-2 gap-3">
        <Field label="Side up, if it has one">
          <input
            className="entry"
            placeholder="dot up, chamfer in …"
            value={entry.sideUp}
            onChange={(e) => set({ sideUp: e.target.value })}
          />
        </Field>
        <NumberField
          label="Weight, g"
          min={0}
          value={entry.weight ?? null}
          onChange={(weight) => set({ weight })}
        />
      </div>
      <Field label="Remarks">
        <input className="entry" value={entry.remarks} onChange={(e) => set({ remarks: e.target.value })} />
      </Field>
      {theirs ? (
        <div role="alert" className="rounded-lg border-2 border-brass bg-brass-tint p-3">
          <p className="font-bold">
            {theirs.by} changed the tag of <Addr code={address} /> meanwhile.
          </p>
          <p>
            Theirs: mark {theirs.mark || '—'}, {facingWords[theirs.facing].toLowerCase()},{' '}
            {custodyText(theirs)}
          </p>
          <p>
            Yours: mark {entry.mark || '—'}, {facingWords[entry.facing].toLowerCase()}, {custodyText(entry)}
          </p>
          <div className="mt-2 flex gap-2">
            <button type="button" className="key" onClick={() => send(theirs.version)}>
              Keep mine
            </button>
            <button
              type="button"
              className="key"
              onClick={() => {
                setDraft(null);
                save.reset();
              }}
            >
              Take theirs
            </button>
          </div>
        </div>
      ) : (
        <Trouble problem={save.error} />
      )}
      <button
        className="key key-go w-full"
        disabled={save.isPending || (standing !== undefined && draft === null)}
      >
        {standing ? 'Change the tag' : `Tag ${address}`}
      </button>
    </form>
  );
}
