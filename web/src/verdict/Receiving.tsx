import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { byId } from '../ui/byId';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useMayWrite } from '../api/queries';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Trouble } from '../ui/basics';
import { baseUnit, figure, told } from '../ui/figures';
import { PlaceRow } from './PlaceRow';

const stood: Record<Schemas['FigureStands'], [string, string]> = {
  inside: [tr`✓ as ordered`, 'text-oil'],
  outside: [tr`✕ not as ordered`, 'text-lead'],
  undecided: [tr`? too near to tell`, 'text-brass'],
  unmeasured: [tr`not measured`, 'text-soft'],
};

/** What came, against what was ordered; it is let in when each figure is known, or somebody says of each why not. */
export function Receiving({
  state,
  line,
  receiving,
}: {
  state: Schemas['OrderLineState'];
  line: Schemas['OrderLine'];
  receiving: Schemas['Receiving'];
}) {
  const { engineCase, knowledge, lengths } = useCaseContext();
  const mayWrite = useMayWrite();
  const navigate = useNavigate();
  const [reasons, setReasons] = useState<Record<string, string>>({});
  const [note, setNote] = useState('');
  const letIn = useWrite(engineCase.id, writes.orderMove);
  const candidate = useWrite(engineCase.id, writes.candidate, (made) => go(made.letter));
  const unit = (f: Schemas['ReceivedFigure']) => {
    const quantity = byId(knowledge.characteristics).get(f.characteristic)?.quantity ?? 'length';
    return quantity === 'length' ? lengths : baseUnit[quantity];
  };
  const alike = (f: Schemas['ReceivedFigure']) => f.characteristic + bounds(f, unit(f));
  const go = (letter: string) => {
    const first = receiving.figures.find((f) => f.stands === 'unmeasured') ?? receiving.figures[0];
    const place = (first?.place ?? '').split('.')[0] ?? '';
    const part = letter ? `${place}.${letter}` : place;
    void navigate(`/cases/${engineCase.id}/gauge?${letter ? `with=${letter}&` : ''}part=${part}`);
  };
  const bought = line.kind === 'parts';
  const measure = () => {
    if (!bought || receiving.letter) go(receiving.letter);
    else
      candidate.mutate({
        standing: null,
        version: 0,
        letter: '',
        what: line.item,
        station: null,
        name: line.what,
        from: line.supplier,
        remarks: state.reference,
        line: line.id,
      });
  };
  const open = [
    ...new Map(receiving.figures.filter((f) => f.stands !== 'inside').map((f) => [f.key, f])).values(),
  ];
  const may = mayWrite && state.next.includes('checked');
  return (
    <div className="space-y-2 rounded-lg border border-line bg-steel/25 p-3">
      {receiving.refused && (
        <p className="rounded-lg border-2 border-lead bg-lead-tint p-2 font-bold">
          <Trans>✕ Not what was ordered: {receiving.refused}.</Trans>
        </p>
      )}
      {receiving.label && (
        <p className="rounded-lg border-2 border-brass bg-brass-tint p-2 font-bold">
          <Trans>Look twice: {receiving.label}.</Trans>
        </p>
      )}
      {receiving.figures.length === 0 && (
        <p className="text-soft">{tr`Nothing that it must measure is on the line: say what you looked at.`}</p>
      )}
      {[...new Set(receiving.figures.map(alike))].map((key) => {
        const of = receiving.figures.filter((f) => alike(f) === key);
        return <Figure key={key} of={of} unit={unit(of[0]!)} />;
      })}
      {mayWrite && receiving.figures.length > 0 && (
        <button className="key" disabled={candidate.isPending} onClick={measure}>
          {receiving.letter ? tr`Measure on, as ${receiving.letter}` : tr`Measure it`}
        </button>
      )}
      {may && !receiving.refused && (
        <form
          className="space-y-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (letIn.isPending) return;
            letIn.mutate({
              line: line.id,
              to: 'checked',
              day: null,
              count: null,
              label: '',
              reference: '',
              note,
              reasons,
            });
          }}
        >
          {open.map((f) => (
            <label key={f.key} className="block">
              <span className="label">
                <Trans>
                  {f.name}: {stood[f.stands][0].replace(/^\S /, '')}. Why may it go in all the same?
                </Trans>
              </span>
              <input
                className="entry"
                value={reasons[f.key] ?? ''}
                onChange={(e) => setReasons({ ...reasons, [f.key]: e.target.value })}
              />
            </label>
          ))}
          <label className="block">
            <span className="label">{tr`What was looked at, and how it was`}</span>
            <input className="entry" value={note} onChange={(e) => setNote(e.target.value)} />
          </label>
          <Trouble problem={letIn.error} />
          <button
            className="key key-go"
            disabled={letIn.isPending || open.some((f) => !reasons[f.key]?.trim())}
          >
            {tr`Let it in`}
          </button>
        </form>
      )}
      <Trouble problem={candidate.error} />
    </div>
  );
}

/** One figure at all places where it is asked for: what was measured, then where nobody has. */
function Figure({ of, unit }: { of: Schemas['ReceivedFigure'][]; unit: string }) {
  const measured = of.filter((f) => f.stands !== 'unmeasured');
  const rest = of.filter((f) => f.stands === 'unmeasured').map((f) => f.place);
  return (
    <div>
      <p>
        <b>{of[0]!.name}</b> <span className="fig text-soft">{bounds(of[0]!, unit)}</span>
      </p>
      <ul className="flex flex-wrap gap-1.5">
        {measured.map((f) => (
          <li
            key={f.place}
            className="flex flex-wrap items-baseline gap-x-2 rounded-md border border-line bg-paper px-2 py-0.5"
          >
            <Addr code={f.place} />
            <span className="fig font-bold">{f.value === null ? '' : told(f.value, unit)}</span>
            <span className={`font-semibold ${stood[f.stands][1]}`}>{stood[f.stands][0]}</span>
          </li>
        ))}
        {rest.length > 0 && (
          <li className="flex flex-wrap items-baseline gap-x-2 py-0.5 text-soft">
            {tr`not measured:`} <PlaceRow codes={rest} />
          </li>
        )}
      </ul>
    </div>
  );
}

const bounds = (f: Schemas['ReceivedFigure'], unit: string) => {
  const { least, most, thumb } = f.wanted;
  const words =
    least !== null && most !== null
      ? tr`${figure(least, unit)} to ${told(most, unit)}`
      : least !== null
        ? tr`at least ${told(least, unit)}`
        : tr`at most ${told(most ?? 0, unit)}`;
  return thumb ? tr`${words} (rule of thumb)` : words;
};
