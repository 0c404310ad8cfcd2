import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
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
  [tr`Here, to be checked`, ['arrived'], tr`Measured against what was ordered before it is let in.`],
  [tr`Not ordered yet`, ['wanted', 'asked'], ''],
  [tr`On its way`, ['ordered', 'expected', 'sentBack'], ''],
  [tr`Checked, may be fitted`, ['checked'], ''],
  [tr`Fitted`, ['fitted'], ''],
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
          <h2 className="text-xl">{tr`The order`}</h2>
          <p className="text-soft">
            {board.lines.length === 0 ? (
              tr`Nothing on it yet.`
            ) : (
              <>
                {board.lines.length === 1 ? tr`One line` : tr`${board.lines.length} lines`},{' '}
                <b className="fig text-ink">{money(board.cost, board.currency)}</b>
                {board.unpriced > 0 && tr` and ${board.unpriced} without a price`}
                {board.waits && tr`; the last of what is on its way is expected ${day(board.waits)}`}.
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
                {tr`Print for the machine shop`}
              </a>
            )}
            {(['pdf', 'xlsx', 'csv'] as const).map((f) => (
              <FileKey
                key={f}
                className="uppercase"
                href={file(`order.${f}`)}
                name={fileName(engineCase.title, `order.${f}`)}
                label={tr`The order as ${f.toUpperCase()}`}
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
            {tr`Something else to order`}
          </button>
          <Link to="/suppliers" className="key flex items-center">
            {tr`Suppliers`}
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
        aria-label={tr`Put on the order: ${n.what}`}
        onClick={() => take.mutate([fromNeed(n)])}
      >
        {tr`Put on the order`}
      </button>
    );
  return (
    <div className="space-y-3">
      {decided.length > 0 && (
        <div>
          <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
            <h3 className="flex-1 text-lg">{tr`Decided, and not on the order`}</h3>
            {mayWrite && decided.length > 1 && (
              <button
                className="key key-go"
                disabled={take.isPending}
                onClick={() => take.mutate(decided.map(fromNeed))}
              >
                <Trans>Put all {decided.length} on the order</Trans>
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
            <Trans>
              Advised, not decided yet <span className="fig font-normal text-soft">{advised.length}</span>
            </Trans>
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
          {n.lined > 0 && (
            <span className="text-soft">
              {' '}
              <Trans>({n.lined} more are on it)</Trans>
            </span>
          )}
        </p>
        {n.why && <p className="text-soft">{n.why}</p>}
        {n.shelf.length > 0 && <Shelf shelf={n.shelf} />}
        <Gates gates={n.gates} />
        {n.along.length > 0 && (
          <p className="flex flex-wrap gap-x-2 text-sm text-soft">
            {tr`Goes along:`} <PlaceRow codes={n.along} />
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
          <Trans>
            <span className="fig font-bold">{s.mark}</span> on the shelf: {s.count}
          </Trans>
          {s.grade && <span className="fig"> {s.grade}</span>}
          {s.where && `, ${s.where}`}.{' '}
          {s.sure ? (
            tr`Same size, same engine.`
          ) : (
            <b className="text-brass">
              {tr`Look whether it fits:`} {s.fits || tr`nothing written on it`}.
            </b>
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
      <h3 className="text-lg">{tr`Spares already`}</h3>
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
