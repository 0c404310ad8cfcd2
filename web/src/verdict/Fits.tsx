import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useCandidateName } from '../casebook/candidates';
import { Addr, percent } from '../ui/basics';
import { figure } from '../ui/figures';
import { stands } from '../ui/words';
import { PlaceRow } from './PlaceRow';
import { fixed } from '../ui/region';

/** What fits what, of the engine's own parts and of all that are offered. */
export function Fits() {
  const { engineCase } = useCaseContext();
  const { bearings, pistons, weights, stamps, rings, ringNotes } = useRoom(engineCase.id, 'fits');
  const nothing = bearings.length + pistons.length + weights.length + stamps.length + rings.length === 0;
  return (
    <section className="max-w-5xl space-y-5">
      <div>
        <h2 className="text-xl">{tr`What fits what`}</h2>
        <p className="text-soft">
          {tr`By journal, housing and shells measured together, whatever the stamps say. A spare shaft, another set or a donor’s head is taken in under Index as an offered part, and measured like any.`}
        </p>
      </div>
      {nothing && (
        <p className="text-lg">
          {tr`Nothing to hold together yet: measure journals, torqued housings and walls, or bores and pistons.`}
        </p>
      )}
      {stamps.length > 0 && (
        <div className="card border-brass bg-brass-tint p-3">
          <h3 className="text-lg">{tr`Stamps that may be read two ways`}</h3>
          <ul>
            {stamps.map((s) => (
              <li key={s.place}>
                {s.words}{' '}
                <span className="fig text-sm">
                  {s.grades.map((g) => `${g.grade} ${percent(g.p)}`).join(', ')}
                </span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {bearings.map((b) => (
        <Bearing key={b.bearing} fit={b} />
      ))}
      {pistons.length > 0 && <Pistons fits={pistons} />}
      {weights.length > 0 && <Weights fits={weights} />}
      {rings.length > 0 && <Rings rings={rings} notes={ringNotes} />}
    </section>
  );
}

/** What a letter stands for; the engine's own without one. */
function useOf() {
  const { engineCase } = useCaseContext();
  const nameOf = useCandidateName();
  const offered = engineCase.candidates.filter(stands);
  return (letter: string, own: string) => {
    const candidate = offered.find((c) => c.letter === letter);
    return candidate ? `${letter}, ${candidate.name || nameOf(candidate)}` : own;
  };
}

const tone = (inside: number | null) =>
  inside === null
    ? 'text-soft'
    : inside >= 0.8
      ? 'bg-oil-tint'
      : inside >= 0.2
        ? 'bg-brass-tint'
        : 'bg-lead-tint';

const mark = (c: Schemas['FitCell']) =>
  c.inside === null
    ? ''
    : c.inside >= 0.8
      ? '✓'
      : c.inside >= 0.2
        ? '?'
        : (c.under ?? 0) > (c.over ?? 0)
          ? tr`tight`
          : tr`loose`;

function Bearing({ fit }: { fit: Schemas['BearingFit'] }) {
  const { lengths } = useCaseContext();
  const of = useOf();
  const [all, setAll] = useState(false);
  const rows = [...fit.grid].sort((a, b) => (b.all ?? -1) - (a.all ?? -1));
  const shown = all ? rows : rows.slice(0, 6);
  const housings = new Set(fit.grid.map((r) => r.housing)).size > 1;
  return (
    <article className="card space-y-3 p-3 md:p-4">
      <h3 className="text-lg">{fit.name}</h3>
      {fit.least !== null && fit.most !== null ? (
        <p className="text-soft">
          <Trans>
            Clearance{' '}
            <span className="fig">
              {figure(fit.least, lengths)} to {figure(fit.most, lengths)}
            </span>{' '}
            {lengths}, {fit.source}
          </Trans>
          {fit.thumb && tr`, which is no limit`}.
        </p>
      ) : (
        <p className="text-soft">{tr`No limit of the clearance was entered, so nothing can be said to fit.`}</p>
      )}
      {fit.ways.length > 0 ? (
        <ol className="list-inside list-decimal space-y-1">
          {fit.ways.map((w, i) => (
            <li key={w.words} className={i === 0 ? 'text-lg font-bold' : ''}>
              {w.words} {w.costs && <span className="fig font-normal text-soft">{w.costs}</span>}
            </li>
          ))}
        </ol>
      ) : (
        fit.least !== null && (
          <p>
            <Trans>
              <b>Nothing fits as it is, with one set bought, or ground to a size that is to be had.</b>{' '}
              Measure what is missing, or offer another part.
            </Trans>
          </p>
        )
      )}
      <div className="overflow-x-auto">
        <table className="text-left text-sm whitespace-nowrap">
          <thead className="text-soft">
            <tr>
              <th className="pr-4 font-semibold">{tr`Shaft`}</th>
              {housings && <th className="pr-4 font-semibold">{tr`Housing`}</th>}
              <th className="pr-4 font-semibold">{tr`Shells`}</th>
              {shown[0]?.cells.map((c, i) => (
                <th key={i} className="px-2 font-semibold">
                  <Addr code={c.journal.split('.')[0]!} />
                </th>
              ))}
              <th className="px-2 font-semibold">{tr`All inside`}</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((r) => (
              <tr key={r.shaft + r.housing + r.shells} className="border-t border-line">
                <td className="max-w-36 pr-4 whitespace-normal">{of(r.shaft, tr`its own`)}</td>
                {housings && (
                  <td className="max-w-36 pr-4 whitespace-normal">{of(r.housing, tr`its own`)}</td>
                )}
                <td className="max-w-36 pr-4 whitespace-normal">{of(r.shells, tr`its own`)}</td>
                {r.cells.map((c) => (
                  <td
                    key={c.journal}
                    className={`px-2 py-1 text-center ${tone(c.inside)}`}
                    title={
                      c.clearance === null
                        ? tr`not measured`
                        : `${figure(c.clearance, lengths)} ± ${figure(c.expanded ?? 0, lengths)} ${lengths}`
                    }
                  >
                    {c.clearance === null ? (
                      '–'
                    ) : (
                      <>
                        <span className="fig block">{figure(c.clearance, lengths)}</span>
                        <span className="block text-xs">
                          {mark(c)} {c.inside !== null && percent(c.inside)}
                        </span>
                      </>
                    )}
                  </td>
                ))}
                <td className="fig px-2 font-bold">{r.all === null ? '?' : percent(r.all)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows.length > shown.length && (
        <button className="underline" onClick={() => setAll(true)}>
          <Trans>All {rows.length}</Trans>
        </button>
      )}
      {fit.halves.map((h) => (
        <details key={h.shaft + h.housing}>
          <summary className="min-h-9 cursor-pointer">
            {tr`Halves chosen one by one for`} {of(h.shaft, tr`the engine’s own shaft`)}
            <Trans>
              : all inside with <span className="fig">{percent(h.all)}</span>
            </Trans>
            {!h.exact && tr` (there may be a better choice)`}
          </summary>
          <ul className="grid gap-x-6 md:grid-cols-2">
            {h.of.map((o) => (
              <li key={o.journal} className="flex gap-3">
                <Addr code={o.journal} />
                <span>
                  <Addr code={o.upper} /> + <Addr code={o.lower} />
                </span>
                <span className="fig">
                  {figure(o.clearance, lengths)} ± {figure(o.expanded, lengths)}
                </span>
              </li>
            ))}
          </ul>
        </details>
      ))}
    </article>
  );
}

function Pistons({ fits }: { fits: Schemas['PistonsFit'][] }) {
  const { lengths } = useCaseContext();
  return (
    <article className="card space-y-3 p-3 md:p-4">
      <h3 className="text-lg">{tr`Pistons to bores`}</h3>
      {fits.map((f) => (
        <div key={f.bores}>
          <p className="font-bold">{f.words}</p>
          <ul className="flex flex-wrap gap-x-6 gap-y-1">
            {f.of.map((p) => (
              <li key={p.bore}>
                <Addr code={p.bore} /> ← <Addr code={p.piston} />{' '}
                <span className="fig">{figure(p.clearance, lengths)}</span>{' '}
                <span className="fig text-sm text-soft">{p.inside !== null && percent(p.inside)}</span>
              </li>
            ))}
          </ul>
        </div>
      ))}
    </article>
  );
}

function Weights({ fits }: { fits: Schemas['WeightFit'][] }) {
  const of = useOf();
  return (
    <article className="card space-y-3 p-3 md:p-4">
      <h3 className="text-lg">{tr`Pistons and rods by weight`}</h3>
      {fits.map((f) => (
        <div key={f.pistons}>
          <p>
            <b>{of(f.pistons, tr`Its own pistons`)}.</b> {f.words}
          </p>
          <ul className="flex flex-wrap gap-x-6 gap-y-1">
            {f.of.map((a) => (
              <li key={a.piston}>
                <Trans>
                  <Addr code={a.piston} /> on <Addr code={a.rod} />{' '}
                  <span className="fig">{fixed(a.weight, 1)} g</span>
                </Trans>
              </li>
            ))}
          </ul>
        </div>
      ))}
    </article>
  );
}

function Rings({ rings, notes }: { rings: Schemas['RingAdvice'][]; notes: string[] }) {
  const { lengths } = useCaseContext();
  const alike = new Map<string, Schemas['RingAdvice'][]>();
  for (const r of rings) {
    const key = JSON.stringify([r.again, r.tests, (r.file ?? 0) > 0.005 ? r.ring : '']);
    alike.set(key, [...(alike.get(key) ?? []), r]);
  }
  return (
    <article className="card space-y-3 p-3 md:p-4">
      <h3 className="text-lg">{tr`Rings`}</h3>
      {notes.map((n) => (
        <p key={n} className="font-bold">
          {n}
        </p>
      ))}
      <ul className="divide-y divide-line">
        {[...alike.values()].map((of) => (
          <li key={of[0]!.ring} className="space-y-1 py-2">
            <p className="flex flex-wrap items-baseline gap-x-3">
              <b className="text-lg">{of[0]!.again === true ? '✓' : of[0]!.again === false ? '✕' : '?'}</b>
              <PlaceRow codes={of.map((r) => r.ring)} />
            </p>
            <p>{of[0]!.words}</p>
            <p className="text-sm text-soft">
              {of[0]!.tests
                .map((t) => `${t.holds === true ? '✓' : t.holds === false ? '✕' : '?'} ${t.words}`)
                .join(' · ')}
            </p>
            <ul className="fig flex flex-wrap gap-x-5 text-sm">
              {of.map((r) => (
                <li key={r.ring}>
                  <Addr code={r.ring} /> {r.gap === null ? tr`no gap read` : figure(r.gap, lengths, 2)}
                  {r.gapAfter !== null && (
                    <>
                      {' '}
                      <Trans>→ {figure(r.gapAfter, lengths, 2)} in the new bore</Trans>
                    </>
                  )}
                  {(r.file ?? 0) > 0.005 && (
                    <>
                      <Trans>, file {figure(r.file!, lengths, 2)}</Trans>
                    </>
                  )}
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </article>
  );
}
