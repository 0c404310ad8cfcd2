import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { useMayWrite, useSettings, useSuppliers } from '../api/queries';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import { money } from '../ui/rates';
import { GateReasons } from './Gates';
import { shutBefore } from './orderLines';

const splitWords: Record<Schemas['SplitBy'], string> = {
  cheapest: tr`Cheapest`,
  soonest: tr`Soonest`,
  fewestParcels: tr`Fewest parcels`,
};

/** Asking suppliers, sharing the lines out among them, and sending the order. */
export function Sending({ board }: { board: Schemas['OrderBoard'] }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const suppliers = useSuppliers();
  const records = new Map(engineCase.orderLines.map((l) => [l.id, l]));
  const open = board.lines.filter((l) => l.stage === 'wanted' || l.stage === 'asked');
  const ask = useWrite(engineCase.id, writes.askSupplier);
  const take = useWrite(engineCase.id, writes.takeSplit);
  const follow = useWrite(engineCase.id, writes.followOrder);
  const [sending, setSending] = useState<string | null>(null);
  if (!mayWrite || !suppliers.data) return null;
  const online = suppliers.data.filter((s) => s.address);
  const of = (s: Schemas['Supplier']) =>
    open.filter(
      (l) =>
        records.get(l.line)?.kind === s.kind && ['', s.name].includes(records.get(l.line)?.supplier ?? ''),
    );
  const named = (s: Schemas['Supplier']) => open.filter((l) => records.get(l.line)?.supplier === s.name);
  const waiting = (s: Schemas['Supplier']) =>
    board.lines.some(
      (l) =>
        (l.stage === 'ordered' || l.stage === 'expected') &&
        l.reference &&
        records.get(l.line)?.supplier === s.name,
    );
  // Ways that the lines have taken already are no choice any more.
  const taken = (s: Schemas['OrderSplit']) =>
    s.taken.every((t) => records.get(t.line)?.supplier === t.supplier && records.get(t.line)?.price !== null);
  const choices = board.splits.every(taken)
    ? []
    : board.splits.filter(
        (s, i) =>
          board.splits.findIndex(
            (o) => o.total === s.total && o.days === s.days && o.suppliers.join() === s.suppliers.join(),
          ) === i,
      );
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap gap-1.5">
        {online
          .filter((s) => of(s).length > 0)
          .map((s) => (
            <button
              key={s.id}
              className="key"
              disabled={ask.isPending}
              onClick={() => ask.mutate({ supplier: s.id, lines: of(s).map((l) => l.line) })}
            >
              <Trans>Ask {s.name} for prices</Trans>
            </button>
          ))}
        {online.filter(waiting).map((s) => (
          <button key={s.id} className="key" disabled={follow.isPending} onClick={() => follow.mutate(s.id)}>
            <Trans>Ask {s.name} how it stands</Trans>
          </button>
        ))}
      </div>
      {ask.isSuccess && ask.data.without.length > 0 && (
        <p className="text-brass">
          <Trans>No offer for: {ask.data.without.map((id) => records.get(id)?.what ?? '').join('; ')}.</Trans>
        </p>
      )}
      {follow.isSuccess && (
        <p className="text-soft">
          {follow.data.moves.length === 0 ? tr`Nothing has changed.` : tr`Days are as they now say.`}
        </p>
      )}
      <Trouble problem={ask.error ?? follow.error ?? take.error} />
      {choices.length > 0 && (
        <div>
          <h3 className="text-lg">{tr`Ways to share it out`}</h3>
          <div className="mt-1 grid gap-2 md:grid-cols-3">
            {choices.map((s) => (
              <div key={s.by} className="card flex flex-col gap-1 p-3">
                <b>{splitWords[s.by]}</b>
                <p className="fig text-lg font-bold">{money(s.total, board.currency)}</p>
                <p className="text-sm text-soft">
                  {s.freight > 0 ? tr`of it ${money(s.freight, board.currency)} freight; ` : ''}
                  <Trans>
                    {s.days} days; {s.suppliers.join(', ')}
                  </Trans>
                </p>
                {!s.exact && (
                  <p className="text-sm text-brass">{tr`So many suppliers that not every way was tried.`}</p>
                )}
                <button
                  className="key mt-auto"
                  disabled={take.isPending}
                  aria-label={tr`Take it: ${splitWords[s.by]}`}
                  onClick={() => take.mutate(s.by)}
                >
                  {tr`Take it so`}
                </button>
              </div>
            ))}
          </div>
          {board.unoffered.length > 0 && (
            <p className="text-soft">
              <Trans>Without an offer: {board.unoffered.length} of the lines not ordered yet.</Trans>
            </p>
          )}
        </div>
      )}
      <div className="flex flex-wrap gap-1.5">
        {online
          .filter((s) => named(s).length > 0)
          .map((s) => (
            <button
              key={s.id}
              className="key key-go"
              aria-expanded={sending === s.id}
              onClick={() => setSending(sending === s.id ? null : s.id)}
            >
              {tr`Order`} {named(s).length === 1 ? tr`one line` : tr`${named(s).length} lines`}{' '}
              <Trans>from {s.name}</Trans>
            </button>
          ))}
      </div>
      {online
        .filter((s) => s.id === sending && named(s).length > 0)
        .map((s) => (
          <Send key={s.id} supplier={s} lines={named(s)} done={() => setSending(null)} />
        ))}
    </div>
  );
}

/** Sends an order; before each gate that is not open somebody says what is risked, where the shop orders early. */
function Send({
  supplier,
  lines,
  done,
}: {
  supplier: Schemas['Supplier'];
  lines: Schemas['OrderLineState'][];
  done: () => void;
}) {
  const { engineCase } = useCaseContext();
  const settings = useSettings();
  const [reasons, setReasons] = useState<Record<string, string>>({});
  const early = settings.data?.schools.ordering === 'earlyAtARisk';
  const shut = shutBefore(lines);
  const held = lines.filter((l) =>
    l.gates.some((g) => g.stands === 'failed' || (!early && g.stands === 'shut')),
  );
  const free = lines.filter((l) => !held.includes(l));
  const asked = shutBefore(free);
  const send = useWrite(engineCase.id, writes.sendOrder, done);
  const records = new Map(engineCase.orderLines.map((l) => [l.id, l]));
  return (
    <div className="card space-y-3 border-2 border-dye p-3">
      <h4 className="text-lg font-bold">
        <Trans>Order from {supplier.name}</Trans>
      </h4>
      {held.length > 0 && (
        <div className="rounded-lg border-2 border-brass bg-brass-tint p-2">
          <p className="font-bold">
            <Trans>Held back: {held.map((l) => records.get(l.line)?.what ?? '').join('; ')}.</Trans>
          </p>
          <ul>
            {shut
              .filter((g) => !asked.includes(g))
              .map((g) => (
                <li key={g.gate}>
                  {g.name}: {g.evidence}
                </li>
              ))}
          </ul>
        </div>
      )}
      <GateReasons gates={asked} reasons={reasons} onChange={setReasons} />
      {free.length > 0 && (
        <ul className="list-disc pl-5">
          {free.map((l) => (
            <li key={l.line}>
              <span className="fig">{records.get(l.line)?.quantity} × </span>
              {records.get(l.line)?.what}
            </li>
          ))}
        </ul>
      )}
      <Trouble problem={send.error} />
      <div className="flex gap-2">
        <button
          className="key key-go"
          disabled={send.isPending || free.length === 0 || asked.some((g) => !reasons[g.gate]?.trim())}
          onClick={() => send.mutate({ supplier: supplier.id, lines: free.map((l) => l.line), reasons })}
        >
          {free.length === 0 ? tr`All of it is held` : tr`Send the order`}
        </button>
        <button className="key" onClick={done}>
          {tr`Leave it`}
        </button>
      </div>
    </div>
  );
}
