import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, unwrap, type Schemas } from '../api/client';
import { keys, useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import type { Sight } from '../section/lenses';
import { LongSection } from '../section/LongSection';
import { Hatches } from '../section/Swatch';
import { useWrite, writes } from '../outbox/writes';
import { day, Trouble } from '../ui/basics';

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
          <h2 className="text-xl">{engineCase.comebackOf ? tr`It came back` : tr`It was here before`}</h2>
          <Cases cases={same} comeback />
        </section>
      )}
      {kind.length > 0 && (
        <details className="card mb-4 px-4 py-3">
          <summary className="min-h-8 cursor-pointer">
            <b>
              {kind.length === 1
                ? tr`Another of its kind was here`
                : tr`${kind.length} others of its kind were here`}
            </b>
            {found(kind) && <span className="text-soft">: {found(kind)}</span>}
          </summary>
          <Failures />
          <Cases cases={kind} />
        </details>
      )}
    </>
  );
}

type Share = Schemas['KindShare'];

/** What failed how often in them, each with the shares between which the true one lies. */
function Failures() {
  const { engineCase, section } = useCaseContext();
  const kind = useQuery({
    queryKey: [...keys.rooms(engineCase.id), 'kind', engineCase.serial, engineCase.engineName],
    queryFn: () => unwrap(api.GET('/api/cases/{id}/kind', { params: { path: { id: engineCase.id } } })),
  });
  if (!kind.data || kind.data.cases === 0) return null;
  const { began, cylinders, parts } = kind.data;
  const groups: [string, Share[]][] = [
    [tr`Where it began, of those with a cause`, began.slice(0, mostTold)],
    [tr`Severe damage by cylinder`, cylinders.some((c) => c.share.times > 0) ? cylinders : []],
    [tr`Severe damage by part, where somebody looked`, parts.slice(0, mostTold)],
  ];
  if (groups.every(([, shares]) => shares.length === 0)) return null;
  return (
    <section className="my-3">
      <h3 className="text-lg">{tr`What failed how often`}</h3>
      <p className="text-sm text-soft">
        {tr`Of engines that came here; it says nothing of those that run. The bar is the share that was seen, the line beneath reaches over the shares that so few engines leave possible (95 in 100).`}
      </p>
      <div className="mt-2 overflow-x-auto">
        <Hatches />
        <LongSection section={section} sights={failed(parts)} fit bare />
      </div>
      <div className="mt-2 gap-x-8 sm:columns-2">
        {groups
          .filter(([, shares]) => shares.length > 0)
          .map(([title, shares]) => (
            <div key={title} className="mb-3 break-inside-avoid">
              <h4 className="font-semibold">{title}</h4>
              <ul>
                {shares.map((s) => (
                  <ShareRow key={s.place} of={s} />
                ))}
              </ul>
            </div>
          ))}
      </div>
    </section>
  );
}

const mostTold = 8;

/** How often each place failed, as the long section shows it. */
const failed = (parts: Share[]) =>
  new Map<string, Sight>(
    parts.map(({ place, share }) => [
      place,
      {
        tone: share.times * 2 >= share.of ? 'heavy' : share.times * 4 >= share.of ? 'mid' : 'light',
        mark: `${share.times}/${share.of}`,
        words: tr`failed in ${share.times} of ${share.of}`,
      },
    ]),
  );

function ShareRow({ of: { words, share } }: { of: Share }) {
  const hundredths = (v: number) => `${Math.round(v * 100)}`;
  return (
    <li className="flex flex-wrap justify-between gap-x-3 border-t border-line py-1">
      <span>{words}</span>
      <span className="fig">
        <Trans>
          {share.times} of {share.of}
          <span className="text-sm text-soft">
            {' '}
            ({hundredths(share.low)} to {hundredths(share.high)} %)
          </span>
        </Trans>
      </span>
      <svg className="h-2.5 w-full" viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden>
        <rect x="0" y="0" width="100" height="5" fill="var(--color-steel)" opacity="0.35" />
        <rect
          x="0"
          y="0"
          width={share.of > 0 ? (100 * share.times) / share.of : 0}
          height="5"
          fill="var(--color-lead)"
        />
        <rect
          x={100 * share.low}
          y="7"
          width={100 * (share.high - share.low)}
          height="2"
          fill="var(--color-ink)"
        />
      </svg>
    </li>
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

function Cases({ cases, comeback = false }: { cases: Schemas['EarlierCase'][]; comeback?: boolean }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const came = useWrite(engineCase.id, writes.comeback);
  return (
    <ul className="mt-1 space-y-2">
      {cases.map((c) => (
        <li key={c.id}>
          <Link className="font-bold underline underline-offset-4" to={`/cases/${c.id}/dossier`}>
            {c.title}
          </Link>
          , {day(c.day)}
          {c.hours !== null && tr`, at ${c.hours} h`}
          {c.ranOn && tr`; ran again on ${day(c.ranOn)}`}
          <span className="block text-sm">
            <Link className="underline" to={`/cases/${engineCase.id}/beside?with=${c.id}`}>
              {tr`Side by side`}
            </Link>{' '}
            {[c.complaint, c.causes.length > 0 && tr`Found: ${c.causes.join(', ')}.`]
              .filter(Boolean)
              .join(' ')}
          </span>
          {comeback && mayWrite && (
            <button
              className="key mt-1 text-sm"
              aria-pressed={engineCase.comebackOf === c.id}
              disabled={came.isPending}
              onClick={() =>
                came.mutate({
                  version: engineCase.version,
                  of: engineCase.comebackOf === c.id ? null : c.id,
                })
              }
            >
              {engineCase.comebackOf === c.id
                ? tr`Came back after this one`
                : tr`It came back after this one`}
            </button>
          )}
        </li>
      ))}
      <Trouble problem={came.error} />
    </ul>
  );
}
