import { useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import type { CaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { moment, Trouble } from '../ui/basics';
import { EntryForm, given, KeysField, oneOf, TextField, useEntryForm } from '../ui/form';
import { actionWords, entriesOf, latestVerdicts, writerOf } from '../ui/words';
import { useMayWrite } from '../api/queries';

const schema = z.object({
  action: given(z.nullable(oneOf(actionWords)), 'Choose what becomes of it.'),
  reason: z.string(),
});

/** What becomes of a part, with reason and figure; the rules advise, the mechanic decides. */
export function VerdictForm({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase } = context;
  const mayWrite = useMayWrite();
  const advice = useRoom(engineCase.id, 'advice').find((a) => a.place === address);
  const standing = latestVerdicts(engineCase.verdicts).get(address);
  const advised = { action: advice?.action ?? null, reason: advice?.reason ?? '' };
  const { form, settle } = useEntryForm(schema, advised, { draft: `verdict/${engineCase.id}/${address}` });
  const chosen = useWatch({ control: form.control, name: 'action' });
  const write = useWrite(engineCase.id, writes.verdict, () => settle(advised));
  return (
    <div className="space-y-4">
      {standing && (
        <div className="rounded-lg border-2 border-dye bg-dye-tint p-3">
          <p className="text-xl font-bold">{actionWords[standing.action]}</p>
          <p>{standing.reason}</p>
          <p className="text-sm text-soft">
            {advice?.decided || 'No figure.'} · {writerOf(standing)}, {moment(standing.at)}
          </p>
        </div>
      )}
      {advice && (
        <div>
          <p className="text-sm font-semibold text-soft">The rules would say</p>
          <p className="font-bold">{advice.action ? actionWords[advice.action] : 'Nothing yet'}</p>
          <p>{advice.reason}</p>
          <p className="text-sm text-soft">
            {advice.figure || 'No figure yet: a verdict without one is an opinion.'}
          </p>
        </div>
      )}
      {mayWrite && (
        <EntryForm
          form={form}
          send={(values) => write.mutateAsync({ place: address, ...values })}
          className="space-y-3 border-t border-line pt-3"
        >
          <KeysField
            form={form}
            name="action"
            label={standing ? 'Decide otherwise' : 'Decide'}
            options={entriesOf(actionWords).filter(([a]) => !advice?.never.includes(a))}
          />
          {advice && advice.never.length > 0 && (
            <p className="text-sm text-soft">
              Not to be decided here: {advice.never.map((a) => actionWords[a].toLowerCase()).join(', ')}.
            </p>
          )}
          <TextField form={form} name="reason" label="Reason" rows={3} />
          <Trouble problem={write.error} />
          <button className="key key-go w-full" disabled={!chosen || write.isPending}>
            {chosen ? `${actionWords[chosen]} ${address}` : 'Choose first'}
          </button>
        </EntryForm>
      )}
    </div>
  );
}
