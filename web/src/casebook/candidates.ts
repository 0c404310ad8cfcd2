import { byId } from '../ui/byId';
import { useQuery } from '@tanstack/react-query';
import { api, unwrap, type Schemas } from '../api/client';
import { useKnowledge } from '../api/queries';

/** Letter of the candidate whose part is meant; empty for the engine’s own. */
export const letterOf = (address: string) => address.split('.')[1] ?? '';

/** What can be offered together, by the shop's words. */
export function useCandidateSets() {
  return useQuery({
    queryKey: ['candidate-sets'],
    queryFn: () => unwrap(api.GET('/api/candidate-sets')),
    staleTime: Infinity,
  });
}

/** What a candidate is called: by the name it was given, else by what it is. */
export function useCandidateName() {
  const sets = useCandidateSets();
  const knowledge = useKnowledge();
  return (c: Schemas['Candidate']) => {
    const what =
      sets.data?.find((s) => s.id === c.what)?.name ??
      byId(knowledge.data?.kinds ?? []).get(c.what)?.name ??
      c.what;
    return [`${what}${c.station ? ` ${c.station}` : ''}`, c.name].filter(Boolean).join(' ');
  };
}
