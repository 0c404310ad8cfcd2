import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import { useArrival } from '../ui/useArrival';
import { CrankHelp } from './CrankHelp';
import { Dig } from './Dig';
import { EditStep } from './EditStep';
import { PullerHelp } from './PullerHelp';
import { StepCard } from './StepCard';
import { StepList } from './StepList';
import { attitudeWords, minutesText, type Step } from './useStrip';
import { useMayWrite } from '../api/queries';

const helps = [
  ['plan', tr`The plan`],
  ['dig', tr`Shortest way to a part`],
  ['crank', tr`Turn the crank`],
  ['puller', tr`Puller`],
] as const;

export function Strip() {
  const { engineCase } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const plan = strip;
  const [params, setParams] = useSearchParams();
  const put = (key: string, value: string | null, more: Record<string, null> = {}) => {
    // A late reply must not fetch back someone who has gone on to another stage meanwhile.
    if (!window.location.pathname.endsWith('/strip')) return;
    setParams(
      (p) => {
        const next = new URLSearchParams(p);
        if (value) next.set(key, value);
        else next.delete(key);
        for (const gone of Object.keys(more)) next.delete(gone);
        return next;
      },
      // A step that is opened is a step that Back closes.
      { replace: !(key === 'step' && value) },
    );
  };
  const open = params.get('step');
  const chosen = params.get('help');
  const help = chosen ?? 'plan';
  const [editing, setEditing] = useState<Step | 'new' | null>(null);
  const current = plan.steps.find((s) => s.id === open) ?? plan.steps.find((s) => s.id === plan.next);

  const heading = useArrival<HTMLHeadingElement>(current?.id);

  if (editing)
    return (
      <EditStep
        step={editing === 'new' ? null : editing}
        onEnd={(id) => {
          setEditing(null);
          if (id) put('step', id);
        }}
      />
    );
  if (params.has('paper')) return <StepList onEnd={() => put('paper', null)} />;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)]">
      <div>
        {current ? (
          <StepCard
            key={current.id}
            step={current}
            heading={heading}
            onDone={() => put('step', null)}
            onEdit={() => setEditing(current)}
          />
        ) : (
          <p className="card p-6 text-lg">{tr`Every step of the strip is recorded. The rest is on the bench.`}</p>
        )}
      </div>
      <section>
        <div className="mb-3 flex flex-wrap gap-1.5" role="group" aria-label={tr`Help with the strip`}>
          {helps.map(([id, name]) => (
            <button
              key={id}
              className={`key ${chosen === null && id === 'plan' ? 'lg:border-dye lg:bg-dye-tint' : ''}`}
              aria-pressed={chosen === id}
              onClick={() => put('help', chosen === id ? null : id)}
            >
              {name}
            </button>
          ))}
        </div>
        {help === 'dig' ? (
          <Dig onStep={(id) => put('step', id)} />
        ) : help === 'crank' ? (
          <CrankHelp />
        ) : help === 'puller' ? (
          <PullerHelp />
        ) : (
          // Behind the step at the bench, until it is asked for.
          <div className={chosen === null ? 'hidden lg:block' : ''}>
            <Plan
              current={current?.id}
              onPick={(id) => put('step', id, { help: null })}
              onAdd={() => setEditing('new')}
            />
          </div>
        )}
      </section>
    </div>
  );
}

const stateOf = (s: Step) =>
  s.state === 'done'
    ? ([tr`✓ done`, 'text-oil'] as const)
    : s.state === 'wasOff'
      ? ([tr`✓ was off`, 'text-oil'] as const)
      : s.state === 'skipped'
        ? ([tr`→ left out`, 'text-brass'] as const)
        : s.closedBy
          ? ([tr`closed`, 'text-brass'] as const)
          : s.stationsDone.length > 0
            ? ([tr`${s.stationsDone.length} of ${s.stations.length}`, 'text-oil'] as const)
            : s.beyond
              ? ([tr`not needed`, 'text-soft'] as const)
              : s.unsigned || s.blockedBy.length > 0
                ? ([tr`waits`, 'text-soft'] as const)
                : ([tr`open`, 'text-ink'] as const);

/** All steps: what is done as it was done, the rest in the order that turns the engine least. */
function Plan({
  current,
  onPick,
  onAdd,
}: {
  current: string | undefined;
  onPick: (id: string) => void;
  onAdd: () => void;
}) {
  const { engineCase } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const mayWrite = useMayWrite();
  const plan = strip;
  const counted = plan.steps.filter((s) => !s.beyond);
  const done = counted.filter((s) => s.state !== null).length;
  const { turns, toolChanges, walks } = plan.ahead;
  return (
    <div>
      <h2 className="text-xl">
        <Trans>
          {plan.scriptName}: {done} of {counted.length} steps
        </Trans>
      </h2>
      <p className="text-soft">
        <Trans>
          About <b>{minutesText(plan.minutesLeft)}</b> left ·{' '}
        </Trans>
        {turns === 0 ? tr`no turning over` : turns === 1 ? tr`turned over once` : tr`turned ${turns} times`} ·{' '}
        {plural(toolChanges, { one: '# tool change', other: '# tool changes' })} ·{' '}
        {walks === 0 ? tr`one end` : walks === 1 ? tr`one walk round it` : tr`${walks} walks round it`}
      </p>
      <p className="mb-2 text-sm text-soft">
        {plan.proven
          ? tr`No order needs less turning, tools or walking.`
          : tr`No order turns the engine less; tools and walking as good as was found.`}
      </p>
      <ScriptChoice />
      <OtherWays />
      <ol className="card divide-y divide-line">
        {plan.steps.map((s, i) => {
          const [state, tone] = stateOf(s);
          const lies = plan.steps[i - 1]?.attitude ?? 'upright';
          return (
            <li key={s.id}>
              {s.source.section && s.source.section !== (plan.steps[i - 1]?.source.section ?? '') && (
                <h3 className="border-b border-line px-3 pt-2 pb-0.5 text-base">{s.source.section}</h3>
              )}
              {s.attitude !== lies && (
                <p className="border-b border-line bg-steel px-3 py-0.5 text-sm font-bold">
                  <Trans>↻ engine {attitudeWords[s.attitude]}</Trans>
                </p>
              )}
              <button
                className={`flex min-h-11 w-full items-center gap-2.5 px-3 py-1 text-left ${current === s.id ? 'bg-dye-tint' : ''}`}
                aria-current={current === s.id ? 'step' : undefined}
                onClick={() => onPick(s.id)}
              >
                <span className="fig w-6 shrink-0 text-right text-soft">{i + 1}</span>
                <span className={`w-[4.6rem] shrink-0 text-sm font-semibold ${tone}`}>{state}</span>
                <span className="min-w-0 flex-1 leading-tight">{s.name}</span>
                {s.holdPoint && (
                  <span
                    className={`text-sm ${s.stale || s.signedElsewhere ? 'text-brass' : s.signedBy ? 'text-oil' : 'text-soft'}`}
                  >
                    {s.stale
                      ? tr`sign again`
                      : s.signedElsewhere
                        ? tr`signed elsewhere`
                        : s.signedBy
                          ? tr`✓ signed`
                          : tr`sign-off`}
                  </span>
                )}
                {s.open !== 0 && s.state === 'done' && (
                  <span className="text-sm font-bold text-lead">
                    <Trans>{s.open} in</Trans>
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ol>
      {mayWrite && (
        <div className="mt-3 flex flex-wrap gap-2">
          <button className="key" onClick={onAdd}>
            {tr`Add a step`}
          </button>
          <Link className="key flex items-center" to="?paper=1">
            {tr`What is left, on paper`}
          </Link>
          <Link className="key flex items-center" to={`/scripts?from=${engineCase.id}`}>
            {tr`Our way for the next one`}
          </Link>
        </div>
      )}
      {plan.toOrder.length > 0 && (
        <details className="mt-4">
          <summary className="key inline-flex cursor-pointer items-center">
            <Trans>One-time fasteners to order ({plan.toOrder.length})</Trans>
          </summary>
          <ul className="mt-2 list-disc pl-6">
            {plan.toOrder.map(({ words: t }) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

function ScriptChoice() {
  const { engineCase, knowledge } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const mayWrite = useMayWrite();
  const change = useWrite(engineCase.id, writes.strip);
  const { version, stroke, rodLength } = engineCase;
  if (!mayWrite || strip.steps.some((s) => s.state !== null)) return null;
  return (
    <div className="mb-3">
      <label className="block">
        <span className="label">{tr`Another script fits better?`}</span>
        <select
          className="entry"
          value={strip.script}
          onChange={(e) =>
            change.mutate({ version, script: e.target.value, stroke, rodLength, variants: [] })
          }
          disabled={change.isPending}
        >
          {knowledge.scripts.map((s) => (
            <option key={s.id} value={s.id}>
              <Trans>
                {s.name}, {s.steps} steps
              </Trans>
            </option>
          ))}
        </select>
      </label>
      <p className="mt-1 text-sm text-soft">{knowledge.scripts.find((s) => s.id === strip.script)?.says}</p>
      <Trouble problem={change.error} />
    </div>
  );
}

/** Other ways through the strip, by choice; one that cannot be had as things stand says why. */
function OtherWays() {
  const { engineCase } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const mayWrite = useMayWrite();
  const change = useWrite(engineCase.id, writes.strip);
  const { version, script, stroke, rodLength } = engineCase;
  const chosen = strip.variants.filter((v) => v.chosen);
  if (strip.variants.length === 0) return null;
  const set = (ids: string[]) => {
    if (!change.isPending) change.mutate({ version, script, stroke, rodLength, variants: ids });
  };
  return (
    <details className="mb-3" open={chosen.length > 0}>
      <summary className="key inline-flex cursor-pointer items-center">
        {chosen.length === 0
          ? tr`Other ways (${strip.variants.length})`
          : chosen.map((v) => v.name).join(' · ')}
      </summary>
      <ul className="mt-2 space-y-1.5">
        {strip.variants.map((v) => (
          <li key={v.id}>
            <button
              className="flex min-h-12 w-full items-start gap-3 rounded-lg border-[1.5px] border-line px-3 py-1.5 text-left disabled:opacity-70"
              role="checkbox"
              aria-checked={v.chosen}
              disabled={!mayWrite || change.isPending || v.refused !== null}
              onClick={() =>
                set(
                  v.chosen
                    ? chosen.filter((c) => c.id !== v.id).map((c) => c.id)
                    : [...chosen.map((c) => c.id), v.id],
                )
              }
            >
              <span
                className={`mt-0.5 flex size-7 shrink-0 items-center justify-center rounded border-2 text-lg font-bold ${v.chosen ? 'border-oil bg-oil-tint text-oil' : 'border-soft'}`}
                aria-hidden
              >
                {v.chosen ? '✓' : ''}
              </span>
              <span>
                <b>{v.name}</b>
                {v.ends && <span className="text-sm text-soft"> {tr`· not to the bare block`}</span>}
                <span className="block text-sm">{v.refused ?? v.says}</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      <Trouble problem={change.error} />
    </details>
  );
}
