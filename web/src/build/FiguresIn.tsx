import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { RingClock } from '../art/RingClock';
import { useCaseContext } from '../casebook/context';
import { ReadingEntry } from '../entry/ReadingEntry';
import { Addr } from '../ui/basics';
import { figure, uncertainty, unitWords } from '../ui/figures';
import { StripWidth } from './StripWidth';
import { limitWords, unitOf } from '../ui/limits';

type Figure = Schemas['BackFigure'];

const standing: Record<Schemas['BackFigureStands'], readonly [mark: string, words: string, tone: string]> = {
  inside: ['✓', 'inside', 'text-oil'],
  outside: ['✕', 'out', 'text-lead'],
  undecided: ['?', tr`too near to tell`, 'text-brass'],
  missing: ['○', tr`not measured`, 'text-soft'],
  noLimit: ['?', tr`no limit to hold it against`, 'text-brass'],
  old: ['○', tr`of parts as they came`, 'text-brass'],
  undone: ['○', tr`no longer holds`, 'text-brass'],
};

const position = 'ring-gap-position';

/** Figures of what goes in, each held against its limit with the source; measured right here. */
export function FiguresIn({ figures }: { figures: Figure[] }) {
  const [open, setOpen] = useState<string | null>(null);
  const names = [...new Set(figures.map((f) => f.characteristic))];
  const inside = figures.filter((f) => f.stands === 'inside').length;
  return (
    <section>
      <h3 className="text-lg">
        <Trans>Figures </Trans>
        <span className="text-base font-normal text-soft">
          {inside === figures.length ? tr`✓ all inside` : tr`${inside} of ${figures.length} inside`}
        </span>
      </h3>
      {names.map((c) => {
        const of = figures.filter((f) => f.characteristic === c);
        return (
          <div key={c} className="mt-2">
            <h4 className="font-semibold">{of[0]!.name}</h4>
            {c === position && <Clocks figures={of} />}
            <ul className="divide-y divide-line">
              {of.map((f) => (
                <FigureLine
                  key={f.key}
                  f={f}
                  open={open === f.key}
                  toggle={() => setOpen(open === f.key ? null : f.key)}
                />
              ))}
            </ul>
          </div>
        );
      })}
    </section>
  );
}

function FigureLine({ f, open, toggle }: { f: Figure; open: boolean; toggle: () => void }) {
  const { engineCase, knowledge, lengths, openPart } = useCaseContext();
  const mayWrite = useMayWrite();
  const entry = knowledge.characteristics.find((c) => c.id === f.characteristic);
  // What is worked out of others is measured there: the sheet of the part has them.
  const measured = entry?.derived ? entry.ways.find((w) => w.length === 1)?.[0]?.of : f.characteristic;
  const at = knowledge.characteristics.find((c) => c.id === measured);
  const unit = unitOf(knowledge, f.characteristic, f.quantity, lengths);
  const [mark, words, tone] = standing[f.stands];
  const [fed, setFed] = useState<{ typed: string; n: number } | null>(null);
  return (
    <li className="py-1.5">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <button className="min-h-11" onClick={() => openPart(f.place)} aria-label={tr`Open ${f.place}`}>
          <Addr code={f.place} className="text-lg" />
        </button>
        <b className="fig least-24 text-xl">
          {f.value === null ? '–' : `${figure(f.value, unit)} ${unitWords(unit)}`}
          {f.expanded !== null && f.value !== null && (
            <span className="text-sm font-normal text-soft"> ± {uncertainty(f.expanded, unit)}</span>
          )}
        </b>
        <span className="least-40 flex-1 text-sm">
          <b className={tone}>
            {mark} {words}
          </b>
          {f.todo && <b className="ml-1 text-lead">{f.todo}</b>}
          {f.of.length > 0 && (
            <span>
              {' '}
              {f.of.join(' ')}{' '}
              {f.stands === 'undone'
                ? tr`came out again since, or is another piece`
                : tr`renewed or worked on since`}
            </span>
          )}
          {f.before && (
            <span className="block">
              <Trans>
                before{' '}
                <b className="fig">
                  {figure(f.before.before, unit)} {unitWords(unit)}
                </b>{' '}
                ± {uncertainty(f.before.uncertain, unit)}: <b>{f.before.told}</b>
              </Trans>
            </span>
          )}
          <span className="block text-soft">
            {f.characteristic === position
              ? tr`gaps at least 20° apart`
              : f.limit
                ? limitWords(f.limit, unit)
                : f.characteristic === 'turning-torque'
                  ? tr`held against what the other caps add`
                  : f.stands === 'missing'
                    ? tr`held against its limit once it is measured`
                    : tr`no limit: enter the maker’s in Gauge`}
          </span>
        </span>
        {mayWrite && at && (
          <button className="key text-sm" aria-expanded={open} onClick={toggle}>
            {tr`Measure`}
          </button>
        )}
      </div>
      {open && at && (
        <div className="mt-1 rounded-lg border-2 border-dye p-2">
          <p className="text-sm text-soft">
            {[at.how, at.spoils && tr`Spoils it: ${at.spoils}`].filter(Boolean).join(' ')}
          </p>
          {at.by.includes('plasticStrip') && (
            <StripWidth onWorked={(typed) => setFed({ typed, n: (fed?.n ?? 0) + 1 })} />
          )}
          <ReadingEntry
            fed={fed && { ...fed, from: '' }}
            task={{
              caseId: engineCase.id,
              place: f.place,
              characteristic: at.id,
              unit: unitOf(knowledge, at.id, at.quantity, lengths),
              instrument:
                engineCase.readings.filter((r) => r.characteristic === at.id).at(-1)?.instrument ?? '',
              station: f.station,
              phase: f.phase,
            }}
            label={`${at.name}, ${f.place}`}
            about={at.name}
            entry={at}
            onDone={toggle}
          />
        </div>
      )}
    </li>
  );
}

/** Where the gaps of each piston’s rings were put, seen on the crown. */
function Clocks({ figures }: { figures: Figure[] }) {
  const { openPart, section } = useCaseContext();
  const station = (place: string) => section.cells.find((c) => c.address === place)?.station ?? 0;
  const stations = [...new Set(figures.filter((f) => f.value !== null).map((f) => station(f.place)))];
  if (stations.length === 0) return null;
  return (
    <div className="my-1 flex flex-wrap gap-2">
      {stations.map((n) => {
        const rings = figures.filter((f) => station(f.place) === n);
        const piston = section.cells.find((c) => c.kind === 'piston' && c.station === n)?.address ?? `P${n}`;
        return (
          <RingClock
            key={n}
            pack={{
              piston,
              rings: rings.map((r) => ({ ring: r.place, put: r.value, found: null, drift: null })),
              mean: null,
              together: null,
              words: rings.some((r) => r.stands === 'outside') ? tr`gaps in line` : tr`put so`,
            }}
            onPick={() => openPart(piston)}
          />
        );
      })}
    </div>
  );
}
