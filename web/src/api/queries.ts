import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback } from 'react';
import { answersWithWaiting, withWaiting } from '../outbox/overlay';
import { useWaiting } from '../outbox/useOutbox';
import { api, ApiProblem, unwrap, type CaseAnswers, type EngineCase } from './client';
import { keys } from './keys';

export { keys } from './keys';

export const useMe = () =>
  useQuery({
    queryKey: keys.me,
    queryFn: () =>
      unwrap(api.GET('/api/me')).catch((e: unknown) => {
        if (e instanceof ApiProblem && e.status === 401) return null;
        throw e;
      }),
    staleTime: 5 * 60_000,
  });

export const useSetup = () =>
  useQuery({ queryKey: keys.setup, queryFn: () => unwrap(api.GET('/api/setup')) });

export const useKnowledge = () =>
  useQuery({
    queryKey: keys.knowledge,
    queryFn: () => unwrap(api.GET('/api/knowledge')),
    // Somebody of the shop may write a cause meanwhile.
    staleTime: 5 * 60_000,
  });

export const useInstruments = () =>
  useQuery({
    queryKey: keys.instruments,
    queryFn: () => unwrap(api.GET('/api/instruments')),
    staleTime: 60_000,
  });

export const useCases = () =>
  useQuery({ queryKey: keys.cases, queryFn: () => unwrap(api.GET('/api/cases')) });

/** The case with what waits to be sent laid over it. */
export function useCase(id: string) {
  const waiting = useWaiting(id);
  return useQuery({
    queryKey: [...keys.case(id), 'record'],
    queryFn: () => unwrap(api.GET('/api/cases/{id}', { params: { path: { id } } })),
    select: useCallback((c: EngineCase) => withWaiting(c, waiting), [waiting]),
  });
}

export function useAnswers(id: string) {
  const waiting = useWaiting(id);
  return useQuery({
    queryKey: [...keys.case(id), 'answers'],
    queryFn: () => unwrap(api.GET('/api/cases/{id}/answers', { params: { path: { id } } })),
    placeholderData: (before: CaseAnswers | undefined) => before,
    select: useCallback((a: CaseAnswers) => answersWithWaiting(a, id, waiting), [waiting, id]),
  });
}

export const useDossier = (id: string) =>
  useQuery({
    queryKey: [...keys.case(id), 'dossier'],
    queryFn: () => unwrap(api.GET('/api/cases/{id}/dossier', { params: { path: { id } } })),
  });

/** A write to a case: afterwards everything that hangs on the case is read again. */
export function useWrite<In, Out>(caseId: string, write: (entry: In) => Promise<Out>) {
  const client = useQueryClient();
  return useMutation<Out, ApiProblem, In>({
    mutationFn: write,
    onSettled: () => client.invalidateQueries({ queryKey: keys.case(caseId) }),
  });
}
