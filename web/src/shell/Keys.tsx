import { t as tr } from '@lingui/core/macro';
import { Dialog } from 'radix-ui';
import { useEffect } from 'react';
import { everywhere, hotkeys, isKey } from './hotkeys';

/** All keys of daily acts, shown by one key. */
export function Keys({ open, setOpen }: { open: boolean; setOpen: (open: boolean) => void }) {
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (!isKey(e, 'keys')) return;
      e.preventDefault();
      setOpen(!open);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [open, setOpen]);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className="card fixed inset-x-2 top-16 z-50 mx-auto max-h-[85dvh] max-w-xl overflow-auto p-4"
        >
          <Dialog.Title className="mb-3 text-xl font-bold">{tr`Keys`}</Dialog.Title>
          <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-4 gap-y-2">
            {[...Object.values(hotkeys), ...everywhere].map(([key, does]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd className="fig rounded border-2 border-line px-1.5 font-bold whitespace-nowrap">
                    {key}
                  </kbd>
                </dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="key mt-4">{tr`Close`}</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
