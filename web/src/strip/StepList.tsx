import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useCaseContext } from '../casebook/context';
import { called } from '../ui/called';
import { useRoom } from '../casebook/caseQueries';
import { Paper } from '../casebook/Paper';
import { attitudeWords, minutesText } from './useStrip';

/** The plan on paper: what is left, in its order, with boxes to tick. */
export function StepList({ onEnd }: { onEnd: () => void }) {
  const { engineCase, knowledge } = useCaseContext();
  const strip = useRoom(engineCase.id, 'strip');
  const left = strip.steps.filter((s) => s.state === null && !s.beyond);
  return (
    <Paper
      title={tr`${strip.scriptName}: ${left.length} steps, about ${minutesText(strip.minutesLeft)}`}
      onEnd={onEnd}
    >
      {left.length === 0 && <p>{tr`Every step of the strip is recorded.`}</p>}
      <ol className="divide-y divide-line">
        {left.map((s) => (
          <li
            key={s.id}
            className="keep grid grid-cols-[1.5rem_minmax(0,1fr)] sm:grid-cols-[1.5rem_minmax(0,1fr)_minmax(0,16rem)] gap-x-3 py-2"
          >
            <span className="mt-1 size-5 border-2 border-ink" aria-hidden />
            <div>
              <p className="text-lg leading-tight font-bold">
                {strip.steps.indexOf(s) + 1}. {s.name}
              </p>
              <p>{s.does}</p>
              {s.pattern && (
                <p>
                  <Trans>Loosen: {s.pattern}</Trans>
                </p>
              )}
              {s.cautions.map((c) => (
                <p key={c} className="border-l-4 border-ink pl-2 font-semibold">
                  {c}
                </p>
              ))}
              {s.ticks.map((t) => (
                <p key={t}>☐ {called(knowledge)(t)}</p>
              ))}
            </div>
            <div className="col-start-2 text-sm sm:col-start-3">
              <p>
                <Trans>
                  Engine {attitudeWords[s.attitude]} · about {minutesText(s.minutes)}
                </Trans>
                {s.helper && tr` · two people`}
              </p>
              {s.tools.length > 0 && <p>{s.tools.map(called(knowledge)).join(', ')}</p>}
              {s.sets.map((f) => (
                <p key={f.set.id}>
                  <Trans>
                    {f.set.name}: ______ of {f.expected} out
                  </Trans>
                </p>
              ))}
              {s.photos.length > 0 && (
                <p>
                  <Trans>Photograph first: {s.photos.join(' · ')}</Trans>
                </p>
              )}
              {s.holdPoint && <p className="mt-1 border-b border-ink pb-0.5">{tr`Checked and signed:`}</p>}
            </div>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-sm">{tr`The maker’s manual and local rules come first.`}</p>
    </Paper>
  );
}
