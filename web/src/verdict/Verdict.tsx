import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { Addr } from '../ui/basics';
import { actionWords, latestVerdicts } from '../ui/words';

/** Part by part: what was decided, or what the rules would do. */
export function Verdict() {
  const { engineCase, openPart } = useCaseContext();
  const advice = useRoom(engineCase.id, 'advice');
  const decided = latestVerdicts(engineCase.verdicts);
  const rows = advice
    .map((a) => ({ advice: a, standing: decided.get(a.place) }))
    .sort((a, b) => Number(b.standing !== undefined) - Number(a.standing !== undefined));
  if (rows.length === 0)
    return <p className="text-lg text-soft">Nothing to decide yet. Tag, look at or measure a part first.</p>;
  return (
    <section>
      <h2 className="text-xl">Part by part</h2>
      <p className="mb-2 text-soft">
        {decided.size} decided of {rows.length} parts looked at. Press one to decide. Order nothing before the
        block is known to be sound.
      </p>
      <div className="card overflow-x-auto">
        <table className="w-full text-left">
          <thead className="text-sm text-soft">
            <tr>
              {['Part', 'Verdict', 'Reason', 'Figure'].map((h) => (
                <th key={h} className="px-3 py-2">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ advice, standing }) => (
              <tr key={advice.place} className="border-t border-line align-top hover:bg-dye-tint">
                <td className="px-3">
                  <button className="min-h-11 text-lg" onClick={() => openPart(advice.place)}>
                    <Addr code={advice.place} />
                  </button>
                </td>
                <td className="px-3 py-2.5 whitespace-nowrap">
                  {standing ? (
                    <b>{actionWords[standing.action]}</b>
                  ) : (
                    <span className="text-soft">
                      {advice.action ? `${actionWords[advice.action]}? open` : 'open'}
                    </span>
                  )}
                </td>
                <td className="min-w-56 px-3 py-2.5">{standing?.reason ?? advice.reason}</td>
                <td className="fig min-w-40 px-3 py-2.5 text-sm">
                  {standing
                    ? advice.decided || <b className="text-lead">no figure</b>
                    : advice.figure || <span className="text-soft">not measured</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
