import { t as tr } from '@lingui/core/macro';
import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { Trouble } from '../ui/basics';
import type { useMutation } from '@tanstack/react-query';

type Adding = ReturnType<typeof useMutation<void, ApiProblem, File[]>>;

/** How often the server is asked what the camera sees, in ms after the last answer. */
const pause = 350;
const frameWidth = 1000;

/** The camera with the card in view: before the shutter it says whether the card is seen, sharp, and square enough. */
export function CardCamera({ add, place }: { add: Adding; place: string }) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="key">{tr`With the scale card`}</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/80" />
        <Dialog.Content className="fixed inset-0 z-50 flex flex-col bg-ink text-paper">
          <div className="flex items-center gap-2 px-3 py-1">
            <Dialog.Title className="flex-1 text-lg font-bold">{tr`${place} with the scale card`}</Dialog.Title>
            <Dialog.Close className="key" aria-label={tr`Close`}>
              ✕
            </Dialog.Close>
          </div>
          <Dialog.Description className="sr-only">
            {tr`Lay the card beside the part, level with what is measured.`}
          </Dialog.Description>
          {open && <Viewfinder add={add} place={place} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Viewfinder({ add, place }: { add: Adding; place: string }) {
  const video = useRef<HTMLVideoElement>(null);
  const [hint, setHint] = useState<Schemas['CardHint'] | null>(null);
  const [says, setSays] = useState(tr`Opening the camera …`);
  const [taken, setTaken] = useState(0);
  useEffect(() => {
    let live = true;
    let stream: MediaStream | undefined;
    const look = async () => {
      stream = await navigator.mediaDevices.getUserMedia({
        video: { facingMode: 'environment', width: { ideal: 4096 }, height: { ideal: 3072 } },
      });
      const screen = video.current;
      if (!live || !screen) return;
      screen.srcObject = stream;
      await screen.play();
      while (live) {
        try {
          const frame = await shot(screen, frameWidth, 0.7);
          const told = await unwrap(
            api.POST('/api/pictures/hint', {
              body: frame as never,
              bodySerializer: (b: unknown) => b as Blob,
              headers: { 'Content-Type': 'application/octet-stream' },
            }),
          );
          if (live) {
            setHint(told);
            setSays(told.says);
          }
        } catch {
          // Without a network there is no hint, and the picture is as good: it is measured when it is sent.
          if (live) {
            setHint(null);
            setSays(tr`No network: no hint. Take it; it is measured later.`);
          }
        }
        await new Promise((r) => setTimeout(r, pause));
      }
    };
    look().catch(() => live && setSays(tr`The camera cannot be used here. Allow it in the browser.`));
    return () => {
      live = false;
      stream?.getTracks().forEach((t) => t.stop());
    };
  }, []);
  const take = async () => {
    const blob = await shot(video.current!, Infinity, 0.95);
    add.mutate([new File([blob], `${place.toLowerCase()}-card-${Date.now()}.jpg`, { type: 'image/jpeg' })]);
    setTaken((n) => n + 1);
  };
  return (
    <>
      <div className="relative min-h-0 flex-1">
        <video ref={video} muted playsInline className="size-full object-contain" />
        <p
          role="status"
          className={`absolute inset-x-3 top-2 rounded-lg px-3 py-2 text-center text-lg font-bold text-ink ${hint?.good ? 'bg-oil-tint' : 'bg-brass-tint'}`}
        >
          {says}
        </p>
      </div>
      <div className="flex items-center gap-3 p-3">
        <button type="button" className="key key-go min-h-16 flex-1 text-xl" onClick={() => void take()}>
          {tr`Take it`}
        </button>
        {taken > 0 && <span className="fig">{tr`taken: ${taken}`}</span>}
      </div>
      <Trouble problem={add.error} />
    </>
  );
}

/** What the camera shows now, as a JPEG of at most so many pixels across. */
function shot(video: HTMLVideoElement, most: number, quality: number) {
  const canvas = document.createElement('canvas');
  const by = Math.min(1, most / video.videoWidth);
  canvas.width = Math.round(video.videoWidth * by);
  canvas.height = Math.round(video.videoHeight * by);
  canvas.getContext('2d')!.drawImage(video, 0, 0, canvas.width, canvas.height);
  return new Promise<Blob>((done, fail) =>
    canvas.toBlob((b) => (b ? done(b) : fail(new Error('empty'))), 'image/jpeg', quality),
  );
}
