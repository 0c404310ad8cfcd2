import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { Dialog } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { useMe } from '../api/queries';
import { roleWords } from '../ui/words';
import { useDeviceChoices } from './choices';
import { Leaving } from './Leaving';
import { useShopPages, useTools, type Page } from './pages';

/** On a phone: all that there is, from the thumb up. */
export function Sheet({
  label,
  name,
  className = '',
  children,
}: {
  label: ReactNode;
  /** What the key is called to those who do not see it. */
  name: string;
  className?: string;
  /** What comes first in it: the stages of a case. */
  children?: (close: () => void) => ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const [leaving, setLeaving] = useState(false);
  const { data: me } = useMe();
  const tools = useTools();
  const shop = useShopPages();
  const choices = useDeviceChoices();
  const close = () => setOpen(false);
  return (
    <>
      <Dialog.Root open={open} onOpenChange={setOpen}>
        <Dialog.Trigger className={className} aria-label={name}>
          {label}
        </Dialog.Trigger>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
          <Dialog.Content
            aria-describedby={undefined}
            className="fixed inset-x-0 bottom-0 z-50 max-h-[88dvh] overflow-auto rounded-t-2xl bg-paper px-3 pt-3 pb-4"
          >
            <div className="flex items-center">
              <Dialog.Title className="flex-1 px-2 text-lg font-bold">{tr`Go to`}</Dialog.Title>
              <Dialog.Close className="key" aria-label={tr`Close`}>
                ✕
              </Dialog.Close>
            </div>
            {children?.(close)}
            <Link to="/" className={row} onClick={close}>
              <b>{tr`Casebook`}</b>
            </Link>
            <Pages name="Tools" pages={tools} close={close} />
            <Pages name="Shop" pages={shop} close={close} />
            <h3 className="px-2 pt-3 text-sm font-semibold text-soft">
              {me?.name}, {roleWords[me?.role ?? '']}
            </h3>
            {choices.map((c) => (
              <div key={c.label} role="group" aria-label={c.label} className="py-1">
                <span className="block px-2 text-sm text-soft">{c.label}</span>
                <div className="flex flex-wrap gap-1.5">
                  {c.words.map(([id, words]) => (
                    <button
                      key={id}
                      className="key px-3 text-sm"
                      aria-pressed={c.value === id}
                      onClick={() => c.choose(id)}
                    >
                      {words}
                    </button>
                  ))}
                </div>
              </div>
            ))}
            <Link to="/door" className={row} onClick={close}>
              <b>{tr`Password, passkeys, devices`}</b>
            </Link>
            <button
              className={`${row} w-full text-left font-bold`}
              onClick={() => {
                close();
                setLeaving(true);
              }}
            >
              <Trans>Sign out {me?.name}</Trans>
            </button>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
      <Leaving open={leaving} close={() => setLeaving(false)} />
    </>
  );
}

export const row = 'flex min-h-12 flex-wrap items-center gap-x-3 rounded-lg px-2 hover:bg-dye-tint';

function Pages({ name, pages, close }: { name: string; pages: readonly Page[]; close: () => void }) {
  return (
    <>
      <h3 className="px-2 pt-3 text-sm font-semibold text-soft">{name}</h3>
      <ul className="grid grid-cols-2">
        {pages.map((p) => (
          <li key={p.path}>
            <Link to={p.path} className={row} onClick={close}>
              <b>{p.name}</b>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}
