import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMayWriteShop } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { day, Trouble } from '../ui/basics';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';
import { kindOf, useLessons, type Step } from './useStrip';
import { useWriteId } from '../ui/useWriteId';

const schema = z.object({ text: needed(tr`Say what the next engine of this kind should have.`) });

/** “This bolt first next time”: what earlier engines of the kind taught, met at the right step. */
export function Lessons({ step }: { step: Step }) {
  const { engineCase } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const mayWrite = useMayWriteShop();
  const client = useQueryClient();
  const script = strip.script;
  const lessons = useLessons(script);
  const id = useWriteId();
  const [noting, setNoting] = useState(false);
  const { form, settle: show } = useEntryForm(schema, { text: '' });
  const settle = () => client.invalidateQueries({ queryKey: keys.lessons });
  const add = useMutation<Schemas['Lesson'], ApiProblem, string>({
    mutationFn: (words) =>
      unwrap(
        api.POST('/api/lessons', {
          body: {
            id: id.get(),
            script,
            step: step.id,
            engineName: kindOf(engineCase.engineName),
            text: words,
            caseId: engineCase.id,
          },
        }),
      ),
    onSuccess: () => {
      id.settle();
      setNoting(false);
      show({ text: '' });
      return settle();
    },
  });
  const forget = useMutation<unknown, ApiProblem, string>({
    mutationFn: (lesson) =>
      unwrap(api.POST('/api/lessons/{id}/withdraw', { params: { path: { id: lesson } } })),
    onSuccess: settle,
  });
  const here = lessons.data?.filter((l) => l.step === step.id) ?? [];
  return (
    <div className="space-y-2">
      {here.map((l) => (
        <div key={l.id} className="rounded-lg border-l-8 border-dye bg-dye-tint px-3 py-2">
          <p className="text-lg font-semibold">{l.text}</p>
          <p className="flex flex-wrap items-center gap-x-3 text-sm text-soft">
            <span>
              <Trans>Learned on </Trans>
              {l.engineName === kindOf(engineCase.engineName)
                ? tr`another ${l.engineName}`
                : l.engineName}, {l.by}, {day(l.at)}
            </span>
            {mayWrite && (
              <button className="min-h-9 underline underline-offset-4" onClick={() => forget.mutate(l.id)}>
                {tr`No longer true`}
              </button>
            )}
          </p>
        </div>
      ))}
      {mayWrite &&
        (!noting ? (
          <button
            className="min-h-9 text-sm text-soft underline underline-offset-4"
            onClick={() => setNoting(true)}
          >
            {tr`Note a lesson for the next engine of this kind`}
          </button>
        ) : (
          <EntryForm
            form={form}
            send={({ text }) => add.mutateAsync(text)}
            className="flex items-start gap-2"
          >
            <TextField
              form={form}
              name="text"
              label={tr`Lesson`}
              unseen
              placeholder={tr`This bolt first next time …`}
              className="min-w-0 flex-1"
            />
            <button className="key key-go shrink-0" disabled={add.isPending}>
              {tr`Keep it`}
            </button>
          </EntryForm>
        ))}
      <Trouble problem={add.error ?? forget.error} />
    </div>
  );
}
