import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { useInstruments, useMayWrite, useMe, useSettings } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { remember, remembered } from '../device/remember';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import { stands } from '../ui/words';
import { useAct } from './act';
import { Joint } from './Joint';
import { passWords } from './passes';
import { TightenForm } from './TightenForm';

export const standsWords: Record<Schemas['SetStands'], string> = {
  open: tr`open`,
  fingerTight: tr`finger tight`,
  partTight: tr`part tight`,
  tight: tr`tight`,
  checked: tr`tight, gone over`,
};

/** Told by shape as well as by word. */
export const standsMarks: Record<Schemas['SetStands'], string> = {
  open: '○',
  fingerTight: '◔',
  partTight: '◑',
  tight: '●',
  checked: '✓',
};

/** A set of fasteners on its way home: in hole by hole, new ones off the order, tightened pass by pass, gone over. */
export function SetIn({ step, way, set }: { step: string; way: string; set: Schemas['BackSet'] }) {
  const mayWrite = useMayWrite();
  const [types, setTypes] = useState(false);
  const { how } = set;
  return (
    <section className="rounded-lg border-2 border-line p-3">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h4 className="least-40 flex-1 text-lg">
          <b className="fig">{set.expected}</b> {set.name} <span className="fig text-base">{set.thread}</span>
          {set.lengths.length > 0 && (
            <span className="fig text-sm">
              {' '}
              <Trans>{set.lengths.join(', ')} mm</Trans>
            </span>
          )}
        </h4>
        <b
          className={
            set.stands === 'open'
              ? 'text-lead'
              : set.stands === 'fingerTight' || set.stands === 'partTight'
                ? 'text-brass'
                : 'text-oil'
          }
        >
          {standsMarks[set.stands]} {standsWords[set.stands]}
        </b>
      </div>
      <p className="text-sm text-soft">
        {[
          set.fresh && tr`they serve once: new ones go in, the old are gauges`,
          set.leftHand && tr`left-hand thread`,
          set.locking && tr`locked by ${set.locking}`,
          how?.lubricant && tr`on the thread: ${how.lubricant}`,
          how?.threadLock && tr`thread lock: ${how.threadLock}`,
          how?.sealant && tr`sealant: ${how.sealant}`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </p>
      <div className="mt-2 grid gap-4 md:grid-cols-2">
        <Joint set={set} />
        <div className="space-y-3">
          <Home way={way} set={set} />
          {how ? (
            <Passes step={step} set={set} how={how} />
          ) : (
            <p className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">
              <Trans>
                <b>Figure missing.</b> Torque or angle comes from the maker’s manual, with its page; none is
                kept here.
              </Trans>
            </p>
          )}
          {mayWrite && (
            <button className="key text-sm" aria-expanded={types} onClick={() => setTypes(!types)}>
              {how ? tr`Type it anew` : tr`Type it from the manual`}
            </button>
          )}
        </div>
      </div>
      {types && <TightenForm way={way} set={set} done={() => setTypes(false)} />}
    </section>
  );
}

/** Into their holes: those that came out, or new ones off the order that brought them. */
function Home({ way, set }: { way: string; set: Schemas['BackSet'] }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const write = useWrite(engineCase.id, writes.fastener);
  const byHole = set.lengths.length > 1;
  const empty = set.holes.filter((h) => h.state === 'out' || h.state === 'restOut');
  const move = (state: 'backIn' | 'newIn', count: number, line: string | null) =>
    write.mutate({
      step: way,
      set: set.set,
      state,
      count,
      hole: byHole ? (empty[0]?.number ?? 0) : 0,
      length: null,
      keeping: 'ownHole',
      where: '',
      line,
      note: '',
    });
  if (set.out === 0 && set.broken === 0)
    return (
      <p>
        <Trans>
          <b className="text-oil">✓</b> none left over
        </Trans>
        {set.new > 0 && tr`, ${set.new} new`}
        {set.fresh && set.new < set.expected && (
          <b className="block text-lead">
            <Trans>{set.expected - set.new} of them are not new.</Trans>
          </b>
        )}
      </p>
    );
  return (
    <div className="space-y-2">
      {set.broken > 0 && (
        <p className="font-bold text-lead">
          <Trans>{set.broken} broken, the rest in the hole</Trans>
        </p>
      )}
      {set.out > 0 && (
        <p>
          <Trans>
            <b className="fig text-2xl">{set.out}</b> still out
          </Trans>
          {set.where && !set.fresh && tr`, in ${set.where}`}
          {byHole && empty[0] && (
            <span className="block">
              <Trans>
                Next: hole <b className="fig">{empty[0].number}</b>
              </Trans>
              {empty[0].length !== null && (
                <>
                  ,{' '}
                  <b className="fig">
                    <Trans>{empty[0].length} mm</Trans>
                  </b>
                </>
              )}
            </span>
          )}
        </p>
      )}
      {mayWrite && set.out > 0 && (
        <div className="flex flex-wrap gap-2">
          {!set.fresh && (
            <>
              <button className="key" disabled={write.isPending} onClick={() => move('backIn', 1, null)}>
                {byHole && empty[0] ? tr`Hole ${empty[0].number} filled` : tr`One in`}
              </button>
              {!byHole && (
                <button
                  className="key key-go"
                  disabled={write.isPending}
                  onClick={() => move('backIn', set.out, null)}
                >
                  <Trans>All {set.out} in</Trans>
                </button>
              )}
            </>
          )}
          {set.lines.map((l) => (
            <button
              key={l.line}
              className={`key ${set.fresh ? 'key-go' : ''}`}
              disabled={write.isPending || l.left < 1}
              onClick={() => move('newIn', byHole ? 1 : Math.min(set.out, l.left), l.line)}
            >
              {byHole ? tr`A new one in` : tr`${Math.min(set.out, l.left)} new in`}{' '}
              <Trans>
                ({l.what}, {l.left} of {l.came} left)
              </Trans>
            </button>
          ))}
          {set.lines.length === 0 && (
            <button
              className="key"
              disabled={write.isPending}
              onClick={() => move('newIn', byHole ? 1 : set.fresh ? set.out : 1, null)}
            >
              {set.fresh && !byHole ? tr`${set.out} new in` : tr`A new one in`}
            </button>
          )}
        </div>
      )}
      <Trouble problem={write.error} />
    </div>
  );
}

/** With which wrench: remembered on this device, told where its calibration is overdue. */
function Wrench({
  set,
  wrench,
  setWrench,
}: {
  set: Schemas['BackSet'];
  wrench: string;
  setWrench: (name: string) => void;
}) {
  const { data } = useInstruments();
  const wrenches = (data ?? []).filter((i) => stands(i) && i.kind === 'torqueWrench');
  if (wrenches.length === 0 || set.stands === 'checked') return null;
  const due = wrenches.find((i) => i.name === wrench)?.calibrationDue;
  return (
    <label className="mt-1 block text-sm">
      <Trans>With which wrench </Trans>
      <select
        className="entry"
        value={wrenches.some((i) => i.name === wrench) ? wrench : ''}
        onChange={(e) => {
          remember('wrench', e.target.value);
          setWrench(e.target.value);
        }}
      >
        <option value="">{tr`not said`}</option>
        {wrenches.map((i) => (
          <option key={i.id}>{i.name}</option>
        ))}
      </select>
      {due && due < new Date().toISOString().slice(0, 10) && (
        <b className="text-lead">
          {' '}
          <Trans>its calibration was due on {due}</Trans>
        </b>
      )}
    </label>
  );
}

/** The passes of the manual, one after the other; then somebody else, where the shop has it so. */
function Passes({ step, set, how }: { step: string; set: Schemas['BackSet']; how: Schemas['Tightening'] }) {
  const mayWrite = useMayWrite();
  const me = useMe();
  const settings = useSettings();
  const { act, error, isPending } = useAct(step);
  const [wrench, setWrench] = useState(() => remembered('wrench') ?? '');
  const source =
    how.source === 'makersManual'
      ? tr`${how.sourceText}, page ${how.page}`
      : tr`this shop’s own: ${how.sourceText}`;
  const do_ = (...args: Parameters<typeof act>) => void act(...args).catch(() => undefined);
  return (
    <div>
      <ol className="space-y-1">
        {how.passes.map((p, i) => {
          const done = set.pass > i;
          const next = set.pass === i && set.out + set.broken === 0;
          return (
            <li key={i} className="flex min-h-11 flex-wrap items-center gap-x-3">
              <span className={done ? 'text-oil' : 'text-soft'}>{done ? '✓' : '○'}</span>
              <b className="fig flex-1 text-xl">{passWords(p, how.unit)}</b>
              {mayWrite && next && (
                <button
                  className="key key-go text-sm"
                  disabled={isPending}
                  onClick={() =>
                    do_('tightened', set.set, tr`${set.name}: pass ${i + 1}`, {
                      pass: i + 1,
                      instrument: wrench,
                    })
                  }
                >
                  {how.passes.length > 1 ? tr`Pass ${i + 1} done` : tr`Done`}
                </button>
              )}
            </li>
          );
        })}
        {how.passes.length === 0 && (
          <li>
            {tr`By feel:`} {how.note || tr`no figure`}
          </li>
        )}
      </ol>
      <p className="text-sm text-soft">
        {source}
        {how.takenFrom && tr`, taken over from another engine of the kind`}
      </p>
      {set.out > 0 && how.passes.length > 0 && (
        <p className="text-sm text-soft">{tr`All in finger tight first.`}</p>
      )}
      {set.pass > 0 && (
        <p className="text-sm">
          <Trans>Tightened by {set.tightBy}</Trans>
          {set.wrench && tr` with ${set.wrench}`}
          {set.checkedBy && tr`, gone over by ${set.checkedBy}`}
          {set.checkedWith && tr` with ${set.checkedWith}`}
        </p>
      )}
      {mayWrite && how.passes.some((p) => p.torque !== null) && (
        <Wrench set={set} wrench={wrench} setWrench={setWrench} />
      )}
      {mayWrite && settings.data?.schools.twoPeople && set.stands === 'tight' && set.pass > 0 && (
        <button
          className="key mt-1 text-sm"
          disabled={isPending || me.data?.name === set.tightBy}
          onClick={() => do_('checked', set.set, tr`${set.name}: gone over`, { instrument: wrench })}
        >
          {me.data?.name === set.tightBy ? tr`Somebody else signs in and goes over it` : tr`I went over it`}
        </button>
      )}
      <Trouble problem={error} />
    </div>
  );
}
