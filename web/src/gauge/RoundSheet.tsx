import { t as tr } from '@lingui/core/macro';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { unitWords } from '../ui/figures';
import { limitWords, unitOf } from '../ui/limits';
import { Addr } from '../ui/basics';
import { Paper } from '../casebook/Paper';
import { limitOf } from './Live';
import { pointWords, walkOf, type RoundPlan } from './points';

/** A round on paper: a box to each point, numbered in the order in which the figures are typed back. */
export function RoundSheet({ round, onEnd }: { round: RoundPlan; onEnd: () => void }) {
  const { engineCase, knowledge, section, lengths } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  const { entry } = round;
  const walk = walkOf(section.cells, entry, round.kinds);
  const unit = unitOf(knowledge, entry.id, entry.quantity, lengths);
  const places = [...new Set(walk.map((p) => p.place))];
  const columns = walk.filter((p) => p.place === places[0]).map((p) => pointWords(p, knowledge));
  const limits = [
    ...new Set(
      walk.flatMap((p) => {
        const limit = limitOf(gauge.figures, engineCase.limits, entry.id, p.place, p.kind);
        return limit ? [limitWords(limit, unit)] : [];
      }),
    ),
  ];
  return (
    <Paper title={`${round.name}, ${unitWords(unit)}`} onEnd={onEnd}>
      <p className="mb-1">
        <b>{tr`How:`}</b> {entry.how} <b>{tr`With:`}</b> {entry.with}.
      </p>
      {entry.spoils && (
        <p className="mb-1">
          <b>{tr`Watch for:`}</b> {entry.spoils}
        </p>
      )}
      {limits.length > 0 && (
        <p className="mb-1">
          <b>{tr`Limit:`}</b> {limits.join('; ')}
        </p>
      )}
      <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label={tr`Boxes to fill in`}>
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className="border border-ink p-1 text-left">{tr`Part`}</th>
              {columns.map((c) => (
                <th key={c.join()} className="border border-ink p-1 text-left text-sm font-semibold">
                  {c.join(', ') || 'figure'}
                </th>
              ))}
              <th className="border border-ink p-1 text-left text-sm font-semibold">{tr`Seen`}</th>
            </tr>
          </thead>
          <tbody>
            {places.map((place) => {
              const points = walk.filter((p) => p.place === place);
              return (
                <tr key={place} className="keep">
                  <th className="border border-ink p-1 text-left font-normal">
                    <Addr code={place} className="font-bold" />{' '}
                    <span className="text-sm">{points[0]!.words}</span>
                  </th>
                  {points.map((p) => (
                    <td
                      key={p.station + p.direction}
                      className="h-9 min-w-16 border border-ink p-0.5 align-top"
                    >
                      <span className="fig text-xs text-soft">{walk.indexOf(p) + 1}</span>
                    </td>
                  ))}
                  <td className="w-1/6 border border-ink" />
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <p className="mt-2 text-sm">
        {tr`The figures are typed in the order of the small numbers: the round in the program asks in the same order, and Enter goes on.`}
      </p>
    </Paper>
  );
}
