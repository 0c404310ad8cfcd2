import { knowledgeQuery } from '../api/queries';
import { client } from '../device/queryClient';
import { recordQuery, roomQuery, type Room } from './caseQueries';

/** What every stage stands under, and what the first screen of one needs beside it. */
const under: Room[] = ['section', 'places', 'progress', 'stations', 'strip', 'gauge', 'verdict', 'order'];
const first: Record<string, Room[]> = { look: ['look'], trace: ['trace'], arrival: ['compression'] };

/**
 * Reads a case while the scripts of its page are still coming: what this device keeps is then there when the page is first drawn, and it is drawn once
 * and not anew for each answer.
 */
export function readAhead(id: string, stage: string) {
  void client.prefetchQuery(recordQuery(id));
  void client.prefetchQuery(knowledgeQuery);
  for (const room of [...under, ...(first[stage] ?? [])]) void client.prefetchQuery(roomQuery(id, room));
}
