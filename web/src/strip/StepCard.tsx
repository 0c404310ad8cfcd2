import { useEffect, useRef, useState } from 'react';
import { useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import { type Schemas } from '../api/client';
import { useMe, useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { PhotoStrip } from '../pictures/Photos';
import { Addr, moment, Trouble } from '../ui/basics';
import { TextField, useEntryForm } from '../ui/form';
import { WhyForm } from '../ui/WhyForm';
import { lockWords, stands, writerOf } from '../ui/words';
import { Fasteners } from './Fasteners';
import { Lessons } from './Lessons';
import { attitudeWords, clockText, minutesText, useStripWrites, type Step } from './useStrip';

/** One step at the bench: what to do, how the engine must lie, what must be out, and when it may be called done. */
export function StepCard({ step, onDone, onEdit }: { step: Step; onDone: () => void; onEdit: () => void }) {
  const { engineCase, openPart } = useCaseContext();
  const mayWrite = useMayWrite();
  const writes = useStripWrites(engineCase.id);
  const [stuck, setStuck] = useState(false);
  const [all, setAll] = useState(false);
  const { data: me } = useMe();
  const open = step.state === null;
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
            Engine {attitudeWords[step.attitude]}
          </span>
          {step.end && (
            <span className="rounded-md border-2 border-line px-2 py-0.5">
              {step.end === 'freeEnd' ? 'Free end' : 'Drive end'}
            </span>
          )}
          {step.helper && (
            <span className="rounded-md border-2 border-brass bg-brass-tint px-2 py-0.5">Two people</span>
          )}
          <span className="text-soft">
            about {minutesText(step.minutes)}
            {step.tools.length > 0 && ` · ${step.tools.join(', ')}`}
          </span>
        </div>
        <h2 className="mt-2 text-2xl md:text-3xl">{step.name}</h2>
        <p className="mt-1 text-lg">{step.does}</p>
        {step.crank && (
          <p className="mt-2">
            <b>Crank:</b> {step.crank}
          </p>
        )}
        {step.pattern && (
          <p className="mt-1">
            <b>Loosen:</b> {step.pattern}
          </p>
        )}
        {step.why && <p className="mt-1 text-sm text-soft">Why now: {step.why}</p>}
      </div>
      <Lessons step={step} />
      {step.cautions.length > 0 && (
        <ul className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-2">
          {step.cautions.map((c) => (
            <li key={c}>{c}</li>
          ))}
          <li className="text-sm">The maker’s manual and local rules come first.</li>
        </ul>
      )}
      {open && (step.unsigned || step.blockedBy.length > 0) && (
        <div className="rounded-lg border-2 border-line px-3 py-2">
          <p className="font-bold">First:</p>
          {step.unsigned && <p>“{step.unsigned}” is a hold point and is not signed yet.</p>}
          {step.blockedBy.map((b) => (
            <p key={b}>{b}</p>
          ))}
        </div>
      )}
      {open && step.unread.length > 0 && (
        <div className="rounded-lg border-2 border-lead bg-lead-tint px-3 py-2">
          <p className="font-bold">This destroys evidence that nobody has read yet:</p>
          <ul className="mt-1 space-y-1">
            {step.unread.slice(0, all ? undefined : 6).map((u) => (
              <li key={u.place} className="flex items-center gap-2">
                <button className="key shrink-0 px-2" onClick={() => openPart(u.place)}>
                  <Addr code={u.place} />
                </button>
                <span className="text-sm">
                  {u.signs.length > 0 ? u.signs.join(', ') : 'nobody has looked at it'}
                </span>
              </li>
            ))}
          </ul>
          {step.unread.length > 6 && (
            <button className="key mt-1" aria-expanded={all} onClick={() => setAll(!all)}>
              {all ? 'Fewer' : `All ${step.unread.length} places`}
            </button>
          )}
          <p className="mt-1 text-sm">
            {me?.role === 'lead'
              ? 'As a lead you may go on without, with a reason that stays visible.'
              : 'Only a lead may go on without, with a reason that stays visible.'}
          </p>
        </div>
      )}
      {step.ticks.length > 0 && (
        <ul className="space-y-1.5" aria-label="To tick off">
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
                {t}
              </button>
            </li>
          ))}
        </ul>
      )}
      {step.sets.length > 0 && <Fasteners step={step} writes={writes} />}
      {open && (step.photos.length > 0 || photosOf(step.id, engineCase).length > 0) && (
        <div>
          <h3 className="text-lg">Photograph first</h3>
          <p className="mb-1 text-soft">{step.photos.join(' · ')}</p>
          <StepPhotos step={step} />
        </div>
      )}
      {(step.mayHold.length > 0 || step.parts) && open && (
        <div>
          <button className="key" aria-expanded={stuck} onClick={() => setStuck(!stuck)}>
            It will not move
          </button>
          {stuck && (
            <div className="mt-2 rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
              <p className="font-bold">Stop. What may still hold it:</p>
              <ol className="list-decimal pl-6">
                {step.mayHold.map((h) => (
                  <li key={h}>{h}</li>
                ))}
              </ol>
              {step.mayHold.length === 0 && <p>Nothing counted. Look for sealant, dowels, suction.</p>}
            </div>
          )}
        </div>
      )}
      <Clock step={step} writes={writes} />
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

const locks = Object.keys(lockWords) as Schemas['StepLock'][];

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
      <span className="fig text-xl font-bold" role="timer" aria-label="Time on this step">
        {clockText(minutes)}
      </span>
      <span className="text-soft">of about {minutesText(step.minutes)}</span>
      {mayWrite && step.state === null && (
        <button
          className="key"
          disabled={writes.mark.isPending}
          onClick={() =>
            writes.mark.mutate({ step: step.id, kind: since === null ? 'started' : 'stopped', item: 0 })
          }
        >
          {since === null ? 'Start the clock' : 'Stop the clock'}
        </button>
      )}
      {since !== null && minutes >= 12 * 60 && (
        <span className="font-semibold text-brass">Left running since {moment(step.runningSince!)}.</span>
      )}
      <Trouble problem={writes.mark.error} />
    </div>
  );
}

const reasonGiven = z.object({ reason: z.string() });

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
    reasonGiven,
    { reason: '' },
    { draft: `reason/${engineCase.id}/${step.id}` },
  );
  const reason = useWatch({ control: form.control, name: 'reason' });
  const [skipping, setSkipping] = useState(false);
  const [opened, setOpened] = useState<Schemas['StepOverride'][]>([]);
  const locked = step.parts && step.open !== 0;
  // What was refused for fasteners that are out by now is settled.
  const settled = !locked && writes.step.error?.of('fastenersOut') !== undefined;
  const refused = settled ? null : writes.step.error;
  const lock = skipping ? undefined : locks.find((l) => refused?.of(l));
  const asks = lock !== undefined || skipping;
  const record = () => {
    if (writes.step.isPending) return;
    const overrides =
      lock && reason.trim() ? [...opened.filter((o) => o.lock !== lock), { lock, reason }] : opened;
    setOpened(overrides);
    // Once it is at its lock it stays there; why a step is left out stands until that is written.
    if (!skipping) settle({ reason: '' });
    writes.step.mutate(
      skipping
        ? { step: step.id, state: 'skipped', reason, overrides: [] }
        : { step: step.id, state: 'done', reason: '', overrides },
      {
        onSuccess: () => {
          settle({ reason: '' });
          onDone();
        },
      },
    );
  };
  return (
    <div className="space-y-3 border-t border-line pt-4">
      {locked && (
        <p className="font-semibold text-lead">
          <span aria-hidden>■ </span>Locked: {step.open} of {step.expected} still hold. Nobody pulls or pries
          before they are out.
        </p>
      )}
      {opened
        .filter((o) => o.lock !== lock)
        .map((o) => (
          <p key={o.lock} className="text-sm">
            <b>{lockWords[o.lock]}:</b> {o.reason}
          </p>
        ))}
      <Trouble problem={refused} />
      {asks && (
        <TextField
          form={form}
          name="reason"
          label={
            skipping
              ? 'Why it is left out'
              : 'Reason for going on in spite of this; it opens this lock only and stays visible'
          }
        />
      )}
      <div className="flex flex-wrap gap-2">
        <button
          className={`key px-6 text-lg ${locked ? '' : 'key-go'}`}
          disabled={writes.step.isPending}
          onClick={record}
        >
          {skipping ? 'Leave it out' : asks && reason ? 'Done all the same' : 'Done'}
        </button>
        <button className="key" onClick={() => setSkipping(!skipping)}>
          {skipping ? 'Do it after all' : 'Leave it out'}
        </button>
        <button className="key" onClick={onEdit}>
          Change the step
        </button>
      </div>
    </div>
  );
}

function Recorded({ step, writes, onEdit }: { step: Step; writes: Writes; onEdit: () => void }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [asks, setAsks] = useState(false);
  const record = engineCase.steps.filter(stands).find((s) => s.step === step.id);
  return (
    <div className="space-y-3 border-t border-line pt-4">
      <p className={`text-lg font-bold ${step.state === 'done' ? 'text-oil' : 'text-brass'}`}>
        {step.state === 'done' ? '✓ Done' : '→ Left out'}
        {record && (
          <span className="text-base font-normal text-soft">
            , {writerOf(record)}, {moment(record.at)}
          </span>
        )}
      </p>
      {step.reason && (
        <p className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-1.5">
          {step.state === 'skipped' ? 'Why' : 'In spite of the lock'}: {step.reason}
        </p>
      )}
      {step.overrides.map((o) => (
        <p key={o.lock} className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-1.5">
          <b>In spite of {lockWords[o.lock].toLowerCase()}:</b> {o.reason}
        </p>
      ))}
      {step.holdPoint && step.state === 'done' && (
        <div
          className={`rounded-lg border-2 px-3 py-2 ${step.signedBy ? 'border-oil bg-oil-tint' : 'border-brass bg-brass-tint'}`}
        >
          {step.signedBy ? (
            <p>
              <b>Hold point signed</b> by {writerOf({ by: step.signedBy, imported: step.signedElsewhere })},{' '}
              {moment(step.signedAt!)}
            </p>
          ) : (
            <>
              <p className="font-bold">Hold point: checked and signed before the next step begins.</p>
              {mayWrite && (
                <button
                  className="key key-go mt-2"
                  disabled={writes.sign.isPending}
                  onClick={() => writes.sign.mutate({ step: step.id, note: '' })}
                >
                  I have checked it: sign
                </button>
              )}
              <Trouble problem={writes.sign.error} />
            </>
          )}
        </div>
      )}
      {mayWrite && (
        <div className="flex flex-wrap gap-2">
          <button className="key" aria-expanded={asks} onClick={() => setAsks(!asks)}>
            Take it back
          </button>
          <button className="key" onClick={onEdit}>
            Change the step
          </button>
        </div>
      )}
      {asks && record && (
        <WhyForm
          press="Take back"
          send={(why) => writes.back.mutateAsync({ id: record.id, version: record.version, why })}
        />
      )}
      <Trouble problem={writes.back.error} />
    </div>
  );
}
