import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, unwrap, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { day } from '../ui/basics';

/** What this engine’s past says, by its serial number, and that of others of its kind, by name. */
export function Before() {
  const { engineCase } = useCaseContext();
  const before = useQuery({
    queryKey: [...keys.rooms(engineCase.id), 'before', engineCase.serial, engineCase.engineName],
    queryFn: () => unwrap(api.GET('/api/cases/{id}/before', { params: { path: { id: engineCase.id } } })),
  });
  const same = before.data?.filter((c) => c.sameEngine) ?? [];
  const kind = before.data?.filter((c) => !c.sameEngine) ?? [];
  return (
    <>
      {same.length > 0 && (
        <section className="mb-4 rounded-lg border-2 border-brass bg-brass-tint px-4 py-3">
          <h2 className="text-xl">It was here before</h2>
          <Cases cases={same} />
        </section>
      )}
      {kind.length > 0 && (
        <details className="card mb-4 px-4 py-3">
          <summary className="min-h-8 cursor-pointer">
            <b>
              {kind.length === 1
                ? 'Another of its kind was here'
                : `${kind.length} others of its kind were here`}
            </b>
            {found(kind) && <span className="text-soft">: {found(kind)}</span>}
          </summary>
          <Cases cases={kind} />
        </details>
      )}
    </>
  );
}

/** What was found in them, how often each. */
function found(cases: Schemas['EarlierCase'][]) {
  const times = new Map<string, number>();
  for (const cause of cases.flatMap((c) => c.causes)) times.set(cause, (times.get(cause) ?? 0) + 1);
  return [...times]
    .sort(([, a], [, b]) => b - a)
    .map(([cause, n]) => (n > 1 ? `${n} × ${cause}` : cause))
    .join(', ');
}

function Cases({ cases }: { cases: Schemas['EarlierCase'][] }) {
  return (
    <ul className="mt-1 space-y-2">
      {cases.map((c) => (
        <li key={c.id}>
          <Link className="font-bold underline underline-offset-4" to={`/cases/${c.id}/dossier`}>
            {c.title}
          </Link>
          , {day(c.day)}
          {c.hours !== null && `, at ${c.hours} h`}
          {c.ranOn && `; ran again on ${day(c.ranOn)}`}
          <span className="block text-sm">
            {[c.complaint, c.causes.length > 0 && `Found: ${c.causes.join(', ')}.`].filter(Boolean).join(' ')}
          </span>
        </li>
      ))}
    </ul>
  );
}
