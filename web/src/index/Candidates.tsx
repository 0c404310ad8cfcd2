import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import * as z from 'zod/mini';
import type { Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { letterOf, useCandidateName, useCandidateSets } from '../casebook/candidates';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import {
  asTyped,
  EntryForm,
  FigureField,
  ListField,
  needed,
  numberTyped,
  TextField,
  useEntryForm,
} from '../ui/form';
import { WhyForm } from '../ui/WhyForm';
import { stands } from '../ui/words';

const schema = z.object({
  what: needed(tr`Choose what it is.`),
  station: numberTyped({ whole: true, min: 1, max: 40 }),
  name: z.string(),
  from: z.string(),
  remarks: z.string(),
});

type Fields = z.input<typeof schema>;

const blank: Fields = { what: '', station: '', name: '', from: '', remarks: '' };

const fieldsOf = (c: Schemas['Candidate']): Fields => ({
  what: c.what,
  station: asTyped(c.station),
  name: c.name,
  from: c.from,
  remarks: c.remarks,
});

/** Parts that are offered in the engine's stead: a second crankshaft, a donor's head, a set of shells. */
export function Candidates() {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState<string | null>(null);
  const offered = engineCase.candidates.filter(stands).sort((a, b) => a.letter.localeCompare(b.letter));
  return (
    <section id="offered" className="card p-4">
      <h2 className="text-xl">
        <Trans>Offered parts, {offered.length}</Trans>
      </h2>
      <p className="text-soft">
        {tr`A second crankshaft, a donor’s head, a set of shells. Each has places of its own, is looked at and measured like the engine’s, and says nothing of why the engine failed.`}
      </p>
      <ul className="mt-2 divide-y divide-line">
        {offered.map((c) => (
          <One key={c.id} candidate={c} open={open === c.id} setOpen={(o) => setOpen(o ? c.id : null)} />
        ))}
      </ul>
      {mayWrite &&
        (open === 'new' ? (
          <Form standing={null} done={() => setOpen(null)} />
        ) : (
          <button className="key mt-2" onClick={() => setOpen('new')}>
            {tr`Offer a part`}
          </button>
        ))}
    </section>
  );
}

function One({
  candidate,
  open,
  setOpen,
}: {
  candidate: Schemas['Candidate'];
  open: boolean;
  setOpen: (open: boolean) => void;
}) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const nameOf = useCandidateName();
  const back = useWrite(engineCase.id, writes.candidateBack);
  const suffix = `.${candidate.letter}`;
  const recorded = [...engineCase.findings, ...engineCase.readings, ...engineCase.photos].filter(
    (r) => stands(r) && letterOf(r.place) === candidate.letter,
  ).length;
  return (
    <li className="py-2">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="fig text-2xl font-bold">{suffix}</span>
        <span className="least-40 flex-1">
          <b className="inline-block first-letter:uppercase">{nameOf(candidate)}</b>
          <span className="block text-sm text-soft">
            {[
              candidate.from,
              candidate.remarks,
              recorded > 0 ? tr`${recorded} entries` : tr`nothing entered yet`,
            ]
              .filter(Boolean)
              .join(' · ')}
          </span>
        </span>
        <Think letter={candidate.letter} />
        {mayWrite && (
          <button className="key text-sm" aria-expanded={open} onClick={() => setOpen(!open)}>
            {tr`Change`}
          </button>
        )}
      </div>
      {open && (
        <>
          <Form standing={candidate} done={() => setOpen(false)} />
          <WhyForm
            press={tr`No longer offered`}
            send={(why) => back.mutateAsync({ id: candidate.id, version: candidate.version, why })}
          />
          <Trouble problem={back.error} />
        </>
      )}
    </li>
  );
}

/** Thinks it into the engine: section, Look and Gauge then show it in place of the engine's own. */
function Think({ letter }: { letter: string }) {
  const { thinkIn } = useCaseContext();
  return (
    <button className="key key-go text-sm" onClick={() => thinkIn(letter)}>
      {tr`Look at it in the engine`}
    </button>
  );
}

function Form({ standing, done }: { standing: Schemas['Candidate'] | null; done: () => void }) {
  const { engineCase, section } = useCaseContext();
  const sets = useCandidateSets();
  const { form, settle, version } = useEntryForm(schema, standing ? fieldsOf(standing) : blank, {
    draft: `candidate/${engineCase.id}/${standing?.id ?? 'new'}`,
    version: standing?.version ?? 0,
  });
  const save = useWrite(engineCase.id, writes.candidate, () => {
    settle(blank);
    done();
  });
  // Only what the engine has a place for, by the part that leads the set.
  const kinds = new Set(section.cells.map((c) => c.kind));
  const choices = (sets.data ?? []).filter((s) => kinds.has(s.kinds[0]!)).map((s) => [s.id, s.name] as const);
  return (
    <EntryForm
      form={form}
      send={(typed) =>
        save.mutateAsync({
          ...typed,
          version: version(),
          letter: standing?.letter ?? '',
          line: standing?.line ?? null,
          standing: standing?.id ?? null,
        })
      }
      className="mt-2 space-y-3"
    >
      {!standing && (
        <div className="grid grid-cols-[minmax(0,2fr)_minmax(0,1fr)] gap-3">
          <ListField form={form} name="what" label={tr`What is it?`} first={tr`Choose …`} words={choices} />
          <FigureField
            form={form}
            name="station"
            label={tr`Only for number`}
            hint={tr`Empty: for all of them.`}
            placeholder={tr`all`}
          />
        </div>
      )}
      <TextField
        form={form}
        name="name"
        label={tr`What the shop calls it`}
        placeholder={tr`of the yellow donor`}
      />
      <TextField
        form={form}
        name="from"
        label={tr`Where it comes from`}
        placeholder={tr`supplier, shelf, donor`}
      />
      <TextField form={form} name="remarks" label={tr`Remarks`} />
      <Trouble problem={save.error} />
      <div className="flex gap-2">
        <button className="key key-go" disabled={save.isPending}>
          {standing ? tr`Write the change` : tr`Give it places`}
        </button>
        <button type="button" className="key" onClick={done}>
          {tr`Not now`}
        </button>
      </div>
    </EntryForm>
  );
}
