import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useEffect, useRef, useState } from 'react';
import { useMayWrite } from '../api/queries';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom, useRoomSoon } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { Addr, moment, percent, Trouble } from '../ui/basics';
import { WhyForm } from '../ui/WhyForm';
import { latestVerdicts, writerOf } from '../ui/words';
import { groundWords, offered } from './places';
import { Plan } from './Plan';
import { Tests } from './Tests';
import { PlaceRow } from './PlaceRow';

/** A group opened to its places: what is advised and why, the plan, what must be tested, and the decision. */
export function Group({ group }: { group: Schemas['GroupAdvice'] }) {
  const { engineCase, section } = useCaseContext();
  const { plans, places } = useRoom(engineCase.id, 'verdict');
  const strip = useRoomSoon(engineCase.id, 'strip');
  const asks = places.filter((p) => group.places.includes(p.place) && p.asks.length > 0);
  // A plan that nobody needs is told in one line.
  const kindOf = new Map(section.cells.map((c) => [c.address, c.kind]));
  const worked = new Set(
    places
      .filter((p) => p.action === 'machine' || p.action === 'specialist')
      .flatMap((p) => [p.place, kindOf.get(p.place)]),
  );
  return (
    <div className="space-y-5 border-t border-line bg-steel/25 px-3 py-4 md:px-4">
      {group.advised.map((a) => (
        <Advised key={a.course + a.ground} advised={a} />
      ))}
      {asks.length > 0 && <Tests asks={asks} />}
      {plans
        .filter((p) => group.plans.includes(p.kind) && (p.removes === null || group.places.includes(p.worst)))
        .map((p) => (
          <Plan key={p.kind + p.worst} plan={p} wanted={worked.has(p.removes === null ? p.kind : p.worst)} />
        ))}
      {group.id === 'hardware' && strip && strip.toOrder.length > 0 && (
        <div className="card p-3 md:p-4">
          <h3 className="text-lg">{tr`One-time fasteners that came out, or will`}</h3>
          <ul className="list-disc pl-5">
            {strip.toOrder.map(({ words: t }) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
        </div>
      )}
      {group.causes.length > 0 && (
        <div>
          <h4 className="font-bold">{tr`So that it does not come back`}</h4>
          <ul className="space-y-1">
            {group.causes.map((c) => (
              <li key={c.cause + c.place}>
                <b>{c.name}</b> <Addr code={c.place} /> <span className="fig">{percent(c.probability)}</span>.{' '}
                {c.prevent}
              </li>
            ))}
          </ul>
        </div>
      )}
      {group.untouched.length > 0 && (
        <p className="flex flex-wrap gap-x-2 text-soft">
          {tr`Nothing known of`} <PlaceRow codes={group.untouched} most={12} />
        </p>
      )}
    </div>
  );
}

/** The same for several places: reasons, what it takes, and one touch that decides them; any of them can be left out. */
function Advised({ advised }: { advised: Schemas['AdvisedTogether'] }) {
  const { engineCase, knowledge, openPart, section } = useCaseContext();
  const board = useRoom(engineCase.id, 'verdict');
  const mayWrite = useMayWrite();
  const decided = latestVerdicts(engineCase.verdicts);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [other, setOther] = useState<string | null>(null);
  const [reason, setReason] = useState('');
  const [anyway, setAnyway] = useState(false);
  const course = knowledge.courses.find((c) => c.id === advised.course);
  const open = advised.places.filter((p) => !decided.has(p));
  const done = advised.places.flatMap((p) => decided.get(p) ?? []);
  const picked = open.filter((p) => !left.has(p));
  const of = new Map(board.places.map((p) => [p.place, p]));
  const never = [...new Set(picked.flatMap((p) => of.get(p)?.never ?? []))];
  const kindOf = new Map(section.cells.map((c) => [c.address, c.kind]));
  const choices = offered(knowledge.courses, [...new Set(picked.map((p) => kindOf.get(p) ?? ''))], never);
  const chosen = other ?? course?.id ?? null;
  const name = knowledge.courses.find((c) => c.id === chosen)?.name;
  const needsReason = chosen !== (course?.id ?? null);
  const heading = useRef<HTMLHeadingElement>(null);
  const decides = useRef(false);
  useEffect(() => {
    if (!decides.current || open.length > 0) return;
    decides.current = false;
    goToNext(heading.current!);
  });
  const write = useWrite(engineCase.id, writes.verdicts, () => {
    decides.current = true;
    setOther(null);
    setReason('');
    setLeft(new Set());
  });
  const toggle = (p: string) =>
    setLeft((before) => {
      const next = new Set(before);
      if (!next.delete(p)) next.add(p);
      return next;
    });
  return (
    <article className="card space-y-3 p-3 md:p-4">
      <h3
        ref={heading}
        tabIndex={-1}
        data-to-decide={mayWrite && open.length > 0 && course ? '' : undefined}
        className="scroll-mt-4 text-lg outline-none"
      >
        {course?.name ?? groundWords[advised.ground]}{' '}
        <span className="font-normal text-soft">
          {advised.places.length === 1 ? tr`one place` : tr`${advised.places.length} places`}
          {advised.ground === 'forbidden' && tr`, nothing lighter is allowed`}
        </span>
      </h3>
      <ul className="space-y-1.5">
        {advised.reasons.map((r) => (
          <li key={r.words + r.places.join()} className="grid gap-x-3 md:grid-cols-[9rem_minmax(0,1fr)]">
            <PlaceRow codes={r.places} most={4} />
            <span>{r.words}</span>
          </li>
        ))}
      </ul>
      {course?.takes && (
        <p className="text-soft">
          <Trans>
            It takes: {course.takes}. {course.caution}
          </Trans>
        </p>
      )}
      {done.length > 0 && <Decided verdicts={done} />}
      {mayWrite && open.length > 0 && !course && !anyway && (
        <button className="key" onClick={() => setAnyway(true)}>
          {tr`Decide all the same`}
        </button>
      )}
      {mayWrite && open.length > 0 && (course || anyway) && (
        <div className="space-y-2 border-t border-line pt-3">
          <div role="group" aria-label={tr`Places to decide`} className="flex flex-wrap gap-1.5">
            {open.map((p) => (
              <button
                key={p}
                type="button"
                className="key px-2"
                aria-pressed={!left.has(p)}
                onClick={() => toggle(p)}
                onDoubleClick={() => openPart(p)}
              >
                <Addr code={p} />
              </button>
            ))}
          </div>
          <div className="grid gap-2 md:grid-cols-[16rem_minmax(0,1fr)]">
            <label className="block">
              <span className="label">{tr`Course`}</span>
              <select
                className="entry"
                value={chosen ?? ''}
                onChange={(e) => setOther(e.target.value || null)}
              >
                {!course && <option value="">{tr`Choose`}</option>}
                {choices.map((c) => (
                  <option key={c.id} value={c.id}>
                    {c.name}
                    {c.id === course?.id ? tr` (advised)` : ''}
                  </option>
                ))}
              </select>
            </label>
            <label className="block">
              <span className="label">
                {needsReason ? tr`Why, as it is not what the rules advise` : tr`Remark, if any`}
              </span>
              <input className="entry" value={reason} onChange={(e) => setReason(e.target.value)} />
            </label>
          </div>
          <Trouble problem={write.error} />
          <button
            className="key key-go w-full md:w-auto"
            disabled={!chosen || picked.length === 0 || write.isPending || (needsReason && !reason.trim())}
            onClick={() => write.mutate({ places: picked, course: chosen!, reason })}
          >
            {name
              ? tr`Decide: ${name}, ${picked.length === 1 ? picked[0]! : tr`${picked.length} places`}`
              : tr`Choose a course`}
          </button>
        </div>
      )}
    </article>
  );
}

/** The next that is advised and not decided, in this group or in one below it. */
function goToNext(from: HTMLElement) {
  const next = [...document.querySelectorAll<HTMLElement>('[data-to-decide]')].find(
    (e) => from.compareDocumentPosition(e) & Node.DOCUMENT_POSITION_FOLLOWING,
  );
  next?.focus({ preventScroll: true });
  next?.scrollIntoView({ block: 'nearest' });
}

/** What was decided, alike ones in one line, each to be taken back with a reason. */
function Decided({ verdicts }: { verdicts: Schemas['PartVerdict'][] }) {
  const { engineCase, knowledge } = useCaseContext();
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState<string | null>(null);
  const one = useWrite(engineCase.id, writes.verdictBack, () => setOpen(null));
  const many = useWrite(engineCase.id, writes.verdictsBack, () => setOpen(null));
  const touches = new Map<string, Schemas['PartVerdict'][]>();
  for (const v of verdicts) {
    const key = v.together ?? v.id;
    touches.set(key, [...(touches.get(key) ?? []), v]);
  }
  return (
    <ul className="space-y-2 border-t border-line pt-3">
      {[...touches].map(([key, [first, ...more]]) => (
        <li key={key} className="border-l-4 border-dye pl-3">
          <p className="flex flex-wrap items-baseline gap-x-2">
            <b>✓ {knowledge.courses.find((c) => c.id === first!.course)?.name ?? first!.action}</b>
            <PlaceRow codes={[first!, ...more].map((v) => v.place)} />
            <span className="text-sm text-soft">
              {writerOf(first!)}, {moment(first!.at)}
            </span>
            {mayWrite && (
              <button className="text-sm underline" onClick={() => setOpen(open === key ? null : key)}>
                {tr`Undo`}
              </button>
            )}
          </p>
          {first!.reason && <p>{first!.reason}</p>}
          {first!.advised !== first!.course && first!.advisedWhy && (
            <p className="text-sm text-soft">
              {tr`Advised then:`}{' '}
              {knowledge.courses.find((c) => c.id === first!.advised)?.name ?? tr`nothing`}.{' '}
              {first!.advisedWhy}
            </p>
          )}
          {open === key && (
            <>
              <WhyForm
                press={tr`Undo`}
                send={(why) =>
                  first!.together
                    ? many.mutateAsync({ id: first!.together, why })
                    : one.mutateAsync({ id: first!.id, version: first!.version, why })
                }
              />
              <Trouble problem={one.error ?? many.error} />
            </>
          )}
        </li>
      ))}
    </ul>
  );
}
