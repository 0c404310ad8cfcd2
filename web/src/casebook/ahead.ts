import { api, unwrap } from '../api/client';
import { keys } from '../api/keys';
import { client } from '../device/queryClient';
import { roomQuery, type Room } from './caseQueries';

/** What every stage stands under, and what the first screen of one needs beside it. */
const under: Room[] = ['section', 'places', 'progress', 'stations', 'strip', 'gauge', 'verdict', 'order'];
const first: Record<string, Room[]> = { look: ['look'], trace: ['trace'], arrival: ['compression'] };

/**
 * Reads a case while the scripts of its page are still coming: what this device keeps is then there when the page is first drawn, and it is drawn once
 * and not anew for each answer.
 */
export function readAhead(id: string, stage: string) {
  void client.prefetchQuery({
    queryKey: keys.record(id),
    queryFn: () => unwrap(api.GET('/api/cases/{id}', { params: { path: { id } } })),
  });
  void client.prefetchQuery({
    queryKey: keys.knowledge,
    queryFn: () => unwrap(api.GET('/api/knowledge')),
    staleTime: 5 * 60_000,
  });
  for (const room of [...under, ...(first[stage] ?? [])]) void client.prefetchQuery(roomQuery(id, room));
}
