import { t as tr } from '@lingui/core/macro';
import * as z from 'zod/mini';
import type { Schemas } from '../api/client';
import { useSettings } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import {
  asTyped,
  EntryForm,
  FigureField,
  KeysField,
  needed,
  numberNeeded,
  numberTyped,
  oneOf,
  TextField,
  useEntryForm,
} from '../ui/form';
import { entriesOf, supplierKindWords } from '../ui/words';
import { bodyOf } from './orderLines';
import { SupplierNames } from './SupplierNames';

const schema = z.object({
  what: needed(tr`Name the part or the work.`),
  kind: oneOf(supplierKindWords),
  quantity: numberNeeded({ min: 0, max: 100_000 }),
  step: z.string(),
  supplier: z.string(),
  partNumber: z.string(),
  price: numberTyped({ min: 0, max: 1_000_000_000_000 }),
  currency: z.string(),
  days: numberTyped({ min: 0, max: 3650 }),
  remarks: z.string(),
});

type Fields = z.input<typeof schema>;

const fieldsOf = (l: Schemas['OrderLine'], base: string): Fields => ({
  what: l.what,
  kind: l.kind,
  quantity: asTyped(l.quantity),
  step: l.step,
  supplier: l.supplier,
  partNumber: l.partNumber,
  price: asTyped(l.price),
  currency: l.currency || base,
  days: asTyped(l.days),
  remarks: l.remarks,
});

/** A line of the order as somebody enters or changes it; what it must measure stays as it is. */
export function LineForm({ standing, done }: { standing: Schemas['OrderLine'] | null; done: () => void }) {
  const { engineCase } = useCaseContext();
  const settings = useSettings();
  const base = settings.data?.currency ?? 'EUR';
  const blank: Fields = {
    what: '',
    kind: 'parts',
    quantity: '1',
    step: '',
    supplier: '',
    partNumber: '',
    price: '',
    currency: base,
    days: '',
    remarks: '',
  };
  const stands = standing ? fieldsOf(standing, base) : blank;
  const { form, settle, version } = useEntryForm(schema, stands, {
    draft: `order/${engineCase.id}/${standing?.id ?? 'new'}`,
    version: standing?.version ?? 0,
  });
  const write = useWrite(engineCase.id, writes.orderLine, () => {
    settle(stands);
    done();
  });
  return (
    <EntryForm
      form={form}
      className="space-y-3 rounded-lg border-2 border-dye bg-paper p-3"
      send={(typed) =>
        write.mutateAsync({
          ...(standing
            ? bodyOf(standing)
            : { need: '', item: '', course: typed.kind === 'parts' ? 'renew' : '', places: [], wants: [] }),
          ...typed,
          version: version(),
          standing: standing?.id ?? null,
        })
      }
    >
      <div className="grid gap-3 md:grid-cols-[minmax(0,3fr)_minmax(0,1fr)_minmax(0,1fr)]">
        <TextField form={form} name="what" label={tr`What is wanted`} />
        <FigureField form={form} name="quantity" label={tr`How many`} />
        <TextField
          form={form}
          name="step"
          label={tr`Size grade`}
          placeholder={tr`STD, 0.25 …`}
          className="fig"
        />
      </div>
      {!standing && (
        <KeysField form={form} name="kind" label={tr`From`} options={entriesOf(supplierKindWords)} />
      )}
      <div className="grid grid-cols-2 gap-3 md:grid-cols-[minmax(0,2fr)_minmax(0,1.4fr)_minmax(0,1fr)_5rem_5rem]">
        <TextField form={form} name="supplier" label={tr`Supplier`} list="suppliers" />
        <TextField form={form} name="partNumber" label={tr`Its number for it`} className="fig" />
        <FigureField form={form} name="price" label={tr`Price of one`} />
        <TextField form={form} name="currency" label={tr`In`} className="fig" />
        <FigureField form={form} name="days" label={tr`Days`} />
      </div>
      <SupplierNames id="suppliers" />
      <TextField form={form} name="remarks" label={tr`Remarks`} />
      <Trouble problem={write.error} />
      <div className="flex gap-2">
        <button className="key key-go" disabled={write.isPending}>
          {standing ? tr`Change the line` : tr`Put on the order`}
        </button>
        <button
          type="button"
          className="key"
          onClick={() => {
            settle(stands);
            done();
          }}
        >
          {tr`Leave it`}
        </button>
      </div>
    </EntryForm>
  );
}
