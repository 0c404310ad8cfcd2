import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { called } from '../ui/called';
import { Addr, moment, Trouble } from '../ui/basics';
import { WhyForm } from '../ui/WhyForm';
import { stands } from '../ui/words';
import { useAct } from './act';
import type { Plan, Task } from './bars';
import { FiguresIn } from './FiguresIn';
import { PartsIn, Thumb } from './PartIn';
import { SetIn } from './SetIn';

/** A step of the way back, in the order in which hands do it: what goes in, what is looked at, measured, tightened, covered; and what still holds it. */
export function BackStep({ plan, task, way }: { plan: Plan; task: Task; way: Schemas['WayBack'] }) {
  const { knowledge } = useCaseContext();
  return (
    <div className="space-y-5">
      {way.does.map((d) => (
        <p key={d}>{d}</p>
      ))}
      {way.cautions.length > 0 && (
        <ul className="space-y-1 rounded-lg border-2 border-lead bg-lead-tint px-3 py-2 text-sm">
          {way.cautions.map((c) => (
            <li key={c}>▲ {c}</li>
          ))}
          <li className="text-soft">{tr`The maker’s manual and local rules come first.`}</li>
        </ul>
      )}
      {plan.covers.length > 0 && (
        <p className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
          <b>{tr`Still covered:`}</b> {plan.covers.map((c) => called(knowledge)(c.text)).join('; ')}
        </p>
      )}
      {way.step && <AsItCameOff step={way.step} />}
      {way.parts.length > 0 && <PartsIn step={task.key} parts={way.parts} />}
      {way.ticks.length > 0 && (
        <Ticks step={task.key} title={tr`Looked at`} ticks={way.ticks} kinds={['ticked', 'unticked']} />
      )}
      {way.hours && <HoursRun step={task.key} hours={way.hours} />}
      {way.finds.length > 0 && <Finds step={task.key} finds={way.finds} />}
      {way.figures.length > 0 && <FiguresIn figures={way.figures} />}
      {way.sets.length > 0 && (
        <section className="space-y-3">
          <h3 className="text-lg">{tr`Fasteners`}</h3>
          {way.loosened && (
            <p className="text-sm">
              <Trans>
                They were loosened: <b>{way.loosened}</b>. They are tightened the other way round.
              </Trans>
            </p>
          )}
          {way.sets.map((s) => (
            <SetIn key={s.set} step={task.key} way={way.step} set={s} />
          ))}
        </section>
      )}
      {way.manual.length > 0 && (
        <p className="text-sm">
          <Trans>
            Look up in the maker’s manual: <b>{way.manual.join('; ')}</b>
          </Trans>
        </p>
      )}
      {task.kind === 'back' && (
        <Ticks
          step={task.key}
          title={tr`Covered or plugged, to come off again`}
          ticks={way.covers}
          kinds={['covered', 'uncovered']}
          adds
        />
      )}
      <Holds task={task} stops={way.stops} />
    </div>
  );
}

/** Pictures of the step, and stacks of what came off with it: the last of a stack goes on first. */
function AsItCameOff({ step }: { step: string }) {
  const { engineCase } = useCaseContext();
  const photos = engineCase.photos.filter((p) => stands(p) && p.step === step);
  const stacks = engineCase.stows.filter((s) => stands(s) && s.step === step && s.items.length > 0);
  if (photos.length + stacks.length === 0) return null;
  return (
    <section>
      <h3 className="text-lg">{tr`As it came off`}</h3>
      {photos.length > 0 && (
        <div className="mt-1 flex flex-wrap gap-2">
          {photos.map((p) => (
            <Thumb key={p.id} photo={p} />
          ))}
        </div>
      )}
      {stacks.map((s) => (
        <div key={s.id} className="mt-2">
          <p>
            <b className="fig">{s.code}</b> {s.name}
            {s.where && <span className="text-soft">, {s.where}</span>}
            {s.kind === 'stack' && (
              <span className="text-soft">{tr`, in the order in which it goes on:`}</span>
            )}
          </p>
          <ol className="ml-5 list-decimal">
            {(s.kind === 'stack' ? s.items.toReversed() : s.items).map((i, n) => (
              <li key={n}>
                {i.count > 1 && <b className="fig">{i.count} × </b>}
                {i.place || i.what}
                {i.face && <b>, {i.face}</b>}
              </li>
            ))}
          </ol>
        </div>
      ))}
    </section>
  );
}

function Ticks({
  step,
  title,
  ticks,
  kinds,
  adds = false,
}: {
  step: string;
  title: string;
  ticks: Schemas['BackTick'][];
  kinds: readonly ['ticked', 'unticked'] | readonly ['covered', 'uncovered'];
  adds?: boolean;
}) {
  const mayWrite = useMayWrite();
  const { act, error } = useAct(step);
  const says = called(useCaseContext().knowledge);
  const [more, setMore] = useState('');
  const say = (on: boolean, text: string) =>
    void act(kinds[on ? 0 : 1], text, `${on ? '' : tr`not: `}${says(text)}`).catch(() => undefined);
  if (!adds && ticks.length === 0) return null;
  return (
    <section>
      <h3 className="text-lg">{title}</h3>
      <ul className="mt-1 space-y-1.5">
        {ticks.map((t) => (
          <li key={t.text}>
            <button
              className="flex min-h-11 w-full items-center gap-3 rounded-lg border-2 border-line px-3 py-1.5 text-left aria-pressed:border-oil"
              aria-pressed={t.done}
              disabled={!mayWrite}
              onClick={() => say(!t.done, t.text)}
            >
              <span className={`text-2xl ${t.done ? 'text-oil' : 'text-soft'}`}>{t.done ? '✓' : '○'}</span>
              <span className="flex-1">{says(t.text)}</span>
              {t.by && <span className="text-sm text-soft">{t.by}</span>}
            </button>
          </li>
        ))}
      </ul>
      {adds && mayWrite && (
        <form
          className="mt-2 flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (more.trim() === '') return;
            say(true, more.trim());
            setMore('');
          }}
        >
          <input
            className="entry min-w-0 flex-1"
            aria-label={tr`What is covered`}
            placeholder={tr`Something else: intake ports, breather`}
            value={more}
            onChange={(e) => setMore(e.target.value)}
          />
          <button className="key shrink-0">{tr`Covered`}</button>
        </form>
      )}
      <Trouble problem={error} />
    </section>
  );
}

/** How long it ran since the first start: noted by whoever asks or reads the meter. */
function HoursRun({ step, hours }: { step: string; hours: Schemas['BackHours'] }) {
  const mayWrite = useMayWrite();
  const { act, error, isPending } = useAct(step);
  const [typed, setTyped] = useState('');
  const value = Number(typed.replace(',', '.'));
  return (
    <section>
      <h3 className="text-lg">{tr`Hours run`}</h3>
      <p>
        <Trans>
          Due after <b className="fig text-xl">{hours.due} h</b> of running.{' '}
        </Trans>
        {hours.run === null ? (
          tr`Nobody noted yet how long it ran.`
        ) : (
          <>
            <Trans>
              <b className="fig text-xl">{hours.run} h</b> run so far
            </Trans>
            <span className="text-sm text-soft">
              <Trans>, by {hours.by}</Trans>
              {hours.noted && `, ${moment(hours.noted)}`}
            </span>
          </>
        )}
      </p>
      {mayWrite && (
        <form
          className="mt-1 flex max-w-md gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (typed.trim() === '') return;
            void act('ran', '', tr`${typed} h run`, { hours: Number.isFinite(value) ? value : -1 }).then(
              () => setTyped(''),
              () => undefined,
            );
          }}
        >
          <input
            className="entry fig min-w-0 flex-1"
            inputMode="decimal"
            aria-label={tr`Hours run since the first start`}
            placeholder="6.5"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          <button className="key shrink-0" disabled={isPending}>
            {tr`Note hours`}
          </button>
        </form>
      )}
      <Trouble problem={error} />
    </section>
  );
}

/** What was in filter and pan since it ran: recorded in Look, or looked at and clean. */
function Finds({ step, finds }: { step: string; finds: Schemas['BackFind'][] }) {
  const { openPart } = useCaseContext();
  const mayWrite = useMayWrite();
  const { act, error } = useAct(step);
  return (
    <section>
      <h3 className="text-lg">{tr`What was in it since it ran`}</h3>
      <ul className="divide-y divide-line">
        {finds.map((f) => (
          <li key={f.key} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
            <Addr code={f.place} className="text-lg" />
            <span className="least-40 flex-1">
              {f.name}:{' '}
              <b className={f.recorded > 0 ? 'text-brass' : f.clean ? 'text-oil' : 'text-soft'}>
                {f.recorded > 0 ? tr`▲ ${f.recorded} recorded` : f.clean ? tr`✓ clean` : tr`○ nobody said`}
              </b>
              {f.by && <span className="text-sm text-soft">, {f.by}</span>}
              {f.likely && <span className="block text-sm">{f.likely}</span>}
            </span>
            <button className="key text-sm" onClick={() => openPart(f.place)}>
              {mayWrite ? tr`Record what lay in it` : tr`Open`}
            </button>
            {mayWrite && f.recorded === 0 && (
              <button
                className="key text-sm"
                aria-pressed={f.clean}
                onClick={() =>
                  void act(
                    f.clean ? 'unticked' : 'ticked',
                    f.key,
                    f.clean ? tr`${f.place}: not clean` : tr`${f.place}: clean`,
                  ).catch(() => undefined)
                }
              >
                {tr`Clean`}
              </button>
            )}
          </li>
        ))}
      </ul>
      <Trouble problem={error} />
    </section>
  );
}

/** So many are named before somebody asks for the others. */
const named = 5;

/** What holds the step, each with what to do; what may be passed, for a reason of its own. */
function Holds({ task, stops }: { task: Task; stops: Schemas['BackStop'][] }) {
  const mayWrite = useMayWrite();
  const { act, error } = useAct(task.key);
  const [passing, setPassing] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const shut = stops.filter((s) => s.passed === '');
  const passed = stops.filter((s) => s.passed !== '');
  return (
    <section aria-label={tr`What holds it`}>
      <h3 className="text-lg">
        {shut.length === 0
          ? tr`✓ Nothing holds it`
          : `‖ ${plural(shut.length, { one: '# thing holds it', other: '# things hold it' })}`}
      </h3>
      <ul className="mt-1 divide-y divide-line text-sm">
        {shut.slice(0, all ? undefined : named).map((s) => (
          <li key={s.key} className="py-1.5">
            <span className="flex flex-wrap items-center gap-x-3">
              <span className="least-40 flex-1">
                <b>{s.text}</b> <span className="text-soft">{s.remedy}</span>
              </span>
              {mayWrite && s.mayPass && (
                <button
                  className="min-h-11 px-2 underline underline-offset-4"
                  aria-expanded={passing === s.key}
                  onClick={() => setPassing(passing === s.key ? null : s.key)}
                >
                  {tr`Pass it all the same`}
                </button>
              )}
            </span>
            {passing === s.key && (
              <WhyForm
                press={tr`Pass it`}
                send={async (why) => {
                  await act('passed', s.key, tr`passed: ${s.text}`, { why });
                  setPassing(null);
                }}
              />
            )}
          </li>
        ))}
      </ul>
      {shut.length > named && (
        <button className="key mt-1 text-sm" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? tr`Fewer` : tr`All ${shut.length}`}
        </button>
      )}
      {passed.length > 0 && (
        <ul className="mt-1 text-sm text-soft">
          {passed.map((s) => (
            <li key={s.key}>
              <Trans>
                Passed by {s.passedBy}: {s.text} “{s.passed}”
              </Trans>
            </li>
          ))}
        </ul>
      )}
      <Trouble problem={error} />
    </section>
  );
}
