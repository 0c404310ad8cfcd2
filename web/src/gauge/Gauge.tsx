import { useSearchParams } from 'react-router';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { Addr } from '../ui/basics';
import { Limits } from './Limits';
import { Round } from './Round';
import { Sheet } from './Sheet';
import { progress, roundsOf } from './points';
import { useMayWrite } from '../api/queries';

/** Rounds that most engines need, in the order in which the strip lays the parts open. */
const usual = [
  'bore-diameter',
  'piston-diameter',
  'ring-end-gap',
  'crankpin-diameter',
  'rod-housing-bore',
  'shell-wall',
  'main-journal-diameter',
  'main-housing-bore',
  'bearing-seat-diameter',
];

export function Gauge() {
  const context = useCaseContext();
  const { knowledge, section, places, engineCase } = context;
  const gauge = useRoom(engineCase.id, 'gauge');
  const mayWrite = useMayWrite();
  const [params, setParams] = useSearchParams();
  const rounds = roundsOf(section.cells, knowledge.characteristics, gauge.measurable);
  const chosen = params.get('round');
  const round = rounds.find((r) => r.id === chosen) ?? rounds.find((r) => r.entry.id === chosen);
  const set = (value: string | null) =>
    setParams((p) => {
      const next = new URLSearchParams(p);
      next.delete('part');
      if (value) next.set('round', value);
      else next.delete('round');
      return next;
    });
  if (round && mayWrite) return <Round key={round.id} round={round} onEnd={() => set(null)} />;

  const walked = rounds.map((r) => ({ ...r, ...progress(context, r) }));
  const first = usual.flatMap((id) => walked.filter((r) => r.entry.id === id));
  const rest = walked.filter((r) => !usual.includes(r.entry.id));
  // What is begun goes on first; then what the strip has laid open.
  const open = new Set(places.filter((p) => p.appears).map((p) => p.place));
  const laidOpen = (r: (typeof walked)[number]) =>
    section.cells.some((c) => r.kinds.includes(c.kind) && open.has(c.address));
  const next =
    first.find((r) => r.done > 0 && r.done < r.of) ?? first.find((r) => r.done < r.of && laidOpen(r));
  const groups = [...new Set(rest.map((r) => r.entry.group))];
  const key = (r: (typeof walked)[number]) => (
    <button key={r.id} className={`key ${r === next ? 'key-go' : ''}`} onClick={() => set(r.id)}>
      {r.name}{' '}
      <span className={`fig text-sm ${r === next ? '' : 'text-soft'}`}>
        {r.done === r.of ? '✓' : `${r.done}/${r.of}`}
      </span>
    </button>
  );
  return (
    <div className="space-y-6">
      <Loud />
      {mayWrite && (
        <section>
          <h2 className="mb-2 text-xl">Measure a round</h2>
          <div className="flex flex-wrap gap-2">{first.map(key)}</div>
          <details className="mt-2">
            <summary className="min-h-11 cursor-pointer py-2 font-semibold">
              All {walked.length} rounds of this engine
            </summary>
            <div className="grid gap-4 md:grid-cols-2">
              {groups.map((g) => (
                <div key={g}>
                  <h3 className="mb-1 text-base">{g}</h3>
                  <div className="flex flex-wrap gap-1.5">
                    {rest.filter((r) => r.entry.group === g).map(key)}
                  </div>
                </div>
              ))}
            </div>
          </details>
        </section>
      )}
      <Sheet />
      <Limits />
    </div>
  );
}

/** A part of the wrong size is told before anything else. */
function Loud() {
  const { engineCase } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  return gauge.grades
    .filter((g) => g.loud)
    .map((g) => (
      <div key={g.place} role="alert" className="rounded-lg border-4 border-lead bg-lead-tint p-3">
        <p className="text-2xl font-extrabold">
          Wrong size at <Addr code={g.place} />
        </p>
        <p className="text-lg">{g.words}</p>
      </div>
    ));
}
