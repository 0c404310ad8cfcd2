import { t as tr } from '@lingui/core/macro';
import { useQueryClient } from '@tanstack/react-query';
import { Fragment, lazy, Suspense, useEffect, useRef, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { ApiProblem, asked } from '../api/client';
import { keys, useMe, useSetup } from '../api/queries';
import { onPersonChanged } from '../device/person';
import { lookForRoom } from '../device/room';
import { signedInAs } from '../outbox/useOutbox';
import { Trouble, Waiting } from '../ui/basics';
import { draftsBelongTo } from '../ui/draft';

// Whoever is signed in already does not wait for its form.
const Entrance = lazy(() => import('./Entrance').then((m) => ({ default: m.Entrance })));
const Join = lazy(() => import('./Join').then((m) => ({ default: m.Join })));

const offline = {
  title: tr`There is no network, and nobody has signed in on this device before.`,
  detail: tr`Sign in once with a network; after that the bench works without.`,
};

/**
 * Lets in who is signed in; asks the others, and a new shop for its first lead.
 * @param open What is shown without signing in.
 */
export function Gate({ open, children }: { open: ReactNode; children: ReactNode }) {
  const me = useMe();
  const setup = useSetup();
  const client = useQueryClient();
  const { pathname } = useLocation();
  const joining = pathname === '/join';
  const isOpen = pathname === '/check' || pathname.startsWith('/shared/');
  const name = me.data?.name ?? null;
  const before = useRef(name);
  useEffect(() => {
    if (!me.isPending) signedInAs(name);
    if (name) void lookForRoom();
    // What one person read is not shown to the next.
    if (before.current !== null && name !== null && before.current !== name)
      client.removeQueries({
        predicate: (q) => q.queryKey[0] !== keys.me[0] && q.queryKey[0] !== keys.setup[0],
      });
    before.current = name;
  }, [name, me.isPending, client]);
  useEffect(() => {
    const look = () => void client.invalidateQueries({ queryKey: keys.me });
    asked.another = look;
    return onPersonChanged(look);
  }, [client]);
  if (joining)
    return (
      <Suspense fallback={<Waiting what={tr`the shop`} />}>
        <Join />
      </Suspense>
    );
  // For whoever was given a link or a bag, and is nobody of the shop.
  if (isOpen) return <Suspense fallback={<Waiting what={tr`the page`} />}>{open}</Suspense>;
  // What was read before stands while the server does not answer.
  if (me.data) {
    draftsBelongTo(me.data.name);
    asked.by = me.data.name;
    // All that is open is one person's: who signs in next in another tab finds his own, and nothing half typed by the one before.
    return <Fragment key={me.data.name}>{children}</Fragment>;
  }
  asked.by = null;
  if (me.fetchStatus === 'paused' && me.isPending)
    return (
      <div className="mx-auto mt-16 max-w-md px-4">
        <Trouble problem={new ApiProblem(0, offline)} />
      </div>
    );
  if (me.isPending || setup.isPending) return <Waiting what={tr`the shop`} />;
  if (me.error ?? setup.error)
    return (
      <div className="mx-auto mt-16 max-w-md px-4">
        <Trouble problem={(me.error ?? setup.error) as ApiProblem} />
      </div>
    );
  return (
    <Suspense fallback={<Waiting what={tr`the shop`} />}>
      <Entrance first={setup.data?.needsFirstLead ?? false} />
    </Suspense>
  );
}
