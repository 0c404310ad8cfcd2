import { lazy, useState, type ComponentType } from 'react';

/**
 * A page whose script is fetched when it is first opened, or before: what is there already is drawn at once, without the moment in which a page waits
 * for its script.
 * @param load Fetches the script and takes the page out of it.
 */
export function page(load: () => Promise<ComponentType>) {
  let there: ComponentType | null = null;
  const fetch = () => load().then((Found) => (there = Found));
  const Later = lazy(() => fetch().then((Found) => ({ default: Found })));
  return {
    fetch,
    Page: function Page() {
      // One that was drawn while its script came stays what it is.
      const [Shown] = useState(() => there ?? Later);
      return <Shown />;
    },
  };
}
