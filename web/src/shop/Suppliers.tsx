import { t as tr } from '@lingui/core/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMayWrite, useSettings, useSuppliers } from '../api/queries';
import { useWriteId } from '../ui/useWriteId';
import { Trouble, Waiting } from '../ui/basics';
import {
  asTyped,
  EntryForm,
  FigureField,
  KeysField,
  needed,
  numberNeeded,
  oneOf,
  TextField,
  useEntryForm,
} from '../ui/form';
import { money } from '../ui/rates';
import { entriesOf, supplierKindWords } from '../ui/words';

const schema = z.object({
  name: needed(tr`Call it what the shop calls it.`),
  kind: oneOf(supplierKindWords),
  address: z.string(),
  currency: z.string().check(z.regex(/^[A-Za-z]{3}$/, tr`Three letters after ISO 4217, such as EUR.`)),
  freight: numberNeeded({ min: 0, max: 1_000_000_000_000 }),
  remarks: z.string(),
});

type Fields = z.input<typeof schema>;

const fieldsOf = (s: Schemas['Supplier']): Fields => ({
  name: s.name,
  kind: s.kind,
  address: s.address,
  currency: s.currency,
  freight: asTyped(s.freight),
  remarks: s.remarks,
});

/** Whom the shop orders from: suppliers of parts, machine shops, specialists. */
export function Suppliers() {
  const suppliers = useSuppliers();
  const settings = useSettings();
  const mayWrite = useMayWrite();
  const [editing, setEditing] = useState<Schemas['Supplier'] | null>(null);
  const base = settings.data?.currency ?? 'EUR';
  return (
    <main className="mx-auto grid max-w-6xl grid-cols-[minmax(0,1fr)] gap-6 px-4 py-6 lg:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)]">
      <section>
        <h1 className="text-2xl">{tr`Suppliers and machine shops`}</h1>
        {suppliers.isPending && <Waiting what={tr`the suppliers`} />}
        {suppliers.data?.length === 0 && <p className="card mt-3 p-5">{tr`Nobody yet.`}</p>}
        <ul className="card mt-3 divide-y divide-line">
          {suppliers.data?.map((s) => (
            <li key={s.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-3">
              <span className="least-48 flex-1">
                <b className="text-lg">{s.name}</b>{' '}
                <span className="text-soft">{supplierKindWords[s.kind]}</span>
                <span className="block text-sm text-soft">
                  {[
                    s.freight > 0 ? tr`a parcel costs ${money(s.freight, s.currency)}` : '',
                    s.address ? tr`answers at ${s.address}` : tr`by letter or telephone`,
                    s.remarks,
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </span>
              </span>
              {mayWrite && (
                <button className="key text-sm" onClick={() => setEditing(s)}>
                  {tr`Change`}
                </button>
              )}
            </li>
          ))}
        </ul>
        <Trouble problem={suppliers.error as ApiProblem | null} />
      </section>
      {mayWrite && (
        <Form key={editing?.id ?? 'new'} standing={editing} base={base} done={() => setEditing(null)} />
      )}
    </main>
  );
}

function Form({
  standing,
  base,
  done,
}: {
  standing: Schemas['Supplier'] | null;
  base: string;
  done: () => void;
}) {
  const client = useQueryClient();
  const blank: Fields = { name: '', kind: 'parts', address: '', currency: base, freight: '0', remarks: '' };
  const { form, settle, version } = useEntryForm(schema, standing ? fieldsOf(standing) : blank, {
    draft: `supplier/${standing?.id ?? 'new'}`,
    version: standing?.version ?? 0,
  });
  const id = useWriteId();
  const again = () => {
    id.settle();
    settle(blank);
    done();
    return client.invalidateQueries({ queryKey: keys.suppliers });
  };
  const save = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (body) =>
      unwrap(
        api.PUT('/api/suppliers/{id}', {
          params: { path: { id: standing?.id ?? id.get() } },
          body: { ...body, version: version() },
        }),
      ),
    onSuccess: again,
  });
  const drop = useMutation<unknown, ApiProblem, Schemas['Supplier']>({
    mutationFn: (s) =>
      unwrap(
        api.POST('/api/suppliers/{id}/withdraw', {
          params: { path: { id: s.id } },
          body: { why: tr`no longer dealt with`, version: s.version },
        }),
      ),
    onSuccess: again,
  });
  return (
    <section className="card h-fit p-5">
      <EntryForm form={form} send={save.mutateAsync} className="space-y-3">
        <h2 className="text-xl">{standing ? tr`Change ${standing.name}` : tr`Somebody new`}</h2>
        <TextField form={form} name="name" label={tr`Name`} />
        <KeysField form={form} name="kind" label={tr`For`} options={entriesOf(supplierKindWords)} />
        <div className="grid grid-cols-2 gap-3">
          <TextField form={form} name="currency" label={tr`Bills in`} className="fig" />
          <FigureField form={form} name="freight" label={tr`A parcel costs`} />
        </div>
        <TextField
          form={form}
          name="address"
          label={tr`Answers on the network at, host and port`}
          hint={tr`Empty: one writes or telephones. The operator of the server must have allowed the address. How it is asked is in docs/supplier-protocol.md.`}
          placeholder="parts-desk:7173"
          className="fig"
        />
        <TextField form={form} name="remarks" label={tr`Remarks`} rows={2} />
        <Trouble problem={save.error ?? drop.error} />
        <div className="flex flex-wrap gap-2">
          <button className="key key-go" disabled={save.isPending}>
            {standing ? tr`Write the change` : tr`Take in`}
          </button>
          {standing && (
            <>
              <button type="button" className="key" onClick={() => drop.mutate(standing)}>
                {tr`No longer dealt with`}
              </button>
              <button
                type="button"
                className="key"
                onClick={() => {
                  settle(blank);
                  done();
                }}
              >
                {tr`Leave it`}
              </button>
            </>
          )}
        </div>
      </EntryForm>
    </section>
  );
}
