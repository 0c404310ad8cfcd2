import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useRoom } from './caseQueries';
import { useCaseContext } from './context';
import { region } from '../ui/region';

/** What comes next and what is loose; for who comes back after three weeks. */
export function NextUp() {
  const { engineCase, openPart } = useCaseContext();
  const progress = useRoom(engineCase.id, 'progress');
  return (
    <div className="card p-4">
      <p className="text-sm font-semibold text-soft">{tr`Next`}</p>
      <p className="text-lg font-bold">{progress.next}</p>
      {progress.last && (
        <p className="text-sm">
          <Trans>Last done: {progress.last}</Trans>
        </p>
      )}
      {progress.lastWritten && (
        <p className="text-sm text-soft">
          <Trans>Left off </Trans>
          {new Date(progress.lastWritten).toLocaleDateString(region(), {
            day: 'numeric',
            month: 'long',
          })}
          , {progress.lastBy}
        </p>
      )}
      {progress.looseEnds.length > 0 && (
        <>
          <p className="mt-3 font-semibold">
            <Trans>Loose ends, {progress.looseEnds.length}</Trans>
          </p>
          <ul className="mt-1 space-y-1">
            {progress.looseEnds.slice(0, 6).map((l) => (
              <li key={l.text}>
                {l.place ? (
                  <button
                    className="text-left underline decoration-line underline-offset-4"
                    onClick={() => openPart(l.place)}
                  >
                    {l.text}
                  </button>
                ) : (
                  l.text
                )}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
