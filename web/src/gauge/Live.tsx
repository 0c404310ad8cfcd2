import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import type { CaseAnswers, Schemas } from '../api/client';
import { readFigure } from '../entry/typed';
import { figure, unitWords } from '../ui/figures';
import { boundWords } from '../ui/limits';
import { bounds, ranked, service } from './limitRule';

type Limit = Pick<Schemas['AppliedLimit'], 'least' | 'most' | 'wear' | 'nominal' | 'source' | 'sourceText'>;

/** The limit that the figure at a place is held to: the server's where it has told one, else the one that was entered. */
export function limitOf(
  figures: CaseAnswers['gauge']['figures'],
  limits: readonly Schemas['Limit'][],
  characteristic: string,
  place: string,
  kind: string,
): Limit | null {
  const own = figures.find((f) => f.characteristic === characteristic && f.place === place && f.limit);
  if (own?.limit) return own.limit;
  return ranked(limits, characteristic, kind).find(bounds) ?? null;
}

/** By how much a figure lies over or under what may stay in service; nothing where it lies within. */
export function beyond(value: number, limit: Limit): number {
  const { least, most } = service(limit);
  if (least !== null && value < least) return value - least;
  if (most !== null && value > most) return value - most;
  return 0;
}

/**
 * What is typed as it will be read, its limit and the difference: three fields of one height that never move while somebody types. How it stands
 * is told by the server, with the uncertainty of the instrument.
 */
export function Live({
  typed,
  unit,
  shown,
  quantity,
  nominal,
  limit,
}: {
  typed: string;
  unit: string;
  /** Unit in which it is told. */
  shown: string;
  quantity: Schemas['Quantity'];
  nominal: number | null;
  limit: Limit | null;
}) {
  const read = typed.trim() ? readFigure(typed, unit, quantity) : null;
  const value = read ? (read.relative ? (nominal === null ? null : nominal + read.value) : read.value) : null;
  const bound = limit && bounds(limit) ? limit : null;
  const off = value !== null && bound ? beyond(value, bound) : null;
  return (
    <dl className="grid min-h-16 grid-cols-3 gap-x-3 border-y border-line py-1" aria-live="off">
      <div className="min-w-0">
        <dt className="text-sm text-soft">
          <Trans>reads as {unitWords(shown)}</Trans>
        </dt>
        <dd className="fig truncate text-lg font-bold">
          {value !== null ? figure(value, shown) : typed.trim() && !read?.relative ? tr`not read` : '–'}
        </dd>
      </div>
      <div className="min-w-0">
        <dt className="text-sm text-soft">
          {limit?.source === 'ruleOfThumb' ? tr`usual` : tr`limit`} {unitWords(shown)}
        </dt>
        <dd className="text-sm leading-tight" title={limit?.sourceText}>
          {bound ? boundWords(bound, shown) : tr`none entered`}
        </dd>
      </div>
      <div className="min-w-0">
        <dt className="text-sm text-soft">{tr`difference`}</dt>
        <dd className="truncate text-lg">
          {off === null ? (
            '–'
          ) : off === 0 ? (
            <>
              <Trans>
                <span aria-hidden>○ </span>within
              </Trans>
            </>
          ) : (
            <b className="text-lead">
              <span aria-hidden>✕ </span>
              <span className="fig">{figure(Math.abs(off), shown)}</span> {off > 0 ? tr`over` : tr`under`}
            </b>
          )}
        </dd>
      </div>
    </dl>
  );
}
