import {
  keepPreviousData,
  useInfiniteQuery,
  useQuery,
  type QueryFunctionContext,
} from '@tanstack/react-query';
import { again } from './again';
import { api, ApiProblem, unwrap, type Schemas } from './client';
import { keys } from './keys';

export { keys } from './keys';

export const meQuery = {
  queryKey: keys.me,
  queryFn: () =>
    unwrap(api.GET('/api/me')).catch((e: unknown) => {
      if (e instanceof ApiProblem && e.status === 401) return null;
      throw e;
    }),
  staleTime: 5 * 60_000,
};

export const useMe = () => useQuery(meQuery);

export const setupQuery = { queryKey: keys.setup, queryFn: () => unwrap(api.GET('/api/setup')) };

export const useSetup = () => useQuery(setupQuery);

export const knowledgeQuery = {
  queryKey: keys.knowledge,
  queryFn: ({ client }: QueryFunctionContext) =>
    again(client, keys.knowledge, (headers) => api.GET('/api/knowledge', { headers })),
  // Somebody of the shop may write a cause meanwhile.
  staleTime: 5 * 60_000,
};

export const useKnowledge = () => useQuery(knowledgeQuery);

export const useInstruments = () =>
  useQuery({
    queryKey: keys.instruments,
    queryFn: () => unwrap(api.GET('/api/instruments')),
    staleTime: 60_000,
  });

const page = 50;

export type CaseWaits = keyof Schemas['CaseCounts'];

/** The casebook, a page at a time. */
export const useCases = (find: string, withdrawn = false, waits: CaseWaits | '' = '') =>
  useInfiniteQuery({
    queryKey: [...keys.cases, find, withdrawn, waits],
    queryFn: ({ pageParam }) =>
      unwrap(
        api.GET('/api/cases', {
          params: {
            query: {
              skip: pageParam,
              take: page,
              ...(find ? { find } : {}),
              ...(withdrawn ? { withdrawn } : {}),
              ...(waits ? { waits } : {}),
            },
          },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, all) => {
      const shown = all.reduce((n, p) => n + p.cases.length, 0);
      return shown < last.total && last.cases.length > 0 ? shown : undefined;
    },
    placeholderData: keepPreviousData,
  });

export type DossierKind = 'customer' | 'examiner' | 'own' | 'class';

/** A dossier as one page of HTML, as it goes out. */
export const useDossierPage = (
  caseId: string,
  wish: { kind: DossierKind; leaveOutNames: boolean; pictures?: string },
) =>
  useQuery({
    queryKey: [...keys.room(caseId, 'dossier'), wish],
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/dossier/page', {
          params: { path: { caseId }, query: wish },
          parseAs: 'text',
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const useSettings = () =>
  useQuery({ queryKey: keys.settings, queryFn: () => unwrap(api.GET('/api/settings')), staleTime: 60_000 });

/** Whether the one signed in leads the shop. */
export const useIsLead = () => useMe().data?.role === 'lead';

/** Whether the one signed in works at a bench of a class, and nowhere else. */
export const useIsStudent = () => useMe().data?.role === 'student';

/** Whether the one signed in may write what belongs to the shop and not to one case. */
export function useMayWriteShop() {
  const writes = useMayWrite();
  return !useIsStudent() && writes;
}

/** Class and bench of a case; null where it is on no bench. */
export const useSeat = (caseId: string) =>
  useQuery({
    queryKey: [...keys.seats, caseId],
    queryFn: () =>
      unwrap(api.GET('/api/cases/{caseId}/seat', { params: { path: { caseId } } })).then((s) => s.seat),
    staleTime: 60_000,
  });

/** Whether the one signed in may write; a viewer reads only. */
export function useMayWrite() {
  const { data: me } = useMe();
  return me !== null && me !== undefined && me.role !== 'viewer';
}

export const useSuppliers = () =>
  useQuery({
    queryKey: keys.suppliers,
    queryFn: () => unwrap(api.GET('/api/suppliers')),
    staleTime: 60_000,
  });
