import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { verdictSights } from '../section/lenses';
import { Addr } from '../ui/basics';
import { Fits } from './Fits';
import { Options } from './Options';
import { Order } from './Order';
import { Group } from './Group';
import { PlaceRow } from './PlaceRow';
import { groundWords } from './places';

const views = [
  ['parts', tr`Parts`],
  ['fits', tr`What fits what`],
  ['options', tr`Options`],
  ['order', tr`Order`],
] as const;

/** What becomes of the engine. */
export function Verdict() {
  const [params, setParams] = useSearchParams();
  const view = views.find(([v]) => v === params.get('view'))?.[0] ?? 'parts';
  return (
    <>
      <nav aria-label={tr`Verdict`} className="mb-4 flex flex-wrap gap-1.5">
        {views.map(([id, name]) => (
          <button
            key={id}
            className="key"
            aria-pressed={view === id}
            onClick={() =>
              setParams((p) => {
                const next = new URLSearchParams(p);
                next.delete('group');
                if (id === 'parts') next.delete('view');
                else next.set('view', id);
                return next;
              })
            }
          >
            {name}
          </button>
        ))}
      </nav>
      {view === 'fits' ? (
        <Fits />
      ) : view === 'options' ? (
        <Options />
      ) : view === 'order' ? (
        <Order />
      ) : (
        <Groups />
      )}
    </>
  );
}

/** By what is decided together. */
function Groups() {
  const { engineCase } = useCaseContext();
  const { groups } = useRoom(engineCase.id, 'verdict');
  const [params, setParams] = useSearchParams();
  const open = params.get('group');
  const [all, setAll] = useState(false);
  const known = groups.filter(
    (g) => all || g.decided > 0 || g.id === open || g.advised.some((a) => a.ground !== 'unknown'),
  );
  const rest = groups.filter((g) => !known.includes(g));
  const toggle = (id: string) =>
    setParams(
      (p) => {
        const next = new URLSearchParams(p);
        if (open === id) next.delete('group');
        else next.set('group', id);
        return next;
      },
      { replace: true, preventScrollReset: true },
    );
  if (known.length === 0)
    return (
      <p className="text-lg text-soft">{tr`Nothing to decide yet. Tag, look at or measure a part first.`}</p>
    );
  return (
    <section className="max-w-5xl">
      <h2 className="text-xl">{tr`What becomes of it`}</h2>
      <p className="mb-3 text-soft">
        {tr`Advised by the rules from what was seen, measured and traced; you decide. Order nothing before the block is known to be sound.`}
      </p>
      <ul className="card divide-y divide-line">
        {known.map((g) => (
          <li key={g.id}>
            <Row group={g} open={open === g.id} toggle={() => toggle(g.id)} />
            {open === g.id && <Group group={g} />}
          </li>
        ))}
      </ul>
      {rest.length > 0 && (
        <p className="mt-3 text-soft">
          <Trans>Nothing known yet of: {rest.map((g) => g.name.toLowerCase()).join(', ')}. </Trans>
          <button className="underline" onClick={() => setAll(true)}>
            {tr`Show them`}
          </button>
        </p>
      )}
    </section>
  );
}

function Row({ group, open, toggle }: { group: Schemas['GroupAdvice']; open: boolean; toggle: () => void }) {
  const told = group.advised.filter((a) => a.course !== '' || a.ground !== 'unknown');
  const shown = told.slice(0, 4);
  const toDecide = group.places.length - group.untouched.length;
  return (
    <button
      aria-expanded={open}
      data-to-decide={!open && group.decided < toDecide ? '' : undefined}
      onClick={toggle}
      className="grid w-full gap-x-5 gap-y-1 px-3 py-3 text-left hover:bg-dye-tint md:grid-cols-[11rem_minmax(0,1fr)_9rem] md:px-4"
    >
      <span className="text-lg leading-tight font-bold">{group.name}</span>
      <span className="space-y-0.5">
        {shown.map((a) => (
          <CourseLine key={a.course + a.ground} advised={a} />
        ))}
        {told.length > shown.length && (
          <span className="block text-soft">
            <Trans>and {told.length - shown.length} more</Trans>
          </span>
        )}
        {group.causes[0] && (
          <span className="block text-sm text-soft">
            <Trans>
              Trace: {group.causes[0].name} <Addr code={group.causes[0].place} />
            </Trans>
          </span>
        )}
      </span>
      <span className="flex items-start gap-2 text-sm md:justify-end md:text-right">
        <span className={group.decided >= toDecide && toDecide > 0 ? 'font-bold text-oil' : 'text-soft'}>
          {toDecide > 0 && group.decided >= toDecide ? '✓ ' : ''}
          <Trans>
            <span className="fig">{group.decided}</span> of <span className="fig">{toDecide}</span> decided
          </Trans>
          {group.otherwise.length > 0 && (
            <span className="block text-brass">
              <Trans>{group.otherwise.length} otherwise than advised</Trans>
            </span>
          )}
        </span>
        <span aria-hidden className="ml-auto text-lg md:ml-0">
          {open ? '▴' : '▾'}
        </span>
      </span>
    </button>
  );
}

function CourseLine({ advised }: { advised: Schemas['AdvisedTogether'] }) {
  const { knowledge } = useCaseContext();
  const course = knowledge.courses.find((c) => c.id === advised.course);
  return (
    <span className="flex flex-wrap items-baseline gap-x-2">
      <span
        aria-hidden
        className={`fig inline-block w-5 text-center font-bold ${advised.action === 'replace' ? 'text-lead' : ''}`}
      >
        {advised.action ? verdictSights[advised.action][0] : '·'}
      </span>
      <b className={course ? '' : 'font-semibold text-soft'}>{course?.name ?? groundWords[advised.ground]}</b>
      <PlaceRow codes={advised.places} />
    </span>
  );
}
