import { t as tr } from '@lingui/core/macro';
import { byId } from '../ui/byId';
import { useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { ownDimension, ownOf } from './own';
import { useWrite, writes } from '../outbox/writes';
import { Choice, Trouble } from '../ui/basics';
import { EntryForm, figureTyped, KeysField, ListField, TextField, useEntryForm } from '../ui/form';
import { stands, fileName } from '../ui/words';
import { unitOf } from '../ui/limits';
import { baseUnit, figure, unitWords } from '../ui/figures';
import { TableIn } from './TableIn';
import { useMayWrite } from '../api/queries';
import { FileKey } from '../ui/FileKey';

// The figures are read by the server: they come in many shapes, and with units of their own.
const schema = z.object({
  characteristic: z.string(),
  on: z.string(),
  nominal: figureTyped,
  least: figureTyped,
  most: figureTyped,
  wear: figureTyped,
  sourceText: z.string(),
  setUnit: z.string(),
  source: z.enum(['makersManual', 'shopStandard']),
});

const blank: z.input<typeof schema> = {
  characteristic: 'big-end-clearance',
  on: '',
  nominal: '',
  least: '',
  most: '',
  wear: '',
  sourceText: '',
  // Whatever is usual for the characteristic.
  setUnit: '',
  source: 'makersManual',
};

/** Limits of this engine from its maker's manual, each with its page. */
export function Limits() {
  const { engineCase, knowledge, section } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  const mayWrite = useMayWrite();
  const { lengths: length } = useCaseContext();
  const { form, settle } = useEntryForm(schema, blank, { draft: `limit/${engineCase.id}` });
  const [characteristic, own] = useWatch({ control: form.control, name: ['characteristic', 'setUnit'] });
  const named = ownOf(engineCase);
  const of = (id: string) => byId(knowledge.characteristics).get(id) ?? ownDimension(id);
  const entry = of(characteristic)!;
  const unit = own || (entry.quantity === 'length' ? length : entry.unit || baseUnit[entry.quantity]);
  const add = useWrite(engineCase.id, writes.limit, () => {
    // The next limit is most often from the same page.
    const { characteristic: of, sourceText, source } = form.getValues();
    settle({ ...blank, characteristic: of, sourceText, source });
  });
  const withdraw = useWrite(engineCase.id, writes.limitBack);
  const here = new Set(section.cells.map((c) => c.kind));
  const choices = [
    ...knowledge.characteristics.filter(
      (c) => c.on.some((k) => here.has(k)) && (c.derived || gauge.measurable.includes(c.id)),
    ),
    ...named,
  ];
  const limits = engineCase.limits.filter(stands);
  const kindName = (k: string) => byId(knowledge.kinds).get(k)?.name ?? k;
  return (
    <section className="space-y-3">
      <h2 className="text-xl">{tr`Limits of this engine`}</h2>
      <p className="text-soft">
        {tr`From the maker’s manual, with the page. Where none is entered, a rule of thumb is shown as such.`}
      </p>
      {limits.length > 0 && (
        <ul className="card divide-y divide-line">
          {limits.map((l) => {
            const c = of(l.characteristic);
            const u = unitOf(knowledge, l.characteristic, c?.quantity ?? 'length', length);
            return (
              <li key={l.id} className="flex flex-wrap items-center gap-x-6 px-3 py-1">
                <span className="w-64 font-semibold">
                  {c?.name ?? l.characteristic}
                  {l.on && <span className="font-normal"> · {kindName(l.on)}</span>}
                </span>
                <span className="fig flex-1">
                  {l.nominal !== null && tr`standard ${figure(l.nominal, u)} `}
                  {(l.least !== null || l.most !== null) &&
                    tr`${l.least === null ? '…' : figure(l.least, u)} to ${l.most === null ? '…' : figure(l.most, u)} `}
                  {l.wear !== null && tr`wear to ${figure(l.wear, u)} `}
                  {unitWords(u)}
                </span>
                <span className="text-soft">{l.sourceText}</span>
                {mayWrite && (
                  <button
                    className="key text-sm"
                    aria-label={tr`Strike the limit of ${c?.name ?? l.characteristic}`}
                    onClick={() =>
                      withdraw.mutate({ id: l.id, version: l.version, why: tr`replaced or mistyped` })
                    }
                  >
                    {tr`Strike`}
                  </button>
                )}
              </li>
            );
          })}
        </ul>
      )}
      <Trouble problem={withdraw.error} />
      {mayWrite && (
        <div className="flex flex-wrap items-start gap-3">
          <details className="flex-1 open:basis-full">
            <summary className="key inline-flex cursor-pointer items-center">{tr`Add a limit`}</summary>
            <EntryForm
              form={form}
              send={(limit) => add.mutateAsync({ ...limit, setUnit: unit })}
              className="mt-3 max-w-3xl space-y-3"
            >
              <div className="grid gap-3 sm:grid-cols-2">
                <ListField
                  form={form}
                  name="characteristic"
                  label={tr`Of what`}
                  words={choices.map((c) => [c.id, c.name] as const)}
                  onPicked={() => {
                    form.setValue('setUnit', '');
                    form.setValue('on', '');
                  }}
                />
                <TextField form={form} name="sourceText" label={tr`Source: manual and page`} />
                {entry.on.filter((k) => here.has(k)).length > 1 && (
                  <ListField
                    form={form}
                    name="on"
                    label={tr`On which part`}
                    first={tr`all of them`}
                    words={entry.on.filter((k) => here.has(k)).map((k) => [k, kindName(k)] as const)}
                  />
                )}
              </div>
              <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
                {(
                  [
                    ['nominal', tr`Standard size`, tr`new, standard grade`],
                    ['least', tr`Least`, tr`or −.015 from standard`],
                    ['most', tr`Most`, tr`or +.020 from standard`],
                    ['wear', tr`Wear limit`, tr`how far it may wear`],
                  ] as const
                ).map(([f, name, hint]) => (
                  <TextField key={f} form={form} name={f} label={name} hint={hint} className="fig" />
                ))}
              </div>
              {entry.quantity === 'length' && (
                <Choice
                  label={tr`Unit when none is typed`}
                  value={unit}
                  options={[
                    ['mm', 'mm'],
                    ['in', tr`inch`],
                    ['thou', 'thou'],
                  ]}
                  onChange={(u) => form.setValue('setUnit', u, { shouldDirty: true })}
                />
              )}
              <KeysField
                form={form}
                name="source"
                label={tr`Whose figure`}
                options={[
                  ['makersManual', tr`the maker’s`],
                  ['shopStandard', tr`this shop’s`],
                ]}
              />
              <Trouble problem={add.error} />
              <button className="key key-go" disabled={add.isPending}>
                {tr`Set the limit`}
              </button>
            </EntryForm>
          </details>
          <FileKey
            href={`/api/cases/${engineCase.id}/gauge/limits.csv`}
            name={fileName(engineCase.title, 'limits.csv')}
          >
            {tr`Limits as CSV`}
          </FileKey>
          <TableIn what="limits" />
          <TableIn what="readings" />
        </div>
      )}
    </section>
  );
}
