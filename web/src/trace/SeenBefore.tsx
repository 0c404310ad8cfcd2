import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, unwrap, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { Addr, day } from '../ui/basics';
import { confidenceWords } from '../ui/words';

const spreadWords: Record<Schemas['SignSpread'], string> = { one: tr`one`, some: tr`some`, all: tr`all` };

/** Decided cases of the shop that showed what this one shows, with their cause and what was done about it. */
export function SeenBefore() {
  const { engineCase } = useCaseContext();
  const near = useQuery({
    queryKey: [...keys.rooms(engineCase.id), 'near', engineCase.findings.length],
    queryFn: () => unwrap(api.GET('/api/cases/{id}/near', { params: { path: { id: engineCase.id } } })),
  });
  if (!near.data || near.data.length === 0) return null;
  return (
    <section>
      <h2 className="text-xl">{tr`Have we seen this before?`}</h2>
      <p className="text-sm text-soft">
        {tr`Decided cases of this shop, nearest first by what both show. A sign that any engine shows counts little; what nobody looked for in one of the two counts neither way.`}
      </p>
      <ol className="mt-2 divide-y divide-line border-y border-line">
        {near.data.map((c) => (
          <li key={c.id} className="py-2">
            <div className="flex flex-wrap items-baseline justify-between gap-x-3">
              <Link className="font-bold underline underline-offset-4" to={`/cases/${c.id}/trace`}>
                {c.title}
              </Link>
              <span className="text-sm text-soft">
                {c.engineName}, {day(c.day)}
              </span>
            </div>
            <svg className="my-1 h-2 w-full" viewBox="0 0 100 6" preserveAspectRatio="none" aria-hidden>
              <rect width="100" height="6" fill="var(--color-steel)" opacity="0.3" />
              <rect width={100 * c.likeness} height="6" fill="var(--color-dye)" />
            </svg>
            {c.found.map((f, i) => (
              <p key={i}>
                <b>{f.cause || tr`Another cause`}</b> <Addr code={f.place} />, {confidenceWords[f.confidence]}
                {f.reasons && <span className="text-soft">: {f.reasons}</span>}
              </p>
            ))}
            {c.done.length > 0 && (
              <p className="text-sm">
                <Trans>
                  Done:{' '}
                  {c.done
                    .slice(0, 5)
                    .map((d) => `${d.course}, ${d.parts} × ${d.kind}`)
                    .join('; ')}
                </Trans>
                {c.done.length > 5 && ' …'}
              </p>
            )}
            <p className="text-sm">
              {c.ranOn ? tr`Ran again on ${day(c.ranOn)}. ` : ''}
              {c.cameBack && (
                <Link className="font-semibold text-lead underline" to={`/cases/${c.cameBack.id}/arrival`}>
                  {c.cameBack.said ? tr`Came back` : tr`Was here again`}: {c.cameBack.title}
                </Link>
              )}
            </p>
            <details>
              <summary className="min-h-8 cursor-pointer text-sm text-soft">
                {c.shared.length} {plural(c.shared.length, { one: 'sign', other: 'signs' })} {tr`in common`}
                {c.apart.length > 0 && tr`, ${c.apart.length} not`}
              </summary>
              <ul className="text-sm">
                {c.shared.map((s) => (
                  <li key={s.sign + s.kind}>
                    {s.sign}, {s.kind}
                    {s.here !== s.there && s.here && s.there && (
                      <span className="text-soft">
                        <Trans>
                          : here {spreadWords[s.here]}, there {spreadWords[s.there]}
                        </Trans>
                      </span>
                    )}
                  </li>
                ))}
                {c.apart.map((s) => (
                  <li key={s.sign + s.kind} className="text-soft">
                    {s.sign}, {s.kind}: {s.here ? tr`here, and not there` : tr`there, and not here`}
                  </li>
                ))}
              </ul>
            </details>
          </li>
        ))}
      </ol>
    </section>
  );
}
