import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { useMayWrite, useSettings } from '../api/queries';
import type { Schemas } from '../api/client';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { moment, percent, Trouble } from '../ui/basics';
import { money } from '../ui/rates';
import { WhyForm } from '../ui/WhyForm';
import { stands, writerOf } from '../ui/words';
import { OptionForm, type Begun } from './OptionForm';
import { fromAdvice } from './fromAdvice';

const markWords: Record<Schemas['OptionMark'], string> = {
  cheapestSound: tr`Cheapest sound`,
  safest: tr`Safest`,
  quickest: tr`Quickest`,
  leastExpected: tr`Least on average`,
  leastRegret: tr`Least regret`,
};

/** Two to five ways to go, cost against risk. None is “the” answer; the practitioner chooses and says why. */
export function Options() {
  const { engineCase, knowledge } = useCaseContext();
  const tables = useRoom(engineCase.id, 'options');
  const board = useRoom(engineCase.id, 'verdict');
  const trace = useRoom(engineCase.id, 'trace');
  const settings = useSettings();
  const mayWrite = useMayWrite();
  const [begun, setBegun] = useState<Begun | null>(null);
  const base = settings.data?.currency ?? 'EUR';
  const blank: Begun = {
    id: null,
    version: 0,
    title: '',
    scope: '',
    lines: [],
    base,
    rates: settings.data?.rates ?? {},
    risks: ['new-fitting'],
    removes: trace.ranking.filter((r) => r.probability >= 0.1).map((r) => r.cause),
    failing: [],
    farOut: 0,
    warranty: 'nobody',
    warrantyMonths: 0,
    ownChance: null,
    remarks: '',
  };
  return (
    <section className="max-w-6xl space-y-5">
      <div>
        <h2 className="text-xl">{tr`Options: what it costs against what it risks`}</h2>
        <p className="text-soft">
          {tr`Each way to go with its parts, work and days, the chance that it fails again, and what that would cost. Labour that is paid already by its being open counts for none.`}
        </p>
      </div>
      {mayWrite && !begun && (
        <div className="flex flex-wrap gap-2">
          <button className="key key-go" onClick={() => setBegun(blank)}>
            {tr`New option`}
          </button>
          <button
            className="key"
            onClick={() =>
              setBegun({
                ...blank,
                title: tr`As advised`,
                lines: fromAdvice(board, knowledge.courses, base, settings.data?.hourRate ?? 0),
              })
            }
          >
            {tr`New option from the advice`}
          </button>
        </div>
      )}
      {begun && <OptionForm key={begun.id ?? begun.title} begun={begun} done={() => setBegun(null)} />}
      {tables.map((t) => (
        <Table
          key={t.scope}
          table={t}
          edit={(o) => setBegun({ ...o })}
          copy={(o) => setBegun({ ...o, id: null, version: 0, title: tr`${o.title}, another way` })}
        />
      ))}
      {tables.length === 0 && !begun && (
        <p>
          {tr`No option yet. Begin with the advice, copy it, and change what the other way would do: two bearings and a doubt, a rebuilt shaft with warranty, a spare block, new rings, a rebore, or selling it.`}
        </p>
      )}
    </section>
  );
}

function Table({
  table,
  edit,
  copy,
}: {
  table: Schemas['OptionTable'];
  edit: (o: Schemas['RepairOption']) => void;
  copy: (o: Schemas['RepairOption']) => void;
}) {
  const { engineCase, knowledge } = useCaseContext();
  const group = knowledge.groups.find((g) => g.id === table.scope);
  const most = Math.max(...table.options.map((o) => Math.max(0, o.sure) + Math.max(o.ifHere, o.ifFar)), 1);
  const records = new Map(engineCase.options.filter(stands).map((o) => [o.id, o]));
  return (
    <article className="space-y-3">
      <h3 className="text-lg">{group?.name ?? tr`The whole engine`}</h3>
      {table.chosen && <Chosen choice={table.chosen} />}
      <div className="grid gap-3 md:grid-cols-2 xl:grid-cols-3">
        {table.options.map((o) => {
          const record = records.get(o.id);
          return (
            record && (
              <Option
                key={o.id}
                option={o}
                record={record}
                most={most}
                chosen={table.chosen?.option === o.id}
                answer={table.answers.find((a) => a.option === o.id)}
                edit={() => edit(record)}
                copy={() => copy(record)}
              />
            )
          );
        })}
      </div>
      {table.changes.length > 0 && (
        <div className="card p-3">
          <h4 className="font-bold">{tr`What would change the choice`}</h4>
          <ul className="list-disc space-y-1 pl-5">
            {table.changes.map((c) => (
              <li key={c}>{c}</li>
            ))}
          </ul>
        </div>
      )}
    </article>
  );
}

function Chosen({ choice }: { choice: Schemas['OptionChoice'] }) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState(false);
  const back = useWrite(engineCase.id, writes.choiceBack, () => setOpen(false));
  return (
    <div className="rounded-lg border-2 border-dye bg-dye-tint p-3">
      <p className="text-lg font-bold">
        <Trans>✓ Chosen: {choice.title}</Trans>
      </p>
      <p>{choice.why}</p>
      <p className="text-sm text-soft">
        <Trans>
          Then <span className="fig">{money(choice.cost, choice.currency)}</span> for sure,{' '}
          <span className="fig">{percent(choice.chance)}</span> to fail again,{' '}
          <span className="fig">{money(choice.expected, choice.currency)}</span> on average ·{' '}
          {writerOf(choice)}, {moment(choice.at)}{' '}
        </Trans>
        {mayWrite && (
          <button className="underline" onClick={() => setOpen(!open)}>
            {tr`Undo`}
          </button>
        )}
      </p>
      {open && (
        <WhyForm
          press={tr`Undo`}
          send={(why) => back.mutateAsync({ id: choice.id, version: choice.version, why })}
        />
      )}
      <Trouble problem={back.error} />
    </div>
  );
}

function Option({
  option: o,
  record,
  most,
  chosen,
  answer,
  edit,
  copy,
}: {
  option: Schemas['JudgedOption'];
  record: Schemas['RepairOption'];
  most: number;
  chosen: boolean;
  answer: Schemas['OptionAnswer'] | undefined;
  edit: () => void;
  copy: () => void;
}) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [open, setOpen] = useState<'choose' | 'back' | null>(null);
  const choose = useWrite(engineCase.id, writes.choice, () => setOpen(null));
  const back = useWrite(engineCase.id, writes.optionBack, () => setOpen(null));
  const width = (v: number) => `${(100 * Math.max(0, v)) / most}%`;
  const worst = Math.max(o.ifHere, o.ifFar);
  return (
    <section className={`card flex flex-col gap-2 p-3 ${chosen ? 'border-2 border-dye' : ''}`}>
      <h4 className="text-lg leading-tight font-bold">{o.title}</h4>
      {answer && (
        <p className={`rounded-lg border-2 px-2 py-1 ${answer.approves ? 'border-oil' : 'border-lead'}`}>
          <b>
            {answer.approves ? tr`✓ Approved` : tr`✗ Refused`} {tr`by the customer`}
          </b>
          <Trans>
            : {answer.name}, through a link, {moment(answer.at)}, at {money(answer.cost, answer.currency)}
          </Trans>
          {answer.words && ` · “${answer.words}”`}
          {answer.cost !== o.sure && tr` · the sum has changed since`}
        </p>
      )}
      <p className="flex min-h-7 flex-wrap gap-1.5">
        {o.marks.map((m) => (
          <span key={m} className="rounded-md border-2 border-oil bg-oil-tint px-1.5 text-sm font-semibold">
            {markWords[m]}
          </span>
        ))}
      </p>
      <svg viewBox="0 0 100 14" preserveAspectRatio="none" className="h-9 w-full" aria-hidden>
        <rect x="0" y="3" height="8" width={width(o.sure)} fill="var(--color-dye)" />
        <rect
          x={width(o.sure)}
          y="3"
          height="8"
          width={width(o.expected - o.sure)}
          fill="url(#hatch-thick)"
        />
        <rect x={width(o.sure)} y="6.4" height="1.2" width={width(worst)} fill="var(--color-lead)" />
      </svg>
      <dl className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3">
        <dt>{tr`■ For sure`}</dt>
        <dd className="fig text-right font-bold">{money(o.sure, o.currency)}</dd>
        <dt>
          <Trans>▨ Fails again, {percent(o.chance)}: on average</Trans>
        </dt>
        <dd className="fig text-right">{money(o.expected - o.sure, o.currency)}</dd>
        <dt className="font-bold">{tr`On average`}</dt>
        <dd className="fig text-right font-bold">{money(o.expected, o.currency)}</dd>
        <dt className="text-soft">{tr`give or take`}</dt>
        <dd className="fig text-right text-soft">{money(o.spread, o.currency)}</dd>
        <dt>{tr`— If it fails here`}</dt>
        <dd className="fig text-right">{money(o.sure + o.ifHere, o.currency)}</dd>
        {o.ifFar !== o.ifHere && (
          <>
            <dt>{tr`— If it fails far out`}</dt>
            <dd className="fig text-right">{money(o.sure + o.ifFar, o.currency)}</dd>
          </>
        )}
        <dt>{tr`Greatest regret`}</dt>
        <dd className="fig text-right">{money(o.regret, o.currency)}</dd>
        <dt>{tr`Waiting, own hours`}</dt>
        <dd className="fig text-right">
          <Trans>
            {o.days} d, {o.hours} h
          </Trans>
        </dd>
        {o.paid > 0 && (
          <>
            <dt className="text-soft">{tr`Paid already, counts for none`}</dt>
            <dd className="fig text-right text-soft">{money(o.paid, o.currency)}</dd>
          </>
        )}
      </dl>
      {o.risks.length > 0 && (
        <ul className="text-sm">
          {o.risks.map((r) => (
            <li key={r.id} className="flex justify-between gap-2">
              <span>{r.words}</span>
              <span className="fig shrink-0">{percent(r.chance)}</span>
            </li>
          ))}
        </ul>
      )}
      {o.says.map((s) => (
        <p key={s} className="text-sm text-soft">
          {s}
        </p>
      ))}
      <details className="text-sm">
        <summary className="min-h-9 cursor-pointer">
          {record.lines.length === 1 ? tr`One line` : tr`${record.lines.length} lines`}
        </summary>
        <ul>
          {record.lines.map((l, i) => (
            <li key={l.id} className="flex justify-between gap-2">
              <span>
                {l.quantity !== 1 && <span className="fig">{l.quantity} × </span>}
                {l.what}
                {l.currency !== o.currency && (
                  <span className="fig text-soft"> ({money(l.quantity * l.price, l.currency)})</span>
                )}
              </span>
              <span className="fig shrink-0">{money(o.lines[i] ?? 0, o.currency)}</span>
            </li>
          ))}
        </ul>
      </details>
      {mayWrite && (
        <div className="mt-auto flex flex-wrap gap-1.5 pt-2">
          {!chosen && (
            <button className="key key-go" onClick={() => setOpen(open === 'choose' ? null : 'choose')}>
              {tr`Choose`}
            </button>
          )}
          <button className="key" onClick={edit}>
            {tr`Change`}
          </button>
          <button className="key" onClick={copy}>
            {tr`Copy`}
          </button>
          <button className="key" onClick={() => setOpen(open === 'back' ? null : 'back')}>
            {tr`Undo`}
          </button>
        </div>
      )}
      {open === 'choose' && (
        <WhyForm press={tr`Choose`} send={(why) => choose.mutateAsync({ option: o.id, why })} />
      )}
      {open === 'back' && (
        <WhyForm
          press={tr`Undo`}
          send={(why) => back.mutateAsync({ id: o.id, version: record.version, why })}
        />
      )}
      <Trouble problem={choose.error ?? back.error} />
    </section>
  );
}
