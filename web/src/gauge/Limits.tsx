import { useState } from 'react';
import { useCaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { Choice, Field, Trouble } from '../ui/basics';
import { stands } from '../ui/words';
import { unitOf } from '../ui/limits';
import { baseUnit, figure, unitWords } from '../ui/figures';
import { TableIn } from './TableIn';
import { useMayWrite } from '../api/queries';

const blank = { nominal: '', least: '', most: '', wear: '', sourceText: '', on: '' };

/** Limits of this engine from its maker's manual, each with its page. */
export function Limits() {
  const { engineCase, knowledge, section } = useCaseContext();
  const gauge = useRoom(engineCase.id, 'gauge');
  const mayWrite = useMayWrite();
  const { lengths: length } = useCaseContext();
  const [characteristic, setCharacteristic] = useState('big-end-clearance');
  const [own, setOwn] = useState<string | null>(null);
  const [draft, setDraft] = useState(blank);
  const [source, setSource] = useState<'makersManual' | 'shopStandard'>('makersManual');
  const entry = knowledge.characteristics.find((c) => c.id === characteristic)!;
  const unit = own ?? (entry.quantity === 'length' ? length : entry.unit || baseUnit[entry.quantity]);
  const add = useWrite(engineCase.id, writes.limit, (_, entry) => {
    setDraft({ ...blank, sourceText: entry.sourceText });
  });
  const withdraw = useWrite(engineCase.id, writes.limitBack);
  const here = new Set(section.cells.map((c) => c.kind));
  const choices = knowledge.characteristics.filter(
    (c) => c.on.some((k) => here.has(k)) && (c.derived || gauge.measurable.includes(c.id)),
  );
  const limits = engineCase.limits.filter(stands);
  const kindName = (k: string) => knowledge.kinds.find((x) => x.id === k)?.name ?? k;
  return (
    <section className="space-y-3">
      <h2 className="text-xl">Limits of this engine</h2>
      <p className="text-soft">
        From the maker’s manual, with the page. Where none is entered, a rule of thumb is shown as such.
      </p>
      {limits.length > 0 && (
        <ul className="card divide-y divide-line">
          {limits.map((l) => {
            const c = knowledge.characteristics.find((x) => x.id === l.characteristic);
            const u = unitOf(knowledge, l.characteristic, c?.quantity ?? 'length', length);
            return (
              <li key={l.id} className="flex flex-wrap items-center gap-x-6 px-3 py-1">
                <span className="w-64 font-semibold">
                  {c?.name ?? l.characteristic}
                  {l.on && <span className="font-normal"> · {kindName(l.on)}</span>}
                </span>
                <span className="fig flex-1">
                  {l.nominal !== null && `standard ${figure(l.nominal, u)} `}
                  {(l.least !== null || l.most !== null) &&
                    `${l.least === null ? '…' : figure(l.least, u)} to ${l.most === null ? '…' : figure(l.most, u)} `}
                  {l.wear !== null && `wear to ${figure(l.wear, u)} `}
                  {unitWords(u)}
                </span>
                <span className="text-soft">{l.sourceText}</span>
                {mayWrite && (
                  <button
                    className="key text-sm"
                    aria-label={`Strike the limit of ${c?.name ?? l.characteristic}`}
                    onClick={() =>
                      withdraw.mutate({ id: l.id, version: l.version, why: 'replaced or mistyped' })
                    }
                  >
                    Strike
                  </button>
                )}
              </li>
            );
          })}
        </ul>
      )}
      <Trouble problem={withdraw.error} />
      {mayWrite && (
        <div className="flex flex-wrap items-start gap-3">
          <details className="flex-1">
            <summary className="key inline-flex cursor-pointer items-center">Add a limit</summary>
            <form
              className="mt-3 max-w-3xl space-y-3"
              onSubmit={(e) => {
                e.preventDefault();
                if (!add.isPending) add.mutate({ characteristic, ...draft, setUnit: unit, source });
              }}
            >
              <div className="grid gap-3 sm:grid-cols-2">
                <Field label="Of what">
                  <select
                    className="entry"
                    value={characteristic}
                    onChange={(e) => {
                      setCharacteristic(e.target.value);
                      setOwn(null);
                      setDraft({ ...draft, on: '' });
                    }}
                  >
                    {choices.map((c) => (
                      <option key={c.id} value={c.id}>
                        {c.name}
                      </option>
                    ))}
                  </select>
                </Field>
                <Field label="Source: manual and page">
                  <input
                    className="entry"
                    value={draft.sourceText}
                    onChange={(e) => setDraft({ ...draft, sourceText: e.target.value })}
                  />
                </Field>
                {entry.on.filter((k) => here.has(k)).length > 1 && (
                  <Field label="On which part">
                    <select
                      className="entry"
                      value={draft.on}
                      onChange={(e) => setDraft({ ...draft, on: e.target.value })}
                    >
                      <option value="">all of them</option>
                      {entry.on
                        .filter((k) => here.has(k))
                        .map((k) => (
                          <option key={k} value={k}>
                            {kindName(k)}
                          </option>
                        ))}
                    </select>
                  </Field>
                )}
              </div>
              <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
                {(
                  [
                    ['nominal', 'Standard size', 'new, standard grade'],
                    ['least', 'Least', 'or −.015 from standard'],
                    ['most', 'Most', 'or +.020 from standard'],
                    ['wear', 'Wear limit', 'how far it may wear'],
                  ] as const
                ).map(([f, name, hint]) => (
                  <Field key={f} label={name} hint={hint}>
                    <input
                      className="entry fig"
                      value={draft[f]}
                      onChange={(e) => setDraft({ ...draft, [f]: e.target.value })}
                    />
                  </Field>
                ))}
              </div>
              {entry.quantity === 'length' && (
                <Choice
                  label="Unit when none is typed"
                  value={unit}
                  options={[
                    ['mm', 'mm'],
                    ['in', 'inch'],
                    ['thou', 'thou'],
                  ]}
                  onChange={setOwn}
                />
              )}
              <Choice
                label="Whose figure"
                value={source}
                options={[
                  ['makersManual', 'the maker’s'],
                  ['shopStandard', 'this shop’s'],
                ]}
                onChange={setSource}
              />
              <Trouble problem={add.error} />
              <button className="key key-go" disabled={add.isPending}>
                Set the limit
              </button>
            </form>
          </details>
          <a className="key" href={`/api/cases/${engineCase.id}/gauge/limits.csv`} download>
            Limits as CSV
          </a>
          <TableIn what="limits" />
          <TableIn what="readings" />
        </div>
      )}
    </section>
  );
}
