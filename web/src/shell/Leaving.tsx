import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useEffect } from 'react';
import { api, unwrap, type ApiProblem } from '../api/client';
import { keys, useMe } from '../api/queries';
import { forget } from '../device/persist';
import { personChanged } from '../device/person';
import { useOutboxState } from '../outbox/useOutbox';

/** Signs out; asks first where something waits to be sent. */
export function Leaving({ open, close }: { open: boolean; close: () => void }) {
  const client = useQueryClient();
  const { data: me } = useMe();
  const { entries } = useOutboxState();
  const waits = entries.filter((e) => e.by === me?.name).length;
  const leave = useMutation<unknown, ApiProblem, void>({
    mutationFn: () => unwrap(api.POST('/api/sign-out')),
    onSuccess: async () => {
      await forget();
      personChanged();
      client.setQueryData(keys.me, null);
      // Asked for again now, all of it would be refused, and stand as refused before the next who signs in.
      client.removeQueries({
        predicate: (q) => q.queryKey[0] !== keys.me[0] && q.queryKey[0] !== keys.setup[0],
      });
    },
  });
  const { mutate, isIdle } = leave;
  useEffect(() => {
    if (open && waits === 0 && isIdle) mutate();
  }, [open, waits, isIdle, mutate]);
  const ask = open && (waits > 0 || leave.error !== null);
  return (
    <Dialog.Root
      open={ask}
      onOpenChange={(o) => {
        if (!o) {
          leave.reset();
          close();
        }
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content className="card fixed inset-x-3 top-16 z-50 mx-auto max-w-md space-y-3 p-4">
          <Dialog.Title className="text-xl font-bold">
            {leave.error
              ? tr`You are still signed in`
              : tr`${waits === 1 ? tr`One entry waits` : tr`${waits} entries wait`} to be sent`}
          </Dialog.Title>
          <Dialog.Description>
            {leave.error
              ? tr`The server does not answer. Sign out again when it does.`
              : tr`It stays on this device and is sent when you sign in here again. Nobody else sends it.`}
          </Dialog.Description>
          <div className="flex flex-wrap gap-2">
            <Dialog.Close className="key key-go">{tr`Stay`}</Dialog.Close>
            <button className="key" disabled={leave.isPending} onClick={() => leave.mutate()}>
              <Trans>Sign out {me?.name} all the same</Trans>
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
