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
  /** The figure that was asked about. */
  const [asked, setAsked] = useState('');
  const [here, setHere] = useState<string | null>(null);
  /** Figures entered while one is on its way: they follow it in order. */
  const [line, setLine] = useState<string[]>([]);
  const [barrel, setBarrel] = useState(false);
  const busy = useRef(false);
  const [settled, setSettled] = useState(0);
  const taken = useRef(fed?.n ?? 0);
  const input = useRef<HTMLInputElement>(null);
  const write = useMutation<
    Outcome,
    ApiProblem,
    { typed: string; confirmed: boolean; task: ReadingTask; words: string }
  >({
    // Where the figure belongs travels with it: by the time it is sent the round may stand elsewhere.
    mutationFn: ({ task, words, ...figure }) =>
      enter(task.caseId, {
        path: `/api/cases/${task.caseId}/readings`,
        kind: 'reading',
        body: {
          id: v7(),
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
        words,
        place: task.place,
      }),
  });
  useEffect(() => {
    if (big) input.current?.focus();
  }, [big]);

  const question = here
    ? { text: here, remedy: 'Correct it, or enter it again to keep it as typed.' }
    : write.error?.of('confirmed');

  const send = (figure: string, confirmed: boolean) => {
    busy.current = true;
    setHere(null);
    const words = `${label.split(',')[0]}: ${figure}`;
    write.mutateAsync({ typed: figure, confirmed, task, words }).then(
      () => {
        setAsked('');
        setSettled((n) => n + 1);
        onDone?.();
      },
      (e: ApiProblem) => {
        setSettled((n) => n + 1);
        // What is refused comes back into the entry, unless something else stands there by now.
        setTyped((t) => (t === '' ? figure : t));
        setAsked(e.of('confirmed') ? figure : '');
      },
    );
  };

  /** Enters a figure. The entry is free for the next one at once, so that a press more or a fast gauge neither doubles nor loses one. */
  const submit = (figure: string) => {
    if (figure.trim() === '') return;
    setTyped('');
    take(figure);
  };

  const take = (figure: string) => {
    if (busy.current) {
      setLine((l) => [...l, figure]);
      return;
    }
    const confirmed = asked === figure;
    // While the server cannot ask, the bench does.
    const out = why !== null && why !== 'signedOut';
    const slip = out && entry && !confirmed ? suspicion(figure, task.unit, entry, expected) : null;
    if (slip) {
      setHere(slip);
      setAsked(figure);
      setTyped((t) => (t === '' ? figure : t));
      return;
    }
    send(figure, confirmed);
  };

  // Only once the round stands at the next spot is the entry free: a press in between waits in the line.
  useEffect(() => {
    busy.current = false;
  }, [settled]);

  // Runs after the round has gone on to the next spot: what was entered meanwhile belongs there.
  useEffect(() => {
    if (busy.current || question || line.length === 0) return;
    const [next] = line;
    setLine((l) => l.slice(1));
    // What is being typed meanwhile stays in the entry.
    take(next!);
  });

  // What the gauge sends goes in by itself; a suspect figure stops and is asked about like a typed one.
  useEffect(() => {
    if (!fed || fed.n === taken.current) return;
    taken.current = fed.n;
    take(fed.typed);
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
          <button className={`key key-go ${big ? 'px-6 text-xl' : ''}`} disabled={typed.trim() === ''}>
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
          {barrel && (
            <Barrel
              key={`${task.place}/${task.station}/${task.direction}/${task.unit}`}
              unit={task.unit}
              about={expected}
              onChange={setTyped}
            />
          )}
        </>
      )}
      {question ? (
        <div role="alert" className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
          <p className="font-bold">
            <span className="fig">{asked}</span>: {question.text}
          </p>
          <p>{question.remedy}</p>
          {line.length > 0 && (
            <p>
              Not entered yet: <span className="fig">{line.join(', ')}</span>
            </p>
          )}
        </div>
      ) : (
        <Trouble problem={write.error} />
      )}
    </form>
  );
}
