import { Dialog } from 'radix-ui';
import { useRef, useState } from 'react';
import { v7 } from 'uuid';
import { api, ApiProblem, unwrap, type Schemas } from '../api/client';
import { useWrite } from '../api/queries';
import type { CaseContext } from '../casebook/CaseShell';
import { useMayWrite } from '../shop/Header';
import { Addr, moment, Trouble } from '../ui/basics';
import { stands } from '../ui/words';

export const pictureUrl = (caseId: string, photo: string, size: 'view' | 'thumb') =>
  `/api/cases/${caseId}/photos/${photo}/${size}`;

// The same file sent again, after a lost answer or a second press, keeps its id and so is taken in once.
const ids = new Map<string, string>();

function idOf(place: string, file: File) {
  const name = `${place}/${file.name}/${file.size}/${file.lastModified}`;
  const known = ids.get(name) ?? v7();
  ids.set(name, known);
  return known;
}

async function send(caseId: string, place: string, step: string, file: File) {
  const form = new FormData();
  form.set('id', idOf(place, file));
  form.set('place', place);
  form.set('step', step);
  form.set('file', file);
  return unwrap(
    api.POST('/api/cases/{caseId}/photos', {
      params: { path: { caseId } },
      body: form as never,
      bodySerializer: (b) => b as unknown as FormData,
    }),
  );
}

/** Photographs of a place, and keys to add more from the camera or from files. */
export function PhotoStrip({
  address,
  context,
  step = '',
}: {
  address: string;
  context: CaseContext;
  /** Only the pictures that belong to this step of the strip. */
  step?: string;
}) {
  const { engineCase } = context;
  const mayWrite = useMayWrite();
  const camera = useRef<HTMLInputElement>(null);
  const files = useRef<HTMLInputElement>(null);
  const [failed, setFailed] = useState<ApiProblem[]>([]);
  const add = useWrite(engineCase.id, async (list: File[]) => {
    const problems: ApiProblem[] = [];
    // One after the other: a bad file is told and the others of the batch are kept.
    for (const file of list) {
      await send(engineCase.id, address, step, file).catch((e: unknown) => {
        if (e instanceof ApiProblem) problems.push(e);
        else throw e;
      });
    }
    setFailed(problems);
  });
  const photos = engineCase.photos.filter((p) => stands(p) && (step ? p.step === step : p.place === address));
  const take = (input: HTMLInputElement) => {
    const list = [...(input.files ?? [])];
    input.value = '';
    if (list.length > 0) add.mutate(list);
  };
  return (
    <div>
      <ul className="flex flex-wrap gap-2">
        {photos.map((p) => (
          <li key={p.id}>
            <Picture photo={p} caseId={engineCase.id} />
          </li>
        ))}
      </ul>
      {mayWrite && (
        <div className="mt-2 flex flex-wrap gap-2">
          <input
            ref={camera}
            type="file"
            accept="image/*"
            capture="environment"
            className="sr-only"
            tabIndex={-1}
            aria-label="Camera"
            onChange={(e) => take(e.target)}
          />
          <input
            ref={files}
            type="file"
            accept="image/*"
            multiple
            className="sr-only"
            tabIndex={-1}
            aria-label="Picture files"
            onChange={(e) => take(e.target)}
          />
          <button
            type="button"
            className="key"
            disabled={add.isPending}
            onClick={() => camera.current?.click()}
          >
            {add.isPending ? 'Taking in …' : 'Photograph it'}
          </button>
          <button
            type="button"
            className="key"
            disabled={add.isPending}
            onClick={() => files.current?.click()}
          >
            From files
          </button>
        </div>
      )}
      <div className="mt-2 space-y-2">
        {failed.map((p) => (
          <Trouble key={p.message} problem={p} />
        ))}
        <Trouble problem={add.error} />
      </div>
    </div>
  );
}

export function Picture({ photo, caseId }: { photo: Schemas['Photo']; caseId: string }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger className="block overflow-hidden rounded-lg border border-line">
        <img
          src={pictureUrl(caseId, photo.id, 'thumb')}
          alt={photo.caption || `Photograph of ${photo.place}`}
          width={140}
          height={105}
          loading="lazy"
          className="h-[6.2rem] w-[8.2rem] object-cover"
        />
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/70" />
        <Dialog.Content className="fixed inset-0 z-50 m-auto flex h-fit max-h-[94dvh] w-fit max-w-[96vw] flex-col rounded-xl bg-sheet p-3">
          <img
            src={pictureUrl(caseId, photo.id, 'view')}
            alt={photo.caption || photo.place}
            className="max-h-[76dvh] rounded object-contain"
          />
          <Dialog.Title className="mt-2 text-lg font-bold">
            <Addr code={photo.place} /> {photo.caption}
          </Dialog.Title>
          <Dialog.Description className="text-sm text-soft">
            {photo.fileName}, {photo.by}, {moment(photo.at)}. SHA-256 of the original{' '}
            <span className="fig" title={photo.sha256}>
              {photo.sha256.slice(0, 12)}…
            </span>
          </Dialog.Description>
          <Dialog.Close className="key absolute top-4 right-4" aria-label="Close">
            ✕
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
