import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { Addr } from '../ui/basics';

type Pattern = Schemas['Pattern'];

const shapeWords: Record<Schemas['PatternShape'], [name: string, means: string]> = {
  oneAlone: [tr`One alone`, tr`The cause is likelier there than in what all share.`],
  neighbours: [tr`Neighbours`, tr`Something between them is likelier than what all share.`],
  towardOneEnd: [tr`Toward one end`, tr`What comes from one end, such as oil, air or load, is likelier.`],
  alongTheOil: [tr`Along the oil`, tr`Lack of oil or dirt in it grows along its way.`],
  oneBank: [tr`One bank`, tr`What only this bank has is likelier: its head, its feed, its manifold.`],
  companions: [tr`Companions`, tr`They share a throw and a moment in the cycle.`],
  allAlike: [tr`All alike`, tr`What all share is likelier: oil, heat, age, fitting.`],
  outlier: [tr`Outlier`, tr`It does not belong to the spread of the others.`],
};

/** Patterns over places, those of one part together, each shape explained once. */
export function PatternList({ patterns, context }: { patterns: readonly Pattern[]; context: CaseContext }) {
  const groups = new Map<string, Pattern[]>();
  for (const p of patterns) {
    const key = p.shape === 'oneAlone' ? `${p.shape}/${p.places[0]}` : p.words;
    groups.set(key, [...(groups.get(key) ?? []), p]);
  }
  const explained = new Set<string>();
  return (
    <ul className="mt-1 mb-2 divide-y divide-line border-y border-line empty:hidden">
      {[...groups.entries()].map(([key, group]) => {
        const { shape, places } = group[0]!;
        const [name, means] = shapeWords[shape];
        const first = !explained.has(shape);
        explained.add(shape);
        return (
          <li key={key} className="py-2">
            <button
              className="block w-full text-left"
              onMouseEnter={() => context.mark(places[0] ?? null)}
              onMouseLeave={() => context.mark(null)}
              onClick={() => context.openPart(places[0] ?? null)}
            >
              <span className="mr-2 rounded border-[1.5px] border-dye px-1.5 text-sm font-bold whitespace-nowrap text-dye">
                {name}
              </span>{' '}
              {shape === 'oneAlone' && <Addr code={places[0]!} className="mr-1" />}
              {first && <span className="text-sm text-soft">{means}</span>}
              {group.map((p) => (
                <span key={p.words} className="mt-0.5 block leading-snug">
                  {p.words}
                </span>
              ))}
            </button>
          </li>
        );
      })}
    </ul>
  );
}
