import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { day, Trouble } from '../ui/basics';
import { kindOf, useLessons, type Step } from './useStrip';
import { useWriteId } from '../ui/useWriteId';

/** “This bolt first next time”: what earlier engines of the kind taught, met at the right step. */
export function Lessons({ step }: { step: Step }) {
  const { engineCase } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const mayWrite = useMayWrite();
  const client = useQueryClient();
  const script = strip.script;
  const lessons = useLessons(script);
  const id = useWriteId();
  const [text, setText] = useState<string | null>(null);
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
      setText(null);
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
              Learned on{' '}
              {l.engineName === kindOf(engineCase.engineName) ? `another ${l.engineName}` : l.engineName},{' '}
              {l.by}, {day(l.at)}
            </span>
            {mayWrite && (
              <button className="min-h-9 underline underline-offset-4" onClick={() => forget.mutate(l.id)}>
                No longer true
              </button>
            )}
          </p>
        </div>
      ))}
      {mayWrite &&
        (text === null ? (
          <button
            className="min-h-9 text-sm text-soft underline underline-offset-4"
            onClick={() => setText('')}
          >
            Note a lesson for the next engine of this kind
          </button>
        ) : (
          <form
            className="flex gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              if (!add.isPending) add.mutate(text);
            }}
          >
            <input
              className="entry"
              aria-label="Lesson"
              placeholder="This bolt first next time …"
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
            <button className="key key-go shrink-0" disabled={add.isPending}>
              Keep it
            </button>
          </form>
        ))}
      <Trouble problem={add.error ?? forget.error} />
    </div>
  );
}
