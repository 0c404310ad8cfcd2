import { useState } from 'react';
import { Link } from 'react-router';
import { useMayWrite } from '../api/queries';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { day, Trouble } from '../ui/basics';
import { money } from '../ui/rates';
import { Gates } from './Gates';
import { LineForm } from './LineForm';
import { OrderLine } from './OrderLine';
import { fromNeed } from './orderLines';
import { PlaceRow } from './PlaceRow';
import { Sending } from './Sending';
import { FileKey } from '../ui/FileKey';
import { fileName } from '../ui/words';

const stages: readonly (readonly [string, readonly Schemas['OrderStage'][], string])[] = [
  ['Here, to be checked', ['arrived'], 'Measured against what was ordered before it is let in.'],
  ['Not ordered yet', ['wanted', 'asked'], ''],
  ['On its way', ['ordered', 'expected', 'sentBack'], ''],
  ['Checked, may be fitted', ['checked'], ''],
  ['Fitted', ['fitted'], ''],
];

/** What is had from others: what the verdicts ask for, what was ordered, what came, and whether it may go in. */
export function Order() {
  const { engineCase } = useCaseContext();
  const board = useRoom(engineCase.id, 'order');
  const mayWrite = useMayWrite();
  const [own, setOwn] = useState(false);
  const records = new Map(engineCase.orderLines.map((l) => [l.id, l]));
  const file = (name: string) => `/api/cases/${engineCase.id}/${name}`;
  const work = board.lines.some((l) => records.get(l.line)?.kind !== 'parts');
  return (
    <section className="max-w-5xl space-y-5">
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <div className="least-64 flex-1">
          <h2 className="text-xl">The order</h2>
          <p className="text-soft">
            {board.lines.length === 0 ? (
              'Nothing on it yet.'
            ) : (
              <>
                {board.lines.length === 1 ? 'One line' : `${board.lines.length} lines`},{' '}
                <b className="fig text-ink">{money(board.cost, board.currency)}</b>
                {board.unpriced > 0 && ` and ${board.unpriced} without a price`}
                {board.waits && `; the last of what is on its way is expected ${day(board.waits)}`}.
              </>
            )}
          </p>
        </div>
        {board.lines.length > 0 && (
          <div className="flex flex-wrap gap-1.5">
            {work && (
              <a
                className="key key-go flex items-center"
                href={file('shop-order.pdf')}
                target="_blank"
                rel="noreferrer"
              >
                Print for the machine shop
              </a>
            )}
            {(['pdf', 'xlsx', 'csv'] as const).map((f) => (
              <FileKey
                key={f}
                className="uppercase"
                href={file(`order.${f}`)}
                name={fileName(engineCase.title, `order.${f}`)}
                label={`The order as ${f.toUpperCase()}`}
              >
                {f}
              </FileKey>
            ))}
          </div>
        )}
      </div>
      <Needs needs={board.needs.filter((n) => n.missing > 0)} />
      <OnTheShelf needs={board.needs.filter((n) => n.missing === 0 && n.lined < n.quantity)} />
      {board.lines.length > 0 && <Sending board={board} />}
      {stages.map(([name, of, says]) => {
        const here = board.lines.filter((l) => of.includes(l.stage));
        return (
          here.length > 0 && (
            <div key={name}>
              <h3 className="text-lg">
                {name} <span className="fig font-normal text-soft">{here.length}</span>
              </h3>
              {says && <p className="text-soft">{says}</p>}
              <ul className="card mt-1 divide-y divide-line">
                {here.map((l) => {
                  const record = records.get(l.line);
                  return record && <OrderLine key={l.line} state={l} line={record} />;
                })}
              </ul>
            </div>
          )
        );
      })}
      {mayWrite && (
        <div className="flex flex-wrap gap-2">
          <button className="key" aria-expanded={own} onClick={() => setOwn(!own)}>
            Something else to order
          </button>
          <Link to="/suppliers" className="key flex items-center">
            Suppliers
          </Link>
        </div>
      )}
      {own && <LineForm standing={null} done={() => setOwn(false)} />}
    </section>
  );
}

/** What the verdicts ask for and nobody has put on the order. One touch takes all that is decided. */
function Needs({ needs }: { needs: Schemas['OrderNeed'][] }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const take = useWrite(engineCase.id, writes.orderLines);
  const decided = needs.filter((n) => n.decided);
  const advised = needs.filter((n) => !n.decided);
  if (needs.length === 0) return null;
  const key = (n: Schemas['OrderNeed']) =>
    mayWrite && (
      <button
        className="key"
        disabled={take.isPending}
        aria-label={`Put on the order: ${n.what}`}
        onClick={() => take.mutate([fromNeed(n)])}
      >
        Put on the order
      </button>
    );
  return (
    <div className="space-y-3">
      {decided.length > 0 && (
        <div>
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
            <h3 className="flex-1 text-lg">Decided, and not on the order</h3>
            {mayWrite && decided.length > 1 && (
              <button
                className="key key-go"
                disabled={take.isPending}
                onClick={() => take.mutate(decided.map(fromNeed))}
              >
                Put all {decided.length} on the order
              </button>
            )}
          </div>
          <ul className="card mt-1 divide-y divide-line">
            {decided.map((n) => (
              <Need key={n.key} need={n} press={key(n)} />
            ))}
          </ul>
        </div>
      )}
      {advised.length > 0 && (
        <details open={decided.length === 0}>
          <summary className="cursor-pointer text-lg font-bold">
            Advised, not decided yet <span className="fig font-normal text-soft">{advised.length}</span>
          </summary>
          <ul className="card mt-1 divide-y divide-line">
            {advised.map((n) => (
              <Need key={n.key} need={n} press={key(n)} />
            ))}
          </ul>
        </details>
      )}
      <Trouble problem={take.error} />
    </div>
  );
}

function Need({ need: n, press }: { need: Schemas['OrderNeed']; press: React.ReactNode }) {
  return (
    <li className="grid gap-x-4 gap-y-1 px-3 py-2.5 md:grid-cols-[minmax(0,1fr)_auto] md:px-4">
      <div className="min-w-0">
        <p>
          <b>
            <span className="fig">{n.kind === 'parts' && n.missing !== 1 ? `${n.missing} × ` : ''}</span>
            {n.what}
          </b>
          {n.lined > 0 && <span className="text-soft"> ({n.lined} more are on it)</span>}
        </p>
        {n.why && <p className="text-soft">{n.why}</p>}
        {n.shelf.length > 0 && <Shelf shelf={n.shelf} />}
        <Gates gates={n.gates} />
        {n.along.length > 0 && (
          <p className="flex flex-wrap gap-x-2 text-sm text-soft">
            Goes along: <PlaceRow codes={n.along} />
          </p>
        )}
      </div>
      <div className="md:self-start">{press}</div>
    </li>
  );
}

function Shelf({ shelf }: { shelf: Schemas['OnShelf'][] }) {
  return (
    <ul>
      {shelf.map((s) => (
        <li key={s.mark}>
          <span className="fig font-bold">{s.mark}</span> on the shelf: {s.count}
          {s.grade && <span className="fig"> {s.grade}</span>}
          {s.where && `, ${s.where}`}.{' '}
          {s.sure ? (
            'Same size, same engine.'
          ) : (
            <b className="text-brass">Look whether it fits: {s.fits || 'nothing written on it'}.</b>
          )}
        </li>
      ))}
    </ul>
  );
}

/** What need not be ordered, since it lies on the shelf. */
function OnTheShelf({ needs }: { needs: Schemas['OrderNeed'][] }) {
  if (needs.length === 0) return null;
  return (
    <div>
      <h3 className="text-lg">Spares already</h3>
      <ul className="card mt-1 divide-y divide-line">
        {needs.map((n) => (
          <li key={n.key} className="px-3 py-2.5 md:px-4">
            <b>{n.what}</b>
            <Shelf shelf={n.shelf} />
          </li>
        ))}
      </ul>
    </div>
  );
}
