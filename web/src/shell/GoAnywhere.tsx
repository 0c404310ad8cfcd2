import { t as tr } from '@lingui/core/macro';
import { Dialog } from 'radix-ui';
import { isKey, keyOf } from './hotkeys';
import { lazy, Suspense, useEffect, useState } from 'react';

const Finding = lazy(() => import('./Finding').then((m) => ({ default: m.Finding })));

/** One field that goes anywhere: a key at the desk, a thumb at the phone. */
export function GoAnywhere({ className, words }: { className: string; words: React.ReactNode }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (!isKey(e, 'find')) return;
      e.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className={className} aria-label={tr`Go anywhere, ${keyOf('find')}`}>
        {words}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-2 top-2 z-50 mx-auto flex max-h-[92dvh] max-w-2xl flex-col rounded-xl bg-paper p-3 md:top-16"
        >
          <Dialog.Title className="sr-only">{tr`Go anywhere`}</Dialog.Title>
          <Suspense fallback={null}>
            <Finding close={() => setOpen(false)} />
          </Suspense>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
