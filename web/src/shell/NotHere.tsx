import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { Link, useLocation } from 'react-router';
import { useShopPages, useTools } from './pages';

/** An address at which there is nothing: says so, and what there is. */
export function NotHere() {
  const { pathname } = useLocation();
  const tools = useTools();
  const shop = useShopPages();
  return (
    <main className="mx-auto max-w-3xl space-y-4 px-4 py-8">
      <h1 className="text-2xl">{tr`There is nothing at this address`}</h1>
      <p>
        <Trans>
          <span className="fig break-all">{pathname}</span> is no page here. A case is opened from the
          casebook; a part, a sign or a cause from its case or from the pages below.
        </Trans>
      </p>
      <ul className="grid gap-2 sm:grid-cols-2">
        {[{ path: '/', name: tr`Casebook`, says: tr`the engines on the bench` }, ...tools, ...shop].map(
          (p) => (
            <li key={p.path}>
              <Link to={p.path} className="key flex h-full flex-col justify-center">
                <b>{p.name}</b>
                <span className="text-sm text-soft">{p.says}</span>
              </Link>
            </li>
          ),
        )}
      </ul>
    </main>
  );
}
