import { t as tr } from '@lingui/core/macro';
import { Link } from 'react-router';
import type { CaseAnswers } from '../api/client';
import { useRoomSoon } from '../casebook/caseQueries';

/** Address of the page where the next thing is done. */
export function addressOf(caseId: string, at: CaseAnswers['progress']['at']) {
  const query = new URLSearchParams();
  if (at.step) query.set('step', at.step);
  if (at.place) query.set('part', at.place);
  if (at.sign) query.set('sign', at.sign);
  return `/cases/${caseId}/${at.stage}${query.size > 0 ? `?${query}` : ''}`;
}

/** The next thing, why, and one touch to it: on every stage in the same place. */
export function Next({ caseId }: { caseId: string }) {
  const progress = useRoomSoon(caseId, 'progress');
  if (!progress) return <div className="hidden min-h-11 md:block" />;
  return (
    <p className="no-print hidden min-h-11 items-center gap-x-3 border-b border-line px-5 md:flex">
      <span className="text-sm font-semibold text-soft">{tr`Next`}</span>
      <Link
        to={addressOf(caseId, progress.at)}
        className="min-w-0 truncate font-bold underline underline-offset-4"
      >
        {progress.next}
      </Link>
      {progress.why && <span className="min-w-0 flex-1 truncate text-sm text-soft">{progress.why}</span>}
    </p>
  );
}
