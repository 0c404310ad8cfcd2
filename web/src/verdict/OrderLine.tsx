import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { useMayWrite, useSettings } from '../api/queries';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { day, moment, Trouble } from '../ui/basics';
import { money } from '../ui/rates';
import { WhyForm } from '../ui/WhyForm';
import { stageWords, stands, writerOf } from '../ui/words';
import { GateReasons, Gates } from './Gates';
import { LineForm } from './LineForm';
import { OfferForm } from './OfferForm';
import { PlaceRow } from './PlaceRow';
import { Receiving } from './Receiving';

type Open = 'change' | 'back' | 'offer' | Schemas['OrderStage'] | null;

const pressWords: Partial<Record<Schemas['OrderStage'], string>> = {
  ordered: tr`It is ordered`,
  expected: tr`Another day`,
  arrived: tr`It has come`,
  fitted: tr`It is fitted`,
  sentBack: tr`Send back`,
};

/** What a supplier says of a line, over the line. */
const saidWords: Record<string, string> = {
  backOrder: tr`not in stock: they wait for it`,
  sent: tr`sent, they say`,
  delivered: tr`delivered, they say`,
};

/** A line of the order: how far it is, what stands before it, and where it goes from here. */
export function OrderLine({ state, line }: { state: Schemas['OrderLineState']; line: Schemas['OrderLine'] }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState<Open>(null);
  const toggle = (o: Open) => setOpen(open === o ? null : o);
  const drop = useWrite(engineCase.id, writes.orderLineBack, () => setOpen(null));
  const undo = useWrite(engineCase.id, writes.orderMoveBack, () => setOpen(null));
  const moves = engineCase.orderMoves
    .filter((m) => m.line === line.id && stands(m))
    .sort((a, b) => a.at.localeCompare(b.at));
  const last = moves.at(-1);
  const offers = engineCase.offers.filter((o) => o.line === line.id && stands(o));
  const before = state.stage === 'wanted' || state.stage === 'asked';
  const steps = state.next.filter((n) => n !== 'asked' && n !== 'checked');
  return (
    <li className="space-y-2 px-3 py-2.5 md:px-4">
      <div className="grid gap-x-4 gap-y-1 md:grid-cols-[minmax(0,1fr)_12rem]">
        <div className="min-w-0">
          <p>
            <b>
              <span className="fig">
                {line.kind === 'parts' && line.quantity !== 1 ? `${line.quantity} × ` : ''}
              </span>
              {line.what}
            </b>
          </p>
          <p className="text-sm text-soft">
            {[
              line.supplier || tr`nobody named yet`,
              line.partNumber && tr`no. ${line.partNumber}`,
              line.remarks,
            ]
              .filter(Boolean)
              .join(' · ')}
          </p>
          {state.against.map((a) => (
            <p key={a} className="font-semibold text-lead">
              {a}
            </p>
          ))}
          <Gates gates={state.gates} />
          {state.along.length > 0 && before && (
            <p className="flex flex-wrap gap-x-2 text-sm text-soft">
              {tr`Goes along:`} <PlaceRow codes={state.along} />
            </p>
          )}
        </div>
        <div className="text-sm md:text-right">
          <p className="fig text-base font-bold">
            {line.price === null ? (
              <span className="font-normal text-soft">{tr`no price`}</span>
            ) : (
              money(line.price * line.quantity, line.currency)
            )}
          </p>
          <p>
            <b>{stageWords[state.stage]}</b>
            {state.expected && !before && state.stage !== 'fitted' && state.stage !== 'checked' && (
              <span className={state.late ? 'font-bold text-lead' : ''}> · {day(state.expected)}</span>
            )}
          </p>
          {last && state.stage === 'expected' && last.note && (
            <p className="text-brass">{saidWords[last.note] ?? last.note}</p>
          )}
          {state.reference && <p className="fig text-soft">{state.reference}</p>}
          {before && line.days !== null && (
            <p className="text-soft">
              <Trans>{line.days} days</Trans>
            </p>
          )}
        </div>
      </div>
      {offers.length > 0 && before && (
        <ul className="text-sm">
          {offers.map((o) => (
            <li key={o.id}>
              <b>{o.supplier}</b> <span className="fig">{money(o.price, o.currency)}</span>
              {o.pack > 1 && tr` for ${o.pack}`}
              <Trans>
                , <span className="fig">{o.days}</span> days
              </Trans>
              {!o.inStock && tr`, not in stock`}
              {o.remarks && `, ${o.remarks}`}
            </li>
          ))}
        </ul>
      )}
      {state.receiving && state.stage === 'arrived' && (
        <Receiving state={state} line={line} receiving={state.receiving} />
      )}
      {mayWrite && (
        <div className="flex flex-wrap gap-1.5">
          {steps.map((n) => (
            <button
              key={n}
              className={`key text-sm ${n === 'fitted' || (n === 'sentBack' && state.receiving?.refused) ? 'key-go' : ''}`}
              aria-expanded={open === n}
              onClick={() => toggle(n)}
            >
              {n === 'expected' && state.stage === 'ordered' ? tr`Expected on …` : pressWords[n]}
            </button>
          ))}
          {before && (
            <button className="key text-sm" aria-expanded={open === 'offer'} onClick={() => toggle('offer')}>
              {tr`An offer`}
            </button>
          )}
          <button className="key text-sm" aria-expanded={open === 'change'} onClick={() => toggle('change')}>
            {tr`Change`}
          </button>
          <button className="key text-sm" aria-expanded={open === 'back'} onClick={() => toggle('back')}>
            {tr`Undo`}
          </button>
        </div>
      )}
      {open === 'change' && <LineForm standing={line} done={() => setOpen(null)} />}
      {open === 'offer' && <OfferForm line={line} done={() => setOpen(null)} />}
      {open === 'back' &&
        (last ? (
          <>
            <p className="text-sm text-soft">
              <Trans>
                Takes back “{stageWords[last.to]}” of {writerOf(last)}, {moment(last.at)}.
              </Trans>
            </p>
            <WhyForm
              press={tr`Undo`}
              send={(why) => undo.mutateAsync({ id: last.id, version: last.version, why })}
            />
          </>
        ) : (
          <WhyForm
            press={tr`Off the order`}
            send={(why) => drop.mutateAsync({ id: line.id, version: line.version, why })}
          />
        ))}
      <Trouble problem={drop.error ?? undo.error} />
      {(open === 'ordered' ||
        open === 'expected' ||
        open === 'arrived' ||
        open === 'fitted' ||
        open === 'sentBack') && (
        <Move key={open} to={open} state={state} line={line} done={() => setOpen(null)} />
      )}
    </li>
  );
}

/** One stage further, with what there is to say about it. */
function Move({
  to,
  state,
  line,
  done,
}: {
  to: Schemas['OrderStage'];
  state: Schemas['OrderLineState'];
  line: Schemas['OrderLine'];
  done: () => void;
}) {
  const { engineCase } = useCaseContext();
  const settings = useSettings();
  const early = settings.data?.schools.ordering === 'earlyAtARisk';
  const [reasons, setReasons] = useState<Record<string, string>>({});
  const [typed, setTyped] = useState({ day: '', count: '', label: '', reference: '', note: '' });
  const write = useWrite(engineCase.id, writes.orderMove, done);
  const set = (name: keyof typeof typed) => (e: { target: { value: string } }) =>
    setTyped({ ...typed, [name]: e.target.value });
  const shut = to === 'ordered' ? state.gates.filter((g) => g.stands === 'shut') : [];
  const count = typed.count.trim() === '' ? null : Number(typed.count.replace(',', '.'));
  const field = (name: keyof typeof typed, label: string, type = 'text', placeholder = '') => (
    <label className="block">
      <span className="label">{label}</span>
      <input
        className="entry"
        type={type}
        value={typed[name]}
        onChange={set(name)}
        placeholder={placeholder}
      />
    </label>
  );
  return (
    <form
      className="space-y-3 rounded-lg border-2 border-dye bg-paper p-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (write.isPending) return;
        write.mutate({
          line: line.id,
          to,
          day: typed.day || null,
          count: Number.isFinite(count) ? count : null,
          label: typed.label,
          reference: typed.reference,
          note: typed.note,
          reasons,
        });
      }}
    >
      <div className="grid items-start gap-3 md:grid-cols-3">
        {(to === 'ordered' || to === 'expected') && field('day', tr`Expected on`, 'date')}
        {to === 'ordered' && field('reference', tr`Their number for the order`)}
        {to === 'arrived' && field('label', tr`Size on the box`, 'text', line.step || tr`STD, 0.25 …`)}
        {(to === 'arrived' || to === 'sentBack') &&
          line.quantity !== 1 &&
          field('count', tr`How many`, 'text', tr`all ${to === 'arrived' ? state.outstanding : state.here}`)}
        {to === 'sentBack' && field('note', tr`What is wrong with it`)}
        {to === 'sentBack' && field('day', tr`The right one is expected on`, 'date')}
      </div>
      {to === 'ordered' && !early && shut.length > 0 && (
        <p className="text-soft">
          <Trans>Held until that is known: {shut.map((g) => g.name).join(', ')}.</Trans>
        </p>
      )}
      {early && <GateReasons gates={shut} reasons={reasons} onChange={setReasons} />}
      <Trouble problem={write.error} />
      <div className="flex gap-2">
        <button
          className="key key-go"
          disabled={write.isPending || (early ? shut.some((g) => !reasons[g.gate]?.trim()) : shut.length > 0)}
        >
          {to === 'expected' ? tr`Expected then` : pressWords[to]}
        </button>
        <button type="button" className="key" onClick={done}>
          {tr`Leave it`}
        </button>
      </div>
    </form>
  );
}
