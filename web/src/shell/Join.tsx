import { t as tr } from '@lingui/core/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem } from '../api/client';
import { personChanged } from '../device/person';
import { Trouble, Waiting } from '../ui/basics';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';
import { roleWords } from '../ui/words';

const schema = z.object({ name: z.string(), password: needed(tr`Type a password.`) });

/** Where a link leads that lets somebody in, or sets a new password. The code stands behind the # and so is sent to no server but in the body. */
export function Join() {
  const [code] = useState(() => decodeURIComponent(location.hash.slice(1)));
  const client = useQueryClient();
  const navigate = useNavigate();
  const said = useQuery({
    queryKey: ['invitation', code],
    queryFn: () => unwrap(api.POST('/api/invitations/look', { body: { code } })),
    retry: false,
    gcTime: 0,
  });
  const { form } = useEntryForm(schema, { name: '', password: '' });
  const use = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (body) => unwrap(api.POST('/api/invitations/use', { body: { code, ...body } })),
    onSuccess: async () => {
      personChanged();
      client.clear();
      await navigate('/', { replace: true });
    },
  });
  if (said.isPending) return <Waiting what={tr`the link`} />;
  return (
    <main className="mx-auto flex min-h-dvh max-w-md flex-col justify-center gap-4 px-5 py-8">
      <img src="/mark.svg" alt="" width={56} height={56} />
      {said.error ? (
        <>
          <h1 className="text-3xl">{tr`This link lets nobody in`}</h1>
          <Trouble problem={said.error as ApiProblem} />
          <Link className="key flex w-fit items-center" to="/" reloadDocument>
            {tr`To the sign-in`}
          </Link>
        </>
      ) : (
        <>
          <h1 className="text-3xl">
            {said.data.name ? tr`A new password for ${said.data.name}` : tr`Come into the shop`}
          </h1>
          <p className="text-soft">
            {said.data.name
              ? tr`Every device that is signed in with the old one is signed out.`
              : tr`You come in as ${roleWords[said.data.role]?.toLowerCase() ?? said.data.role}. The name is the one that stands beside what you enter.`}
          </p>
          <EntryForm form={form} send={use.mutateAsync} className="card space-y-4 p-6">
            {!said.data.name && (
              <TextField form={form} name="name" label={tr`Your name`} autoComplete="username" />
            )}
            <TextField
              form={form}
              name="password"
              label={tr`Password`}
              type="password"
              hint={tr`Fifteen characters or more: three or four words that do not belong together.`}
              autoComplete="new-password"
            />
            <Trouble problem={use.error} />
            <button className="key key-go w-full" disabled={use.isPending}>
              {said.data.name ? tr`Set it` : tr`Come in`}
            </button>
          </EntryForm>
        </>
      )}
    </main>
  );
}
