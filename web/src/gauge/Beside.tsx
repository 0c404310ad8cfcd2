import { t as tr } from '@lingui/core/macro';
import { useQueries } from '@tanstack/react-query';
import { Fragment } from 'react';
import type { Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { roomQuery } from '../casebook/caseQueries';
import { letterOf, useCandidateName } from '../casebook/candidates';
import { figure, uncertainty, unitWords } from '../ui/figures';
import { limitWords, standWords, unitOf } from '../ui/limits';
import { stands } from '../ui/words';

type Figure = Schemas['SheetFigure'];

/**
 * A part as it was found, after work, and each part that is offered in its stead, side by side: their own sizes, and what they would make of clearances.
 */
export function Beside({
  address,
  around,
  context,
}: {
  address: string;
  /** Places whose figures hang on this part. */
  around: string[];
  context: CaseContext;
}) {
  const { engineCase, knowledge, lengths } = context;
  const nameOf = useCandidateName();
  const base = address.split('.')[0]!;
  const offered = engineCase.candidates.filter(stands).sort((a, b) => a.letter.localeCompare(b.letter));
  const answers = useQueries({
    queries: ['', ...offered.map((c) => c.letter)].map((letter) => roomQuery(engineCase.id, 'gauge', letter)),
  });
  const own = answers[0]?.data;
  if (!own) return null;
  const about = (f: Figure, letter: string) =>
    f.place === (letter ? `${base}.${letter}` : base) ||
    (around.some((a) => a.split('.')[0] === f.place.split('.')[0]) &&
      f.derived &&
      ['', letter].includes(letterOf(f.place)));
  const columns = [
    {
      id: 'asFound',
      name: tr`As found`,
      figures: own.figures.filter((f) => f.phase === 'asFound' && about(f, '')),
    },
    {
      id: 'afterWork',
      name: tr`After work, or new`,
      figures: own.figures.filter((f) => f.phase === 'afterWork' && about(f, '')),
    },
    {
      id: 'afterRun',
      name: tr`When it ran again`,
      figures: own.figures.filter((f) => f.phase === 'afterRun' && about(f, '')),
    },
    ...offered.map((c, i) => ({
      id: c.letter,
      name: `${c.letter}: ${nameOf(c)}`,
      figures: (answers[i + 1]?.data?.figures ?? []).filter(
        (f) => f.phase === 'asFound' && about(f, c.letter),
      ),
      // An offered part that has not been measured makes no column.
      bare: !(answers[i + 1]?.data?.figures ?? []).some((f) => f.place === `${base}.${c.letter}`),
    })),
  ].filter((c) => c.figures.length > 0 && !('bare' in c && c.bare));
  if (columns.length < 2) return null;
  const keyOf = (f: Figure) => `${f.place.split('.')[0]}/${f.characteristic}`;
  const rows = [...new Map(columns.flatMap((c) => c.figures).map((f) => [keyOf(f), f])).entries()];
  return (
    <section>
      <h3 className="text-lg">{tr`Side by side`}</h3>
      <div
        className="max-w-full overflow-x-auto"
        tabIndex={0}
        role="region"
        aria-label={tr`Parts side by side`}
      >
        <table className="text-left">
          <thead className="text-sm text-soft">
            <tr>
              {columns.map((c) => (
                <th key={c.id} className="min-w-32 pr-4 align-bottom font-semibold">
                  {c.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([key, first]) => {
              const unit = unitOf(knowledge, first.characteristic, first.quantity, lengths);
              return (
                <Fragment key={key}>
                  <tr className="border-t border-line">
                    <td colSpan={columns.length} className="pt-1 text-sm">
                      <b>{first.name}</b>
                      {first.place.split('.')[0] !== base && tr` of ${first.place.split('.')[0]!}`}{' '}
                      <span className="text-soft">
                        {unitWords(unit)} {limitWords(first.limit, unit)}
                      </span>
                    </td>
                  </tr>
                  <tr className="align-top">
                    {columns.map((c) => {
                      const f = c.figures.find((x) => keyOf(x) === key);
                      return (
                        <td key={c.id} className="pr-4 pb-1 whitespace-nowrap">
                          {f && (
                            <>
                              <span className="fig text-lg font-bold">{figure(f.value, unit)}</span>{' '}
                              <span className="fig text-sm text-soft">±{uncertainty(f.expanded, unit)}</span>
                              <span
                                className={`block text-sm ${f.conformity === 'outside' ? 'font-bold text-lead' : 'text-soft'}`}
                              >
                                {standWords(f)}
                              </span>
                            </>
                          )}
                        </td>
                      );
                    })}
                  </tr>
                </Fragment>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
