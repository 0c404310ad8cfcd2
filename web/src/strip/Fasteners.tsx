import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMe, useSettings, useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { fastenerWords, useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import { entriesOf, stands, writerOf } from '../ui/words';
import { HoleMap } from './HoleMap';
import { type SetLedger, type Step, type useStripWrites } from './useStrip';
import { keepingWords } from '../ui/words';

const lives = [
  ['soaked', tr`Soaked`],
  ['drilled', tr`Drilled`],
  ['sent', tr`Left for the shop`],
  ['restOut', tr`Rest is out`],
] as const;

/** The ledger of a step: how many of each set are out, how they are kept, and the life of the broken ones. */
export function Fasteners({ step, writes }: { step: Step; writes: ReturnType<typeof useStripWrites> }) {
  return (
    <div>
      <h3 className="text-lg">
        <Trans>
          Fasteners: <span className="fig">{step.expected - step.open}</span> of{' '}
          <span className="fig">{step.expected}</span> out
        </Trans>
      </h3>
      <ul className="mt-1 space-y-2">
        {step.sets.map((s) => (
          <SetRow key={s.set.id} step={step} ledger={s} writes={writes} />
        ))}
      </ul>
      <Trouble problem={writes.move.error} />
    </div>
  );
}

function facts({ set }: SetLedger) {
  return [
    set.thread,
    set.head,
    set.lengths.length > 0 &&
      tr`${set.lengths.join(tr` and `)} mm long${set.lengths.length > 1 ? tr`, lengths differ` : ''}`,
    set.washers,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** The script's number is an example of such engines until somebody has counted on this one. */
function CountYours({ step, ledger }: { step: Step; ledger: SetLedger }) {
  const { engineCase } = useCaseContext();
  const { set } = ledger;
  const own = useWrite(engineCase.id, writes.ownStep);
  const stations = ledger.expected / set.count;
  const [count, setCount] = useState(String(ledger.expected));
  const whole = Number(count);
  const fits = Number.isInteger(whole) && whole > 0 && whole <= 500;
  const send = () => {
    if (!fits || own.isPending) return;
    const even = whole % stations === 0;
    own.mutate({
      step: {
        ...step.source,
        fasteners: step.source.fasteners.map((f) =>
          f.id === set.id
            ? { ...f, count: even ? whole / stations : whole, per: even ? f.per : 'inAll', counted: true }
            : f,
        ),
      },
      reason: tr`Counted on this engine: ${whole} ${set.name}.`,
    });
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2 text-sm">
      <span>
        <Trans>Such engines have {ledger.expected}. Count yours:</Trans>
      </span>
      <input
        className="entry fig w-20"
        inputMode="numeric"
        aria-label={tr`How many ${set.name} you count`}
        value={count}
        onChange={(e) => setCount(e.target.value)}
      />
      <button className="key text-sm" disabled={!fits || own.isPending} onClick={send}>
        {tr`I counted them`}
      </button>
      <Trouble problem={own.error} />
    </div>
  );
}

function SetRow({
  step,
  ledger,
  writes,
}: {
  step: Step;
  ledger: SetLedger;
  writes: ReturnType<typeof useStripWrites>;
}) {
  const { engineCase } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const mayWrite = useMayWrite();
  const settings = useSettings();
  const { set } = ledger;
  const key = `${strip.script}/${step.id}/${set.id}`;
  const usual = settings.data?.keepingBySet[key] ?? settings.data?.keeping ?? 'bag';
  const [more, setMore] = useState(false);
  const [keeping, setKeeping] = useState<Schemas['Keeping'] | null>(null);
  const [where, setWhere] = useState<string | null>(null);
  const kept = keeping ?? ledger.keeping ?? usual;
  const place = where ?? ledger.where;
  const pressed = useRef<typeof ledger | null>(null);
  const move = (change: Partial<Schemas['FastenerEntry']>) => {
    // A double press on one state of the count is one; a press on the next is the next bolt, however fast it comes.
    if (pressed.current === ledger) return;
    pressed.current = ledger;
    writes.move.mutate(
      {
        step: step.id,
        set: set.id,
        state: 'out',
        count: 1,
        hole: 0,
        length: null,
        keeping: kept,
        where: place,
        line: null,
        note: '',
        ...change,
      },
      {
        onSettled: () => {
          pressed.current = null;
        },
      },
    );
  };
  const may = mayWrite && step.state === null;
  return (
    <li
      className={`rounded-lg border-2 p-3 ${ledger.in === 0 && ledger.broken === 0 ? 'border-oil' : ledger.in < 0 ? 'border-lead' : 'border-line'}`}
    >
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <p className="fig text-3xl font-bold" aria-label={tr`${ledger.out} of ${ledger.expected} out`}>
          {ledger.out}
          <span className="text-xl text-soft">/{ledger.expected}</span>
        </p>
        <div className="least-40 flex-1">
          <p className="leading-tight font-semibold">{set.name}</p>
          <p className="text-sm text-soft">{facts(ledger)}</p>
        </div>
        {may && !set.needsMap && (
          <div className="flex flex-wrap gap-1.5">
            <button
              className="key"
              aria-label={tr`${set.name}: one back in`}
              disabled={ledger.out === 0}
              onClick={() => move({ state: 'backIn' })}
            >
              −1
            </button>
            <button
              className="key"
              aria-label={tr`${set.name}: one out`}
              disabled={ledger.in < 1}
              onClick={() => move({})}
            >
              +1
            </button>
            <button
              className="key key-go"
              aria-label={tr`${set.name}: all ${ledger.in} out`}
              disabled={ledger.in < 1}
              onClick={() => move({ count: ledger.in })}
            >
              <Trans>All {Math.max(0, ledger.in)}</Trans>
            </button>
          </div>
        )}
      </div>
      {may && !set.counted && <CountYours step={step} ledger={ledger} />}
      <div className="mt-1 flex flex-wrap gap-1.5 text-sm">
        {set.hidden && (
          <span className="rounded border-2 border-lead bg-lead-tint px-2 py-0.5">
            <b>{tr`Hidden:`}</b> {set.hidden}
          </span>
        )}
        {set.leftHand && (
          <span className="rounded border-2 border-lead bg-lead-tint px-2 py-0.5 font-bold">
            {tr`↺ Left-hand thread`}
          </span>
        )}
        {set.leftHandOnSome && (
          <span className="rounded border-2 border-lead bg-lead-tint px-2 py-0.5 font-bold">
            {tr`↺ Check the thread: left-hand on some. Turn it a little each way and look.`}
          </span>
        )}
        {set.locking && (
          <span className="rounded border-2 border-line px-2 py-0.5">
            <Trans>Locked: {set.locking}</Trans>
          </span>
        )}
        {set.oneTime && (
          <span className="rounded border-2 border-brass bg-brass-tint px-2 py-0.5">
            {tr`Used once: keep as a gauge, order new`}
          </span>
        )}
        {ledger.broken > 0 && (
          <span className="rounded border-2 border-lead bg-lead px-2 py-0.5 font-bold text-paper">
            <Trans>{ledger.broken} broken, rest still in</Trans>
          </span>
        )}
        {ledger.in < 0 && (
          <span className="font-bold text-lead">{tr`More out than there should be: count again.`}</span>
        )}
      </div>
      {ledger.holes.length > 0 && <HoleMap ledger={ledger} mayWrite={may} onMove={move} />}
      {ledger.life.length > 0 && (
        <ul className="mt-2 border-l-4 border-lead pl-3 text-sm">
          {ledger.life.map((l, i) => (
            <li key={i}>{l}</li>
          ))}
        </ul>
      )}
      {mayWrite && ledger.broken > 0 && (
        <div
          className="mt-2 flex flex-wrap gap-1.5"
          role="group"
          aria-label={tr`What was done with the broken one`}
        >
          {lives.map(([state, name]) => (
            <button key={state} className="key text-sm" onClick={() => move({ state })}>
              {name}
            </button>
          ))}
        </div>
      )}
      {may && (
        <button
          className="mt-1 min-h-9 text-sm text-soft underline underline-offset-4"
          aria-expanded={more}
          onClick={() => setMore(!more)}
        >
          {ledger.out > 0
            ? tr`Kept ${keepingWords[kept]}${place ? `, ${place}` : ''}`
            : tr`Keep ${keepingWords[kept]}`}
          <Trans>{' · '}one broke</Trans>
        </button>
      )}
      {more && may && (
        <div className="mt-2 space-y-2 border-t border-line pt-2">
          <div className="flex flex-wrap gap-1.5" role="group" aria-label={tr`How ${set.name} are kept`}>
            {entriesOf(keepingWords).map(([k, name]) => (
              <button key={k} className="key text-sm" aria-pressed={kept === k} onClick={() => setKeeping(k)}>
                {name}
              </button>
            ))}
          </div>
          <input
            className="entry"
            aria-label={tr`Which bag or row`}
            placeholder={tr`Which bag or row`}
            value={place}
            onChange={(e) => setWhere(e.target.value)}
          />
          <div className="flex flex-wrap gap-1.5">
            <AlwaysSo setKey={key} keeping={kept} usual={usual} />
            <button
              className="key text-sm"
              disabled={ledger.in < 1}
              onClick={() => move({ state: 'broken' })}
            >
              {tr`One broke off`}
            </button>
          </div>
          <Moves step={step} set={set.id} />
        </div>
      )}
    </li>
  );
}

/** A lead makes this way of keeping the shop's own for the set. */
function AlwaysSo({
  setKey,
  keeping,
  usual,
}: {
  setKey: string;
  keeping: Schemas['Keeping'];
  usual: Schemas['Keeping'];
}) {
  const client = useQueryClient();
  const settings = useSettings();
  const { data: me } = useMe();
  const save = useMutation<unknown, ApiProblem, void>({
    mutationFn: () => {
      const { version, holdSigner, keeping: all, keepingBySet } = settings.data!;
      return unwrap(
        api.PUT('/api/settings', {
          body: {
            version,
            holdSigner,
            keeping: all,
            keepingBySet: { ...keepingBySet, [setKey]: keeping },
            schools: null,
            gaugeAddress: null,
            printerAddress: null,
            lengths: null,
            language: null,
            otherEyes: null,
            openedBy: null,
            currency: null,
            rates: null,
            hourRate: null,
            work: null,
          },
        }),
      );
    },
    onSuccess: () => client.invalidateQueries({ queryKey: keys.settings }),
  });
  if (me?.role !== 'lead' || !settings.data || keeping === usual) return null;
  return (
    <>
      <button className="key text-sm" disabled={save.isPending} onClick={() => save.mutate()}>
        {tr`Always keep this set so`}
      </button>
      <Trouble problem={save.error} />
    </>
  );
}

/** What was counted, each to be taken back with a reason. */
function Moves({ step, set }: { step: Step; set: string }) {
  const { engineCase } = useCaseContext();
  const withdraw = useWrite(engineCase.id, writes.fastenerBack);
  const moves = engineCase.fastenerMoves.filter((m) => stands(m) && m.step === step.id && m.set === set);
  if (moves.length === 0) return null;
  return (
    <ul className="text-sm">
      {moves.slice(-6).map((m) => (
        <li key={m.id} className="flex items-center gap-2">
          <span className="flex-1">
            {m.count} {fastenerWords[m.state]}
            {m.hole > 0 && tr`, hole ${m.hole}`}
            {m.length !== null && tr`, ${m.length} mm`}, {writerOf(m)}
          </span>
          <button
            className="min-h-9 px-2 underline underline-offset-4"
            disabled={withdraw.isPending}
            onClick={() => withdraw.mutate({ id: m.id, version: m.version, why: tr`miscounted` })}
          >
            {tr`Miscounted`}
          </button>
        </li>
      ))}
      <Trouble problem={withdraw.error} />
    </ul>
  );
}
