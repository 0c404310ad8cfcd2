import { useEffect, useRef, useState } from 'react';
import { v7 } from 'uuid';
import { api, unwrap } from '../api/client';
import { useWrite } from '../api/queries';
import { Trouble } from '../ui/basics';

/**
 * One figure, typed as people type. A suspect one comes back as a question: pressing enter again on the same figure keeps it as
 * typed. The id is made once per figure, so that a double press or a repeated send writes it once.
 */
export function ReadingEntry({
  caseId,
  place,
  characteristic,
  unit,
  label,
  instrument,
  corrects = null,
  big = false,
  onDone,
}: {
  caseId: string;
  place: string;
  characteristic: string;
  unit: string;
  label: string;
  instrument: string;
  corrects?: string | null;
  big?: boolean;
  onDone?: () => void;
}) {
  const [typed, setTyped] = useState('');
  const [asked, setAsked] = useState('');
  const id = useRef(v7());
  const input = useRef<HTMLInputElement>(null);
  const write = useWrite(caseId, (confirmed: boolean) =>
    unwrap(
      api.POST('/api/cases/{caseId}/readings', {
        params: { path: { caseId } },
        body: {
          id: id.current,
          place,
          characteristic,
          typed,
          setUnit: unit,
          instrument,
          temperature: null,
          corrects,
          confirmed,
        },
      }),
    ),
  );
  useEffect(() => {
    if (big) input.current?.focus();
  }, [big]);

  const question = write.error?.of('confirmed');
  const submit = () => {
    if (write.isPending || typed.trim() === '') return;
    write.mutate(asked === typed, {
      onSuccess: () => {
        id.current = v7();
        setTyped('');
        setAsked('');
        onDone?.();
      },
      onError: (e) => setAsked(e.of('confirmed') ? typed : ''),
    });
  };

  return (
    <form
      className="space-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <label className="block">
        <span className="label">{label}</span>
        <span className="flex gap-2">
          <input
            ref={input}
            className={`entry fig ${big ? 'h-20 text-4xl font-bold md:text-5xl' : 'text-xl'}`}
            inputMode="text"
            autoComplete="off"
            spellCheck={false}
            value={typed}
            onChange={(e) => {
              setTyped(e.target.value);
              if (write.error) write.reset();
            }}
          />
          <button
            className={`key key-go ${big ? 'px-6 text-xl' : ''}`}
            disabled={write.isPending || typed.trim() === ''}
          >
            {asked !== '' && asked === typed ? 'Keep it' : 'Enter'}
          </button>
        </span>
      </label>
      {question ? (
        <div role="alert" className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
          <p className="font-bold">{question.text}</p>
          <p>{question.remedy}</p>
        </div>
      ) : (
        <Trouble problem={write.error} />
      )}
    </form>
  );
}
