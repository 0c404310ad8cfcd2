import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import * as z from 'zod/mini';
import { api, ApiProblem, unwrap, type Schemas } from '../api/client';
import { keys, useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { Addr, day, Trouble } from '../ui/basics';
import { useArrival } from '../ui/useArrival';
import { EntryForm, needed, TextField, useEntryForm } from '../ui/form';
import { custodyText, facingWords, methodWords, stands } from '../ui/words';
import { Candidates } from './Candidates';
import { Labels } from './Labels';
import { Renumber } from './Renumber';
import { Several } from './Several';
import { Stows } from './Stows';
import { Scan } from '../casebook/Scan';
import { Later } from '../ui/Later';

const looseWords: Record<Schemas['LooseKind'], string> = {
  nowhere: tr`Place unknown`,
  wrongWayRound: tr`Wrong way round`,
  overdue: tr`Overdue`,
  twoPlaces: tr`Two places`,
  broken: tr`Broken off`,
  unsigned: tr`Not signed`,
  inSpite: tr`In spite`,
  staysClosed: tr`Stays closed`,
  unplaced: tr`No place`,
  unmarked: tr`No mark`,
  oldMark: tr`Old number`,
};

/** As many rows as a screen shows; the others follow once these are painted. */
const first = 12;

export function Index() {
  const { engineCase, openPart, openBag, section, places } = useCaseContext();
  const bags = new Map(
    engineCase.stows.filter(stands).flatMap((s) => s.items.map((i) => [i.place, s.code] as const)),
  );
  const mayWrite = useMayWrite();
  const [params] = useSearchParams();
  const order = new Map(section.cells.map((c, i) => [c.address, i]));
  const parts = engineCase.parts
    .filter(stands)
    .sort((a, b) => (order.get(a.place) ?? order.size) - (order.get(b.place) ?? order.size));
  const tagged = new Set(parts.map((p) => p.place));
  const appear = new Set(places.filter((p) => p.appears).map((p) => p.place));
  const untagged = section.cells.filter((c) => appear.has(c.address) && !tagged.has(c.address));
  const row = (p: Schemas['Part']) => (
    <tr key={p.id} className="border-t border-line hover:bg-dye-tint">
      <td className="px-3 whitespace-nowrap">
        <button className="min-h-11 text-lg" onClick={() => openPart(p.place)}>
          <Addr code={p.place} />
        </button>
        {p.markedAs && (
          <span className="ml-2 rounded border-2 border-lead px-1 text-sm text-lead">
            <Trans>
              marked <Addr code={p.markedAs} />
            </Trans>
          </span>
        )}
      </td>
      <td className="px-3">
        <span className="fig font-bold">{p.mark}</span>{' '}
        <span className={p.method === 'none' ? 'font-bold text-lead' : 'text-soft'}>
          {methodWords[p.method].toLowerCase()}
        </span>
      </td>
      <td className="hidden px-3 md:table-cell">
        {p.facing === 'unknown' ? '—' : facingWords[p.facing].toLowerCase()}
      </td>
      <td className="fig hidden px-3 md:table-cell">{p.gradeStamped || '—'}</td>
      <td className="px-3">
        {custodyText(p)}
        {bags.has(p.place) && (
          <button
            className="fig ml-2 min-h-8 underline decoration-line"
            onClick={() => openBag(bags.get(p.place)!)}
          >
            {bags.get(p.place)}
          </button>
        )}
        {p.dueBack && (
          <span className="text-soft">
            <Trans>, due {day(p.dueBack)}</Trans>
          </span>
        )}
      </td>
    </tr>
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6 lg:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
      <div className="space-y-6">
        <nav aria-label={tr`On this page`} className="flex flex-wrap gap-1.5">
          {[
            ['tagged', tr`Tagged parts, ${parts.length}`],
            ['bags', tr`Bags and boxes, ${engineCase.stows.filter(stands).length}`],
            ['offered', tr`Offered parts, ${engineCase.candidates.filter(stands).length}`],
            ['labels', tr`Labels`],
          ].map(([at, words]) => (
            <button
              key={at}
              className="key text-sm"
              onClick={() => document.getElementById(at!)?.scrollIntoView({ block: 'start' })}
            >
              {words}
            </button>
          ))}
        </nav>
        <Loose />
        <section id="tagged">
          <h2 className="text-xl">
            <Trans>Tagged parts, {parts.length}</Trans>
          </h2>
          <p className="mb-2 text-soft">
            {tr`Press a part in the section, or one of these. Mark both halves before they part; the cap goes back on its rod at once.`}
          </p>
          {untagged.length > 0 && (
            <details className="mb-3">
              <summary className="key inline-flex cursor-pointer items-center">
                <Trans>Off, no tag yet, {untagged.length}</Trans>
              </summary>
              <p className="mt-2 flex flex-wrap items-center gap-1.5">
                {untagged.map((c) => (
                  <button
                    key={c.address}
                    className="key px-2"
                    title={c.words}
                    onClick={() => openPart(c.address)}
                  >
                    <Addr code={c.address} />
                  </button>
                ))}
              </p>
            </details>
          )}
          {mayWrite && untagged.length > 1 && <Several untagged={untagged.map((c) => c.address)} />}
          {parts.length === 0 && untagged.length === 0 && (
            <p>{tr`Parts appear here as the strip lays them open.`}</p>
          )}
          {parts.length > 0 && (
            <div
              className="card later overflow-x-auto"
              tabIndex={0}
              role="region"
              aria-label={tr`Tagged parts`}
            >
              <table className="w-full text-left">
                <thead className="text-sm text-soft">
                  <tr>
                    {[tr`Part`, tr`Mark`, tr`Faces`, tr`Stamped`, tr`Where`].map((h) => (
                      <th
                        key={h}
                        className={`px-3 py-2 ${h === 'Faces' || h === 'Stamped' ? 'hidden md:table-cell' : ''}`}
                      >
                        {h}
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {parts.slice(0, first).map(row)}
                  <Later>{parts.slice(first).map(row)}</Later>
                </tbody>
              </table>
            </div>
          )}
        </section>
        <Later>
          <Stows />
        </Later>
      </div>
      <div className="space-y-5">
        <MateCheck key={params.get('mates')} caseId={engineCase.id} />
        <Later>
          <Candidates />
          <Labels />
          <Renumber />
        </Later>
      </div>
    </div>
  );
}

/** Nothing is nowhere: what is loose, unmarked, unplaced or overdue, in one list. */
function Loose() {
  const { openPart, openBag, engineCase, section } = useCaseContext();
  const named = new Map(section.cells.map((c) => [c.address, c.words]));
  const progress = useRoom(engineCase.id, 'progress');
  const ends = progress.looseEnds;
  if (ends.length === 0)
    return (
      <p className="rounded-lg border-2 border-oil bg-oil-tint px-4 py-3 text-lg">
        {tr`Nothing is loose: every part that is off has a mark and a place.`}
      </p>
    );
  return (
    <section>
      <h2 className="text-xl">
        <Trans>Loose ends, {ends.length}</Trans>
      </h2>
      <ul className="card mt-2 divide-y divide-line border-l-8 border-l-lead">
        {ends.map((l) => (
          <li key={l.text}>
            <button
              className="flex min-h-11 w-full items-baseline gap-3 px-3 py-2 text-left disabled:cursor-default"
              disabled={!l.place}
              onClick={() => (engineCase.stows.some((s) => s.code === l.place) ? openBag : openPart)(l.place)}
            >
              <span className="w-28 shrink-0 text-sm font-bold text-lead">{looseWords[l.kind]}</span>
              <span>
                {l.text}
                {named.has(l.place) && <span className="block text-sm text-soft">{named.get(l.place)}</span>}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

const answerLook: Record<Schemas['MateAnswer'], string> = {
  match: 'border-oil bg-oil-tint',
  mayBeMixed: 'border-oil bg-oil-tint',
  wrongWayRound: 'border-lead bg-lead-tint',
  notMates: 'border-lead bg-lead-tint',
  notProven: 'border-brass bg-brass-tint',
};

const pairOfTags = z.object({
  first: needed(tr`Type or scan a tag.`),
  second: needed(tr`Type or scan a tag.`),
});

/** Two tags in, one large word out; both may stand in the address already. */
function MateCheck({ caseId }: { caseId: string }) {
  const [params] = useSearchParams();
  const mates = params.get('mates');
  const [one = '', other = ''] = (mates ?? '').toUpperCase().split(' ');
  const { form } = useEntryForm(pairOfTags, { first: one, second: other });
  const [pair, setPair] = useState<[string, string] | null>(one && other ? [one, other] : null);
  const heading = useArrival<HTMLHeadingElement>(mates === null ? null : `mates/${mates}`, true);
  const check = useQuery({
    queryKey: [...keys.rooms(caseId), 'mates', pair],
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/mates', {
          params: { path: { caseId }, query: { first: pair![0], second: pair![1] } },
        }),
      ),
    enabled: pair !== null,
    retry: false,
  });
  // The first tag goes into the first field that is empty; with both filled, a new check begins.
  const scanned = (address: string) => {
    const { first, second } = form.getValues();
    if (first && !second) {
      form.reset({ first, second: address });
      setPair([first, address]);
    } else {
      form.reset({ first: address, second: '' });
      setPair(null);
    }
  };
  return (
    <section className="card p-4">
      <h2 ref={heading} tabIndex={-1} className="scroll-mt-4 text-xl outline-none">
        {tr`Do these two belong together?`}
      </h2>
      <EntryForm
        form={form}
        send={async ({ first, second }) => setPair([first, second])}
        className="mt-2 flex items-end gap-2"
      >
        <div className="min-w-0 flex-1">
          <TextField
            form={form}
            name="first"
            label={tr`One tag`}
            placeholder="R4"
            className="fig text-xl uppercase"
          />
        </div>
        <div className="min-w-0 flex-1">
          <TextField
            form={form}
            name="second"
            label={tr`The other`}
            placeholder="R4C"
            className="fig text-xl uppercase"
          />
        </div>
        <button className="key key-go">{tr`Check`}</button>
      </EntryForm>
      <div className="mt-2">
        <Scan caseId={caseId} onFound={scanned} />
      </div>
      <div aria-live="polite" className="mt-3">
        {check.error && <Trouble problem={check.error as ApiProblem} />}
        {check.data && !check.error && (
          <div className={`rounded-lg border-4 p-3 ${answerLook[check.data.answer]}`}>
            <p className="text-3xl font-extrabold">{check.data.word}</p>
            <p className="mt-1">{check.data.why}</p>
          </div>
        )}
      </div>
    </section>
  );
}
