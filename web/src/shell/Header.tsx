import { t as tr } from '@lingui/core/macro';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { Queue } from '../outbox/Queue';
import { useNarrow } from '../device/narrow';
import { GoAnywhere } from './GoAnywhere';
import { keyOf } from './hotkeys';
import { LateMenus } from './LateMenus';
import { Sheet } from './Sheet';

/** The one bar of every page: the casebook, where one is, the tools, the shop, the person. */
export function Header({ children, inCase = false }: { children?: ReactNode; inCase?: boolean }) {
  const narrow = useNarrow();
  return (
    <header className="no-print flex items-center gap-x-2 border-b border-line bg-paper px-3 py-1 md:gap-x-3 md:px-5">
      <Link
        to="/"
        className="flex min-h-11 shrink-0 items-center gap-2"
        aria-label={tr`Vivid Sleuth, Casebook`}
      >
        <img src="/mark.svg" alt="" width={30} height={30} />
        <span className="hidden leading-tight lg:block">
          <span className="block text-sm text-soft">{tr`Vivid Sleuth`}</span>
          <b className="block">{tr`Casebook`}</b>
        </span>
      </Link>
      <div className="min-w-0 flex-1">{children}</div>
      <Queue />
      {!(inCase && narrow) && (
        <GoAnywhere
          className="key flex shrink-0 items-center gap-2 text-sm text-soft"
          words={
            <>
              <span>{tr`Go to …`}</span>
              <kbd className="fig hidden text-xs md:inline">{keyOf('find')}</kbd>
            </>
          }
        />
      )}
      <div className="hidden items-center md:flex">
        <LateMenus />
      </div>
      {!inCase && <Sheet name={tr`All pages`} className="key md:hidden" label={tr`Menu`} />}
    </header>
  );
}
