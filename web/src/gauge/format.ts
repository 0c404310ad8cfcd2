import type { Schemas } from '../api/client';

/** A figure in base units as the sheet shows it. */
export const figure = (value: number, characteristic: string) =>
  characteristic === 'compression' ? Math.round(value).toString() : value.toFixed(3);

export function limitWords(limit: Schemas['AppliedLimit'] | null) {
  if (!limit || (limit.least === null && limit.most === null)) return '';
  const range =
    limit.least !== null && limit.most !== null
      ? `${limit.least.toFixed(3)}–${limit.most.toFixed(3)}`
      : limit.most !== null
        ? `at most ${limit.most.toFixed(3)}`
        : `at least ${limit.least!.toFixed(3)}`;
  return limit.source === 'ruleOfThumb'
    ? `about ${range} · ${limit.sourceText}`
    : `${range} · ${limit.sourceText}`;
}

/** How a figure stands, in words: a rule of thumb is never called a limit. */
export function standWords(f: Schemas['SheetFigure']) {
  if (!f.conformity) return '';
  if (f.limit?.source === 'ruleOfThumb')
    return { inside: 'usual', outside: 'unusual', undecided: 'near the edge' }[f.conformity];
  return { inside: '✓ inside', outside: '✕ outside', undecided: '? undecided' }[f.conformity];
}
