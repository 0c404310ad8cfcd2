import type { ReactNode } from 'react';

export const menuKey = 'key max-w-44 shrink-0 border-transparent text-sm whitespace-nowrap';

/** What stands on a key that opens a list. */
export function MenuLabel({ label }: { label: ReactNode }) {
  return (
    <>
      <span className="inline-block max-w-32 truncate align-bottom">{label}</span> <span aria-hidden>▾</span>
    </>
  );
}
