import { useState } from 'react';
import { v7 } from 'uuid';
import { api, unwrap, type Schemas } from '../api/client';
import { useWrite } from '../api/queries';
import { useCaseContext } from '../casebook/CaseShell';
import { useMayWrite } from '../shop/Header';
import { Addr, Field, Trouble } from '../ui/basics';

const attitudeWords = { upright: 'upright', inverted: 'upside down', onEnd: 'on its end' };

export function Strip() {
  const { answers } = useCaseContext();
  const plan = answers.strip;
  const [open, setOpen] = useState<string | null>(null);
  const current = plan.steps.find((s) => s.id === (open ?? plan.next));
  const done = plan.steps.filter((s) => s.state !== null).length;
  return (
    <div className="grid gap-6 lg:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
      <div>
        {current ? (
          <StepCard key={current.id} step={current} onDone={() => setOpen(null)} />
        ) : (
          <p className="sheet p-6 text-lg">Every step of the strip is recorded. The rest is on the bench.</p>
        )}
      </div>
      <section>
        <h2 className="text-xl">
          The strip, {done} of {plan.steps.length} steps
        </h2>
        <p className="mb-2 text-soft">
          <b className="fig">{plan.fastenersOut}</b> fasteners out ·{' '}
          {plan.attitudeChanges === 1 ? 'turned over once' : `turned ${plan.attitudeChanges} times`}
        </p>
        <ol className="sheet divide-y divide-line">
          {plan.steps.map((s, i) => (
            <li key={s.id}>
              <button
                className={`flex min-h-11 w-full items-center gap-3 px-3 py-1 text-left ${current?.id === s.id ? 'bg-dye-tint' : ''}`}
                onClick={() => setOpen(s.id)}
              >
                <span className="fig w-6 text-right text-soft">{i + 1}</span>
                <span
                  className={`w-16 text-sm font-semibold ${s.state === 'done' ? 'text-oil' : s.state ? 'text-brass' : 'text-soft'}`}
                >
                  {s.state === 'done'
                    ? '✓ done'
                    : s.state === 'skipped'
                      ? '→ skipped'
                      : s.blockedBy.length > 0
                        ? 'waits'
                        : 'open'}
                </span>
                <span className="flex-1">{s.name}</span>
                {s.holdPoint && <span className="text-sm text-soft">hold point</span>}
              </button>
            </li>
          ))}
        </ol>
      </section>
    </div>
  );
}

function StepCard({ step, onDone }: { step: Schemas['PlannedStep']; onDone: () => void }) {
  const { engineCase, openPart } = useCaseContext();
  const mayWrite = useMayWrite();
  const [out, setOut] = useState(0);
  const [reason, setReason] = useState('');
  const [id] = useState(() => v7());
  const write = useWrite(engineCase.id, (state: Schemas['StepState']) =>
    unwrap(
      api.POST('/api/cases/{caseId}/steps', {
        params: { path: { caseId: engineCase.id } },
        body: { id, step: step.id, state, fastenersOut: state === 'done' ? out : 0, reason },
      }),
    ).then((r) => {
      onDone();
      return r;
    }),
  );
  const agrees = out === step.fasteners;
  return (
    <article className="sheet space-y-4 p-5">
      <div>
        <p className="text-sm font-semibold text-soft">
          Engine {attitudeWords[step.attitude]} · about {step.minutes} min
          {step.tools.length > 0 && ` · ${step.tools.join(', ')}`}
        </p>
        <h2 className="text-2xl">{step.name}</h2>
        <p className="mt-1 text-lg">{step.does}</p>
      </div>
      {step.cautions.length > 0 && (
        <ul className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-2">
          {step.cautions.map((c) => (
            <li key={c}>{c}</li>
          ))}
          <li className="text-sm">The maker’s manual and local rules come first.</li>
        </ul>
      )}
      {step.blockedBy.length > 0 && (
        <div className="rounded-lg border-2 border-line px-3 py-2">
          <p className="font-bold">First:</p>
          {step.blockedBy.map((b) => (
            <p key={b}>{b}</p>
          ))}
        </div>
      )}
      {step.unread.length > 0 && step.state === null && (
        <div className="rounded-lg border-2 border-lead bg-lead-tint px-3 py-2">
          <p className="font-bold">This spoils evidence that nobody has read yet:</p>
          <p className="flex flex-wrap gap-2 pt-1">
            {step.unread.map((a) => (
              <button key={a} className="key px-2" onClick={() => openPart(a)}>
                <Addr code={a} />
              </button>
            ))}
          </p>
        </div>
      )}
      {step.state !== null ? (
        <p className="text-lg font-bold text-oil">{step.state === 'done' ? '✓ Done.' : '→ Skipped.'}</p>
      ) : (
        mayWrite && (
          <>
            {step.fasteners > 0 && (
              <div>
                <span className="label" id="out">
                  Fasteners out
                </span>
                <div className="flex flex-wrap items-center gap-2" role="group" aria-labelledby="out">
                  <button
                    className="key text-xl"
                    aria-label="One less"
                    disabled={out === 0}
                    onClick={() => setOut(out - 1)}
                  >
                    −
                  </button>
                  <output
                    className={`fig min-w-28 text-center text-4xl font-bold ${agrees ? 'text-oil' : ''}`}
                  >
                    {out}
                    <span className="text-xl text-soft">/{step.fasteners}</span>
                  </output>
                  <button className="key text-xl" aria-label="One more" onClick={() => setOut(out + 1)}>
                    +
                  </button>
                  <button className="key" onClick={() => setOut(step.fasteners)}>
                    All {step.fasteners} counted
                  </button>
                </div>
                {step.fastenerNote && <p className="mt-2">{step.fastenerNote}</p>}
              </div>
            )}
            <Field label="Reason, if the count differs or the step is left out">
              <input className="entry" value={reason} onChange={(e) => setReason(e.target.value)} />
            </Field>
            <Trouble problem={write.error} />
            <div className="flex flex-wrap gap-2">
              <button
                className="key key-go px-6 text-lg"
                disabled={write.isPending}
                onClick={() => write.mutate('done')}
              >
                Done
              </button>
              <button className="key" disabled={write.isPending} onClick={() => write.mutate('skipped')}>
                Skip
              </button>
            </div>
          </>
        )
      )}
    </article>
  );
}
