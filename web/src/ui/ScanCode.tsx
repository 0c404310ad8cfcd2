import { t as tr } from '@lingui/core/macro';
import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { ApiProblem } from '../api/client';
import { Trouble } from './basics';

/**
 * Reads a printed code with the camera, in the browser and with no service outside; the reader is fetched when it is first used. What is done with the code
 * may refuse it: that is told, and the camera looks on for another.
 */
export function ScanCode({
  words,
  title,
  says,
  className = 'key',
  read,
}: {
  words: string;
  title: string;
  says: string;
  className?: string;
  /** What is to happen with the code, for as long as the camera is still open then. */
  read: (code: string) => Promise<() => void>;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className={className}>{words}</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/70" />
        <Dialog.Content className="fixed inset-x-3 top-6 z-50 mx-auto max-w-lg space-y-3 rounded-xl bg-paper p-4">
          <Dialog.Title className="text-xl font-bold">{title}</Dialog.Title>
          <Dialog.Description className="text-soft">{says}</Dialog.Description>
          {open && (
            <Camera
              read={async (code) => {
                const go = await read(code);
                return () => {
                  setOpen(false);
                  go();
                };
              }}
            />
          )}
          <Dialog.Close className="key w-full">{tr`Close`}</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Camera({ read }: { read: (code: string) => Promise<() => void> }) {
  const video = useRef<HTMLVideoElement>(null);
  const found = useRef(read);
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  found.current = read;

  useEffect(() => {
    let live = true;
    let stream: MediaStream | undefined;
    let refused = '';
    const look = async () => {
      const [{ BarcodeDetector, prepareZXingModule }, wasm] = await Promise.all([
        import('barcode-detector/ponyfill'),
        import('zxing-wasm/reader/zxing_reader.wasm?url'),
      ]);
      prepareZXingModule({ overrides: { locateFile: () => wasm.default } });
      const detector = new BarcodeDetector({ formats: ['qr_code'] });
      stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'environment' } });
      const screen = video.current;
      if (!live || !screen) return;
      screen.srcObject = stream;
      await screen.play();
      while (live) {
        const code = (await detector.detect(screen))[0]?.rawValue;
        if (code && code !== refused) {
          try {
            const go = await found.current(code);
            if (live) go();
            return;
          } catch (e) {
            // It is told once; the camera looks on for another.
            refused = code;
            if (live && e instanceof ApiProblem) setProblem(e);
          }
        }
        await new Promise((r) => setTimeout(r, 150));
      }
    };
    look().catch(() => {
      if (live)
        setProblem(
          new ApiProblem(0, {
            title: tr`The camera cannot be used here.`,
            detail: tr`Allow it in the browser, or type the address instead.`,
          }),
        );
    });
    return () => {
      live = false;
      stream?.getTracks().forEach((t) => t.stop());
    };
  }, []);

  return (
    <>
      <video ref={video} muted playsInline className="aspect-[4/3] w-full rounded-lg bg-black object-cover" />
      <Trouble problem={problem} />
    </>
  );
}
