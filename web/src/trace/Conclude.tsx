import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import * as z from 'zod/mini';
import { type Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { Addr, moment, percent, Trouble } from '../ui/basics';
import { EntryForm, KeysField, ListField, oneOf, TextField, useEntryForm } from '../ui/form';
import { confidenceWords, entriesOf, faultWords, stands, writerOf } from '../ui/words';
import { useMayWrite } from '../api/queries';

const schema = z.object({
  cause: z.string(),
  place: z.string(),
  confidence: oneOf(confidenceWords),
  fault: oneOf(faultWords),
  reasons: z.string(),
});

const blank: z.input<typeof schema> = {
  cause: '',
  place: '',
  confidence: 'possible',
  fault: 'notKnown',
  reasons: '',
};

/** The mechanic's own finding; it stands beside the computation's, and both go into the dossier. */
export function Conclude() {
  const { engineCase, knowledge } = useCaseContext();
  const trace = useRoom(engineCase.id, 'trace');
  const mayWrite = useMayWrite();
  const standing = engineCase.conclusions.filter(stands).at(-1);
  const first = trace.ranking[0];
  const { form, settle } = useEntryForm(schema, blank, { draft: `conclusion/${engineCase.id}` });
  const write = useWrite(engineCase.id, writes.conclusion, () => settle(blank));
  const name = (cause: string) =>
    knowledge.causes.find((s) => s.id === cause)?.name ?? tr`None of the causes known here`;
  return (
    <section className="card p-4 md:p-5">
      <h2 className="text-xl">{tr`Your own finding`}</h2>
      {standing && (
        <div className="mt-2 grid gap-x-6 gap-y-3 sm:grid-cols-2">
          <div>
            <p className="label">{tr`The mechanic`}</p>
            <p className="text-lg leading-snug">
              <b>{confidenceWords[standing.confidence]}:</b> {name(standing.cause)}{' '}
              {standing.place && <Addr code={standing.place} />}
            </p>
            <p>{standing.reasons}</p>
            <p>
              <Trans>
                Whose doing: <b>{faultWords[standing.fault].toLowerCase()}</b>
              </Trans>
            </p>
            <p className="text-sm text-soft">
              {writerOf(standing)}, {moment(standing.at)}
            </p>
          </div>
          <Beside conclusion={standing} name={name} now={first} />
        </div>
      )}
      {mayWrite && (
        <details className="mt-3" open={!standing}>
          <summary className="key inline-flex cursor-pointer items-center">
            {standing ? tr`Change my finding` : tr`Save`}
          </summary>
          <EntryForm form={form} send={write.mutateAsync} className="mt-3 max-w-3xl space-y-3">
            <div className="grid gap-3 sm:grid-cols-[minmax(0,1fr)_8rem]">
              <ListField
                form={form}
                name="cause"
                label={tr`Cause`}
                first={tr`None of these, or not known`}
                words={knowledge.causes.map((s) => [s.id, s.name] as const)}
              />
              <TextField
                form={form}
                name="place"
                label={tr`Place`}
                placeholder="R4"
                className="fig uppercase"
              />
            </div>
            <KeysField
              form={form}
              name="confidence"
              label={tr`How sure`}
              options={entriesOf(confidenceWords)}
            />
            <KeysField
              form={form}
              name="fault"
              label={tr`Whose doing, in fairness`}
              options={entriesOf(faultWords)}
            />
            <TextField form={form} name="reasons" label={tr`Reasons`} rows={3} />
            <Trouble problem={write.error} />
            <button className="key key-go" disabled={write.isPending}>
              {tr`Put it in the dossier`}
            </button>
          </EntryForm>
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
      <p className="label">{tr`The computation, at that time`}</p>
      <p className="text-lg leading-snug">
        <b>{agreed ? tr`Agreed:` : tr`Put first:`}</b> {name(c.computedCause)} <Addr code={c.computedPlace} />
        {c.computed !== null && <>, {percent(c.computed)}</>}
      </p>
      {!agreed && c.cause && (
        <p>
          {c.computedForThis === null
            ? tr`What the mechanic found was not among its first ten.`
            : tr`It gave ${percent(c.computedForThis)} to what the mechanic found.`}
        </p>
      )}
      {now && (now.cause !== c.computedCause || now.place !== c.computedPlace) && (
        <p className="text-soft">
          <Trans>
            By now it puts {now.name} <Addr code={now.place} /> first, {percent(now.probability)}.
          </Trans>
        </p>
      )}
    </div>
  );
}
