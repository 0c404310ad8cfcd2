import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ApiProblem, unwrap } from './client';

export const keys = {
  me: ['me'] as const,
  setup: ['setup'] as const,
  knowledge: ['knowledge'] as const,
  instruments: ['instruments'] as const,
  cases: ['cases'] as const,
  settings: ['settings'] as const,
  lessons: ['lessons'] as const,
  stock: ['stock'] as const,
  printer: ['printer'] as const,
  case: (id: string) => ['case', id] as const,
};

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
    staleTime: Infinity,
  });

export const useInstruments = () =>
  useQuery({
    queryKey: keys.instruments,
    queryFn: () => unwrap(api.GET('/api/instruments')),
    staleTime: 60_000,
  });

export const useCases = () =>
  useQuery({ queryKey: keys.cases, queryFn: () => unwrap(api.GET('/api/cases')) });

export const useCase = (id: string) =>
  useQuery({
    queryKey: [...keys.case(id), 'record'],
    queryFn: () => unwrap(api.GET('/api/cases/{id}', { params: { path: { id } } })),
  });

export const useAnswers = (id: string) =>
  useQuery({
    queryKey: [...keys.case(id), 'answers'],
    queryFn: () => unwrap(api.GET('/api/cases/{id}/answers', { params: { path: { id } } })),
    placeholderData: (before) => before,
  });

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
