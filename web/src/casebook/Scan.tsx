import { t as tr } from '@lingui/core/macro';
import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { api, ApiProblem, unwrap } from '../api/client';
import { Trouble } from '../ui/basics';
import { useCaseContext } from './context';

/**
 * Reads a tag with the camera, in the browser and with no service outside; the reader is fetched when it is first used. What the
 * tag says is looked up by the server, so that a tag of another case is told as such.
 */
export function Scan({
  caseId,
  onFound,
  className = 'key',
  words = tr`Scan a tag`,
}: {
  caseId: string;
  onFound: (address: string) => void;
  className?: string;
  words?: string;
}) {
  const [open, setOpen] = useState(false);
  const { openBag } = useCaseContext();
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className={className}>{words}</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/70" />
        <Dialog.Content className="fixed inset-x-3 top-6 z-50 mx-auto max-w-lg space-y-3 rounded-xl bg-paper p-4">
          <Dialog.Title className="text-xl font-bold">{tr`Hold the tag before the camera`}</Dialog.Title>
          <Dialog.Description className="text-soft">
            {tr`A hand’s breadth away, square in the picture. Or type the address.`}
          </Dialog.Description>
          {open && (
            <Camera
              caseId={caseId}
              onFound={(address, isBag) => {
                setOpen(false);
                (isBag ? openBag : onFound)(address);
              }}
            />
          )}
          <Dialog.Close className="key w-full">{tr`Close`}</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Camera({ caseId, onFound }: { caseId: string; onFound: (address: string, isBag: boolean) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const found = useRef(onFound);
  const [problem, setProblem] = useState<ApiProblem | null>(null);
  found.current = onFound;

  useEffect(() => {
    let live = true;
    let stream: MediaStream | undefined;
    let refused = '';
    const read = async () => {
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
        const codes = await detector.detect(screen);
        const tag = codes[0]?.rawValue;
        if (tag && tag !== refused) {
          try {
            const answer = await unwrap(
              api.GET('/api/cases/{caseId}/scan', { params: { path: { caseId }, query: { tag } } }),
            );
            if (live) found.current(answer.place, answer.isBag);
            return;
          } catch (e) {
            // The tag of another case is told once; the camera looks on for another tag.
            refused = tag;
            // Without a network the tag's own words must do; the server looks at the address again when something is sent.
            const own = new RegExp(`^vivid-sleuth:${caseId.replaceAll('-', '')}:([A-Z0-9.]+)$`, 'i').exec(
              tag,
            )?.[1];
            if (live && own && e instanceof ApiProblem && e.status === 0)
              return found.current(own.toUpperCase(), /^[A-Z]{3,5}\d+$/i.test(own));
            if (live && e instanceof ApiProblem) setProblem(e);
          }
        }
        await new Promise((r) => setTimeout(r, 150));
      }
    };
    read().catch(() => {
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
  }, [caseId]);

  return (
    <>
      <video ref={video} muted playsInline className="aspect-[4/3] w-full rounded-lg bg-black object-cover" />
      <Trouble problem={problem} />
    </>
  );
}
