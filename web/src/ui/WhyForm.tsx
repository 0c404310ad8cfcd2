import { t as tr } from '@lingui/core/macro';
import * as z from 'zod/mini';
import { EntryForm, needed, TextField, useEntryForm } from './form';

const schema = z.object({ why: needed(tr`Say why.`) });

/** Why something is taken back; it stays in the record. */
export function WhyForm({ press, send }: { press: string; send: (why: string) => Promise<unknown> }) {
  const { form } = useEntryForm(schema, { why: '' });
  return (
    <EntryForm form={form} send={({ why }) => send(why)} className="mt-2 flex items-start gap-2">
      <TextField
        form={form}
        name="why"
        label={tr`Why`}
        unseen
        placeholder={tr`Why? It stays in the record.`}
        className="min-w-0 flex-1"
      />
      <button className="key key-go shrink-0">{press}</button>
    </EntryForm>
  );
}
