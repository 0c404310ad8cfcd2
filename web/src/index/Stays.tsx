import { t as tr } from '@lingui/core/macro';
import { useQuery } from '@tanstack/react-query';
import { api, unwrap, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { moment } from '../ui/basics';
import { custodyText } from '../ui/words';

/** Where a part has been since it was tagged. */
export function Stays({ caseId, part }: { caseId: string; part: Schemas['Part'] }) {
  const stays = useQuery({
    queryKey: [...keys.rooms(caseId), 'stays', part.id, part.version],
    queryFn: () =>
      unwrap(api.GET('/api/cases/{caseId}/parts/{id}/stays', { params: { path: { caseId, id: part.id } } })),
  });
  if (!stays.data) return null;
  return (
    <section className="mt-5 border-t border-line pt-3">
      <h3 className="text-lg">{tr`Where it has been`}</h3>
      <ol className="mt-1 space-y-1">
        {stays.data.map((s) => (
          <li key={s.at}>
            {custodyText(s)}
            {s.dueBack && tr`, due back ${s.dueBack}`}{' '}
            <span className="text-sm text-soft">
              {s.by}, {moment(s.at)}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
