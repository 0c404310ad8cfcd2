import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { MenuLabel, menuKey } from './MenuLabel';
import type { Page } from './pages';

/** A key at the top that opens a list. */
export function Menu({
  label,
  opened,
  children,
}: {
  label: ReactNode;
  /** Whether it begins open. */
  opened: boolean;
  children: ReactNode;
}) {
  return (
    <DropdownMenu.Root modal={false} defaultOpen={opened}>
      <DropdownMenu.Trigger className={menuKey}>
        <MenuLabel label={label} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 max-h-[85dvh] least-64 overflow-auto rounded-xl border border-line bg-paper p-1.5 shadow-xl"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

export const itemLook =
  'flex min-h-11 w-full items-center gap-3 rounded-lg px-3 py-1 text-left outline-none data-[highlighted]:bg-dye-tint';

export function MenuPage({ page }: { page: Page }) {
  return (
    <DropdownMenu.Item asChild>
      <Link to={page.path} className={`${itemLook} flex-wrap gap-y-0`}>
        <b>{page.name}</b>
        <span className="text-sm text-soft">{page.says}</span>
      </Link>
    </DropdownMenu.Item>
  );
}
