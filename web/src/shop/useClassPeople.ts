import { useQuery } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';
import { keys } from '../api/queries';

/** People of the shop who can sit at a bench or teach. */
export const useClassPeople = (enabled = true) =>
  useQuery({
    queryKey: [...keys.classes, 'people'],
    queryFn: () => unwrap(api.GET('/api/classes/people')),
    enabled,
  });
