import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useArrival } from '../ui/useArrival';
import { useSwipe } from '../ui/useSwipe';
import { usePicked, useCaseContext, type CaseContext } from '../casebook/context';
import { useRoom, useRoomSoon } from '../casebook/caseQueries';
import { Scan } from '../casebook/Scan';
import { Addr } from '../ui/basics';
import { levelWords, stands } from '../ui/words';
import { DebrisRoom, gathers } from './Debris';
import { Peers } from './Peers';
import { FindingList } from './FindingList';
import { LookForm } from './LookForm';
import { onTheBench, signsFor } from './useLook';
import { PatternList } from './PatternList';
import { PhotoStrip } from '../pictures/Photos';
import { peersOf, type Sign } from './useLook';
import { useMayWrite } from '../api/queries';
import { Later } from '../ui/Later';

/** Reads the parts: pick a place in the section, type or scan it, and walk on to the next of its kind. */
export function Look() {
  const context = useCaseContext();
  const [params] = useSearchParams();
  const { part } = usePicked();
  const current = context.section.cells.find((c) => c.address === part);
  if (params.get('peers') !== null) return <Peers context={context} />;
  return current ? <Part key={current.address} address={current.address} context={context} /> : <Start />;
}

/** Changes what the address says besides the part; the whole view can be linked to. */
function useLookParams() {
  const [params, setParams] = useSearchParams();
  const set = (changes: Record<string, string | null>) => {
    // A late reply must not fetch back someone who has gone on to another stage meanwhile.
    if (!window.location.pathname.endsWith('/look')) return;
    setParams(
      (p) => {
        const next = new URLSearchParams(p);
        for (const [key, value] of Object.entries(changes)) {
          if (value === null) next.delete(key);
          else next.set(key, value);
        }
        return next;
      },
      // A sign or a part that is opened is a step that Back closes.
      { replace: !changes.sign && !changes.part },
    );
  };
  return { params, set };
}

function Part({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase, section } = context;
  const look = useRoom(engineCase.id, 'look');
  const mayWrite = useMayWrite();
  const { params, set } = useLookParams();
  const [shown, setShown] = useState<string | null>(null);
  const [last, setLast] = useState<{ sign: Sign; level: number } | null>(null);
  const written = useArrival<HTMLDivElement>(last ? `${last.sign.id}/${last.level}` : null);
  const current = section.cells.find((c) => c.address === address)!;
  const peers = peersOf(address, context);
  const at = peers.findIndex((c) => c.address === address);
  const next = peers[at + 1];
  const total = onTheBench(signsFor(address, context));
  const odd = look.odd.find((o) => o.kind === current.kind);
  const patterns = look.patterns.filter((p) => p.kind === current.kind);
  const go = (part: string, sign: string | null = null) => set({ part, sign, zones: null });
  const swipe = useSwipe(
    next ? () => go(next.address, params.get('sign')) : null,
    at > 0 ? () => go(peers[at - 1]!.address, params.get('sign')) : null,
  );
  return (
    <div
      {...swipe}
      className="grid touch-pan-y grid-cols-1 gap-6 lg:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)]"
    >
      <section>
        <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
          <Addr code={address} className="text-4xl" />
          <div className="least-44 flex-1">
            <h2 className="text-xl">{current.words}</h2>
            <p className="text-sm text-soft">
              <Trans>
                {total.filter((s) => s.recorded).length} of {total.length} signs read
              </Trans>
            </p>
          </div>
          {peers.length > 1 && (
            <div className="flex gap-2">
              <button className="key" disabled={at <= 0} onClick={() => go(peers[at - 1]!.address)}>
                ◂ {peers[at - 1]?.address ?? tr`first`}
              </button>
              <button className="key key-go" disabled={!next} onClick={() => go(next!.address)}>
                {next?.address ?? tr`last`} ▸
              </button>
            </div>
          )}
        </div>
        {last && (
          <div
            ref={written}
            tabIndex={-1}
            role="status"
            className="mb-3 flex scroll-mt-16 flex-wrap items-center gap-2 rounded-lg border-2 border-oil bg-oil-tint px-3 py-2"
          >
            <span className="flex-1">
              <b>✓ {last.sign.name}</b>, {levelWords[last.level]}
            </span>
            {next && (
              <button className="key" onClick={() => go(next.address, last.sign.id)}>
                <Trans>The same on {next.address} ▸</Trans>
              </button>
            )}
          </div>
        )}
        {mayWrite && (
          <LookForm
            address={address}
            context={context}
            sign={params.get('sign')}
            zones={params.get('zones')?.split('.')}
            setSign={(sign) => {
              set({ sign });
              if (sign) setLast(null);
            }}
            onDone={(sign, level) => {
              // Both at once: two changes in a row both begin at the address as it was drawn, and the last would bring the first back.
              set({ sign: null, zones: null });
              setLast({ sign, level });
            }}
          />
        )}
      </section>
      <section className="space-y-5">
        <div>
          <h3 className="mb-2 text-lg">{tr`Recorded`}</h3>
          <FindingList address={address} context={context} onShow={setShown} />
        </div>
        <div>
          <h3 className="mb-2 text-lg">{tr`Photographs`}</h3>
          <PhotoStrip address={address} context={context} shown={shown} onShown={setShown} />
        </div>
        {gathers.includes(current.kind) && <DebrisRoom address={address} context={context} />}
        {peers.length > 1 && (
          <div>
            <div className="mb-2 flex flex-wrap items-center gap-3">
              <h3 className="flex-1 text-lg">{tr`Its peers`}</h3>
              <button className="key" onClick={() => set({ peers: current.kind, part: null, sign: null })}>
                {tr`Side by side`}
              </button>
            </div>
            {odd && <p className="mb-2 font-semibold text-lead">{odd.words}</p>}
            <PatternList patterns={patterns} context={context} />
            <ul className="flex flex-wrap gap-1.5">
              {peers.map((c) => {
                const worst = Math.max(
                  -1,
                  ...engineCase.findings
                    .filter((f) => f.place === c.address && stands(f))
                    .map((f) => f.level),
                );
                return (
                  <li key={c.address}>
                    <button
                      className="key px-2.5"
                      aria-pressed={c.address === address}
                      onClick={() => go(c.address)}
                    >
                      <Addr code={c.address} />{' '}
                      <span className="text-sm text-soft">
                        {worst < 0 ? tr`unread` : worst === 0 ? tr`clean` : levelWords[worst]}
                      </span>
                    </button>
                  </li>
                );
              })}
            </ul>
          </div>
        )}
      </section>
    </div>
  );
}

/** No part is open: what to read next, what is about to be lost, what the places say together. */
function Start() {
  const context = useCaseContext();
  const { openPart, knowledge, section, places, engineCase } = context;
  const look = useRoom(engineCase.id, 'look');
  const strip = useRoom(engineCase.id, 'strip');
  const trace = useRoomSoon(engineCase.id, 'trace');
  const { set } = useLookParams();
  const { cells } = section;
  const { patterns, mismatches, missing } = look;
  const next = trace?.nextChecks.find((c) => !c.measured);
  const losing = strip.steps.filter((s) => s.state === null && s.unread.length > 0).slice(0, 2);
  const kinds = [
    'pan',
    'pickup',
    'piston',
    'bore',
    'rod-shell-upper',
    'main-shell-lower',
    'main-bearing',
    'lobe-exhaust',
    'valve-exhaust',
    'spark-plug',
  ];
  const begin = kinds.flatMap((kind) => {
    const of = cells.filter((c) => c.kind === kind);
    const first = of.find((c) => places.find((p) => p.place === c.address)?.damage === null) ?? of[0];
    return first ? [{ kind, first, many: of.length > 1 }] : [];
  });
  return (
    <div className="grid gap-6 lg:grid-cols-2">
      <section className="space-y-4">
        <div>
          <h2 className="text-2xl">{tr`Which part is in your hand?`}</h2>
          <p className="text-lg">
            {tr`Touch it in the section above, type its address, or scan its tag. Read it before it is washed.`}
          </p>
          <div className="mt-2 flex flex-wrap gap-2">
            <Scan caseId={context.engineCase.id} onFound={openPart} />
            <Link className="key flex items-center" to="/atlas">
              {tr`Atlas of signs`}
            </Link>
            <button className="key" onClick={() => set({ peers: 'all' })}>
              {tr`All pictures`}
            </button>
          </div>
        </div>
        {next && (
          <div className="card border-l-8 border-l-dye p-4">
            <p className="text-sm font-semibold text-soft">{tr`Worth looking at next, for the cause`}</p>
            <p className="text-lg font-bold">
              <Trans>
                {next.name} on <Addr code={next.place} />
              </Trans>
            </p>
            <p>{next.how}</p>
            <button className="key key-go mt-3" onClick={() => set({ part: next.place, sign: next.sign })}>
              <Trans>Look at {next.place}</Trans>
            </button>
          </div>
        )}
        {losing.map((step) => (
          <div key={step.id} className="rounded-lg border-2 border-brass bg-brass-tint p-3">
            <p className="font-bold">
              <Trans>Before “{step.name}”: gone afterwards, and not looked for yet</Trans>
            </p>
            <ul className="mt-1 space-y-1">
              {step.unread.slice(0, 5).map((u) => (
                <li key={u.place} className="flex items-start gap-2">
                  <button className="key shrink-0 px-2" onClick={() => openPart(u.place)}>
                    <Addr code={u.place} />
                  </button>
                  <span className="self-center text-sm">
                    {u.signs.length > 0 ? few(u.signs) : tr`nobody has looked at it`}
                  </span>
                </li>
              ))}
            </ul>
            {step.unread.length > 5 && (
              <p className="text-sm">
                <Trans>and {step.unread.length - 5} more places</Trans>
              </p>
            )}
          </div>
        ))}
        <Later>
          <div>
            <p className="label">{tr`Or begin with`}</p>
            <ul className="grid gap-1.5 sm:grid-cols-2">
              {begin.map(({ kind, first, many }) => (
                <li key={kind} className="flex gap-1">
                  <button
                    className="key min-w-0 flex-1 px-2 text-left"
                    onClick={() => openPart(first.address)}
                  >
                    <Addr code={first.address} /> <span className="text-sm font-normal">{first.words}</span>
                  </button>
                  {many && (
                    <button
                      className="key shrink-0 px-2"
                      aria-label={tr`${first.words} and its peers side by side`}
                      title={tr`Side by side`}
                      onClick={() => set({ peers: kind })}
                    >
                      ▦
                    </button>
                  )}
                </li>
              ))}
            </ul>
          </div>
        </Later>
      </section>
      <Later>
        <section className="space-y-5">
          {mismatches.length > 0 && (
            <div>
              <h2 className="text-xl">{tr`Recorded differently`}</h2>
              <ul className="mt-1 flex flex-wrap gap-1.5">
                {mismatches.map((c) => (
                  <li key={c.place + c.sign}>
                    <button className="key border-lead" onClick={() => openPart(c.place)}>
                      <Addr code={c.place} /> {knowledge.signs.find((s) => s.id === c.sign)?.name}
                    </button>
                  </li>
                ))}
              </ul>
            </div>
          )}
          <div>
            <h2 className="text-xl">{tr`Patterns`}</h2>
            {patterns.length === 0 && (
              <p className="text-soft">
                {tr`Nothing yet. A pattern needs the same sign looked for on several peers, also where it is not there.`}
              </p>
            )}
            <PatternList patterns={patterns} context={context} />
          </div>
          {missing.length > 0 && (
            <div>
              <h2 className="text-xl">{tr`Photos still missing`}</h2>
              <ul className="mt-1 flex flex-wrap gap-1.5">
                {missing.slice(0, 18).map((m) => (
                  <li key={m.place}>
                    <button className="key px-2.5" onClick={() => openPart(m.place)}>
                      <Addr code={m.place} /> <span className="fig text-sm text-soft">{m.shots.length}</span>
                    </button>
                  </li>
                ))}
              </ul>
              {missing.length > 18 && (
                <p className="mt-1 text-sm text-soft">
                  <Trans>and {missing.length - 18} more parts</Trans>
                </p>
              )}
            </div>
          )}
        </section>
      </Later>
    </div>
  );
}

const few = (names: readonly string[]) =>
  names.slice(0, 3).join(', ') + (names.length > 3 ? tr` and ${names.length - 3} more` : '');
