import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem } from '../api/client';
import { personChanged } from '../device/person';
import { canPasskeys, getPasskey } from '../device/passkeys';
import { useOutboxState } from '../outbox/useOutbox';
import { Trouble } from '../ui/basics';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';

const schema = z.object({ name: needed(tr`Type your name.`), password: needed(tr`Type your password.`) });

/** Asks who it is, and a new shop for its first lead. */
export function Entrance({ first }: { first: boolean }) {
  const client = useQueryClient();
  const { entries } = useOutboxState();
  const writers = [...new Set(entries.map((e) => e.by))];
  const { form } = useEntryForm(schema, { name: '', password: '' });
  const entered = () => {
    personChanged();
    // What was refused for want of a person is asked for anew.
    client.removeQueries({ predicate: (q) => q.state.status === 'error' });
    return client.invalidateQueries();
  };
  const enter = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (body) => unwrap(api.POST('/api/sign-in', { body })),
    onSuccess: entered,
  });
  const byKey = useMutation<unknown, ApiProblem, void>({
    mutationFn: async () => {
      const options = await unwrap(api.POST('/api/passkey/ask'));
      const credential = await getPasskey(options);
      return unwrap(api.POST('/api/passkey/sign-in', { body: { credential } }));
    },
    onSuccess: entered,
  });

  return (
    <main className="mx-auto flex min-h-dvh max-w-4xl flex-col justify-center gap-8 px-5 py-8 md:flex-row md:items-center md:gap-16">
      <div className="flex-1">
        <img src="/mark.svg" alt="" width={72} height={72} />
        <h1 className="mt-4 text-4xl">{tr`Vivid Sleuth`}</h1>
        <p className="mt-3 max-w-sm text-lg text-soft">
          {tr`Every part has a place, a mark and a mate. What it shows is read before it is washed, measured once, and traced to what failed first.`}
        </p>
      </div>
      <EntryForm form={form} send={enter.mutateAsync} className="card w-full max-w-sm space-y-4 p-6">
        <h2 className="text-xl">{first ? tr`Nobody is here yet` : tr`Sign in`}</h2>
        {writers.length > 0 && (
          <p className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-2">
            {entries.length === 1
              ? tr`One entry of ${writers.join(tr` and `)} on this device waits to be sent. Signing in as ${writers.join(tr` or `)} sends it.`
              : tr`${entries.length} entries of ${writers.join(tr` and `)} on this device wait to be sent. Signing in as ${writers.join(tr` or `)} sends them.`}
          </p>
        )}
        {first ? (
          <p className="text-soft">
            <Trans>
              The program has written a code for the first lead on its console, where it was started. Open
              this page with <span className="fig">/join#</span> and that code behind its address.
            </Trans>
          </p>
        ) : (
          <>
            <TextField form={form} name="name" label={tr`Name`} autoComplete="username webauthn" />
            <TextField
              form={form}
              name="password"
              label={tr`Password`}
              type="password"
              autoComplete="current-password"
            />
            <Trouble problem={enter.error ?? byKey.error} />
            <button className="key key-go w-full" disabled={enter.isPending || byKey.isPending}>
              {enter.isPending ? tr`Signing in …` : tr`Sign in`}
            </button>
            {canPasskeys() && (
              <button
                type="button"
                className="key w-full"
                disabled={enter.isPending || byKey.isPending}
                onClick={() => byKey.mutate()}
              >
                {tr`With a passkey of this device`}
              </button>
            )}
          </>
        )}
      </EntryForm>
    </main>
  );
}
