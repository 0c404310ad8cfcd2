import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { Dialog } from 'radix-ui';
import { useRef, useState } from 'react';
import { v7 } from 'uuid';
import { useMutation } from '@tanstack/react-query';
import { ApiProblem } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { Unkept, useWaiting } from '../outbox/useOutbox';
import { useWrite, write, writes } from '../outbox/writes';
import { Addr, moment, Trouble } from '../ui/basics';
import { useSwipe } from '../ui/useSwipe';
import { WhyForm } from '../ui/WhyForm';
import { entriesOf, stands, writerOf } from '../ui/words';
import { CardCamera } from './CardCamera';
import { ComparedPicture } from './Compared';
import { MarkedPicture } from './Marks';
import { MeasuredPicture } from './Measuring';
import { usePictureUrl, type Photo } from './picture';
import { useMayWrite } from '../api/queries';

// The same file chosen again after a slip keeps its id and so is taken in once.
const ids = new Map<string, string>();

function idOf(place: string, file: File) {
  const name = `${place}/${file.name}/${file.size}/${file.lastModified}`;
  const known = ids.get(name) ?? v7();
  ids.set(name, known);
  return known;
}

/** Takes pictures in, each on its own: one that cannot be read is told and the others are kept. */
export function usePhotos(context: CaseContext, address: string, step = '', shot = '') {
  const caseId = context.engineCase.id;
  return useMutation<void, ApiProblem, File[]>({
    mutationFn: async (files) => {
      let unkept: Unkept | null = null;
      for (const file of files)
        await write(caseId, writes.photo, {
          id: idOf(address, file),
          place: address,
          step,
          shot,
          file,
        }).catch((e: unknown) => {
          // One that was refused stays in the queue with what is wrong. One that nobody has is told when the others are through.
          if (e instanceof Unkept) unkept = e;
          else if (!(e instanceof ApiProblem)) throw e;
        });
      if (unkept) throw unkept;
    },
  });
}

/** Keys that take a picture by the camera or choose files. */
export function PhotoKeys({
  address,
  context,
  step = '',
  shot = '',
  named = '',
  label = tr`Photograph it`,
}: {
  address: string;
  context: CaseContext;
  step?: string;
  shot?: string;
  /** What the picture shows, where several are asked for side by side. */
  named?: string;
  label?: string;
}) {
  const mayWrite = useMayWrite();
  const camera = useRef<HTMLInputElement>(null);
  const files = useRef<HTMLInputElement>(null);
  const add = usePhotos(context, address, step, shot);
  const take = (input: HTMLInputElement) => {
    const list = [...(input.files ?? [])];
    input.value = '';
    if (list.length > 0) add.mutate(list);
  };
  if (!mayWrite) return null;
  return (
    <>
      <input
        ref={camera}
        type="file"
        accept="image/*"
        capture="environment"
        className="sr-only"
        tabIndex={-1}
        // Its key is beside it; told twice it is one too many.
        aria-hidden
        aria-label={tr`Camera`}
        onChange={(e) => take(e.target)}
      />
      <input
        ref={files}
        type="file"
        accept="image/*"
        multiple
        className="sr-only"
        tabIndex={-1}
        aria-hidden
        aria-label={tr`Picture files`}
        onChange={(e) => take(e.target)}
      />
      <button
        type="button"
        className="key"
        aria-label={named ? tr`${named}: take it` : undefined}
        disabled={add.isPending}
        onClick={() => camera.current?.click()}
      >
        {add.isPending ? tr`Taking in …` : label}
      </button>
      <button
        type="button"
        className="key"
        aria-label={named ? tr`${named}: from files` : tr`From files`}
        disabled={add.isPending}
        onClick={() => files.current?.click()}
      >
        {shot ? tr`Files` : tr`From files`}
      </button>
      {!shot && <CardCamera add={add} place={address} />}
      <Trouble problem={add.error} />
    </>
  );
}

/** Photographs of a place, its shot list, and keys to add more from the camera or from files. */
export function PhotoStrip({
  address,
  context,
  step = '',
  shown = null,
  onShown,
}: {
  address: string;
  context: CaseContext;
  /** Only the pictures that belong to this step of the strip. */
  step?: string;
  /** Id of a picture to open. */
  shown?: string | null;
  onShown?: (photo: string | null) => void;
}) {
  const { engineCase } = context;
  const refused = useWaiting(engineCase.id).filter((e) => e.refused && e.file && e.place === address);
  const photos = engineCase.photos.filter((p) => stands(p) && (step ? p.step === step : p.place === address));
  return (
    <div>
      <ul className="flex flex-wrap gap-2">
        {photos.map((p) => (
          <li key={p.id}>
            <Picture
              photo={p}
              context={context}
              among={photos}
              {...(onShown ? { open: shown === p.id, onOpen: (o: boolean) => onShown(o ? p.id : null) } : {})}
            />
          </li>
        ))}
      </ul>
      {!step && <ShotList address={address} context={context} />}
      <div className="mt-2 flex flex-wrap gap-2">
        <PhotoKeys address={address} context={context} step={step} />
      </div>
      {refused.map((e) => (
        <div key={e.seq} role="alert" className="mt-2 rounded-lg border-2 border-lead bg-lead-tint px-3 py-2">
          <p className="font-bold">{e.refused!.title}</p>
          <p>
            <Trans>{e.refused!.remedy} The file is kept under “to look at” above.</Trans>
          </p>
        </div>
      ))}
    </div>
  );
}

/** Pictures that an examiner will miss of this part, taken or not. */
function ShotList({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase, knowledge, section } = context;
  const kind = section.cells.find((c) => c.address === address)?.kind ?? '';
  const shots = knowledge.shots.filter((s) => s.on.includes(kind));
  const taken = new Set(engineCase.photos.filter((p) => stands(p) && p.place === address).map((p) => p.shot));
  const missing = shots.filter((s) => !taken.has(s.id));
  if (missing.length === 0) return null;
  return (
    <div className="mt-2 rounded-lg border-2 border-dashed border-brass px-3 py-2">
      <p className="font-semibold">{tr`Photos still missing`}</p>
      <ul className="divide-y divide-line" aria-label={tr`Photos still missing`}>
        {missing.map((s) => (
          <li key={s.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1.5">
            <details className="least-40 flex-1">
              <summary className="min-h-11 cursor-pointer py-2.5 leading-tight">{s.name}</summary>
              <p className="text-sm">
                {s.how} <span className="text-soft">{s.why}</span>
              </p>
            </details>
            <span className="flex gap-1.5">
              <PhotoKeys address={address} context={context} shot={s.id} named={s.name} label={tr`Take it`} />
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

export function Picture({
  photo,
  context,
  among = [photo],
  open,
  onOpen,
  className = 'h-[6.2rem] w-[8.2rem]',
}: {
  photo: Photo;
  context: CaseContext;
  /** Those that are gone through once it is opened. */
  among?: readonly Photo[];
  open?: boolean;
  onOpen?: (open: boolean) => void;
  className?: string;
}) {
  const caseId = context.engineCase.id;
  const thumb = usePictureUrl(caseId, photo, 'thumb');
  const shot = context.knowledge.shots.find((s) => s.id === photo.shot)?.name;
  return (
    <Dialog.Root {...(open === undefined ? {} : { open })} {...(onOpen ? { onOpenChange: onOpen } : {})}>
      <Dialog.Trigger className="relative block overflow-hidden rounded-lg border border-line">
        <img
          src={thumb}
          alt={photo.caption || shot || tr`Photograph of ${photo.place}`}
          width={140}
          height={105}
          loading="lazy"
          className={`object-cover ${className}`}
        />
        {photo.version === 0 && (
          <span className="absolute inset-x-0 bottom-0 bg-brass-tint px-1 text-xs font-bold">
            {tr`not yet sent`}
          </span>
        )}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-paper" />
        <Dialog.Content className="fixed inset-0 z-50 flex flex-col overflow-auto bg-paper">
          <Opened photo={photo} among={among} context={context} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

type Way = 'mark' | 'measure' | 'compare';

const wayWords: Record<Way, string> = {
  mark: tr`Look and mark`,
  measure: tr`Measure`,
  compare: tr`Compare`,
};

/** A picture over the whole screen, and by swipe or arrow key those beside it. */
function Opened({
  photo: first,
  among,
  context,
}: {
  photo: Photo;
  among: readonly Photo[];
  context: CaseContext;
}) {
  const mayWrite = useMayWrite();
  const takeBack = useWrite(context.engineCase.id, writes.takeBack);
  const [asks, setAsks] = useState(false);
  const [now, setNow] = useState(first.id);
  const [way, setWay] = useState<Way>('mark');
  const at = Math.max(
    0,
    among.findIndex((p) => p.id === now),
  );
  const photo = among[at] ?? first;
  const [before, next] = [among[at - 1], among[at + 1]];
  const go = (to: Photo | undefined) => {
    if (!to) return;
    setAsks(false);
    setNow(to.id);
  };
  // Whoever measures drags points, and turns no page by it.
  const swipes = way === 'mark';
  const swipe = useSwipe(next && swipes ? () => go(next) : null, before && swipes ? () => go(before) : null);
  const shot = context.knowledge.shots.find((s) => s.id === photo.shot)?.name;
  return (
    <div
      {...swipe}
      className="flex min-h-full touch-pan-y flex-col"
      onKeyDown={(e) => {
        if ((e.target as Element).closest('input, textarea')) return;
        if (e.key === 'ArrowRight') go(next);
        if (e.key === 'ArrowLeft') go(before);
      }}
    >
      <div className="flex items-center gap-2 px-3 py-1">
        <Dialog.Title className="min-w-0 flex-1 truncate text-lg font-bold">
          <Addr code={photo.place} /> {photo.caption || shot || ''}
        </Dialog.Title>
        {among.length > 1 && (
          <>
            <button
              className="key"
              disabled={!before}
              aria-label={tr`Picture before`}
              onClick={() => go(before)}
            >
              ◂
            </button>
            <span className="fig text-sm" aria-live="polite">
              <Trans>
                {at + 1} of {among.length}
              </Trans>
            </span>
            <button className="key" disabled={!next} aria-label={tr`Next picture`} onClick={() => go(next)}>
              ▸
            </button>
          </>
        )}
        <Dialog.Close className="key" aria-label={tr`Close`}>
          ✕
        </Dialog.Close>
      </div>
      <div role="group" aria-label={tr`What is done with the picture`} className="flex gap-1.5 px-3 pb-2">
        {entriesOf(wayWords).map(([w, words]) => (
          <button key={w} type="button" className="key" aria-pressed={way === w} onClick={() => setWay(w)}>
            {words}
          </button>
        ))}
      </div>
      {way === 'mark' && <MarkedPicture key={photo.id} photo={photo} context={context} />}
      {way === 'measure' && <MeasuredPicture key={photo.id} photo={photo} context={context} />}
      {way === 'compare' && <ComparedPicture key={photo.id} photo={photo} context={context} />}
      <div className="px-3 pb-3">
        <Dialog.Description className="mt-1 text-sm text-soft">
          {photo.fileName}, {writerOf(photo)}, {moment(photo.at)}.{' '}
          {photo.sha256 && (
            <>
              <Trans>SHA-256 of the original </Trans>
              <span className="fig" title={photo.sha256}>
                {photo.sha256.slice(0, 12)}…
              </span>
            </>
          )}
        </Dialog.Description>
        {mayWrite && (
          <div className="mt-2 max-w-xl">
            {asks ? (
              <WhyForm
                press={tr`Take the picture back`}
                send={(why) =>
                  takeBack.mutateAsync({
                    of: 'photos',
                    record: photo,
                    why,
                    words: tr`picture ${photo.fileName}`,
                  })
                }
              />
            ) : (
              <button className="key text-sm" onClick={() => setAsks(true)}>
                {tr`Take the picture back`}
              </button>
            )}
            <Trouble problem={takeBack.error} />
          </div>
        )}
      </div>
    </div>
  );
}
