import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { called } from '../ui/called';
import { byId } from '../ui/byId';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { useWatch, type UseFormReturn } from 'react-hook-form';
import { Link } from 'react-router';
import * as z from 'zod/mini';
import { type Schemas } from '../api/client';
import { useMe, useMayWrite, useSeat, useSettings } from '../api/queries';
import { useRoom, useRoomSoon } from '../casebook/caseQueries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes as caseWrites } from '../outbox/writes';
import { PhotoStrip } from '../pictures/Photos';
import { Addr, moment, Trouble } from '../ui/basics';
import { TextField, useEntryForm } from '../ui/form';
import { WhyForm } from '../ui/WhyForm';
import { entriesOf, lockWords, stands, writerOf } from '../ui/words';
import { Fasteners } from './Fasteners';
import { Lessons } from './Lessons';
import { attitudeWords, clockText, minutesText, useLessons, useStripWrites, type Step } from './useStrip';

/** One step at the bench: what to do, how the engine must lie, what must be out, and when it may be called done. */
export function StepCard({
  step,
  heading,
  onDone,
  onEdit,
}: {
  step: Step;
  heading: RefObject<HTMLHeadingElement | null>;
  onDone: () => void;
  onEdit: () => void;
}) {
  const { engineCase, knowledge } = useCaseContext();
  const mayWrite = useMayWrite();
  const writes = useStripWrites(engineCase.id);
  const [stuck, setStuck] = useState(false);
  const open = step.state === null;
  const { script } = useRoom(engineCase.id, 'strip');
  // What earlier engines taught is a trap that is known: it stands with the others.
  const taught = useLessons(script).data?.some((l) => l.step === step.id) ?? false;
  // Which item was pressed in which state: a double press is one, the next item is another however fast it comes.
  const pressed = useRef(new Map<number, boolean>());
  const tick = (item: number) => {
    const ticked = step.ticked.includes(item);
    if (pressed.current.get(item) === ticked) return;
    pressed.current.set(item, ticked);
    writes.mark.mutate(
      { step: step.id, kind: ticked ? 'unticked' : 'ticked', item },
      { onSettled: () => pressed.current.clear() },
    );
  };
  return (
    <article className="card space-y-4 p-4 md:p-5">
      <div>
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm font-semibold">
          <span className="rounded-md border-2 border-ink px-2 py-0.5">
            <Trans>Engine {attitudeWords[step.attitude]}</Trans>
          </span>
          {step.end && (
            <span className="rounded-md border-2 border-line px-2 py-0.5">
              {step.end === 'freeEnd' ? tr`Free end` : tr`Drive end`}
            </span>
          )}
          {step.helper && (
            <span className="rounded-md border-2 border-brass bg-brass-tint px-2 py-0.5">{tr`Two people`}</span>
          )}
          <span className="text-soft">
            <Trans>about {minutesText(step.minutes)}</Trans>
            {step.tools.length > 0 && ` · ${step.tools.map(called(knowledge)).join(', ')}`}
          </span>
        </div>
        <h2 ref={heading} tabIndex={-1} className="mt-2 scroll-mt-16 text-2xl outline-none md:text-3xl">
          {step.name}
        </h2>
        <p className="mt-1 text-lg">{step.does}</p>
        {step.crank && (
          <p className="mt-2">
            <b>{tr`Crank:`}</b> {step.crank}
          </p>
        )}
        {step.pattern && (
          <p className="mt-1">
            <b>{tr`Loosen:`}</b> {step.pattern}
          </p>
        )}
        {step.source.manual.length > 0 && (
          <p className="mt-1">
            <b>{tr`From the maker’s manual:`}</b> {step.source.manual.join(' · ')}
          </p>
        )}
      </div>
      {taught && <Lessons step={step} />}
      <div className="grid items-start gap-3 empty:hidden xl:auto-cols-fr xl:grid-flow-col">
        {step.cautions.length > 0 && (
          <ul className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-2">
            {step.cautions.map((c) => (
              <li key={c}>{c}</li>
            ))}
            <li className="text-sm">{tr`The maker’s manual and local rules come first.`}</li>
          </ul>
        )}
        {open && <Holds step={step} />}
      </div>
      {open && <MeasureFirst step={step.id} />}
      {step.ticks.length > 0 && (
        <ul className="space-y-1.5" aria-label={tr`To tick off`}>
          {step.ticks.map((t, i) => (
            <li key={t}>
              <button
                className="flex min-h-12 w-full items-center gap-3 rounded-lg border-[1.5px] border-line px-3 py-1.5 text-left"
                role="checkbox"
                aria-checked={step.ticked.includes(i)}
                disabled={!mayWrite}
                onClick={() => tick(i)}
              >
                <span
                  className={`flex size-7 shrink-0 items-center justify-center rounded border-2 text-lg font-bold ${step.ticked.includes(i) ? 'border-oil bg-oil-tint text-oil' : 'border-soft'}`}
                  aria-hidden
                >
                  {step.ticked.includes(i) ? '✓' : ''}
                </span>
                <span className="flex-1">{called(knowledge)(t)}</span>
                {step.must.includes(i) && !step.ticked.includes(i) && (
                  <span className="shrink-0 text-sm font-semibold text-lead">{tr`not done without`}</span>
                )}
              </button>
            </li>
          ))}
        </ul>
      )}
      {step.sets.length > 0 && <Fasteners step={step} writes={writes} />}
      {open && (step.photos.length > 0 || photosOf(step.id, engineCase).length > 0) && (
        <div>
          <h3 className="text-lg">{tr`Photograph first`}</h3>
          <p className="mb-1 text-soft">{step.photos.join(' · ')}</p>
          <StepPhotos step={step} />
        </div>
      )}
      {(step.mayHold.length > 0 || step.parts) && open && (
        <div>
          <button className="key" aria-expanded={stuck} onClick={() => setStuck(!stuck)}>
            {tr`Stuck?`}
          </button>
          {stuck && (
            <div className="mt-2 rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
              <p className="font-bold">{tr`Stop. What may still hold it:`}</p>
              <ol className="list-decimal pl-6">
                {step.mayHold.map((h) => (
                  <li key={h}>{h}</li>
                ))}
              </ol>
              {step.mayHold.length === 0 && <p>{tr`Nothing counted. Look for sealant, dowels, suction.`}</p>}
            </div>
          )}
        </div>
      )}
      <Clock step={step} writes={writes} />
      {step.why && (
        <p className="text-sm text-soft">
          <Trans>Why now: {step.why}</Trans>
        </p>
      )}
      {!taught && <Lessons step={step} />}
      {open && step.stationsDone.length > 0 && (
        <p className="font-bold text-oil">
          <Trans>
            ✓ Done at {stationWords[step.per]} {step.stationsDone.join(', ')}
          </Trans>
        </p>
      )}
      {open && step.holdPoint && step.stationsDone.length > 0 && <HoldPoint step={step} writes={writes} />}
      {open ? (
        mayWrite && <Finish step={step} writes={writes} onDone={onDone} onEdit={onEdit} />
      ) : (
        <Recorded step={step} writes={writes} onEdit={onEdit} />
      )}
    </article>
  );
}

const photosOf = (step: string, engineCase: ReturnType<typeof useCaseContext>['engineCase']) =>
  engineCase.photos.filter((p) => p.step === step && stands(p));

/** Pictures of a step hang on the first part that it lays open, or on the engine as a whole. */
function StepPhotos({ step }: { step: Step }) {
  const context = useCaseContext();
  const cells = context.section.cells;
  const place = cells.find((c) => c.kind === (step.exposes[0] ?? step.releases[0]))?.address ?? 'EN';
  return <PhotoStrip address={place} step={step.id} context={context} />;
}

type Writes = ReturnType<typeof useStripWrites>;
type Obstacle = Schemas['Obstacle'];

/** What must come first, and what the step would destroy unread; each place leads to the part. */
function Holds({ step }: { step: Step }) {
  const { section } = useCaseContext();
  const kindAt = new Map(section.cells.map((c) => [c.address, c.kind]));
  const byKind = new Map<string, Schemas['UnreadEvidence'][]>();
  for (const u of step.unread) {
    const kind = kindAt.get(u.place) ?? '';
    byKind.set(kind, [...(byKind.get(kind) ?? []), u]);
  }
  const kinds = [...byKind];
  const first = step.obstacles.filter((o) => o.lock === 'holdPoint' || o.lock === 'order');
  return (
    <>
      {step.closedBy && (
        <p className="rounded-lg border-2 border-line px-3 py-2">
          <Trans>
            <b>Stays closed:</b> “{step.closedBy}” was left out. Take that back and do it first.
          </Trans>
        </p>
      )}
      {!step.closedBy && first.length > 0 && (
        <div className="rounded-lg border-2 border-line px-3 py-2">
          <p className="font-bold">{tr`First:`}</p>
          {first.map((o) => (
            <p key={o.lock + o.of}>{o.says}</p>
          ))}
        </div>
      )}
      {step.unread.length > 0 && (
        <div className="rounded-lg border-2 border-lead bg-lead-tint px-3 py-2">
          <p className="font-bold">{tr`Look first: this destroys what nobody has looked at yet.`}</p>
          <ul className="mt-1 space-y-1">
            {kinds.map(([kind, of]) => (
              <Unread key={kind} kind={kind} unread={of} acts={step.source.acts} />
            ))}
          </ul>
          <p className="mt-1 text-sm">{tr`Any sign of a part that was looked for will do.`}</p>
        </div>
      )}
    </>
  );
}

/** Parts of one kind that nobody looked at: read one after the other, or all of them at once where none shows anything. */
function Unread({
  kind,
  unread,
  acts,
}: {
  kind: string;
  unread: Schemas['UnreadEvidence'][];
  acts: Schemas['Act'][];
}) {
  const { engineCase, knowledge, openPart } = useCaseContext();
  const mayWrite = useMayWrite();
  const [asks, setAsks] = useState(false);
  const clean = useWrite(engineCase.id, caseWrites.clean);
  const signs = knowledge.signs.filter((s) => !s.measured && s.on.includes(kind));
  const gone = signs.filter((s) => s.destroyedBy.some((a) => acts.includes(a)));
  // Where no sign by itself is lost, the part is read as a whole, as in Look.
  const lost = gone.length > 0 ? gone : signs;
  const name = byId(knowledge.kinds).get(kind)?.name ?? '';
  const writeAll = async () => {
    for (const u of unread) await clean.mutateAsync({ place: u.place, signs: lost.map((s) => s.id) });
    setAsks(false);
  };
  return (
    <li className="border-t border-lead/30 pt-1 first:border-t-0 first:pt-0">
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="mr-1 font-semibold">{unread.length > 1 ? `${unread.length} × ${name}` : name}</span>
        {unread.map((u) => (
          <button key={u.place} className="key min-h-9 px-1.5" onClick={() => openPart(u.place)}>
            <Addr code={u.place} />
          </button>
        ))}
        {mayWrite && lost.length > 0 && (
          <button className="key min-h-9 text-sm" aria-expanded={asks} onClick={() => setAsks(!asks)}>
            {unread.length > 1 ? tr`Looked, nothing on any` : tr`Looked, nothing on it`}
          </button>
        )}
      </div>
      {asks && (
        <div className="mt-1 space-y-2 rounded-lg bg-paper px-3 py-2">
          <p className="text-sm">
            <Trans>
              {lost.map((s) => s.name).join('; ')}: each is written as looked for and not there, at{' '}
            </Trans>
            {unread.length === 1 ? tr`this part` : tr`all ${unread.length} parts`}.
          </p>
          <button className="key key-go" disabled={clean.isPending} onClick={() => void writeAll()}>
            {tr`Save for`} {unread.length === 1 ? unread[0]!.place : tr`${unread.length} parts`}
          </button>
          <Trouble problem={clean.error} />
        </div>
      )}
    </li>
  );
}

/** Each obstacle by itself, with a reason of its own where one opens it and whoever is here may. */
function Passing({
  obstacles,
  form,
}: {
  obstacles: Obstacle[];
  form: UseFormReturn<z.input<typeof reasonsGiven>, unknown, z.output<typeof reasonsGiven>>;
}) {
  const { data: me } = useMe();
  const settings = useSettings();
  const mayOpen = (o: Obstacle) =>
    me?.role === 'lead' ||
    (settings.data?.openedBy as Record<string, string> | undefined)?.[o.lock] === me?.role;
  const groups = entriesOf(lockWords)
    .map(([lock, words]) => ({ words, of: obstacles.filter((o) => o.lock === lock) }))
    .filter((g) => g.of.length > 0);
  return (
    <div className="space-y-2" role="group" aria-label={tr`What holds it`}>
      {groups.map(({ words, of }) => (
        <section key={words} className="rounded-lg border-2 border-lead bg-lead-tint px-3 py-2">
          <h3 className="text-lg">
            {words}
            {of.length > 1 && `, ${of.length}`}
          </h3>
          <p className="text-sm">
            {of[0]!.remedy}
            {of[0]!.opens && !mayOpen(of[0]!) && <b> {tr`Here only a lead goes on without.`}</b>}
          </p>
          <ul className="mt-1.5 space-y-1.5">
            {of.map((o) => (
              <li key={nameOf(o)} className="flex flex-wrap items-center gap-x-3 gap-y-1">
                <span className="least-56 flex-1 leading-tight font-semibold">{o.says}</span>
                {o.opens && mayOpen(o) && (
                  <TextField
                    form={form}
                    name={`reasons.${nameOf(o)}`}
                    label={tr`Reason for going on all the same: ${o.says}`}
                    unseen
                    placeholder={tr`why all the same, for this alone`}
                    className="least-56 flex-1"
                  />
                )}
              </li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

/** Name of an obstacle's field; a dot in it would be read as a path. */
const nameOf = (o: Pick<Obstacle, 'lock' | 'of'>) => `${o.lock}_${o.of.replace(/[^\w-]/g, '_')}`;

const stationWords: Record<Schemas['FastenerCount'], string> = {
  inAll: '',
  perCylinder: tr`cylinder`,
  perMain: tr`main`,
  perBank: tr`bank`,
  perCamshaft: tr`camshaft`,
};

function Clock({ step, writes }: { step: Step; writes: Writes }) {
  const mayWrite = useMayWrite();
  const [now, setNow] = useState(() => Date.now());
  const since = step.runningSince ? Date.parse(step.runningSince) : null;
  useEffect(() => {
    if (since === null) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [since]);
  const minutes = step.spent + (since === null ? 0 : Math.max(0, now - since) / 60_000);
  if (!mayWrite && minutes === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <span className="fig text-xl font-bold" role="timer" aria-label={tr`Time on this step`}>
        {clockText(minutes)}
      </span>
      <span className="text-soft">
        <Trans>of about {minutesText(step.minutes)}</Trans>
      </span>
      {mayWrite && step.state === null && (
        <button
          className="key"
          disabled={writes.mark.isPending}
          onClick={() =>
            writes.mark.mutate({ step: step.id, kind: since === null ? 'started' : 'stopped', item: 0 })
          }
        >
          {since === null ? tr`Start the clock` : tr`Stop the clock`}
        </button>
      )}
      {since !== null && minutes >= 12 * 60 && (
        <span className="font-semibold text-brass">
          <Trans>Left running since {moment(step.runningSince!)}.</Trans>
        </span>
      )}
      <Trouble problem={writes.mark.error} />
    </div>
  );
}

const reasonsGiven = z.object({ reason: z.string(), reasons: z.record(z.string(), z.string()) });

type Ending = 'done' | 'skipped' | 'wasOff';

function Finish({
  step,
  writes,
  onDone,
  onEdit,
}: {
  step: Step;
  writes: Writes;
  onDone: () => void;
  onEdit: () => void;
}) {
  const { engineCase } = useCaseContext();
  const { form, settle } = useEntryForm(
    reasonsGiven,
    { reason: '', reasons: {} },
    { draft: `reasons/${engineCase.id}/${step.id}` },
  );
  const reasons = useWatch({ control: form.control, name: 'reasons' });
  const [ending, setEnding] = useState<Ending>('done');
  const [at, setAt] = useState<number[]>([]);
  const [asked, setAsked] = useState(false);
  const locked = step.parts && step.open !== 0 && at.length === 0;
  const left = step.stations.filter((n) => !step.stationsDone.includes(n));
  const holding = asked ? step.obstacles : [];
  const station = stationWords[step.per];
  const record = () => {
    if (writes.step.isPending) return;
    const given = form.getValues();
    writes.step.mutate(
      {
        step: step.id,
        state: ending,
        reason: ending === 'done' ? '' : given.reason,
        overrides:
          ending === 'done'
            ? step.obstacles
                .map((o) => ({ lock: o.lock, of: o.of, reason: given.reasons[nameOf(o)]?.trim() ?? '' }))
                .filter((o) => o.reason)
            : [],
        stations: at,
      },
      {
        onSuccess: () => {
          settle({ reason: '', reasons: {} });
          setAt([]);
          setEnding('done');
          setAsked(false);
          onDone();
        },
        onError: () => setAsked(ending === 'done'),
      },
    );
  };
  const choose = (next: Ending) => {
    setEnding(next === ending ? 'done' : next);
    writes.step.reset();
  };
  // Beside the others in the card and not in a box of their own, so that “Done” is at hand wherever one is in the step.
  return (
    <>
      <hr className="border-line" />
      {locked && (
        <p className="font-semibold text-lead">
          <Trans>
            <span aria-hidden>■ </span>Locked: {step.open} of {step.expected} still hold. Nobody pulls or
            pries before they are out.
          </Trans>
        </p>
      )}
      {step.stations.length > 1 && ending !== 'skipped' && (
        <div role="group" aria-label={tr`Which ${station}`}>
          <span className="label">
            {at.length === 0
              ? tr`For every ${station} that is left, or only`
              : tr`Only ${station} ${at.join(', ')}; the rest stays open`}
          </span>
          <div className="flex flex-wrap gap-1.5">
            {step.stations.map((n) => (
              <button
                key={n}
                className="key min-w-12"
                disabled={step.stationsDone.includes(n)}
                aria-pressed={at.includes(n)}
                onClick={() =>
                  setAt(at.includes(n) ? at.filter((x) => x !== n) : [...at, n].sort((a, b) => a - b))
                }
              >
                {step.stationsDone.includes(n) ? `✓ ${n}` : n}
              </button>
            ))}
          </div>
        </div>
      )}
      {ending === 'done' && <Passing obstacles={holding} form={form} />}
      {ending === 'skipped' && step.closes.length > 0 && (
        <div className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
          <p className="font-bold">{tr`Left out, this keeps closed:`}</p>
          <p>{step.closes.join(' · ')}</p>
        </div>
      )}
      <Trouble problem={ending === 'done' && holding.length > 0 ? null : writes.step.error} />
      {ending !== 'done' && (
        <TextField
          form={form}
          name="reason"
          label={
            ending === 'skipped' ? tr`Why it is left out` : tr`How it came in, or why this engine has none`
          }
        />
      )}
      <div className="sticky bottom-(--at-hand) z-10 -mx-4 flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line bg-paper px-4 py-2 md:-mx-5 md:px-5">
        <button
          className={`key shrink-0 px-6 text-lg ${locked ? '' : 'key-go'}`}
          disabled={writes.step.isPending}
          onClick={record}
        >
          {ending === 'skipped'
            ? tr`Skip this step`
            : ending === 'wasOff'
              ? tr`It was off`
              : holding.some((o) => reasons[nameOf(o)])
                ? tr`Done all the same`
                : at.length > 0 && at.length < left.length
                  ? tr`Done at ${at.join(', ')}`
                  : tr`Done`}
        </button>
        <p
          className={`least-40 flex-1 text-sm ${locked || step.obstacles.length > 0 ? 'text-lead' : 'text-soft'}`}
        >
          {holdsWords(step)}
        </p>
      </div>
      <div className="flex flex-wrap gap-2">
        <button className="key" onClick={() => choose('skipped')}>
          {ending === 'skipped' ? tr`Do it after all` : tr`Skip this step`}
        </button>
        <button className="key" onClick={() => choose('wasOff')}>
          {ending === 'wasOff' ? tr`It was not` : tr`Was off already`}
        </button>
        <button className="key" onClick={onEdit}>
          {tr`Change the step`}
        </button>
      </div>
    </>
  );
}

/** What keeps the step from being done, in the few words that fit beside the key. */
export function holdsWords({
  obstacles,
  open,
  expected,
  parts,
}: Pick<Step, 'obstacles' | 'open' | 'expected' | 'parts'>) {
  const [first, ...more] = obstacles;
  if (first) return more.length > 0 ? tr`${first.says} And ${more.length} more.` : first.says;
  if (parts && open > 0) return tr`${open} of ${expected} fasteners are still in.`;
  return tr`Nothing holds it.`;
}

function Recorded({ step, writes, onEdit }: { step: Step; writes: Writes; onEdit: () => void }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [asks, setAsks] = useState(false);
  const record = engineCase.steps.filter(stands).find((s) => s.step === step.id);
  return (
    <div className="space-y-3 border-t border-line pt-4">
      <p className={`text-lg font-bold ${step.state === 'skipped' ? 'text-brass' : 'text-oil'}`}>
        {step.state === 'done'
          ? tr`✓ Done`
          : step.state === 'wasOff'
            ? tr`✓ Was off when it came`
            : step.stationsDone.length > 0
              ? tr`→ Left out but for ${stationWords[step.per]} ${step.stationsDone.join(', ')}`
              : tr`→ Left out`}
        {record && (
          <span className="text-base font-normal text-soft">
            , {writerOf(record)}, {moment(record.at)}
          </span>
        )}
      </p>
      {step.reason && (
        <p className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-1.5">
          {step.state === 'skipped' ? tr`Why` : step.state === 'wasOff' ? tr`How` : tr`In spite of the lock`}:{' '}
          {step.reason}
        </p>
      )}
      {step.state === 'skipped' && step.closes.length > 0 && (
        <p className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-1.5">
          <b>{tr`Stays closed:`}</b> {step.closes.join(' · ')}
        </p>
      )}
      {step.overrides.map((o) => (
        <p key={o.lock + o.of} className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-1.5">
          <b>
            <Trans>In spite of {lockWords[o.lock].toLowerCase()}</Trans>
            {o.of && ` (${o.of})`}:
          </b>{' '}
          {o.reason}
        </p>
      ))}
      {step.holdPoint && step.state !== 'skipped' && <HoldPoint step={step} writes={writes} />}
      {mayWrite && (
        <div className="flex flex-wrap gap-2">
          <button className="key" aria-expanded={asks} onClick={() => setAsks(!asks)}>
            {tr`Take it back`}
          </button>
          <button className="key" onClick={onEdit}>
            {tr`Change the step`}
          </button>
        </div>
      )}
      {asks && record && (
        <WhyForm
          press={tr`Undo`}
          send={(why) => writes.back.mutateAsync({ id: record.id, version: record.version, why })}
        />
      )}
      <Trouble problem={writes.back.error} />
    </div>
  );
}

/** Checked and signed before the next step; a signature holds for the step as it was, and in the shop where it was given. */
function HoldPoint({ step, writes }: { step: Step; writes: Writes }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const seat = useSeat(engineCase.id).data ?? null;
  const holds = step.signedBy !== null && !step.stale && !step.signedElsewhere;
  const now = step.hold;
  const wantsLook = seat?.secondLooks.includes(step.id) === true && now?.lookedBy === '';
  const [word, setWord] = useState('');
  return (
    <div
      className={`rounded-lg border-2 px-3 py-2 ${holds ? 'border-oil bg-oil-tint' : 'border-brass bg-brass-tint'}`}
    >
      {step.signedBy !== null && (
        <p>
          <Trans>
            <b>Sign-off signed</b> by {writerOf({ by: step.signedBy, imported: step.signedElsewhere })},{' '}
            {moment(step.signedAt!)}
          </Trans>
        </p>
      )}
      {step.stale && <p className="font-bold">{tr`The step has changed since: it is checked again.`}</p>}
      {!holds && (
        <>
          <p className="font-bold">{tr`Sign-off: checked and signed before the next step begins.`}</p>
          {now?.state === 'sentBack' && (
            <p>
              <Trans>
                <b>Sent back</b> by {now.by}, {moment(now.since!)}: “{now.note}”
              </Trans>
            </p>
          )}
          {now?.state === 'waiting' && seat && (
            <p>
              {tr`Waits for`} {seat.teachers.join(tr` or `)} <Trans>since {moment(now.since!)}.</Trans>
            </p>
          )}
          {now?.lookedBy && (
            <p>
              <Trans>A second pair of eyes: {now.lookedBy}.</Trans>
            </p>
          )}
          {wantsLook && <p>{tr`Before it is signed, somebody looks at it who did not do it.`}</p>}
          {mayWrite && now?.state === 'sentBack' && (
            <div className="mt-2 flex flex-wrap items-end gap-2">
              <label className="min-w-0 flex-1">
                <span className="label">{tr`What was put right`}</span>
                <input className="entry" value={word} onChange={(e) => setWord(e.target.value)} />
              </label>
              <button
                className="key key-go"
                disabled={writes.sign.isPending}
                onClick={() => writes.sign.mutate({ step: step.id, note: word, outcome: 'asked' })}
              >
                {tr`Ask for it again`}
              </button>
            </div>
          )}
          {mayWrite && (
            <div className="mt-2 flex flex-wrap gap-2">
              {(seat === null || seat.maySign) && (
                <button
                  className="key key-go"
                  disabled={writes.sign.isPending}
                  onClick={() => writes.sign.mutate({ step: step.id, note: '', outcome: 'signed' })}
                >
                  {tr`I have checked it: sign`}
                </button>
              )}
              {wantsLook && (
                <button
                  className="key"
                  disabled={writes.sign.isPending}
                  onClick={() => writes.sign.mutate({ step: step.id, note: '', outcome: 'looked' })}
                >
                  {tr`I did not do it, and looked at it`}
                </button>
              )}
              {seat?.maySign && (
                <Link className="key inline-flex items-center" to={`/bench/${seat.benchId}`}>
                  {tr`The bench`}
                </Link>
              )}
            </div>
          )}
          <Trouble problem={writes.sign.error} />
        </>
      )}
    </div>
  );
}

/** What can no longer be read once the step has parted what it is read on. */
function MeasureFirst({ step }: { step: string }) {
  const { engineCase, knowledge } = useCaseContext();
  const due = useRoomSoon(engineCase.id, 'gauge')?.due.filter((d) => d.step === step) ?? [];
  if (due.length === 0) return null;
  return (
    <div className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
      <p className="font-bold">{tr`Measure first, while it is together`}</p>
      <div className="flex flex-wrap gap-x-2 gap-y-1 pt-1">
        {due.map((d) => (
          <Link
            key={d.characteristic + d.stratum}
            className="key inline-flex items-center gap-2 px-3"
            to={`/cases/${engineCase.id}/gauge?round=${d.characteristic}`}
          >
            {byId(knowledge.characteristics).get(d.characteristic)?.name ?? d.characteristic}
            {d.left > 1 && (
              <span className="text-sm font-normal text-soft">
                <Trans>
                  at <span className="fig">{d.left}</span> parts
                </Trans>
              </span>
            )}
          </Link>
        ))}
      </div>
    </div>
  );
}
