import { t as tr } from '@lingui/core/macro';
import { QueryClientProvider } from '@tanstack/react-query';
import { startTransition, StrictMode, Suspense, useEffect, useRef, type ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Navigate, Outlet, Route, Routes, useLocation, useNavigationType } from 'react-router';
import { meQuery, setupQuery } from './api/queries';
import { client } from './device/queryClient';
import { followShop } from './device/language';
import { quiet, restored } from './device/quiet';
import { Casebook } from './casebook/Casebook';
import { watchScreen } from './device/theme';
import { arriveAt, watchForUpdates } from './device/update';
import { outbox, watch } from './outbox/useOutbox';
import { Gate } from './shell/Gate';
import { NotHere } from './shell/NotHere';
import { useTitle } from './shell/title';
import { Header } from './shell/Header';
import { Waiting } from './ui/basics';
import { keepFocus } from './ui/keepFocus';
import { trip } from './ui/Later';
import { page } from './ui/page';
import { useDraftsKept } from './ui/keeps';
import { RoomBoundary } from './ui/RoomBoundary';

// The casebook comes first; a case, its stages and the other pages are fetched when they are first opened.
const CaseShell = page(() => import('./shell/CaseShell').then((m) => m.CaseShell));
const rooms = {
  arrival: page(() => import('./arrival/Arrival').then((m) => m.Arrival)),
  strip: page(() => import('./strip/Strip').then((m) => m.Strip)),
  index: page(() => import('./index/Index').then((m) => m.Index)),
  look: page(() => import('./look/Look').then((m) => m.Look)),
  gauge: page(() => import('./gauge/Gauge').then((m) => m.Gauge)),
  trace: page(() => import('./trace/Trace').then((m) => m.Trace)),
  verdict: page(() => import('./verdict/Verdict').then((m) => m.Verdict)),
  build: page(() => import('./build/Build').then((m) => m.Build)),
  dossier: page(() => import('./dossier/Dossier').then((m) => m.Dossier)),
  station: page(() => import('./shell/Station').then((m) => m.Station)),
};
const Shared = page(() => import('./dossier/Shared').then((m) => m.Shared));
const CheckBag = page(() => import('./dossier/CheckBag').then((m) => m.CheckBag));
const NewCase = page(() => import('./casebook/NewCase').then((m) => m.NewCase));
const Atlas = page(() => import('./look/Atlas').then((m) => m.Atlas));
const Stock = page(() => import('./shop/Stock').then((m) => m.Stock));
const SideBySide = page(() => import('./casebook/SideBySide').then((m) => m.SideBySide));
const Search = page(() => import('./casebook/Search').then((m) => m.Search));
const Kinds = page(() => import('./shop/Kinds').then((m) => m.Kinds));
const Fleet = page(() => import('./shop/Fleet').then((m) => m.Fleet));
const Classes = page(() => import('./shop/Classes').then((m) => m.Classes));
const Bench = page(() => import('./shop/Bench').then((m) => m.Bench));
const Homework = page(() => import('./trace/Homework').then((m) => m.Homework));
const Suppliers = page(() => import('./shop/Suppliers').then((m) => m.Suppliers));
const Hours = page(() => import('./shop/Hours').then((m) => m.Hours));
const Ways = page(() => import('./shop/Ways').then((m) => m.Ways));
const Studies = page(() => import('./gauge/Studies').then((m) => m.Studies));
const Instruments = page(() => import('./shop/Instruments').then((m) => m.Instruments));
const Reckoners = page(() => import('./gauge/Reckoners').then((m) => m.Reckoners));
const People = page(() => import('./shop/People').then((m) => m.People));
const Door = page(() => import('./shop/Door').then((m) => m.Door));
const Changes = page(() => import('./shop/Changes').then((m) => m.Changes));
const PracticeSound = page(() => import('./arrival/PracticeSound').then((m) => m.PracticeSound));
const PracticePicture = page(() => import('./pictures/PracticePicture').then((m) => m.PracticePicture));
const Practice = page(() => import('./trace/Practice').then((m) => m.Practice));
const Scripts = page(() => import('./strip/Scripts').then((m) => m.Scripts));
const Causes = page(() => import('./trace/Causes').then((m) => m.Causes));

/** A page that fails leaves the others open. */
function Page({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  const keeps = useDraftsKept();
  const opened = useRef(pathname);
  useEffect(() => {
    if (opened.current !== pathname) arriveAt(keeps && !outbox.state().full);
    opened.current = pathname;
  }, [pathname, keeps]);
  const how = useNavigationType();
  useEffect(() => {
    // A page that is gone to begins at its top; one that is gone back to stands where it stood.
    if (how === 'POP') return;
    trip.gone = true;
    window.scrollTo(0, 0);
  }, [pathname, how]);
  return (
    <RoomBoundary what={tr`This page`} at={pathname}>
      {children}
    </RoomBoundary>
  );
}

/** A page outside the cases, under the line at the top. */
function Titled({ title }: { title: string }) {
  useTitle(title || tr`Casebook`);
  return (
    <>
      <Header>
        <p className="truncate text-lg font-bold">{title}</p>
      </Header>
      <Outlet />
    </>
  );
}

watchScreen();
keepFocus();

/** At the longest before something is drawn, in ms. */
const patience = 1500;

/**
 * What the page that is opened needs comes side by side, not one after the other, and what this device keeps of it is there before the page is first
 * drawn: it is drawn once and not anew for each answer. What only the server has is not waited for.
 */
async function readFirst() {
  const [, opened, room = 'arrival'] = /^\/cases\/([0-9a-f-]{36})(?:\/(\w+))?/.exec(location.pathname) ?? [];
  const scripts: Promise<unknown>[] = [];
  void client.prefetchQuery(meQuery);
  void client.fetchQuery(setupQuery).then(
    (shop) => {
      if (followShop(shop.language)) location.reload();
    },
    () => undefined,
  );
  if (opened) {
    scripts.push(
      import('./casebook/ahead').then((m) => m.readAhead(opened, room)),
      CaseShell.fetch(),
    );
    if (room in rooms) scripts.push(rooms[room as keyof typeof rooms].fetch());
  }
  const all = Promise.allSettled(scripts).then(restored);
  await Promise.race([all, new Promise((go) => setTimeout(go, patience))]);
}

watch();
watchForUpdates();
// What it fetches for the bench without a network does not hold up the page that is opened.
if ('serviceWorker' in navigator && import.meta.env.PROD)
  void quiet().then(() => navigator.serviceWorker.register('/sw.js'));

void readFirst().then(() =>
  // In slices, so that a slow device answers to a touch meanwhile.
  startTransition(() =>
    createRoot(document.getElementById('root')!).render(
      <StrictMode>
        <QueryClientProvider client={client}>
          {/* What is pressed next belongs to the page that the address names: without transitions the old one never stays under the new address. */}
          <BrowserRouter useTransitions={false}>
            <RoomBoundary what={tr`The program`} at="">
              <Gate
                open={
                  <Routes>
                    <Route path="shared/:key" element={<Shared.Page />} />
                    <Route path="check" element={<CheckBag.Page />} />
                  </Routes>
                }
              >
                <Suspense fallback={<Waiting what={tr`the page`} />}>
                  <Page>
                    <Routes>
                      <Route element={<Titled title="" />}>
                        <Route index element={<Casebook />} />
                      </Route>
                      <Route element={<Titled title={tr`New case`} />}>
                        <Route path="new" element={<NewCase.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Search`} />}>
                        <Route path="search" element={<Search.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Kinds of engines`} />}>
                        <Route path="kinds" element={<Kinds.Page />} />
                        <Route path="kinds/:kind" element={<Kinds.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Fleet`} />}>
                        <Route path="fleet" element={<Fleet.Page />} />
                        <Route path="fleet/:engine" element={<Fleet.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Classes`} />}>
                        <Route path="classes" element={<Classes.Page />} />
                        <Route path="classes/:class" element={<Classes.Page />} />
                        <Route path="homework/:homework" element={<Homework.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Bench`} />}>
                        <Route path="bench/:bench" element={<Bench.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Spares`} />}>
                        <Route path="stock" element={<Stock.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Hours and hands`} />}>
                        <Route path="hours" element={<Hours.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Suppliers`} />}>
                        <Route path="suppliers" element={<Suppliers.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Settings`} />}>
                        <Route path="shop" element={<Ways.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`People`} />}>
                        <Route path="people" element={<People.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Your door`} />}>
                        <Route path="door" element={<Door.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Record of changes`} />}>
                        <Route path="changes" element={<Changes.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Instruments`} />}>
                        <Route path="instruments" element={<Instruments.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Gauge studies`} />}>
                        <Route path="studies" element={<Studies.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Practice`} />}>
                        <Route path="practice" element={<Practice.Page />} />
                        <Route path="practice/:seed" element={<Practice.Page />} />
                        <Route path="practice/listen" element={<PracticeSound.Page />} />
                        <Route path="practice/listen/:seed" element={<PracticeSound.Page />} />
                        <Route path="practice/measure" element={<PracticePicture.Page />} />
                        <Route path="practice/measure/:seed" element={<PracticePicture.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Causes known here`} />}>
                        <Route path="causes" element={<Causes.Page />} />
                        <Route path="causes/:cause" element={<Causes.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Strip scripts`} />}>
                        <Route path="scripts" element={<Scripts.Page />} />
                        <Route path="scripts/:script" element={<Scripts.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Calculators`} />}>
                        <Route path="reckon" element={<Reckoners.Page />} />
                        <Route path="reckon/:reckoner" element={<Reckoners.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Atlas of signs`} />}>
                        <Route path="atlas" element={<Atlas.Page />} />
                        <Route path="atlas/:sign" element={<Atlas.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Side by side`} />}>
                        <Route path="cases/:id/beside" element={<SideBySide.Page />} />
                      </Route>
                      <Route path="cases/:id" element={<CaseShell.Page />}>
                        <Route index element={<Navigate to="arrival" replace />} />
                        <Route path="arrival" element={<rooms.arrival.Page />} />
                        <Route path="strip" element={<rooms.strip.Page />} />
                        <Route path="index" element={<rooms.index.Page />} />
                        <Route path="look" element={<rooms.look.Page />} />
                        <Route path="gauge" element={<rooms.gauge.Page />} />
                        <Route path="trace" element={<rooms.trace.Page />} />
                        <Route path="verdict" element={<rooms.verdict.Page />} />
                        <Route path="build" element={<rooms.build.Page />} />
                        <Route path="dossier" element={<rooms.dossier.Page />} />
                        <Route path="station/:station" element={<rooms.station.Page />} />
                      </Route>
                      <Route element={<Titled title={tr`Not here`} />}>
                        <Route path="*" element={<NotHere />} />
                      </Route>
                    </Routes>
                  </Page>
                </Suspense>
              </Gate>
            </RoomBoundary>
          </BrowserRouter>
        </QueryClientProvider>
      </StrictMode>,
    ),
  ),
);
