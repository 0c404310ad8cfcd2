import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import { useMayWrite } from '../api/queries';
import type { CaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { moment, Trouble } from '../ui/basics';
import { EntryForm, given, ListField, TextField, useEntryForm } from '../ui/form';
import { WhyForm } from '../ui/WhyForm';
import { actionWords, latestVerdicts, writerOf } from '../ui/words';
import { groundWords, offered } from './places';
import { Tests } from './Tests';

const schema = z.object({
  course: given(z.nullable(z.string()), tr`Choose what becomes of it.`),
  reason: z.string(),
});

/** What becomes of one part, with reason and figure; the rules advise, the mechanic decides. */
export function VerdictForm({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase, knowledge, section } = context;
  const mayWrite = useMayWrite();
  const advice = useRoom(engineCase.id, 'verdict').places.find((a) => a.place === address);
  const standing = latestVerdicts(engineCase.verdicts).get(address);
  const advised = { course: advice?.course || null, reason: '' };
  const { form, settle } = useEntryForm(schema, advised, { draft: `verdict/${engineCase.id}/${address}` });
  const chosen = useWatch({ control: form.control, name: 'course' });
  const write = useWrite(engineCase.id, writes.verdict, () => settle(advised));
  const [back, setBack] = useState(false);
  const takeBack = useWrite(engineCase.id, writes.verdictBack, () => setBack(false));
  const kind = section.cells.find((c) => c.address === address)?.kind ?? '';
  const choices = offered(knowledge.courses, [kind], advice?.never ?? []);
  const nameOf = (id: string) => knowledge.courses.find((c) => c.id === id)?.name;
  return (
    <div className="space-y-4">
      {standing && (
        <div className="rounded-lg border-2 border-dye bg-dye-tint p-3">
          <p className="text-xl font-bold">✓ {nameOf(standing.course) ?? actionWords[standing.action]}</p>
          <p>{standing.reason || standing.advisedWhy}</p>
          {standing.advised !== standing.course && standing.advisedWhy && (
            <p className="text-sm">
              {tr`Advised then:`} {nameOf(standing.advised) ?? tr`nothing`}. {standing.advisedWhy}
            </p>
          )}
          <p className="text-sm text-soft">
            {advice?.decided || tr`No figure.`} · {writerOf(standing)}, {moment(standing.at)}
          </p>
          {mayWrite && (
            <button className="text-sm underline" onClick={() => setBack(!back)}>
              {tr`Undo`}
            </button>
          )}
          {back && (
            <WhyForm
              press={tr`Undo`}
              send={(why) => takeBack.mutateAsync({ id: standing.id, version: standing.version, why })}
            />
          )}
          <Trouble problem={takeBack.error} />
        </div>
      )}
      {advice && (
        <div className="space-y-1">
          <p className="text-sm font-semibold text-soft">{tr`The rules say`}</p>
          <p className="text-lg font-bold">{nameOf(advice.course) ?? groundWords[advice.ground]}</p>
          <p>{advice.reason}</p>
          <p className="text-sm text-soft">
            {advice.figure || tr`No figure yet: a verdict without one is an opinion.`}
          </p>
          {advice.rules.length > 1 && (
            <details className="text-sm">
              <summary className="min-h-9 cursor-pointer">
                <Trans>What else speaks ({advice.rules.length - 1})</Trans>
              </summary>
              <ul className="list-disc space-y-1 pl-5">
                {advice.rules.slice(1).map((r) => (
                  <li key={r.rule}>
                    {nameOf(r.course) && <b>{nameOf(r.course)}. </b>}
                    {r.because.length > 0 && `${r.because.map((b) => b.replace(/\.$/, '')).join('; ')}. `}
                    {r.why} <span className="text-soft">({r.provenance})</span>
                  </li>
                ))}
              </ul>
            </details>
          )}
        </div>
      )}
      {advice && advice.asks.length > 0 && <Tests asks={[advice]} />}
      {mayWrite && (
        <EntryForm
          form={form}
          send={(values) => write.mutateAsync({ place: address, ...values })}
          className="space-y-3 border-t border-line pt-3"
        >
          <ListField
            form={form}
            name="course"
            label={standing ? tr`Decide otherwise` : tr`Decide`}
            first="Choose"
            orNull
            words={choices.map(
              (c) => [c.id, c.id === advice?.course ? tr`${c.name} (advised)` : c.name] as const,
            )}
          />
          {advice && advice.never.length > 0 && (
            <p className="text-sm text-soft">
              <Trans>
                Not to be decided here: {advice.never.map((a) => actionWords[a].toLowerCase()).join(', ')}.
              </Trans>
            </p>
          )}
          <TextField
            form={form}
            name="reason"
            label={
              chosen && chosen !== advice?.course
                ? tr`Why, as it is not what the rules advise`
                : tr`Remark, if any`
            }
            rows={2}
          />
          <Trouble problem={write.error} />
          <button className="key key-go w-full" disabled={!chosen || write.isPending}>
            {chosen ? `${nameOf(chosen)}: ${address}` : tr`Choose first`}
          </button>
        </EntryForm>
      )}
    </div>
  );
}
