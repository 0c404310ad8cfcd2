import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { type Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { useRoom } from '../casebook/caseQueries';
import { Addr, moment, Trouble } from '../ui/basics';
import { WhyForm } from '../ui/WhyForm';
import { doneByWords, feltWords, levelWords, stands, writerOf } from '../ui/words';
import { type Finding } from './useLook';
import { ZoneGlance } from './ZonePicker';
import { mapOf } from './zones';
import { useMayWrite } from '../api/queries';

import { LevelBadge, SpotWords } from './LevelBadge';
import { useWrite, writes } from '../outbox/writes';

/** What is recorded of a place; each can be taken back with a reason and stays in the case. */
export function FindingList({
  address,
  context,
  onShow,
}: {
  address: string;
  context: CaseContext;
  /** Opens the picture on which a mark lies. */
  onShow?: (photo: string) => void;
}) {
  const { engineCase } = context;
  const look = useRoom(engineCase.id, 'look');
  const findings = engineCase.findings.filter((f) => f.place === address && stands(f));
  const mismatches = look.mismatches.filter((c) => c.place === address);
  const mismatched = new Set(mismatches.flatMap((c) => c.findings));
  const single = findings.filter((f) => !mismatched.has(f.id));
  const seen = single.filter((f) => f.level > 0).sort((a, b) => b.level - a.level);
  const absent = single.filter((f) => f.level === 0);
  if (findings.length === 0) return <p className="text-soft">{tr`Nothing has been looked at here yet.`}</p>;
  return (
    <div className="space-y-3">
      {mismatches.map((c) => (
        <Mismatch key={c.sign} mismatch={c} context={context} />
      ))}
      <ul className="divide-y divide-line border-y border-line empty:hidden">
        {seen.map((f) => (
          <FindingRow key={f.id} finding={f} context={context} {...(onShow ? { onShow } : {})} />
        ))}
      </ul>
      {absent.length > 0 && (
        <details
          className="rounded-lg border border-line px-3 py-1.5"
          open={seen.length === 0 && absent.length < 6}
        >
          <summary className="cursor-pointer font-semibold">
            <Trans>
              <span className="text-oil">–</span> Checked, not there: {absent.length}
            </Trans>
          </summary>
          <ul className="divide-y divide-line">
            {absent.map((f) => (
              <FindingRow key={f.id} finding={f} context={context} />
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

function FindingRow({
  finding: f,
  context,
  onShow,
}: {
  finding: Finding;
  context: CaseContext;
  onShow?: (photo: string) => void;
}) {
  const { engineCase, knowledge } = context;
  const look = useRoom(engineCase.id, 'look');
  const mayWrite = useMayWrite();
  const [asks, setAsks] = useState(false);
  const takeBack = useWrite(context.engineCase.id, writes.takeBack);
  const name = knowledge.signs.find((s) => s.id === f.sign)?.name ?? f.sign;
  const spot = look.spots.find((s) => s.finding === f.id);
  const map = mapOf(f.place, context.section, look);
  const marks = engineCase.photoMarks.filter((m) => f.marks.includes(m.id) && stands(m));
  return (
    <li className="py-2">
      <div className="flex items-start gap-3">
        <LevelBadge level={f.level} />
        <div className="min-w-0 flex-1">
          <p className="font-semibold">
            {name}, {levelWords[f.level]}
            {feltWords(f)}
            {f.doneBy !== 'running' && (
              <span className="ml-2 rounded border-2 border-line px-1 text-sm text-soft">
                {doneByWords[f.doneBy].toLowerCase()}
              </span>
            )}
          </p>
          {spot ? (
            <p className="text-sm">
              <SpotWords spot={spot} />
            </p>
          ) : (
            f.zones.length > 0 && (
              <p className="text-sm">
                <Trans>{f.zones.length} zones</Trans>
              </p>
            )
          )}
          <p className="text-sm text-soft">
            {[f.spot, f.note].filter(Boolean).join('. ')}
            {(f.spot || f.note) && ' · '}
            {writerOf(f)}, {moment(f.at)}
            {f.version === 0 && <b className="text-brass"> {tr`· kept here, not yet sent`}</b>}
          </p>
          {marks.map((m) => (
            <button key={m.id} className="key mt-1 mr-1 text-sm" onClick={() => onShow?.(m.photo)}>
              {m.kind === 'arrow' ? '➚' : '○'} {m.label || tr`on the picture`}
            </button>
          ))}
        </div>
        {map && f.zones.length > 0 && <ZoneGlance map={map} zones={f.zones} />}
        {mayWrite && (
          <button className="key px-2 text-sm" aria-expanded={asks} onClick={() => setAsks(!asks)}>
            {tr`Undo`}
          </button>
        )}
      </div>
      {asks && (
        <WhyForm
          press={tr`Undo`}
          send={(why) =>
            takeBack.mutateAsync({ of: 'findings', record: f, why, words: `${name}, ${levelWords[f.level]}` })
          }
        />
      )}
      <Trouble problem={takeBack.error} />
    </li>
  );
}

/** Two who do not agree, side by side; it counts for nothing until one of them is taken back. */
function Mismatch({ mismatch, context }: { mismatch: Schemas['Mismatch']; context: CaseContext }) {
  const { engineCase, knowledge } = context;
  const mayWrite = useMayWrite();
  const takeBack = useWrite(context.engineCase.id, writes.takeBack);
  const findings = mismatch.findings.flatMap((id) =>
    engineCase.findings.filter((f) => f.id === id && stands(f)),
  );
  const name = knowledge.signs.find((s) => s.id === mismatch.sign)?.name ?? mismatch.sign;
  if (findings.length < 2) return null;
  return (
    <section
      className="rounded-lg border-2 border-lead bg-lead-tint p-3"
      aria-label={tr`Disagreement: ${name}`}
    >
      <p className="font-bold">
        <Trans>
          <Addr code={mismatch.place} /> {name}: recorded differently. Both are kept; look again and say which
          stands.
        </Trans>
      </p>
      <div className="mt-2 grid gap-2 sm:grid-cols-2">
        {findings.map((f) => (
          <div key={f.id} className="rounded-lg border border-line bg-paper p-3">
            <p className="flex items-center gap-2 text-lg font-bold">
              <LevelBadge level={f.level} /> {levelWords[f.level]}
            </p>
            <p className="text-sm text-soft">
              {writerOf(f)}, {moment(f.at)}
            </p>
            {f.note && <p>{f.note}</p>}
            {mayWrite && (
              <button
                className="key mt-2"
                disabled={takeBack.isPending}
                onClick={() => {
                  for (const other of findings.filter((o) => o.id !== f.id))
                    takeBack.mutate({
                      of: 'findings',
                      record: other,
                      why: tr`Looked again: ${levelWords[f.level] ?? ''} (${writerOf(f)}) stands.`,
                      words: `${name}, ${levelWords[other.level]}`,
                    });
                }}
              >
                {tr`This one stands`}
              </button>
            )}
          </div>
        ))}
      </div>
      <Trouble problem={takeBack.error} />
    </section>
  );
}
