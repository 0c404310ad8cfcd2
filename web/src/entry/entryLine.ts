import { t as tr } from '@lingui/core/macro';
import type { FieldProblem } from '../api/client';

/** A figure on its way, with where it belongs: by the time it is sent the round may stand elsewhere. */
export interface Sending<Task> {
  n: number;
  figure: string;
  confirmed: boolean;
  task: Task;
}

/** A figure that waits, with what of its task is its own wherever it will be sent: which gauge it came from. */
export interface Behind<Task> {
  figure: string;
  own: Partial<Task>;
}

/** The entry line of a round: what is typed, what is on its way, and what waits behind it. */
export interface Line<Task> {
  typed: string;
  /** The figure that was asked about: entering it again keeps it as typed. */
  asked: string;
  question: Pick<FieldProblem, 'text' | 'remedy'> | null;
  /** A figure came back: what waits behind it must not take its place. Entering one, or emptying the entry, goes on. */
  held: boolean;
  /** Figures entered while one is on its way: they follow it in order. */
  behind: Behind<Task>[];
  sending: Sending<Task> | null;
  /** How many were sent so far. */
  n: number;
  /** How many of them were answered. */
  answered: number;
}

export const emptyLine = {
  typed: '',
  asked: '',
  question: null,
  held: false,
  behind: [],
  sending: null,
  n: 0,
  answered: 0,
} as const;

/**
 * Of what is entered, `seen` is how many answers the screen knew of on which it was entered. Where one has come since, the round is about to go
 * on and the task is that of the point before: the figure waits for the point where it belongs.
 * @param slip What the bench asks about the figure while the server cannot; null where nothing looks wrong.
 */
export type LineEvent<Task> =
  | { kind: 'typed'; text: string }
  | { kind: 'entered'; figure: string; slip: string | null; task: Task; own?: Partial<Task>; seen?: number }
  | { kind: 'fed'; figure: string; slip: string | null; task: Task; own?: Partial<Task>; seen?: number }
  /** The round stands at the next point: what waits is taken. */
  | { kind: 'next'; slip: string | null; task: Task }
  | { kind: 'sent' }
  | { kind: 'refused'; question: Pick<FieldProblem, 'text' | 'remedy'> | null };

const again = tr`Correct it, or enter it again to keep it as typed.`;

/** Takes a figure: it waits behind one that is on its way, is asked about, or is sent. What is being typed meanwhile stays. */
function take<Task>(
  line: Line<Task>,
  { figure, own }: Behind<Task>,
  slip: string | null,
  task: Task,
): Line<Task> {
  if (line.sending) return { ...line, behind: [...line.behind, { figure, own }] };
  const confirmed = line.asked === figure;
  if (slip && !confirmed)
    return {
      ...line,
      typed: line.typed === '' ? figure : line.typed,
      asked: figure,
      question: { text: slip, remedy: again },
      held: true,
    };
  return {
    ...line,
    question: null,
    held: false,
    n: line.n + 1,
    sending: { n: line.n + 1, figure, confirmed, task: { ...task, ...own } },
  };
}

/** What becomes of the line: nothing entered is doubled, dropped or sent to another point. */
export function entryLine<Task>(line: Line<Task>, event: LineEvent<Task>): Line<Task> {
  switch (event.kind) {
    case 'typed':
      return event.text.trim() === ''
        ? { ...line, typed: event.text, question: null, asked: '', held: false }
        : { ...line, typed: event.text, question: null };
    case 'entered':
      if (event.figure.trim() !== '' && (event.seen ?? line.answered) !== line.answered)
        return {
          ...line,
          typed: '',
          behind: [...line.behind, { figure: event.figure, own: event.own ?? {} }],
        };
      return event.figure.trim() === ''
        ? line
        : take(
            { ...line, typed: '' },
            { figure: event.figure, own: event.own ?? {} },
            event.slip,
            event.task,
          );
    case 'fed':
      // What came back first: what the gauge sends meanwhile waits behind it.
      return line.held || (event.seen ?? line.answered) !== line.answered
        ? { ...line, behind: [...line.behind, { figure: event.figure, own: event.own ?? {} }] }
        : take(line, { figure: event.figure, own: event.own ?? {} }, event.slip, event.task);
    case 'next': {
      const [first, ...behind] = line.behind;
      return first === undefined || line.sending || line.held
        ? line
        : take({ ...line, behind }, first, event.slip, event.task);
    }
    case 'sent':
      return { ...line, sending: null, asked: '', answered: line.answered + 1 };
    case 'refused': {
      if (!line.sending) return line;
      const { figure } = line.sending;
      return {
        ...line,
        sending: null,
        answered: line.answered + 1,
        // It comes back into the entry, unless something else stands there by now.
        typed: line.typed === '' ? figure : line.typed,
        asked: event.question ? figure : '',
        question: event.question,
        held: true,
      };
    }
  }
}
