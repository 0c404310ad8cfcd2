import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { v7 } from 'uuid';
import type { ApiProblem, Schemas } from '../api/client';
import type { Outcome } from '../outbox/outbox';
import { enter, useOutboxState } from '../outbox/useOutbox';
import { Trouble } from '../ui/basics';
import { Barrel } from './Barrel';
import type { Characteristic } from './spots';
import { suspicion } from './typed';

export interface ReadingTask {
  caseId: string;
  place: string;
  characteristic: string;
  unit: string;
  instrument: string;
  station?: string;
  direction?: string;
  phase?: Schemas['Phase'];
  temperature?: number | null;
  gaugeTemperature?: number | null;
  readBy?: string;
  corrects?: string | null;
}

/**
 * One figure, typed as people type or sent by a gauge. A suspect one comes back as a question: pressing enter again on the same figure
 * keeps it as typed. It is kept on the device first, so that nothing is lost without a network; the id is made once per figure.
 */
export function ReadingEntry({
  task,
  label,
  entry,
  expected = null,
  big = false,
  fed = null,
  onDone,
}: {
  task: ReadingTask;
  label: string;
  entry?: Pick<Characteristic, 'gap' | 'least' | 'most' | 'quantity'>;
  expected?: number | null;
  big?: boolean;
  /** A figure that the gauge sent, with its number, so that the same figure twice is told apart. */
  fed?: { typed: string; n: number } | null;
  onDone?: () => void;
}) {
  const { why } = useOutboxState();
  const [typed, setTyped] = useState('');
  const [asked, setAsked] = useState('');
  const [here, setHere] = useState<string | null>(null);
  const [barrel, setBarrel] = useState(false);
  const id = useRef(v7());
  // A figure that the gauge sent before this entry opened belongs to the spot before.
  const taken = useRef(fed?.n ?? 0);
  const input = useRef<HTMLInputElement>(null);
  const write = useMutation<Outcome, ApiProblem, { typed: string; confirmed: boolean }>({
    mutationFn: (figure) =>
      enter(task.caseId, {
        path: `/api/cases/${task.caseId}/readings`,
        kind: 'reading',
        body: {
          id: id.current,
          place: task.place,
          characteristic: task.characteristic,
          typed: figure.typed,
          setUnit: task.unit,
          instrument: task.instrument,
          temperature: task.temperature ?? null,
          corrects: task.corrects ?? null,
          confirmed: figure.confirmed,
          station: task.station ?? '',
          direction: task.direction ?? '',
          phase: task.phase ?? 'asFound',
          gaugeTemperature: task.gaugeTemperature ?? null,
          readBy: task.readBy ?? '',
        } satisfies Schemas['ReadingEntry'],
        words: `${label.split(',')[0]}: ${figure.typed}`,
        place: task.place,
      }),
  });
  useEffect(() => {
    if (big) input.current?.focus();
  }, [big]);

  const question = here
    ? { text: here, remedy: 'Enter it again to keep it as typed.' }
    : write.error?.of('confirmed');
  const submit = (figure: string) => {
    if (write.isPending || figure.trim() === '') return;
    const confirmed = asked === figure;
    // While the server cannot ask, the bench does.
    const doubt =
      why !== null && why !== 'signedOut' && entry && !confirmed
        ? suspicion(figure, task.unit, entry, expected)
        : null;
    setHere(doubt);
    if (doubt) {
      setAsked(figure);
      return;
    }
    write.mutateAsync({ typed: figure, confirmed }).then(
      () => {
        id.current = v7();
        setTyped('');
        setAsked('');
        onDone?.();
      },
      (e: ApiProblem) => setAsked(e.of('confirmed') ? figure : ''),
    );
  };

  // What the gauge sends goes in by itself; a suspect figure stops and is asked about like a typed one.
  useEffect(() => {
    if (!fed || fed.n === taken.current) return;
    taken.current = fed.n;
    setTyped(fed.typed);
    submit(fed.typed);
  });

  return (
    <form
      className="space-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        submit(typed);
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
              setHere(null);
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
      {entry?.quantity === 'length' && (task.unit === 'in' || task.unit === 'mm') && (
        <>
          <button
            type="button"
            className="key text-sm"
            aria-expanded={barrel}
            onClick={() => setBarrel(!barrel)}
          >
            {barrel ? 'Type it instead' : 'Read it off the barrel'}
          </button>
          {barrel && <Barrel unit={task.unit} about={expected} onChange={setTyped} />}
        </>
      )}
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
