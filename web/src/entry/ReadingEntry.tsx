import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useEffect, useId, useReducer, useRef, useState, type ReactNode } from 'react';
import { v7 } from 'uuid';
import type { ApiProblem, Schemas } from '../api/client';
import { SetAside } from '../outbox/SetAside';
import { useOutboxState, useWaiting } from '../outbox/useOutbox';
import { useKeypad } from '../device/keypad';
import { useNarrow } from '../device/narrow';
import { Keypad } from './Keypad';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Trouble } from '../ui/basics';
import { Thimble } from './Thimble';
import { emptyLine, entryLine, type Line, type LineEvent } from './entryLine';
import { suspicion, type Characteristic, type Expected } from './typed';
import { plainFigures } from '../ui/region';

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
  /** The gauge that sent the figure; nothing where it was typed. */
  via?: string;
  corrects?: string | null;
}

/** Where the figure belongs travels with it: by the time it is sent the round may stand elsewhere. */
const readingOf = (task: ReadingTask, typed: string, confirmed: boolean): Schemas['ReadingEntry'] => ({
  id: v7(),
  place: task.place,
  characteristic: task.characteristic,
  typed,
  setUnit: task.unit,
  instrument: task.instrument,
  temperature: task.temperature ?? null,
  corrects: task.corrects ?? null,
  confirmed,
  station: task.station ?? '',
  direction: task.direction ?? '',
  phase: task.phase ?? 'asFound',
  gaugeTemperature: task.gaugeTemperature ?? null,
  readBy: task.readBy ?? '',
  via: task.via ?? '',
});

/**
 * One figure, typed as people type or sent by a gauge. A suspect one comes back as a question: pressing enter again on the same figure
 * keeps it as typed. It is kept on the device first, so that nothing is lost without a network; the id is made once per figure.
 */
export function ReadingEntry({
  task,
  label,
  about,
  entry,
  expected = null,
  big = false,
  fed = null,
  blocked = null,
  live,
  onDone,
}: {
  task: ReadingTask;
  label: string;
  /** What is measured, as the queue and the key that takes it back tell it beside the place. */
  about: string;
  entry?: Pick<Characteristic, 'gap' | 'least' | 'most' | 'quantity'>;
  expected?: Expected | null;
  big?: boolean;
  /** A figure that the gauge sent, with its number, so that the same figure twice is told apart. */
  fed?: { typed: string; from: string; n: number } | null;
  /** Why nothing may be entered just now: something that belongs to the figure cannot be read. */
  blocked?: string | null;
  /** What stands under the field of what is typed in it. */
  live?: (typed: string) => ReactNode;
  onDone?: () => void;
}) {
  const { why } = useOutboxState();
  const refused = useWaiting(task.caseId).filter(
    (e) => e.refused && e.kind === 'reading' && (big || e.place === task.place),
  );
  const [line, tell] = useReducer(entryLine<ReadingTask>, null, (): Line<ReadingTask> => ({
    ...emptyLine,
    behind: [],
  }));
  const [thimble, setThimble] = useState(false);
  const taken = useRef(fed?.n ?? 0);
  const started = useRef(0);
  const input = useRef<HTMLInputElement>(null);
  const field = useId();
  const write = useWrite(task.caseId, writes.reading);
  useEffect(() => {
    if (big) input.current?.focus();
  }, [big]);

  const looksWrong = (figure: string) =>
    entry ? suspicion(figure, task.unit, entry, expected?.size ?? null, expected?.peers ?? false) : null;
  // While the server cannot ask, the bench does.
  const ask = (figure: string) => (why !== null && why !== 'signedOut' ? looksWrong(figure) : null);
  const say = (event: LineEvent<ReadingTask>) => {
    if (write.error) write.reset();
    tell(event);
  };

  useEffect(() => {
    if (!line.sending || line.sending.n === started.current) return;
    started.current = line.sending.n;
    const { figure, confirmed, task: to } = line.sending;
    write
      .mutateAsync({
        body: readingOf(to, figure, confirmed),
        words: `${about}: ${figure}`,
        // One that belongs elsewhere by now was expected to be of another size.
        soon: entry !== undefined && !to.corrects && to.place === task.place && looksWrong(figure) === null,
      })
      .then(
        () => {
          tell({ kind: 'sent' });
          onDone?.();
        },
        (e: ApiProblem) => tell({ kind: 'refused', question: e.of('confirmed') ?? null }),
      );
  });

  // Runs after the round has gone on to the next point: what was entered meanwhile belongs there.
  useEffect(() => {
    if (line.behind.length > 0 && !line.sending && !line.held)
      tell({ kind: 'next', slip: ask(line.behind[0]!.figure), task });
  });

  // What the gauge sends goes in by itself; a suspect figure stops and is asked about like a typed one.
  useEffect(() => {
    if (!fed || fed.n === taken.current || blocked) return;
    taken.current = fed.n;
    tell({
      kind: 'fed',
      figure: fed.typed,
      slip: ask(fed.typed),
      task,
      own: { via: fed.from },
      seen: line.answered,
    });
  });

  const { typed, asked, question, behind } = line;
  const keypad = useKeypad();
  const narrow = useNarrow();
  const own = big && narrow && keypad !== 'device' ? keypad : null;
  // A comma of our own keys is a decimal sign; one that was typed otherwise may be a thousands mark, and is asked about.
  const meant = own === 'comma' ? typed.replace(',', '.') : plainFigures(typed);
  return (
    <form
      className="space-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (!blocked) say({ kind: 'entered', figure: meant, slip: ask(meant), task, seen: line.answered });
      }}
    >
      <div>
        <label className="label" htmlFor={field}>
          {label}
        </label>
        <span className="flex flex-wrap gap-2">
          <input
            id={field}
            ref={input}
            className={`entry fig w-auto! least-40 flex-1 ${big ? 'h-20 text-4xl font-bold md:text-5xl' : 'text-xl'}`}
            inputMode={own ? 'none' : 'text'}
            autoComplete="off"
            spellCheck={false}
            value={typed}
            onChange={(e) => say({ kind: 'typed', text: e.target.value })}
          />
          <button
            className={`key key-go shrink-0 ${big ? 'px-4 text-xl md:px-6' : ''}`}
            disabled={typed.trim() === '' || blocked !== null}
          >
            {asked !== '' && asked === meant ? tr`Keep it` : tr`Enter`}
          </button>
        </span>
      </div>
      {live?.(meant)}
      {own && (
        <Keypad
          kind={own}
          typed={typed}
          units={entry?.quantity === 'length' ? ['mm', 'thou'] : []}
          onChange={(text) => say({ kind: 'typed', text })}
        />
      )}
      {entry?.quantity === 'length' && (task.unit === 'in' || task.unit === 'mm') && (
        <>
          <button
            type="button"
            className="key text-sm"
            aria-expanded={thimble}
            onClick={() => setThimble(!thimble)}
          >
            {thimble ? tr`Type it instead` : tr`Micrometer help (sleeve and thimble)`}
          </button>
          {thimble && (
            <Thimble
              key={`${task.place}/${task.station}/${task.direction}/${task.unit}`}
              unit={task.unit}
              about={expected?.size ?? null}
              onChange={(text) => say({ kind: 'typed', text })}
            />
          )}
        </>
      )}
      {blocked && (
        <p role="alert" className="rounded-lg border-2 border-lead bg-lead-tint px-3 py-2">
          <Trans>Not entered yet. {blocked}</Trans>
        </p>
      )}
      {refused.map((e) => (
        <div key={e.seq} role="alert" className="rounded-lg border-2 border-lead bg-lead-tint px-3 py-2">
          <p className="font-bold">
            <Addr code={e.place} /> {e.words}
          </p>
          <SetAside entry={e} />
        </div>
      ))}
      {question ? (
        <div role="alert" className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
          <p className="font-bold">
            <span className="fig">{asked}</span>: {question.text}
          </p>
          <p>{question.remedy}</p>
          {behind.length > 0 && (
            <p>
              <Trans>
                Not entered yet: <span className="fig">{behind.map((b) => b.figure).join(', ')}</span>
              </Trans>
            </p>
          )}
        </div>
      ) : (
        <Trouble problem={write.error} />
      )}
    </form>
  );
}
