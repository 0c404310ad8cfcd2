import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { api, unwrap, type ApiProblem } from '../api/client';
import { keys, useMe } from '../api/queries';
import { forget } from '../device/persist';
import { personChanged } from '../device/person';
import { remember } from '../device/remember';
import { Queue } from '../outbox/Queue';

/** The line at the top: where one is, who one is. */
export function Header({ children }: { children?: ReactNode }) {
  const client = useQueryClient();
  const { data: me } = useMe();
  const [dark, setDark] = useState(document.documentElement.dataset.theme === 'dark');
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
  const flip = () => {
    const theme = dark ? 'light' : 'dark';
    document.documentElement.dataset.theme = theme;
    remember('theme', theme);
    setDark(!dark);
  };
  return (
    <header className="no-print flex flex-wrap items-center gap-x-3 border-b border-line bg-paper px-3 py-1.5 md:px-5">
      <Link to="/" className="flex min-h-11 items-center gap-2 font-bold" aria-label="Casebook">
        <img src="/mark.svg" alt="" width={30} height={30} />
        <span className="hidden sm:inline">Casebook</span>
      </Link>
      <div className="min-w-0 flex-1">{children}</div>
      <Queue />
      <button
        className="key border-transparent text-sm"
        onClick={flip}
        aria-label={dark ? 'Light screen' : 'Dark screen'}
      >
        {dark ? 'Light' : 'Dark'}
      </button>
      <Link
        to="/door"
        className="key flex max-w-40 items-center border-transparent text-sm"
        title={`You are ${me?.name}, ${me?.role}: password, passkeys, devices`}
      >
        <span className="truncate">{me?.name}</span>
      </Link>
      <button className="key border-transparent text-sm" onClick={() => leave.mutate()} title="Sign out">
        Sign out
      </button>
      {leave.error && (
        <p role="alert" className="w-full py-1 text-right font-semibold text-lead">
          You are still signed in: the server does not answer. Sign out again when it does.
        </p>
      )}
    </header>
  );
}
