import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { Addr, percent } from '../ui/basics';

/** What may hold together, what came first and what followed, and on which single sign the answer hangs. */
export function Account() {
  const { openPart, engineCase } = useCaseContext();
  const trace = useRoom(engineCase.id, 'trace');
  const { scenarios, damage, hangsOn, ranking } = trace;
  const chains = new Map<string, Schemas['DamageTold'][]>();
  // What no cause accounts for stands beside the ranking.
  for (const d of damage.filter((d) => d.link >= 0)) {
    const key = `${d.by}|${d.byPlace}`;
    chains.set(key, [...(chains.get(key) ?? []), d]);
  }
  return (
    <div className="grid gap-5 lg:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
      <section className="card p-4 md:p-5">
        <h2 className="text-xl">{tr`What was first and what followed`}</h2>
        <p className="text-sm text-soft">
          {tr`What was found, told by the causes that most likely hold together.`}
        </p>
        {[...chains].map(([key, list]) => {
          const [by, place] = key.split('|') as [string, string];
          const links = [...new Set(list.map((d) => d.link))];
          return (
            <div key={key} className="mt-3">
              <h3 className="font-bold">
                {by} <Addr code={place} className="text-dye" />
              </h3>
              <ol className="mt-1 border-l-4 border-dye pl-3">
                {links.map((link) => (
                  <li key={link} className="py-1">
                    <span className="text-sm text-soft">
                      {link === 0 ? tr`First: ` : tr`Then: `}
                      {list.find((d) => d.link === link)!.says}
                    </span>
                    <span className="block">
                      {list
                        .filter((d) => d.link === link)
                        .map((d) => (
                          <button
                            key={d.sign + d.place}
                            className="mr-3 min-h-8 text-left underline decoration-line underline-offset-4"
                            onClick={() => openPart(d.place)}
                          >
                            {d.name} <Addr code={d.place} />
                          </button>
                        ))}
                    </span>
                  </li>
                ))}
              </ol>
            </div>
          );
        })}
        {chains.size === 0 && (
          <p>
            {damage.length === 0
              ? tr`Nothing has been found yet.`
              : tr`No cause known here accounts for what was found.`}
          </p>
        )}
      </section>
      <div className="space-y-5">
        {scenarios.length > 0 && (
          <section className="card p-4">
            <h2 className="text-xl">{tr`What may hold together`}</h2>
            <ul className="mt-1 space-y-1">
              {scenarios.map((s) => (
                <li key={s.hypotheses.join()} className="flex gap-3">
                  <b className="w-14 shrink-0">{percent(s.share)}</b>
                  <span>{s.hypotheses.length > 0 ? s.hypotheses.join(tr` and `) : tr`none of them`}</span>
                </li>
              ))}
            </ul>
          </section>
        )}
        {ranking[0] && (
          <section className="card p-4">
            <h2 className="text-xl">{tr`The finding that decides`}</h2>
            {hangsOn.length === 0 ? (
              <p>
                <Trans>No single sign: “{ranking[0].name}” leads without any one of them.</Trans>
              </p>
            ) : (
              <ul className="mt-1 space-y-1">
                {hangsOn.map((h) => (
                  <li key={h.sign + h.place}>
                    {tr`Without “`}
                    {h.seen === 'absent' ? tr`checked, not there: ${h.name.toLowerCase()}` : h.name}
                    <Trans>
                      ” on <Addr code={h.place} />, <b>{h.then}</b> at <Addr code={h.thenPlace} /> would lead
                      with {percent(h.probability)}. Look at that sign again.
                    </Trans>
                  </li>
                ))}
              </ul>
            )}
          </section>
        )}
      </div>
    </div>
  );
}
