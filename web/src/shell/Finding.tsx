import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useDeferredValue, useEffect, useEffectEvent, useId, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { remember, remembered } from '../device/remember';
import { useMe } from '../api/queries';
import { Finder, type Goal } from './finder';
import { useGoals } from './goals';

type Used = Record<string, number>;

const usedBy = (who: string): Used => {
  try {
    const kept: unknown = JSON.parse(remembered(`used/${who}`) ?? '{}');
    return Object.fromEntries(
      Object.entries(kept as object).filter((e): e is [string, number] => typeof e[1] === 'number'),
    );
  } catch {
    return {};
  }
};

/** The field and what it may mean; the likeliest is taken with enter. */
export function Finding({ close }: { close: () => void }) {
  const { data: me } = useMe();
  const navigate = useNavigate();
  const list = useId();
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const asked = useDeferredValue(typed);
  const goals = useGoals(asked);
  const [used] = useState(() => usedBy(me?.name ?? ''));
  // The index is made anew only when there is something else to go to.
  const known = goals.map((g) => g.id).join();
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const finder = useMemo(() => new Finder(goals), [known]);
  const found = useMemo(
    () =>
      asked.trim()
        ? finder.find(asked, used)
        : goals
            .filter((g) => g.id === 'next' || (used[g.id] ?? 0) > 0)
            .sort((a, b) => (used[b.id] ?? 0) - (used[a.id] ?? 0))
            .slice(0, 8),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [asked, finder, used],
  );
  // Enter pressed before the list has caught up takes what the whole of the typed text means.
  const pressed = useRef(false);
  const take = (goal: Goal | undefined) => {
    if (!goal) return;
    remember(`used/${me?.name ?? ''}`, JSON.stringify({ ...used, [goal.id]: (used[goal.id] ?? 0) + 1 }));
    close();
    if (typeof goal.to === 'string') void navigate(goal.to);
    else goal.to();
  };
  const here = Math.min(at, found.length - 1);
  const caughtUp = useEffectEvent(() => {
    if (!pressed.current || asked !== typed) return;
    pressed.current = false;
    take(found[0]);
  });
  useEffect(() => caughtUp(), [asked]);
  return (
    <>
      <input
        autoFocus
        role="combobox"
        aria-label={tr`Go anywhere: a part, a sign, a cause, a case, a page, something to do`}
        aria-expanded={found.length > 0}
        aria-controls={list}
        aria-activedescendant={found[here] ? `${list}-${here}` : undefined}
        autoComplete="off"
        className="entry text-lg"
        placeholder={tr`R4U, seized, big end 4, order …`}
        value={typed}
        onChange={(e) => {
          setTyped(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          const by = { ArrowDown: 1, ArrowUp: -1 }[e.key];
          if (by) {
            e.preventDefault();
            setAt(Math.max(0, Math.min(found.length - 1, here + by)));
          } else if (e.key === 'Enter') {
            e.preventDefault();
            if (asked === typed) take(found[here]);
            else pressed.current = true;
          }
        }}
      />
      <ul id={list} role="listbox" aria-label={tr`What it may mean`} className="mt-2 min-h-0 overflow-auto">
        {found.map((g, i) => (
          <li
            key={g.id}
            id={`${list}-${i}`}
            role="option"
            aria-selected={i === here}
            className={`flex min-h-11 cursor-pointer items-center gap-3 rounded-lg px-2 ${i === here ? 'bg-dye-tint' : ''}`}
            onPointerMove={() => setAt(i)}
            onClick={() => take(g)}
          >
            <span className="w-20 shrink-0 text-sm text-soft">{g.kind}</span>
            <span className="min-w-0 flex-1 truncate">{g.name}</span>
            {g.code && <b className="fig">{g.code}</b>}
          </li>
        ))}
      </ul>
      {asked.trim() && found.length === 0 && (
        <p className="px-2 py-3">
          <Trans>
            Nothing here is called “{asked.trim()}”. Try an address such as R4U, a part, a sign or a cause by
            any of its names.
          </Trans>
        </p>
      )}
    </>
  );
}
