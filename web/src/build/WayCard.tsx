import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Trouble } from '../ui/basics';
import { custodyWords, facingWords, isOut } from '../ui/words';

/** What a step of the way back puts in: each part with its tag and where it lies, and each fastener that must come home. */
export function WayCard({ way }: { way: Schemas['WayBack'] }) {
  return (
    <div className="space-y-3">
      {way.parts.length > 0 && (
        <div>
          <h3 className="text-lg">Goes in</h3>
          <ul className="mt-1 max-h-80 divide-y divide-line overflow-y-auto">
            {way.parts.map((p) => (
              <PartLine key={p.place} part={p} />
            ))}
          </ul>
        </div>
      )}
      {way.sets.length > 0 && (
        <div>
          <h3 className="text-lg">Fasteners</h3>
          <ul className="mt-1 divide-y divide-line">
            {way.sets.map((s) => (
              <SetLine key={s.set} step={way.step} set={s} />
            ))}
          </ul>
        </div>
      )}
      {way.loosened && (
        <p>
          They were loosened: <b>{way.loosened}</b>. They are tightened the other way round, in the maker’s
          order and passes.
        </p>
      )}
      {(way.sets.length > 0 || way.manual.length > 0) && (
        <p className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
          <b>Figures missing.</b> Torque and angle come from the maker’s manual, with its page; none is kept
          here.
          {way.manual.length > 0 && ` Look up too: ${way.manual.join('; ')}.`}
        </p>
      )}
      {way.cautions.length > 0 && (
        <ul className="list-disc pl-5 text-sm">
          {way.cautions.map((c) => (
            <li key={c}>{c}</li>
          ))}
        </ul>
      )}
    </div>
  );
}

function PartLine({ part }: { part: Schemas['BackPart'] }) {
  const { openPart } = useCaseContext();
  const away = part.custody !== null && (isOut(part.custody) || part.custody === 'scrapped');
  return (
    <li className="flex flex-wrap items-center gap-x-3 py-1">
      <button className="flex min-h-11 items-center gap-3 text-left" onClick={() => openPart(part.place)}>
        <Addr code={part.place} className="text-xl" />
        <span>{part.name}</span>
      </button>
      <span className="text-sm text-soft">
        {part.custody === null
          ? 'no tag: nobody said which way round it sat'
          : [
              part.mark && `mark ${part.mark}`,
              part.facing !== 'unknown' && `faces ${facingWords[part.facing].toLowerCase()}`,
              part.sideUp && `up: ${part.sideUp}`,
            ]
              .filter(Boolean)
              .join(', ')}
      </span>
      {part.custody !== null && (
        <b className={`text-sm ${away ? 'text-lead' : ''}`}>
          {away && '! '}
          {[custodyWords[part.custody].toLowerCase(), part.where].filter(Boolean).join(', ')}
        </b>
      )}
    </li>
  );
}

function SetLine({ step, set }: { step: string; set: Schemas['BackSet'] }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const write = useWrite(engineCase.id, writes.fastener);
  const back = (count: number) =>
    write.mutate({
      step,
      set: set.set,
      state: 'backIn',
      count,
      hole: 0,
      length: null,
      keeping: 'ownHole',
      where: '',
      note: '',
    });
  const byHole = set.holes.length > 0 && set.lengths.length > 1;
  return (
    <li className="py-2">
      <span className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="least-40 flex-1">
          <b className="fig">{set.expected}</b> {set.name} {set.thread}
          {set.lengths.length > 0 && <span className="fig text-sm"> {set.lengths.join(', ')} mm</span>}
          <span className="block text-sm text-soft">
            {[
              set.fresh && 'new ones: those that came out are gauges',
              !set.fresh && set.out > 0 && `${set.out} still out${set.where ? `, in ${set.where}` : ''}`,
              !set.fresh && set.out === 0 && set.broken === 0 && '✓ none left over',
              set.broken > 0 && `${set.broken} broken, the rest in the hole`,
              set.locking && `locked by ${set.locking}`,
            ]
              .filter(Boolean)
              .join(' · ')}
          </span>
        </span>
        {mayWrite &&
          !set.fresh &&
          set.out > 0 &&
          (byHole ? (
            <Link
              className="key text-sm"
              to={`/cases/${engineCase.id}/strip?step=${encodeURIComponent(step)}`}
            >
              Hole by hole
            </Link>
          ) : (
            <span className="flex gap-2">
              <button
                type="button"
                className="key text-sm"
                disabled={write.isPending}
                onClick={() => back(1)}
              >
                One in
              </button>
              <button
                type="button"
                className="key text-sm"
                disabled={write.isPending}
                onClick={() => back(set.out)}
              >
                All {set.out} in
              </button>
            </span>
          ))}
      </span>
      <Trouble problem={write.error} />
    </li>
  );
}
