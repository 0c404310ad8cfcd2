import type { Schemas } from '../api/client';
import { useFileUrl } from '../outbox/useFileUrl';

export type Photo = Schemas['Photo'];

export const pictureUrl = (caseId: string, photo: string, size: 'view' | 'thumb') =>
  `/api/cases/${caseId}/photos/${photo}/${size}`;

export const usePictureUrl = (caseId: string, photo: Photo, size: 'view' | 'thumb') =>
  useFileUrl(caseId, photo, pictureUrl(caseId, photo.id, size));
