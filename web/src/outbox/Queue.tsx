import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { Dialog } from 'radix-ui';
import { useMe } from '../api/queries';
import { Addr, moment } from '../ui/basics';
import type { Kept, State } from './outbox';
import { useRoom } from '../device/room';
import { useDraftsKept } from '../ui/keeps';
import { SetAside } from './SetAside';
import { outbox, useOutboxState } from './useOutbox';
import { megabytes } from '../ui/words';

/** Why nothing is sent, as one says it. */
export function whyWords({ why, sending, held, entries }: State) {
  if (held && why === null && entries.every((e) => e.file || e.refused))
    return tr`The pictures are held back, and are sent when you let them go.`;
  if (why === 'offline')
    return tr`There is no network. All of it is kept here and is sent when the network returns.`;
  if (why === 'server')
    return tr`The server does not answer. All of it is kept here and is sent again by itself.`;
  if (why === 'another')
    return tr`Somebody else has signed in with this browser. It waits for who entered it.`;
  if (why === 'signedOut') return tr`Nobody is signed in. Sign in and it is sent.`;
  return sending ? tr`It is being sent.` : tr`It is sent as soon as the server answers.`;
}

/** What this device can no longer keep, in words; nothing where it keeps all. */
function useRoomWords(full: boolean) {
  const { low, left } = useRoom();
  const drafts = useDraftsKept();
  if (full)
    return tr`This device has no room: entries go straight to the server and cannot wait. Free some space.`;
  if (!drafts)
    return tr`This browser keeps nothing of what is typed: save each thing before you go on or close the page.`;
  if (low)
    return tr`This device is nearly full: ${Math.floor((left ?? 0) / 1_048_576)} MB are left. Send what waits, and free some space.`;
  return null;
}

/** What waits to be sent, always in sight while there is any. */
export function Queue() {
  const state = useOutboxState();
  const { data: me } = useMe();
  const { entries } = state;
  const room = useRoomWords(state.full);
  if (entries.length === 0 && room)
    return (
      <p role="status" className="rounded-lg border-2 border-lead bg-lead-tint px-2 py-1 text-sm">
        ■ {room}
      </p>
    );
  if (entries.length === 0) return null;
  const refused = entries.filter((e) => e.refused);
  const others = entries.filter((e) => !e.refused && e.by !== me?.name);
  const mine = entries.filter((e) => !e.refused && e.by === me?.name);
  return (
    <Dialog.Root>
      <Dialog.Trigger
        className={`key shrink-0 text-sm whitespace-nowrap ${refused.length > 0 ? 'border-lead bg-lead-tint' : 'border-brass bg-brass-tint'}`}
      >
        <span aria-hidden>{refused.length > 0 ? '■' : '↥'} </span>
        <span className="fig">{entries.length}</span> {refused.length > 0 ? tr`to look at` : tr`to send`}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content className="card fixed inset-x-2 top-2 z-50 mx-auto flex max-h-[94dvh] max-w-2xl flex-col gap-3 overflow-auto p-4">
          <Dialog.Title className="pr-12 text-xl font-bold">{tr`Kept on this device, not yet sent`}</Dialog.Title>
          <Dialog.Description className="text-soft">{whyWords(state)}</Dialog.Description>
          {room && (
            <p role="status" className="rounded-lg border-2 border-lead bg-lead-tint px-3 py-2">
              ■ {room}
            </p>
          )}
          <Moving state={state} />
          {refused.length > 0 && (
            <List
              title={tr`These are set aside, and the others go on. Nothing of them is lost: try again, save to a file, or give up.`}
              entries={refused}
            />
          )}
          {mine.length > 0 && <List title={tr`In this order`} entries={mine} />}
          {others.length > 0 && (
            <List
              title={tr`Entered by ${[...new Set(others.map((e) => e.by))].join(tr` and `)}: sent when that person signs in`}
              entries={others}
            />
          )}
          <div className="flex gap-2">
            <button className="key key-go" disabled={state.sending} onClick={() => void outbox.flush()}>
              {state.sending ? tr`Sending …` : tr`Send now`}
            </button>
            {entries.some((e) => e.file && !e.refused) && (
              <button className="key" aria-pressed={state.held} onClick={() => void outbox.hold(!state.held)}>
                {state.held ? tr`Let the pictures go` : tr`Hold the pictures back`}
              </button>
            )}
            <Dialog.Close className="key">{tr`Close`}</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** How many pictures wait and how large they are, and how far the one on its way has come. */
function Moving({ state: { entries, moving } }: { state: State }) {
  const pictures = entries.filter((e) => e.file && !e.refused);
  if (pictures.length === 0) return null;
  const now = pictures.find((e) => e.seq === moving?.seq);
  const all = pictures.reduce((sum, e) => sum + e.file!.size, 0);
  return (
    <div>
      <p>
        <span className="fig">{pictures.length}</span>{' '}
        {plural(pictures.length, { one: 'picture', other: 'pictures' })}
        <Trans>
          , <span className="fig">{megabytes(all)}</span> MB
        </Trans>
        {now && (
          <>
            <Trans>
              ; {now.file!.name}: <span className="fig">{megabytes(moving!.sent)}</span> of{' '}
              <span className="fig">{megabytes(now.file!.size)}</span> MB
            </Trans>
          </>
        )}
      </p>
      {now && (
        <progress
          className="h-2 w-full accent-dye"
          aria-label={tr`Sent of ${now.file!.name}`}
          max={now.file!.size}
          value={moving!.sent}
        />
      )}
    </div>
  );
}

function List({ title, entries }: { title: string; entries: Kept[] }) {
  return (
    <section>
      <h3 className="text-base">{title}</h3>
      <ol className="mt-1 divide-y divide-line border-y border-line">
        {entries.map((e) => (
          <li key={e.seq} className="py-2">
            <div className="flex flex-wrap items-baseline gap-x-3">
              {e.place && <Addr code={e.place} />}
              <span className="min-w-0 flex-1 font-semibold">{e.words}</span>
              <span className="text-sm text-soft">
                {e.by}, {moment(e.at)}
              </span>
            </div>
            {e.refused && <SetAside entry={e} />}
          </li>
        ))}
      </ol>
    </section>
  );
}
