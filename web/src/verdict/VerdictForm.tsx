import { useState } from 'react';
import { type Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { Choice, Field, moment, Trouble } from '../ui/basics';
import { actionWords, entriesOf, stands } from '../ui/words';
import { useMayWrite } from '../api/queries';

/** What becomes of a part, with reason and figure; the rules advise, the mechanic decides. */
export function VerdictForm({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase } = context;
  const mayWrite = useMayWrite();
  const advice = useRoom(engineCase.id, 'advice').find((a) => a.place === address);
  const standing = engineCase.verdicts.filter((v) => v.place === address && stands(v)).at(-1);
  const [action, setAction] = useState<Schemas['VerdictAction'] | null>(null);
  const [reason, setReason] = useState<string | null>(null);
  const write = useWrite(engineCase.id, writes.verdict, () => {
    setAction(null);
    setReason(null);
  });
  const chosen = action ?? advice?.action ?? null;
  const words = reason ?? advice?.reason ?? '';
  return (
    <div className="space-y-4">
      {standing && (
        <div className="rounded-lg border-2 border-dye bg-dye-tint p-3">
          <p className="text-xl font-bold">{actionWords[standing.action]}</p>
          <p>{standing.reason}</p>
          <p className="text-sm text-soft">
            {standing.figure || 'No figure.'} · {standing.by}, {moment(standing.at)}
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
        <form
          className="space-y-3 border-t border-line pt-3"
          onSubmit={(e) => {
            e.preventDefault();
            if (chosen && !write.isPending) write.mutate({ place: address, action: chosen, reason: words });
          }}
        >
          <Choice
            label={standing ? 'Decide otherwise' : 'Decide'}
            value={chosen}
            options={entriesOf(actionWords).filter(([a]) => !advice?.never.includes(a))}
            onChange={setAction}
          />
          {advice && advice.never.length > 0 && (
            <p className="text-sm text-soft">
              Not to be decided here: {advice.never.map((a) => actionWords[a].toLowerCase()).join(', ')}.
            </p>
          )}
          <Field label="Reason">
            <textarea className="entry" rows={3} value={words} onChange={(e) => setReason(e.target.value)} />
          </Field>
          <Trouble problem={write.error} />
          <button className="key key-go w-full" disabled={!chosen || write.isPending}>
            {chosen ? `${actionWords[chosen]} ${address}` : 'Choose first'}
          </button>
        </form>
      )}
    </div>
  );
}
