import { t as tr } from '@lingui/core/macro';
import * as z from 'zod/mini';
import type { Schemas } from '../api/client';
import { useSettings } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import { EntryForm, FigureField, needed, numberNeeded, TextField, useEntryForm } from '../ui/form';
import { SupplierNames } from './SupplierNames';

const schema = z.object({
  supplier: needed(tr`Name who made it.`),
  price: numberNeeded({ min: 0, max: 1_000_000_000_000 }),
  currency: needed(tr`Three letters, such as EUR.`),
  pack: numberNeeded({ min: 1, max: 100_000, whole: true }),
  days: numberNeeded({ min: 0, max: 3650 }),
  partNumber: z.string(),
  remarks: z.string(),
});

/** What somebody said on the telephone, or wrote. */
export function OfferForm({ line, done }: { line: Schemas['OrderLine']; done: () => void }) {
  const { engineCase } = useCaseContext();
  const settings = useSettings();
  const blank = {
    supplier: line.supplier,
    price: '',
    currency: settings.data?.currency ?? 'EUR',
    pack: '1',
    days: '',
    partNumber: '',
    remarks: '',
  };
  const { form, settle } = useEntryForm(schema, blank, { draft: `offer/${line.id}` });
  const write = useWrite(engineCase.id, writes.offer, () => {
    settle(blank);
    done();
  });
  return (
    <EntryForm
      form={form}
      className="space-y-3 rounded-lg border-2 border-dye bg-paper p-3"
      send={(typed) =>
        write.mutateAsync({
          ...typed,
          item: line.item,
          course: line.course,
          step: line.step,
          line: line.id,
          inStock: true,
        })
      }
    >
      <div className="grid grid-cols-2 items-start gap-3 md:grid-cols-[minmax(0,2fr)_minmax(0,1fr)_5rem_6rem_5rem]">
        <TextField form={form} name="supplier" label={tr`Who`} list={`who-${line.id}`} />
        <FigureField form={form} name="price" label={tr`Price of a pack`} />
        <TextField form={form} name="currency" label={tr`In`} className="fig" />
        <FigureField form={form} name="pack" label={tr`In a pack`} />
        <FigureField form={form} name="days" label={tr`Days`} />
      </div>
      <SupplierNames id={`who-${line.id}`} />
      <div className="grid gap-3 md:grid-cols-2">
        <TextField form={form} name="partNumber" label={tr`Their number for it`} className="fig" />
        <TextField form={form} name="remarks" label={tr`Remarks`} />
      </div>
      <Trouble problem={write.error} />
      <div className="flex gap-2">
        <button className="key key-go" disabled={write.isPending}>
          {tr`Enter the offer`}
        </button>
        <button type="button" className="key" onClick={done}>
          {tr`Leave it`}
        </button>
      </div>
    </EntryForm>
  );
}
