import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { v7 } from 'uuid';
import { api, unwrap, type Schemas } from '../api/client';
import { useWrite } from '../api/queries';
import { useCaseContext } from '../casebook/CaseShell';
import { useMayWrite } from '../shop/Header';
import { Addr, Choice, Field, Trouble } from '../ui/basics';
import { stands } from '../ui/words';
import { limitWords, standWords } from './format';
import { lengthUnits } from './PlaceReadings';
import { Round } from './Round';

const rounds = [
  'crankpin-diameter',
  'shell-wall',
  'rod-housing-bore',
  'shell-inside-diameter',
  'bore-diameter',
  'piston-diameter',
  'ring-end-gap',
  'main-journal-diameter',
];

export function Gauge() {
  const { knowledge, answers } = useCaseContext();
  const mayWrite = useMayWrite();
  const [params, setParams] = useSearchParams();
  const round = params.get('round');
  const set = (value: string | null) =>
    setParams((p) => {
      const next = new URLSearchParams(p);
      next.delete('part');
      if (value) next.set('round', value);
      else next.delete('round');
      return next;
    });
  if (round && mayWrite && knowledge.characteristics.some((c) => c.id === round))
    return <Round key={round} characteristic={round} onEnd={() => set(null)} />;

  const kinds = new Set(answers.section.cells.map((c) => c.kind));
  return (
    <div className="space-y-5">
      <Loud />
      {mayWrite && (
        <section>
          <h2 className="mb-2 text-xl">Walk a round</h2>
          <div className="flex flex-wrap gap-2">
            {rounds.flatMap((id, i) => {
              const c = knowledge.characteristics.find((x) => x.id === id);
              return c && c.on.some((k) => kinds.has(k)) ? (
                <button key={id} className={`key ${i < 2 ? 'key-go' : ''}`} onClick={() => set(id)}>
                  {c.name}
                </button>
              ) : (
                []
              );
            })}
          </div>
        </section>
      )}
      <Sheet />
      <Limits />
    </div>
  );
}

/** A part of the wrong size is told before anything else. */
function Loud() {
  const { answers } = useCaseContext();
  return answers.gauge.grades
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

/** Big ends by station: journal, shells, clearance against its limit, and whether the sizes agree. */
function Sheet() {
  const { answers, openPart } = useCaseContext();
  const { figures, grades, notes } = answers.gauge;
  const of = (place: string, id: string) => figures.find((f) => f.place === place && f.characteristic === id);
  const rods = answers.section.cells.filter((c) => c.kind === 'rod');
  const clearances = figures.filter((f) => f.characteristic === 'big-end-clearance');
  const top = Math.max(
    0.1,
    ...clearances.map((f) => Math.max(f.value + f.expanded, (f.limit?.most ?? 0) * 1.2)),
  );
  if (figures.length === 0)
    return (
      <p className="text-lg text-soft">Nothing measured yet. Walk a round, or press a part and measure it.</p>
    );
  return (
    <section className="space-y-3">
      <h2 className="text-xl">Big ends, in mm</h2>
      <div className="sheet overflow-x-auto">
        <table className="w-full min-w-[44rem] text-left">
          <thead className="text-sm text-soft">
            <tr>
              {[
                'Rod',
                'Journal',
                'Out of round',
                'Housing',
                'Walls',
                'Clearance',
                '',
                'Journal · shell · stamp',
              ].map((h, i) => (
                <th key={i} className="px-3 py-2 font-semibold">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="fig">
            {rods.map((rod) => {
              const column = answers.section.columns[rod.column!]!;
              const pin = `K${column.number}`;
              const clearance = of(rod.address, 'big-end-clearance');
              const grade = grades.find((g) => g.place === rod.address);
              const walls = ['U', 'L']
                .map((s) => of(`R${rod.station}${s}`, 'shell-wall')?.value.toFixed(3) ?? '—')
                .join(' / ');
              return (
                <tr key={rod.address} className={`border-t border-line ${grade?.loud ? 'bg-lead-tint' : ''}`}>
                  <td className="px-3">
                    <button className="min-h-11 text-lg" onClick={() => openPart(rod.address)}>
                      <Addr code={rod.address} />
                    </button>
                  </td>
                  <td className="px-3">{of(pin, 'crankpin-diameter')?.value.toFixed(3) ?? '—'}</td>
                  <td className="px-3">{of(pin, 'crankpin-out-of-round')?.value.toFixed(3) ?? '—'}</td>
                  <td className="px-3">{of(rod.address, 'rod-housing-bore')?.value.toFixed(3) ?? '—'}</td>
                  <td className="px-3">{walls}</td>
                  <td className="px-3 font-bold">
                    {clearance ? (
                      <>
                        {clearance.value.toFixed(3)}{' '}
                        <span className="text-sm font-normal text-soft">
                          ± {clearance.expanded.toFixed(3)}
                        </span>
                      </>
                    ) : (
                      '—'
                    )}
                  </td>
                  <td className="px-3 font-sans">{clearance && <ClearanceBar f={clearance} top={top} />}</td>
                  <td className="px-3 font-sans">
                    {grade ? (
                      <span className={grade.loud ? 'font-bold text-lead' : ''}>
                        {grade.journalGrade} · {grade.shellGrade ?? '?'} · {grade.stampedGrade ?? '?'}{' '}
                        {grade.loud && '✕'}
                      </span>
                    ) : (
                      <span className="text-soft">set the standard size</span>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {clearances[0] && (
        <p className="text-sm text-soft">
          Clearance = housing − both walls − journal. ± is the expanded uncertainty, k = 2 (GUM). Against{' '}
          {limitWords(clearances[0].limit)}; decided after ISO 14253-1.
        </p>
      )}
      {notes.map((n) => (
        <p key={n}>{n}</p>
      ))}
    </section>
  );
}

/** A figure with its doubt on a scale that shows the limit as a band. */
function ClearanceBar({ f, top }: { f: Schemas['SheetFigure']; top: number }) {
  const w = 150;
  const x = (v: number) => Math.max(0, Math.min(w, (v / top) * w));
  const out = f.conformity === 'outside';
  const [least, most] = [f.limit?.least ?? 0, f.limit?.most ?? top];
  return (
    <span className="flex items-center gap-2">
      <svg width={w} height="24" viewBox={`0 0 ${w} 24`} aria-hidden className="shrink-0">
        <rect x={0} y={10} width={w} height={4} fill="var(--color-steel)" />
        {f.limit && (
          <rect
            x={x(least)}
            y={5}
            width={x(most) - x(least)}
            height={14}
            fill="var(--color-oil-tint)"
            stroke="var(--color-oil)"
          />
        )}
        <path
          d={`M${x(f.value - f.expanded)} 12H${x(f.value + f.expanded)}`}
          stroke="var(--color-ink)"
          strokeWidth={2}
        />
        <path
          d={out ? `M${x(f.value) - 5} 7l10 10m0 -10l-10 10` : `M${x(f.value)} 4V20`}
          stroke={out ? 'var(--color-lead)' : 'var(--color-ink)'}
          strokeWidth={3.5}
        />
      </svg>
      <span className={`text-sm whitespace-nowrap ${out ? 'font-bold text-lead' : ''}`}>{standWords(f)}</span>
    </span>
  );
}

function Limits() {
  const { engineCase, knowledge } = useCaseContext();
  const mayWrite = useMayWrite();
  const [characteristic, setCharacteristic] = useState('big-end-clearance');
  const [unit, setUnit] = useState<'mm' | 'in'>('mm');
  const [draft, setDraft] = useState({ nominal: '', least: '', most: '', sourceText: '' });
  const [id, setId] = useState(() => v7());
  const add = useWrite(engineCase.id, () =>
    unwrap(
      api.POST('/api/cases/{caseId}/limits', {
        params: { path: { caseId: engineCase.id } },
        body: { id, characteristic, ...draft, setUnit: unit, source: 'makersManual' },
      }),
    ).then((r) => {
      setId(v7());
      setDraft({ nominal: '', least: '', most: '', sourceText: '' });
      return r;
    }),
  );
  const limits = engineCase.limits.filter(stands);
  const name = (c: string) => knowledge.characteristics.find((x) => x.id === c)?.name ?? c;
  return (
    <section>
      <h2 className="text-xl">Limits of this engine</h2>
      <p className="mb-2 text-soft">
        From the maker’s manual, with the page. Where none is entered, a rule of thumb is shown as such.
      </p>
      {limits.length > 0 && (
        <ul className="sheet mb-3 divide-y divide-line">
          {limits.map((l) => (
            <li key={l.id} className="flex flex-wrap gap-x-6 px-3 py-2">
              <span className="w-48 font-semibold">{name(l.characteristic)}</span>
              <span className="fig flex-1">
                {l.nominal !== null && `standard ${l.nominal.toFixed(3)} `}
                {(l.least !== null || l.most !== null) &&
                  `${l.least?.toFixed(3) ?? '…'} to ${l.most?.toFixed(3) ?? '…'}`}{' '}
                mm
              </span>
              <span className="text-soft">{l.sourceText}</span>
            </li>
          ))}
        </ul>
      )}
      {mayWrite && (
        <details>
          <summary className="key inline-flex cursor-pointer items-center">Add a limit</summary>
          <form
            className="mt-3 max-w-3xl space-y-3"
            onSubmit={(e) => {
              e.preventDefault();
              if (!add.isPending) add.mutate(undefined);
            }}
          >
            <div className="grid gap-3 sm:grid-cols-2">
              <Field label="Of what">
                <select
                  className="entry"
                  value={characteristic}
                  onChange={(e) => setCharacteristic(e.target.value)}
                >
                  {knowledge.characteristics
                    .filter((c) => c.quantity === 'length')
                    .map((c) => (
                      <option key={c.id} value={c.id}>
                        {c.name}
                      </option>
                    ))}
                </select>
              </Field>
              <Field label="Source: manual and page">
                <input
                  className="entry"
                  value={draft.sourceText}
                  onChange={(e) => setDraft({ ...draft, sourceText: e.target.value })}
                />
              </Field>
            </div>
            <div className="grid grid-cols-3 gap-3">
              {(['nominal', 'least', 'most'] as const).map((f) => (
                <Field key={f} label={f === 'nominal' ? 'Standard size' : f === 'least' ? 'Least' : 'Most'}>
                  <input
                    className="entry fig"
                    value={draft[f]}
                    onChange={(e) => setDraft({ ...draft, [f]: e.target.value })}
                  />
                </Field>
              ))}
            </div>
            <Choice label="Unit when none is typed" value={unit} options={lengthUnits} onChange={setUnit} />
            <Trouble problem={add.error} />
            <button className="key key-go" disabled={add.isPending}>
              Set the limit
            </button>
          </form>
        </details>
      )}
    </section>
  );
}
