import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem } from '../api/client';
import { keys, useMe } from '../api/queries';
import { canPasskeys, makePasskey } from '../device/passkeys';
import { personChanged } from '../device/person';
import { day, moment, Trouble, Waiting } from '../ui/basics';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';
import { roleWords } from '../ui/words';

const schema = z.object({
  old: needed(tr`Type the password that you have now.`),
  new: needed(tr`Type the new password.`),
});

/** A browser and its system, as one says it. */
function deviceWords(agent: string) {
  const system = /Android|iPhone|iPad|Windows|Mac OS|CrOS|Linux/.exec(agent)?.[0] ?? tr`another system`;
  const browser = /Firefox|Edg|Chrome|Safari/.exec(agent)?.[0] ?? tr`a browser`;
  return tr`${browser === 'Edg' ? 'Edge' : browser} on ${system}`;
}

/** How the one signed in comes in: password, passkeys, and where they are signed in. */
export function Door() {
  const client = useQueryClient();
  const { data: me } = useMe();
  const door = useQuery({ queryKey: keys.door, queryFn: () => unwrap(api.GET('/api/me/door')) });
  const { form, settle } = useEntryForm(schema, { old: '', new: '' });
  const again = () => client.invalidateQueries({ queryKey: keys.door });
  const change = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (body) => unwrap(api.POST('/api/me/password', { body })),
    onSuccess: () => {
      settle({ old: '', new: '' });
      return again();
    },
  });
  const add = useMutation<unknown, ApiProblem, void>({
    mutationFn: async () => {
      const credential = await makePasskey(await unwrap(api.POST('/api/me/passkeys/ask')));
      const name = deviceWords(navigator.userAgent);
      return unwrap(api.POST('/api/me/passkeys', { body: { name, credential } }));
    },
    onSuccess: again,
  });
  const remove = useMutation<unknown, ApiProblem, string>({
    mutationFn: (id) => unwrap(api.POST('/api/me/passkeys/{id}/remove', { params: { path: { id } } })),
    onSuccess: again,
  });
  const leave = useMutation<unknown, ApiProblem, void>({
    mutationFn: () => unwrap(api.POST('/api/me/sign-out-everywhere')),
    onSuccess: () => {
      personChanged();
      return client.invalidateQueries({ queryKey: keys.me });
    },
  });
  if (door.isPending) return <Waiting what={tr`your door`} />;
  return (
    <main className="mx-auto max-w-3xl space-y-5 px-4 py-6">
      <div>
        <h1 className="text-3xl">{me?.name}</h1>
        <p className="text-soft">
          {roleWords[me?.role ?? ''] ?? ''} {tr`of this shop.`}
        </p>
      </div>
      <Trouble problem={door.error as ApiProblem | null} />
      <section className="card p-4">
        <h2 className="text-xl">{tr`Passkeys`}</h2>
        <p className="mt-1 text-soft">
          {tr`A passkey lives in this phone or computer and opens with its own lock: nothing to remember, nothing that anybody can guess.`}
        </p>
        <ul className="mt-2 divide-y divide-line">
          {door.data?.passkeys.map((k) => (
            <li key={k.id} className="flex flex-wrap items-center gap-3 py-2">
              <span className="min-w-0 flex-1">
                <b>{k.name || tr`Passkey`}</b>{' '}
                <span className="text-soft">
                  <Trans>since {day(k.at)}</Trans>
                </span>
              </span>
              <button className="key text-sm" disabled={remove.isPending} onClick={() => remove.mutate(k.id)}>
                {tr`Remove`}
              </button>
            </li>
          ))}
        </ul>
        {canPasskeys() ? (
          <button className="key key-go mt-2" disabled={add.isPending} onClick={() => add.mutate()}>
            {tr`Make one on this device`}
          </button>
        ) : (
          <p className="mt-2 rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-2">
            {tr`This browser has none at this address: passkeys need a name and not numbers.`}
          </p>
        )}
        <Trouble problem={add.error ?? remove.error} />
      </section>
      <section className="card p-4">
        <h2 className="text-xl">{tr`Password`}</h2>
        <EntryForm form={form} send={change.mutateAsync} className="mt-2 max-w-sm space-y-3">
          <TextField
            form={form}
            name="old"
            label={tr`The one you have now`}
            type="password"
            autoComplete="current-password"
          />
          <TextField
            form={form}
            name="new"
            label={tr`The new one`}
            type="password"
            hint={tr`Fifteen characters or more: three or four words that do not belong together.`}
            autoComplete="new-password"
          />
          <Trouble problem={change.error} />
          <button className="key key-go" disabled={change.isPending}>
            {tr`Change it`}
          </button>
          {change.isSuccess && (
            <p role="status" className="font-semibold text-oil">
              {tr`Changed. Your other devices are signed out.`}
            </p>
          )}
        </EntryForm>
      </section>
      <section className="card p-4">
        <h2 className="text-xl">{tr`Where you are signed in`}</h2>
        <ul className="mt-2 divide-y divide-line">
          {door.data?.devices.map((d) => (
            <li key={`${d.from}${d.seenAt}`} className="flex flex-wrap gap-x-3 py-2">
              <b>{deviceWords(d.device)}</b>
              <span className="text-soft">
                <Trans>
                  since {moment(d.from)}, last seen {moment(d.seenAt)}
                </Trans>
              </span>
            </li>
          ))}
        </ul>
        <button className="key mt-2" disabled={leave.isPending} onClick={() => leave.mutate()}>
          {tr`Sign out everywhere, here too`}
        </button>
        <Trouble problem={leave.error} />
      </section>
    </main>
  );
}
