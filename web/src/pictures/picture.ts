import { useEffect, useState } from 'react';
import type { Schemas } from '../api/client';
import { outbox, useWaiting } from '../outbox/useOutbox';

export type Photo = Schemas['Photo'];

export const pictureUrl = (caseId: string, photo: string, size: 'view' | 'thumb') =>
  `/api/cases/${caseId}/photos/${photo}/${size}`;

/** Where a picture is shown from: the server, or while it waits the file that is kept on the device. */
export function usePictureUrl(caseId: string, photo: Photo, size: 'view' | 'thumb') {
  const waiting = useWaiting(caseId);
  const kept =
    photo.version === 0
      ? waiting.find((e) => e.file && (e.body as { id?: string }).id === photo.id)
      : undefined;
  const [seq, type] = [kept?.seq ?? null, kept?.file?.type ?? ''];
  const [local, setLocal] = useState<string | null>(null);
  useEffect(() => {
    if (seq === null) return;
    let url: string | null = null;
    let gone = false;
    void outbox
      .bytes(seq)
      .catch(() => null)
      .then((data) => {
        if (gone || !data) return;
        url = URL.createObjectURL(new Blob([data], { type }));
        setLocal(url);
      });
    return () => {
      gone = true;
      if (url) URL.revokeObjectURL(url);
      setLocal(null);
    };
  }, [seq, type]);
  return local ?? pictureUrl(caseId, photo.id, size);
}
