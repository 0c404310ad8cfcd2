import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo } from 'react';
import { api, knowsRevision, unwrap, type EngineCase } from '../api/client';
import { keys } from '../api/keys';
import { answersWithWaiting, withWaiting } from '../outbox/overlay';
import { useWaiting } from '../outbox/useOutbox';

/** The case with what waits to be sent laid over it. */
export function useCase(id: string) {
  const waiting = useWaiting(id);
  return useQuery({
    queryKey: [...keys.case(id), 'record'],
    queryFn: () => unwrap(api.GET('/api/cases/{id}', { params: { path: { id } } })),
    select: useCallback((c: EngineCase) => withWaiting(c, waiting), [waiting]),
  });
}

const atOnce = 'section,places,standing,compression,strip,look,gauge,advice';

const ask = (id: string, rooms: string) =>
  unwrap(api.GET('/api/cases/{id}/answers', { params: { path: { id }, query: { rooms } } }));

/** What the server makes of the case. Trace takes longest, so it is asked for beside the others and may come a moment after them. */
export function useAnswers(id: string) {
  const waiting = useWaiting(id);
  const rooms = useQuery({ queryKey: [...keys.case(id), 'answers'], queryFn: () => ask(id, atOnce) });
  const trace = useQuery({
    queryKey: [...keys.case(id), 'trace'],
    queryFn: async () => (await ask(id, 'trace')).trace,
  });
  const data = useMemo(
    () =>
      rooms.data && trace.data
        ? answersWithWaiting({ ...rooms.data, trace: trace.data }, id, waiting)
        : undefined,
    [rooms.data, trace.data, id, waiting],
  );
  return {
    data,
    error: rooms.error ?? trace.error,
    paused: rooms.fetchStatus === 'paused' || trace.fetchStatus === 'paused',
  };
}

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
          // Zero says that the server may have missed some.
          if (revision === 0 || !knowsRevision(id, revision))
            void client.invalidateQueries({ queryKey: keys.case(id) });
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
