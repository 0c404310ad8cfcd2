import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ApiProblem, unwrap } from '../api/client';
import { Choice, Field, Trouble } from '../ui/basics';
import { numberOrNull, parseNumber } from '../ui/number';
import { figure } from '../ui/figures';

const grades = [
  ['class46', '4.6'],
  ['class58', '5.8'],
  ['class88', '8.8'],
  ['class109', '10.9'],
  ['class129', '12.9'],
  ['grade2', tr`Gr 2`],
  ['grade5', tr`Gr 5`],
  ['grade8', tr`Gr 8`],
] as const;

const hubs = [
  ['steel', tr`Steel`],
  ['castIron', tr`Cast iron`],
  ['aluminium', tr`Alloy`],
] as const;

type Grade = (typeof grades)[number][0];

/** Whether the bolts of a puller carry the pull, before one flies. */
export function PullerHelp() {
  const [thread, setThread] = useState('M10');
  const [grade, setGrade] = useState<Grade>('class88');
  const [bolts, setBolts] = useState('2');
  const [torque, setTorque] = useState('120');
  const [screw, setScrew] = useState('M16');
  const [engaged, setEngaged] = useState('15');
  const [hub, setHub] = useState<(typeof hubs)[number][0]>('castIron');
  const query = {
    thread,
    grade,
    bolts: numberOrNull(bolts, { whole: true }) ?? 0,
    torque: numberOrNull(torque) ?? 0,
    screw,
    engaged: numberOrNull(engaged) ?? 0,
    hub,
  };
  const answer = useQuery({
    queryKey: ['puller', query],
    queryFn: () => unwrap(api.GET('/api/puller', { params: { query } })),
    enabled:
      thread.length > 1 && screw.length > 1 && query.bolts > 0 && query.torque > 0 && query.engaged > 0,
    placeholderData: (before) => before,
    retry: false,
  });
  const check = answer.data?.check;
  const threads = answer.data?.hub;
  const worst = Math.max(check?.share ?? 0, threads?.share ?? 0);
  const tone = !check
    ? ''
    : worst > 1
      ? 'border-lead bg-lead-tint'
      : worst > 0.75
        ? 'border-brass bg-brass-tint'
        : 'border-oil bg-oil-tint';
  return (
    <div className="space-y-3">
      <h2 className="text-xl">{tr`Will the puller’s bolts hold?`}</h2>
      <p className="rounded-lg border-l-8 border-brass bg-brass-tint px-3 py-2">
        {tr`Bolts break without warning: eye protection, stand out of line, protect the shaft’s nose.`}
      </p>
      <div className="grid grid-cols-2 gap-2">
        <Field label={tr`Puller bolts, thread`}>
          <input className="entry fig" value={thread} onChange={(e) => setThread(e.target.value)} />
        </Field>
        <Field label={tr`How many share the pull`}>
          <input
            className="entry fig"
            inputMode="numeric"
            value={bolts}
            onChange={(e) => setBolts(e.target.value)}
          />
        </Field>
        <Field label={tr`Forcing screw, thread`}>
          <input className="entry fig" value={screw} onChange={(e) => setScrew(e.target.value)} />
        </Field>
        <Field label={tr`Torque on it, N·m`}>
          <input
            className="entry fig"
            inputMode="decimal"
            value={torque}
            onChange={(e) => setTorque(e.target.value)}
          />
        </Field>
      </div>
      <Choice label={tr`Mark on the bolts’ heads`} value={grade} options={grades} onChange={setGrade} />
      <div className="grid items-end gap-2 sm:grid-cols-2">
        <Field label={tr`Thread in the hub, mm`}>
          <input
            className="entry fig"
            inputMode="decimal"
            value={engaged}
            onChange={(e) => setEngaged(e.target.value)}
          />
        </Field>
        <Choice label={tr`The hub is of`} value={hub} options={hubs} onChange={setHub} />
      </div>
      {[parseNumber(bolts, { whole: true }), parseNumber(torque), parseNumber(engaged)].map(
        (typed) =>
          typed.kind === 'bad' && (
            <p key={typed.text} role="alert" className="font-semibold text-lead">
              {typed.text} {typed.remedy}
            </p>
          ),
      )}
      <Trouble problem={answer.error as ApiProblem | null} />
      {check && !answer.error && (
        <div className={`rounded-lg border-4 p-3 ${tone}`} aria-live="polite">
          <p className="text-2xl font-extrabold">
            <Trans>{Math.round(check.share * 100)} % of the proof load</Trans>
          </p>
          <p>{check.words}</p>
          {threads && (
            <p className="mt-1">
              <Trans>
                <b>Hub:</b> {threads.words} <span className="fig">{figure(threads.strips, '', 0)} kN</span>{' '}
                strip one hole.
              </Trans>
            </p>
          )}
          <p className="fig mt-1 text-sm">
            <Trans>
              {answer.data!.thread.name}: {figure(check.proof, '', 1)} kN each · pull{' '}
              {figure(answer.data!.pull, '', 1)} kN, {figure(check.each, '', 1)} kN a bolt
            </Trans>
          </p>
        </div>
      )}
      <p className="text-sm text-soft">
        {tr`Proof load after ISO 898-1 and SAE J429; pull F = T / (K · d) with K 0.12 for a greased screw; the hub’s threads after VDI 2230. Rules of thumb: heat and patience come before force.`}
      </p>
    </div>
  );
}
