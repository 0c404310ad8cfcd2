import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { useCaseContext, usePicked } from '../casebook/context';
import { useRoomSoon } from '../casebook/caseQueries';
import { isKey } from './hotkeys';
import { addressOf } from './Next';

/** Keys that mean something only in a case: the next thing, the next part of its kind. */
export function CaseKeys() {
  const { engineCase, section, openPart } = useCaseContext();
  const { part } = usePicked();
  const progress = useRoomSoon(engineCase.id, 'progress');
  const navigate = useNavigate();
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (isKey(e, 'next') && progress) {
        e.preventDefault();
        void navigate(addressOf(engineCase.id, progress.at));
      }
      const by = isKey(e, 'later') ? 1 : isKey(e, 'earlier') ? -1 : 0;
      if (by === 0 || part === null) return;
      e.preventDefault();
      const here = section.cells.find((c) => c.address === part);
      const alike = section.cells.filter((c) => c.kind === here?.kind);
      const to = alike[alike.findIndex((c) => c.address === part) + by];
      if (to) openPart(to.address);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [engineCase.id, section.cells, part, openPart, progress, navigate]);
  return null;
}
