import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import * as z from 'zod/mini';
import { api, unwrap, type Schemas } from '../api/client';
import { keys, useIsStudent, useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Addr, percent, Trouble } from '../ui/basics';
import { figure, unitSize } from '../ui/figures';
import { EntryForm, FigureField, ListField, needed, numberTyped, TextField, useEntryForm } from '../ui/form';
import { parseNumber } from '../ui/number';
import { stands } from '../ui/words';

/** To which size all of a kind are machined, with what each place needs and the chance of every size. */
export function Plan({ plan, wanted }: { plan: Schemas['MachiningPlan']; wanted: boolean }) {
  const { engineCase, lengths, openPart } = useCaseContext();
  const [sizes, setSizes] = useState(false);
  const face = plan.removes !== null;
  const told = (mm: number) => figure(mm, lengths);
  const [open, setOpen] = useState(wanted);
  if (!open)
    return (
      <p className="text-soft">
        {plan.words}{' '}
        <button className="underline" onClick={() => setOpen(true)}>
          {tr`The plan`}
        </button>
      </p>
    );
  const listed = engineCase.sizes.filter(stands).findLast((s) => s.kind === plan.kind);
  return (
    <div className="card space-y-3 p-3 md:p-4">
      <h3 className="text-lg">
        <Trans>Machining plan: {plan.name.toLowerCase()}</Trans>
        {plan.size !== null && (
          <>
            <Trans>
              {' '}
              to <span className="fig">{told(plan.size)}</span> {lengths}
            </Trans>
            {plan.step && <span className="fig"> ({plan.step})</span>}
          </>
        )}
      </h3>
      <p>{plan.words}</p>
      {plan.sizes.length > 0 && (
        <ul aria-label={tr`Sizes that are to be had`} className="grid gap-1">
          {plan.sizes.map((s) => (
            <li
              key={s.step}
              className="grid grid-cols-[3.5rem_4.5rem_minmax(0,1fr)] items-center gap-2 md:grid-cols-[4rem_6rem_minmax(0,1fr)]"
            >
              <b className="fig">{s.step}</b>
              <span className="fig">{told(s.size)}</span>
              <span className="flex flex-wrap items-center gap-x-2">
                <span className="h-3 w-20 shrink-0 border border-line bg-paper md:w-48" aria-hidden>
                  <span
                    className={`block h-full ${s.step === plan.step ? 'bg-dye' : 'bg-soft/50'}`}
                    style={{ width: `${100 * s.cleans}%` }}
                  />
                </span>
                <span className="fig w-14 shrink-0">{percent(s.cleans)}</span>
                <span className="text-sm text-soft">
                  {s.step === plan.step ? tr`cleans up all: this one` : (s.not ?? tr`cleans up all`)}
                </span>
              </span>
            </li>
          ))}
        </ul>
      )}
      {!face && (
        <div className="overflow-x-auto">
          <table className="text-left text-sm whitespace-nowrap">
            <thead className="text-soft">
              <tr>
                {[
                  tr`Place`,
                  plan.course === 'bore' ? tr`Largest` : tr`Smallest`,
                  tr`Before it wore`,
                  tr`Scored`,
                  tr`Needs`,
                ].map((h) => (
                  <th key={h} className="pr-5 pb-1 font-semibold">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody className="fig">
              {plan.places.map((p) => (
                <tr key={p.place} className={p.worst ? 'font-bold' : ''}>
                  <td className="pr-5">
                    <button className="min-h-9" onClick={() => openPart(p.place)}>
                      <Addr code={p.place} />
                      {p.worst && <span className="font-sans"> {tr`worst`}</span>}
                    </button>
                  </td>
                  <td className="pr-5">{told(p.found)}</td>
                  <td className="pr-5">{p.unworn === null ? '' : told(p.unworn)}</td>
                  <td className="pr-5">
                    {p.scoring > 0 ? told(p.scoring) : '–'}
                    {p.scoring > 0 && !p.scoringRead && <span className="font-sans"> {tr`by eye`}</span>}
                  </td>
                  <td className="pr-5">
                    {plan.course === 'bore' ? '≥ ' : '≤ '}
                    {told(p.needs)} ± {told(p.expanded)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {plan.hone.length > 0 && (
        <div>
          <h4 className="font-bold">{tr`Each bore to the piston that goes in it`}</h4>
          <ul>
            {plan.hone.map((h) => (
              <li key={h.bore + h.piston} className="flex flex-wrap gap-x-3">
                <Addr code={h.bore} />
                <span className="fig">
                  <Trans>
                    {told(h.least)} to {told(h.most)}
                  </Trans>
                </span>
                <span className="text-soft">
                  <Trans>
                    for <Addr code={h.piston} /> <span className="fig">{told(h.pistonSize)}</span>,{' '}
                    {h.clearance}
                  </Trans>
                </span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {!face && (
        <div className="text-sm">
          {listed ? (
            <p>
              <Trans>
                Sizes to be had: <span className="fig">{listed.steps.map((s) => told(s)).join(', ')}</span>,{' '}
                {listed.sourceText}.{' '}
              </Trans>
              <button className="underline" onClick={() => setSizes(!sizes)}>
                {tr`Enter another list`}
              </button>
            </p>
          ) : (
            <p className="text-soft">
              <Trans>Usual steps, as nobody entered the maker’s sizes. </Trans>
              <button className="underline" onClick={() => setSizes(!sizes)}>
                {tr`Enter the sizes that are to be had`}
              </button>
            </p>
          )}
          {sizes && <Sizes kind={plan.kind} done={() => setSizes(false)} />}
        </div>
      )}
    </div>
  );
}

const boundWords: Record<Schemas['BoundBy'], string> = {
  maker: tr`the maker`,
  wall: tr`the wall that is left`,
  hardening: tr`the depth of hardening`,
  shells: tr`what is made for it`,
};

const schema = z.object({
  unit: z.enum(['mm', 'in']),
  steps: z.pipe(
    z.string(),
    z.transform((text: string, context) => {
      const read = text
        .split(/[\s;]+/)
        .filter(Boolean)
        .map((t) => parseNumber(t, { min: 0.0001, max: 5 }));
      const wrong = read.find((r) => r.kind !== 'number');
      if (read.length === 0 || wrong) {
        context.issues.push({
          code: 'custom',
          message: tr`Enter how far each lies from standard, with spaces between, such as 0.25 0.50 0.75.`,
          input: text,
        });
        return z.NEVER;
      }
      return read.map((r) => (r as { value: number }).value);
    }),
  ),
  furthest: numberTyped({ min: 0, max: 10 }),
  furthestBy: z.enum(['maker', 'wall', 'hardening', 'shells']),
  sourceText: needed(tr`Name the manual and page, or whose list it is.`),
});

/** The maker's list, or that of who makes parts for it; offered from another engine of the kind where one has it. */
function Sizes({ kind, done }: { kind: string; done: () => void }) {
  const { engineCase, lengths } = useCaseContext();
  const mayWrite = useMayWrite();
  const student = useIsStudent();
  const elsewhere = useQuery({
    queryKey: [...keys.case(engineCase.id), 'sizes-elsewhere'],
    queryFn: () =>
      unwrap(api.GET('/api/cases/{caseId}/sizes/elsewhere', { params: { path: { caseId: engineCase.id } } })),
    enabled: !student,
  });
  const other = elsewhere.data?.find((e) => e.sizes.kind === kind);
  const { form, settle } = useEntryForm(
    schema,
    { unit: lengths, steps: '', furthest: '', furthestBy: 'maker', sourceText: '' },
    { draft: `sizes/${engineCase.id}/${kind}` },
  );
  const write = useWrite(engineCase.id, writes.sizes, () => {
    settle({ unit: lengths, steps: '', furthest: '', furthestBy: 'maker', sourceText: '' });
    done();
  });
  const mm = (n: number, unit: string) => Number((n * unitSize[unit]!).toFixed(5));
  if (!mayWrite) return null;
  return (
    <EntryForm
      form={form}
      className="mt-2 grid max-w-3xl gap-2 md:grid-cols-2"
      send={({ unit, steps, furthest, furthestBy, sourceText }) =>
        write.mutateAsync({
          kind,
          unit,
          steps: steps.map((s) => mm(s, unit)),
          furthest: furthest === null ? null : mm(furthest, unit),
          furthestBy,
          sourceText,
        })
      }
    >
      {other && (
        <p className="md:col-span-2">
          <Trans>{other.title} has: </Trans>
          <button
            type="button"
            className="underline"
            onClick={() => {
              const { unit, steps, furthest, furthestBy, sourceText } = other.sizes;
              const typed = (v: number) => String(Number((v / unitSize[unit]!).toFixed(5)));
              form.reset({
                unit: unit === 'in' ? 'in' : 'mm',
                steps: steps.map(typed).join(' '),
                furthest: furthest === null ? '' : typed(furthest),
                furthestBy,
                sourceText,
              });
            }}
          >
            <Trans>take {other.sizes.steps.map((s) => figure(s, lengths)).join(', ')}</Trans>
          </button>
        </p>
      )}
      <FigureField form={form} name="steps" label={tr`Under or over standard`} placeholder="0.25 0.50 0.75" />
      <ListField form={form} name="unit" label={tr`Unit`} words={{ mm: 'mm', in: 'inch' }} />
      <FigureField form={form} name="furthest" label={tr`At most, if bounded`} />
      <ListField form={form} name="furthestBy" label={tr`Bounded by`} words={boundWords} />
      <TextField form={form} name="sourceText" label={tr`Manual and page, or whose list`} />
      <div className="flex items-end">
        <button className="key key-go">{tr`Enter the list`}</button>
      </div>
      <div className="md:col-span-2">
        <Trouble problem={write.error} />
      </div>
    </EntryForm>
  );
}
