import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, unwrap } from '../api/client';
import { keys } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { day } from '../ui/basics';

/** The engine was here before, by its serial number: what it was then, and whether it ran again. */
export function Before() {
  const { engineCase } = useCaseContext();
  const before = useQuery({
    queryKey: [...keys.rooms(engineCase.id), 'before', engineCase.serial],
    queryFn: () => unwrap(api.GET('/api/cases/{id}/before', { params: { path: { id: engineCase.id } } })),
    enabled: engineCase.serial.trim() !== '',
  });
  if (!before.data || before.data.length === 0) return null;
  return (
    <section className="mb-4 rounded-lg border-2 border-brass bg-brass-tint px-4 py-3">
      <h2 className="text-xl">It was here before</h2>
      <ul className="mt-1 space-y-2">
        {before.data.map((c) => (
          <li key={c.id}>
            <Link className="font-bold underline underline-offset-4" to={`/cases/${c.id}/dossier`}>
              {c.title}
            </Link>
            , {day(c.day)}
            {c.hours !== null && `, at ${c.hours} h`}
            {c.ranOn && `; ran again on ${day(c.ranOn)}`}
            <span className="block text-sm">
              {[c.complaint, c.causes.length > 0 && `Found: ${c.causes.join(', ')}.`]
                .filter(Boolean)
                .join(' ')}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
