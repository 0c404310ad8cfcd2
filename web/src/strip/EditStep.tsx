import { t as tr } from '@lingui/core/macro';
import { useState } from 'react';
import { v7 } from 'uuid';
import type * as z from 'zod/mini';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import { EntryForm, TextField, useEntryForm } from '../ui/form';
import { bareStep, StepFields, stepFields, stepId, stepOf, stepSchema } from './StepForm';
import { type Step } from './useStrip';

/** A step added to this strip, or one of the script's as it is done here, with the reason. */
export function EditStep({ step, onEnd }: { step: Step | null; onEnd: (id: string | null) => void }) {
  const { engineCase, knowledge } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const source = step?.source ?? bareStep;
  const { form, settle } = useEntryForm(stepSchema, stepFields(source), {
    draft: `step-whole/${engineCase.id}/${step?.id ?? 'new'}`,
  });
  const [suffix] = useState(() => v7().slice(-4));
  const leave = (id: string | null) => {
    settle(stepFields(source));
    onEnd(id);
  };
  const save = useWrite(engineCase.id, writes.ownStep, (_, entry) => leave(entry.step.id));
  const send = (typed: z.output<typeof stepSchema>) =>
    save.mutateAsync({
      step: stepOf(source, source.id || stepId(typed.name, suffix), typed),
      reason: typed.reason,
    });
  return (
    <section className="card mx-auto max-w-3xl p-5">
      <EntryForm form={form} send={send} className="space-y-4">
        <h2 className="text-2xl">{step ? tr`Change “${step.name}”` : tr`A step of your own`}</h2>
        <p className="text-soft">{tr`Only in this case. What is done stays done.`}</p>
        <StepFields form={form} self={source.id} steps={strip.steps} kinds={knowledge.kinds} />
        <TextField form={form} name="reason" label={tr`Why it differs; it stays with the case`} />
        <Trouble problem={save.error} />
        <div className="flex gap-2">
          <button className="key key-go" disabled={save.isPending}>
            {tr`Put it in the strip`}
          </button>
          <button type="button" className="key" onClick={() => leave(null)}>
            {tr`Leave it as it was`}
          </button>
        </div>
      </EntryForm>
    </section>
  );
}
