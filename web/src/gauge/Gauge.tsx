import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom, useRoomSoon } from '../casebook/caseQueries';
import { called } from '../ui/called';
import { Addr } from '../ui/basics';
import { Limits } from './Limits';
import { Round } from './Round';
import { RoundSheet } from './RoundSheet';
import { Sheet } from './Sheet';
import { progress, roundsOf } from './points';
import { useMayWrite } from '../api/queries';
import { Later } from '../ui/Later';

export function Gauge() {
  const { knowledge, section, engineCase } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  const strip = useRoomSoon(engineCase.id, 'strip');
  const mayWrite = useMayWrite();
  const [params, setParams] = useSearchParams();
  const { measurable } = gauge;
  const rounds = useMemo(
    () =>
      roundsOf(
        section.cells,
        knowledge.characteristics,
        measurable,
        Object.fromEntries(knowledge.kinds.map((k) => [k.id, k.name])),
      ),
    [section.cells, knowledge, measurable],
  );
  const { readings } = engineCase;
  const walked = useMemo(
    () => rounds.map((r) => ({ ...r, ...progress(section.cells, readings, r) })),
    [rounds, section.cells, readings],
  );
  const [whole, setWhole] = useState(false);
  const chosen = params.get('round');
  const round = rounds.find((r) => r.id === chosen) ?? rounds.find((r) => r.entry.id === chosen);
  const set = (value: string | null) =>
    setParams((p) => {
      const next = new URLSearchParams(p);
      next.delete('part');
      next.delete('paper');
      if (value) next.set('round', value);
      else next.delete('round');
      return next;
    });
  if (round && params.has('paper')) return <RoundSheet round={round} onEnd={() => set(round.id)} />;
  if (round && mayWrite) return <Round key={round.id} round={round} onEnd={() => set(null)} />;

  type Walked = (typeof walked)[number];
  const stratum = new Map(section.cells.map((c) => [c.kind, c.stratum]));
  const due = gauge.due.flatMap((d) =>
    walked
      .filter((r) => r.entry.id === d.characteristic && stratum.get(r.kinds[0]!) === d.stratum)
      .map((r) => ({ ...r, due: d })),
  );
  const nameOf = (step: string) => strip?.steps.find((s) => s.id === step)?.name ?? step;
  const isDue = new Set(due.map((r) => r.id));
  const rest = walked.filter((r) => !isDue.has(r.id));
  const done = rest.filter((r) => r.done > 0 && r.done === r.of);
  // Usual on an engine of this kind, and nothing of it lies open yet.
  const later = rest.filter((r) => r.entry.usual > 0 && r.done < r.of);
  const groups = [...new Set(walked.map((r) => r.entry.group))];
  const key = (r: Walked) => (
    <button key={r.id} className="key" onClick={() => set(r.id)}>
      {r.name} <span className="fig text-sm text-soft">{r.done === r.of ? '✓' : `${r.done}/${r.of}`}</span>
    </button>
  );
  return (
    <div className="space-y-6">
      <Loud />
      {mayWrite && (
        <section>
          <h2 className="mb-2 text-xl">{tr`Due now`}</h2>
          {due.length === 0 && (
            <p className="text-soft">
              {tr`Nothing is due of what the strip has laid open so far. Any round can be started below.`}
            </p>
          )}
          <div className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
            {due.map((r, i) => (
              <button
                key={r.id}
                className={`key flex-col items-start gap-0 py-2 text-left ${i === 0 ? 'key-go' : ''}`}
                onClick={() => set(r.id)}
              >
                <span className="flex w-full justify-between gap-2">
                  {r.name} <span className="fig">{`${r.done}/${r.of}`}</span>
                </span>
                <span className={`text-sm font-normal ${i === 0 ? '' : 'text-soft'}`}>
                  {dueWords(r.due, nameOf(r.due.step))}
                </span>
              </button>
            ))}
          </div>
          {done.length > 0 && (
            <details className="mt-2">
              <summary className="min-h-11 cursor-pointer py-2 font-semibold">
                <Trans>Measured: {done.length}</Trans>{' '}
                {plural(done.length, { one: 'round', other: 'rounds' })}
              </summary>
              <div className="flex flex-wrap gap-2">{done.map(key)}</div>
            </details>
          )}
          {later.length > 0 && (
            <details className="mt-2" open>
              <summary className="min-h-11 cursor-pointer py-2 font-semibold">
                <Trans>Once it lies open: {later.length}</Trans>{' '}
                {plural(later.length, { one: 'round', other: 'rounds' })}
              </summary>
              <div className="flex flex-wrap gap-2">{later.map(key)}</div>
            </details>
          )}
          <details className="mt-2" onToggle={(e) => setWhole(e.currentTarget.open)}>
            <summary className="min-h-11 cursor-pointer py-2 font-semibold">
              <Trans>All {walked.length} rounds of this engine</Trans>
            </summary>
            <div className="grid gap-4 md:grid-cols-2">
              {(whole ? groups : []).map((g) => (
                <div key={g}>
                  <h3 className="mb-1 text-base">{called(knowledge)(g)}</h3>
                  <div className="flex flex-wrap gap-1.5">
                    {walked.filter((r) => r.entry.group === g).map(key)}
                  </div>
                </div>
              ))}
            </div>
          </details>
        </section>
      )}
      <Later>
        <div className="later -mx-1.5 px-1.5">
          <Sheet />
        </div>
        <div className="later -mx-1.5 px-1.5">
          <Limits />
        </div>
      </Later>
    </div>
  );
}

/** Why a round is due, as it is said at the bench. */
function dueWords({ why, open, left }: Schemas['DueRound'], step: string) {
  if (why === 'before') return tr`Before “${step}”: apart it cannot be read`;
  if (why === 'begun') return tr`Begun: ${left} of ${open} parts to go`;
  const lies = open === 1 ? tr`1 part lies open` : tr`${open} parts lie open`;
  return why === 'limited' ? tr`${lies}, and a limit is entered` : lies;
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
          <Trans>
            Wrong size at <Addr code={g.place} />
          </Trans>
        </p>
        <p className="text-lg">{g.words}</p>
      </div>
    ));
}
