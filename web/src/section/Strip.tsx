import { t as tr } from '@lingui/core/macro';
import type { CaseAnswers } from '../api/client';
import type { Cell, Section } from './geometry';
import { counted, worst, type Lens, type Sight } from './lenses';
import { Swatch } from './Swatch';

/** What a station of the low section is: a cylinder, a main, or all that belongs to no station. */
export type StationName = `cylinder-${number}` | `main-${number}` | `bank-${'a' | 'b'}` | 'engine';

/** The stations as the server counts parts to them. */
export type Stations = CaseAnswers['stations'];

/** How a station is called in the address of its page. */
export const stationName = (s: Pick<Stations[number], 'scope' | 'number' | 'bank'>): StationName =>
  s.scope === 'bank' ? `bank-${s.bank}` : `${s.scope === 'main' ? 'main' : 'cylinder'}-${s.number}`;

/** Parts of a station; of the engine as a whole what belongs to none. */
export function partsOf(section: Section, stations: Stations, station: StationName): Cell[] {
  if (station === 'engine') return section.cells.filter((c) => c.column === null);
  const places = new Set(stations.find((s) => stationName(s) === station)?.places);
  return section.cells.filter((c) => places.has(c.address));
}

/** What is shown larger is not scrolled out of the line of stations. */
const intoView = (station: HTMLLIElement | null) => {
  const line = station?.parentElement;
  if (line) line.scrollLeft = station.offsetLeft - (line.clientWidth - station.clientWidth) / 2;
};

/**
 * The engine as one line of stations from end to end, each with the worst that is known of its parts; of two banks, one line above
 * the other. Press one for all of its parts.
 */
export function Strip({
  section,
  stations,
  lens,
  sights,
  selected,
  at = null,
  onStation,
}: {
  section: Section;
  stations: Stations;
  lens: Lens;
  sights: Map<string, Sight> | undefined;
  selected: string | null;
  /** The column that is shown larger below. */
  at?: number | null;
  onStation: (station: StationName) => void;
}) {
  const banks = section.columns.some((c) => c.cylinderB !== null);
  const key = (station: StationName, words: string, label: string, tall: boolean) => {
    const parts = partsOf(section, stations, station);
    const sight = worst(
      lens,
      parts.flatMap((c) => sights?.get(c.address) ?? []),
      parts.length,
    );
    const on = parts.some((c) => c.address === selected);
    return (
      <button
        type="button"
        aria-label={[words, sight?.words].filter(Boolean).join(', ')}
        className={`flex w-full items-center justify-center gap-1 rounded-sm border px-1 hover:border-dye max-md:min-h-11 ${tall ? 'min-h-8 bg-steel/50' : 'min-h-7'} ${on ? 'border-dye bg-dye-tint' : 'border-line'}`}
        onClick={() => onStation(station)}
      >
        <b className={`fig ${tall ? 'text-lg' : 'text-sm'}`}>{label}</b>
        {sight?.mark ? (
          counted(lens) ? (
            <span className="fig text-xs text-soft">{sight.mark}</span>
          ) : (
            <Swatch sight={sight} />
          )
        ) : null}
      </button>
    );
  };
  return (
    <ol aria-label={tr`Stations of the engine`} className="relative flex gap-1 overflow-x-auto p-0.5">
      {section.columns.map((c) => {
        const here = at !== null && section.columns[at] === c;
        const of = (n: number | null) => n !== null && key(`cylinder-${n}`, tr`Cylinder ${n}`, `${n}`, true);
        return (
          <li
            key={`${c.kind}${c.number}`}
            ref={here ? intoView : undefined}
            className={`${here ? 'rounded outline-2 outline-dye ' : ''}flex flex-col justify-center gap-1 ${c.kind === 'main' ? 'min-w-11 flex-1' : 'min-w-14 flex-2'}`}
          >
            {c.kind === 'main' ? (
              key(`main-${c.number}`, tr`Main ${c.number}`, `M${c.number}`, false)
            ) : (
              <>
                {of(c.cylinderA)}
                {banks && of(c.cylinderB)}
              </>
            )}
          </li>
        );
      })}
      <li className="flex least-20 flex-2 flex-col justify-center">
        {key('engine', tr`Whole engine`, tr`engine`, false)}
      </li>
    </ol>
  );
}
