import { lazy, Suspense, useEffect, type ReactNode } from 'react';
import { ApiProblem } from '../api/client';
import { useMe, useSetup } from '../api/queries';
import { signedInAs } from '../outbox/useOutbox';
import { Trouble, Waiting } from '../ui/basics';
import { draftsBelongTo } from '../ui/draft';

// Whoever is signed in already does not wait for its form.
const Entrance = lazy(() => import('./Entrance').then((m) => ({ default: m.Entrance })));

const offline = {
  title: 'There is no network, and nobody has signed in on this device before.',
  detail: 'Sign in once with a network; after that the bench works without.',
};

/** Lets in who is signed in; asks the others, and a new shop for its first lead. */
export function Gate({ children }: { children: ReactNode }) {
  const me = useMe();
  const setup = useSetup();
  const name = me.data?.name ?? null;
  useEffect(() => {
    if (!me.isPending) signedInAs(name);
  }, [name, me.isPending]);
  // What was read before stands while the server does not answer.
  if (me.data) {
    draftsBelongTo(me.data.name);
    return children;
  }
  if (me.fetchStatus === 'paused' && me.isPending)
    return (
      <div className="mx-auto mt-16 max-w-md px-4">
        <Trouble problem={new ApiProblem(0, offline)} />
      </div>
    );
  if (me.isPending || setup.isPending) return <Waiting what="the shop" />;
  if (me.error ?? setup.error)
    return (
      <div className="mx-auto mt-16 max-w-md px-4">
        <Trouble problem={(me.error ?? setup.error) as ApiProblem} />
      </div>
    );
  return (
    <Suspense fallback={<Waiting what="the shop" />}>
      <Entrance first={setup.data?.needsFirstLead ?? false} />
    </Suspense>
  );
}
