import { useEffect, useMemo } from 'react';
import type { Schemas } from '../api/client';
import { useWaiting } from '../outbox/useOutbox';

export type Photo = Schemas['Photo'];

export const pictureUrl = (caseId: string, photo: string, size: 'view' | 'thumb') =>
  `/api/cases/${caseId}/photos/${photo}/${size}`;

/** Where a picture is shown from: the server, or while it waits the file that is kept on the device. */
export function usePictureUrl(caseId: string, photo: Photo, size: 'view' | 'thumb') {
  const waiting = useWaiting(caseId);
  const kept =
    photo.version === 0 ? waiting.find((e) => (e.body as { id?: string }).id === photo.id)?.file : undefined;
  const local = useMemo(
    () => (kept ? URL.createObjectURL(new Blob([kept.data], { type: kept.type })) : null),
    [kept],
  );
  useEffect(() => () => void (local && URL.revokeObjectURL(local)), [local]);
  return local ?? pictureUrl(caseId, photo.id, size);
}
