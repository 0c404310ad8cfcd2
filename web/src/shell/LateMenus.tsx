import { t as tr } from '@lingui/core/macro';
import { useEffect, useState } from 'react';
import { useMe } from '../api/queries';
import { MenuLabel, menuKey } from './MenuLabel';
import type { Menus } from './Menus';

let there: typeof Menus | null = null;

/** The lists of the bar: what they are made of comes once the page stands. A list that is asked for before that opens when it is there. */
export function LateMenus() {
  const [Shown, setShown] = useState(() => there);
  const [pressed, setPressed] = useState<string | null>(null);
  const { data: me } = useMe();
  useEffect(() => {
    if (!there)
      void import('./Menus').then((m) => {
        there = m.Menus;
        setShown(() => m.Menus);
      });
  }, []);
  if (Shown) return <Shown opened={pressed} />;
  return [tr`Tools`, tr`Shop`, me?.name ?? ''].map((label) => (
    <button key={label} className={menuKey} aria-haspopup="menu" onClick={() => setPressed(label)}>
      <MenuLabel label={label} />
    </button>
  ));
}
