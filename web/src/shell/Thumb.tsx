import { t as tr } from '@lingui/core/macro';
import { Link, NavLink } from 'react-router';
import { Scan } from '../casebook/Scan';
import { useRoomSoon } from '../casebook/caseQueries';
import { GoAnywhere } from './GoAnywhere';
import { addressOf } from './Next';
import { row, Sheet } from './Sheet';
import { stages, type Stage, type Wants } from './stages';

const key =
  'flex min-h-14 flex-col items-center justify-center rounded-lg px-1.5 text-center leading-tight aria-expanded:bg-dye-tint';

/** On a phone, at the thumb: the stage now, what comes next, the engine, the camera; the rest in one sheet. */
export function Thumb({
  caseId,
  stage,
  wants,
  query,
  engine,
  setEngine,
  onFound,
}: {
  caseId: string;
  stage: Stage | null;
  wants: Wants;
  query: string;
  engine: boolean;
  setEngine: (open: boolean) => void;
  onFound: (address: string) => void;
}) {
  const progress = useRoomSoon(caseId, 'progress');
  const name = stages.find(([s]) => s === stage)?.[1] ?? tr`Stages`;
  return (
    <nav
      aria-label={tr`At the thumb`}
      className="no-print fixed inset-x-0 bottom-0 z-20 flex gap-1 border-t-2 border-line bg-paper px-1.5 py-1 md:hidden"
    >
      <Sheet
        name={tr`${name}: other stages and pages`}
        className={`${key} font-bold text-dye`}
        label={
          <>
            <span>{name}</span>
            <span aria-hidden>▴</span>
          </>
        }
      >
        {(close) => (
          <ol className="grid grid-cols-2 gap-x-2">
            {stages.map(([path, words]) => (
              <li key={path}>
                <NavLink
                  to={{ pathname: `/cases/${caseId}/${path}`, search: query }}
                  className={`${row} ${path === stage ? 'bg-dye-tint' : ''}`}
                  onClick={close}
                >
                  <b>{words}</b>
                  {wants[path] && <span className="text-sm text-brass">{wants[path]}</span>}
                </NavLink>
              </li>
            ))}
          </ol>
        )}
      </Sheet>
      {progress ? (
        <Link to={addressOf(caseId, progress.at)} className={`${key} min-w-0 flex-1 items-start! text-left!`}>
          <span className="text-sm text-soft">{tr`Next`}</span>
          <b className="line-clamp-1">{progress.next}</b>
        </Link>
      ) : (
        <span className="flex-1" />
      )}
      <GoAnywhere className={`${key} font-semibold`} words={tr`Find`} />
      <button className={`${key} font-semibold`} aria-expanded={engine} onClick={() => setEngine(!engine)}>
        {tr`Engine`}
      </button>
      <Scan caseId={caseId} onFound={onFound} className={`${key} font-semibold`} words={tr`Scan`} />
    </nav>
  );
}
