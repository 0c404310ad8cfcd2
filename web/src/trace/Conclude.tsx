import { type Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Choice, Field, moment, percent, Trouble } from '../ui/basics';
import { confidenceWords, entriesOf, faultWords, stands } from '../ui/words';
import { useDraft } from '../ui/useDraft';
import { useMayWrite } from '../api/queries';

/** The mechanic's own finding; it stands beside the computation's, and both go into the dossier. */
export function Conclude() {
  const { engineCase, knowledge } = useCaseContext();
  const trace = useRoom(engineCase.id, 'trace');
  const mayWrite = useMayWrite();
  const standing = engineCase.conclusions.filter(stands).at(-1);
  const first = trace.ranking[0];
  const { draft, set, settle } = useDraft(`conclusion/${engineCase.id}`, {
    cause: '',
    place: '',
    confidence: 'possible' as Schemas['Confidence'],
    fault: 'notKnown' as Schemas['Fault'],
    reasons: '',
  });
  const write = useWrite(engineCase.id, writes.conclusion, () => {
    settle({ cause: '', place: '', confidence: 'possible', fault: 'notKnown', reasons: '' });
  });
  const name = (cause: string) =>
    knowledge.causes.find((s) => s.id === cause)?.name ?? 'None of the causes known here';
  return (
    <section className="card p-4 md:p-5">
      <h2 className="text-xl">Your own finding</h2>
      {standing && (
        <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-2">
          <div>
            <p className="label">The mechanic</p>
            <p className="text-lg leading-snug">
              <b>{confidenceWords[standing.confidence]}:</b> {name(standing.cause)}{' '}
              {standing.place && <Addr code={standing.place} />}
            </p>
            <p>{standing.reasons}</p>
            <p>
              Whose doing: <b>{faultWords[standing.fault].toLowerCase()}</b>
            </p>
            <p className="text-sm text-soft">
              {standing.by}, {moment(standing.at)}
            </p>
          </div>
          <Beside conclusion={standing} name={name} now={first} />
        </div>
      )}
      {mayWrite && (
        <details className="mt-3" open={!standing}>
          <summary className="key inline-flex cursor-pointer items-center">
            {standing ? 'Find otherwise' : 'Write it down'}
          </summary>
          <form
            className="mt-3 max-w-3xl space-y-3"
            onSubmit={(e) => {
              e.preventDefault();
              if (!write.isPending) write.mutate(draft);
            }}
          >
            <div className="grid gap-3 sm:grid-cols-[minmax(0,1fr)_8rem]">
              <Field label="Cause">
                <select
                  className="entry"
                  value={draft.cause}
                  onChange={(e) => set({ cause: e.target.value })}
                >
                  <option value="">None of these, or not known</option>
                  {knowledge.causes.map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.name}
                    </option>
                  ))}
                </select>
              </Field>
              <Field label="Place">
                <input
                  className="entry fig uppercase"
                  placeholder="R4"
                  value={draft.place}
                  onChange={(e) => set({ place: e.target.value })}
                />
              </Field>
            </div>
            <Choice
              label="How sure"
              value={draft.confidence}
              options={entriesOf(confidenceWords)}
              onChange={(confidence) => set({ confidence })}
            />
            <Choice
              label="Whose doing, in fairness"
              value={draft.fault}
              options={entriesOf(faultWords)}
              onChange={(fault) => set({ fault })}
            />
            <Field label="Reasons">
              <textarea
                className="entry"
                rows={3}
                value={draft.reasons}
                onChange={(e) => set({ reasons: e.target.value })}
              />
            </Field>
            <Trouble problem={write.error} />
            <button className="key key-go" disabled={write.isPending}>
              Put it in the dossier
            </button>
          </form>
        </details>
      )}
    </section>
  );
}

/** What the computation said when the finding was written, and whether it has changed since. */
function Beside({
  conclusion: c,
  name,
  now,
}: {
  conclusion: Schemas['Conclusion'];
  name: (cause: string) => string;
  now: Schemas['RankedHypothesis'] | undefined;
}) {
  if (!c.computedCause) return null;
  const agreed = c.computedCause === c.cause && (c.place === '' || c.place === c.computedPlace);
  return (
    <div>
      <p className="label">The computation, at that time</p>
      <p className="text-lg leading-snug">
        <b>{agreed ? 'Agreed:' : 'Put first:'}</b> {name(c.computedCause)} <Addr code={c.computedPlace} />
        {c.computed !== null && <>, {percent(c.computed)}</>}
      </p>
      {!agreed && c.cause && (
        <p>
          {c.computedForThis === null
            ? 'What the mechanic found was not among its first ten.'
            : `It gave ${percent(c.computedForThis)} to what the mechanic found.`}
        </p>
      )}
      {now && (now.cause !== c.computedCause || now.place !== c.computedPlace) && (
        <p className="text-soft">
          By now it puts {now.name} <Addr code={now.place} /> first, {percent(now.probability)}.
        </p>
      )}
    </div>
  );
}
