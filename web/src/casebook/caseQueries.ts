import { useQuery, useQueryClient, useSuspenseQuery } from '@tanstack/react-query';
import { use, useCallback, useEffect } from 'react';
import { again, ifAnother } from '../api/again';
import { api, knowsRevision, type CaseAnswers, type EngineCase } from '../api/client';
import { keys } from '../api/keys';
import { client } from '../device/queryClient';
import type { Kept } from '../outbox/outbox';
import { buildWithWaiting, placesWithWaiting, stripWithWaiting, withWaiting } from '../outbox/overlay';
import { useWaiting } from '../outbox/useOutbox';
import { WithCandidate } from './context';
import { together } from './together';

/** How the record of a case is asked for. */
export const recordQuery = (id: string) => ({
  queryKey: keys.record(id),
  queryFn: () =>
    again(client, keys.record(id), (headers) =>
      api.GET('/api/cases/{id}', { params: { path: { id } }, headers }),
    ),
});

/** The case with what waits to be sent laid over it. */
export function useCase(id: string) {
  const waiting = useWaiting(id);
  return useQuery({
    ...recordQuery(id),
    select: useCallback((c: EngineCase) => withWaiting(c, waiting), [waiting]),
  });
}

export type Room = keyof CaseAnswers;

/** Rooms that are asked for in the same moment come in one answer; Trace takes longest and comes by itself. */
const ask = together(async (of: string, rooms: Room[]) => {
  const [id = '', letter = ''] = of.split('.');
  const held = rooms.map((room) => keys.room(id, room, letter));
  const told = await ifAnother(client, held, (headers) =>
    api.GET('/api/cases/{id}/answers', {
      params: { path: { id }, query: { rooms: rooms.join(','), ...(letter ? { with: letter } : {}) } },
      headers,
    }),
  );
  // The rooms that were asked for are in it.
  return (told ?? Object.fromEntries(rooms.map((r, i) => [r, client.getQueryData(held[i]!)]))) as CaseAnswers;
});

/** What is another with a candidate in the engine; how it was stripped and why it failed is not. */
const withCandidate: Room[] = ['section', 'places', 'stations', 'look', 'gauge', 'verdict'];

/** How a room is asked for, with a candidate in the engine or without. */
export const roomQuery = <R extends Room>(id: string, room: R, letter = '') => {
  const of = withCandidate.includes(room) ? letter : '';
  return {
    queryKey: keys.room(id, room, of),
    queryFn: async (): Promise<CaseAnswers[R]> =>
      (await ask(of ? `${id}.${of}` : id, room, room === 'trace'))[room],
  };
};

/** What waits to be sent, laid over what the server worked out before it; the rest follows once it is sent. */
const overlays: {
  [R in Room]?: (answer: CaseAnswers[R], id: string, waiting: readonly Kept[]) => CaseAnswers[R];
} = { places: placesWithWaiting, strip: stripWithWaiting, build: buildWithWaiting };

function useOverlay<R extends Room>(id: string, room: R) {
  const waiting = useWaiting(id);
  return useCallback(
    (answer: CaseAnswers[R]) => overlays[room]?.(answer, id, waiting) ?? answer,
    [id, room, waiting],
  );
}

/** What the server makes of one room of the case. The screen that asks waits for it the first time. */
export function useRoom<R extends Room>(id: string, room: R): CaseAnswers[R] {
  return useSuspenseQuery({ ...roomQuery(id, room, use(WithCandidate)), select: useOverlay(id, room) }).data;
}

/** The same for what a screen can do without for a moment: undefined until it is there. */
export const useRoomSoon = <R extends Room>(id: string, room: R): CaseAnswers[R] | undefined =>
  useRoomQuery(id, room).data;

/** @param letter Of the candidate that is thought into the engine, where the asker stands outside of the open case. */
export function useRoomQuery<R extends Room>(id: string, room: R, enabled = true, letter?: string) {
  const open = use(WithCandidate);
  return useQuery({ ...roomQuery(id, room, letter ?? open), select: useOverlay(id, room), enabled });
}

const allRooms = [
  'section',
  'places',
  'stations',
  'progress',
  'compression',
  'strip',
  'look',
  'gauge',
  'trace',
  'verdict',
  'fits',
  'options',
  'order',
  'build',
] as const satisfies Room[];

/** How long nothing must have been written before the rooms that nobody looks at are brought up to date. */
const calm = 4_000;

/**
 * Keeps every room of the open case on the device, so that each opens at the bench without a network; with each candidate too.
 * @param letters Of the candidates, in one text.
 */
export function useAllRooms(id: string, letters: string) {
  const client = useQueryClient();
  useEffect(() => {
    const fetchStale = () => {
      if (client.isFetching({ queryKey: keys.case(id) }) + client.isMutating() > 0) return;
      for (const letter of ['', ...letters])
        for (const room of letter ? withCandidate : allRooms) {
          const query = roomQuery(id, room, letter);
          const state = client.getQueryState(query.queryKey);
          if (!state || state.isInvalidated || state.data === undefined)
            void client.prefetchQuery({ ...query, retry: false });
        }
    };
    const timer = setInterval(fetchStale, calm);
    return () => clearInterval(timer);
  }, [id, letters, client]);
}

/** How long the answer to a write may come after the line has told of it, in ms; what another wrote is seen so much later. */
const answerTakes = 700;

/** Reads the case again when somebody else has written to it. Only while the page is seen: a browser has few such lines to a server. */
export function useCaseEvents(id: string) {
  const client = useQueryClient();
  useEffect(() => {
    if (!('EventSource' in window)) return;
    let line: EventSource | undefined;
    const listen = () => {
      if (document.visibilityState !== 'visible') {
        line?.close();
        line = undefined;
      } else if (!line || line.readyState === EventSource.CLOSED) {
        line = new EventSource(`/api/cases/${id}/events`);
        line.addEventListener('revision', (event) => {
          const { revision } = JSON.parse((event as MessageEvent<string>).data) as { revision: number };
          const again = () => void client.invalidateQueries({ queryKey: keys.case(id) });
          // Of what was written here the line often tells before the write itself is answered; and what is on its way may be it.
          const look = () => {
            if (knowsRevision(id, revision)) return;
            if (client.isFetching({ queryKey: keys.record(id) }) > 0) setTimeout(look, 100);
            else again();
          };
          // Zero says that the server may have missed some.
          if (revision === 0) again();
          else if (!knowsRevision(id, revision)) setTimeout(look, answerTakes);
        });
      }
    };
    listen();
    document.addEventListener('visibilitychange', listen);
    addEventListener('online', listen);
    return () => {
      document.removeEventListener('visibilitychange', listen);
      removeEventListener('online', listen);
      line?.close();
    };
  }, [id, client]);
}
