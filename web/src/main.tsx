import { QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense, useEffect, useRef, type ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Navigate, Outlet, Route, Routes, useLocation, useNavigationType } from 'react-router';
import { client } from './device/queryClient';
import { Casebook } from './casebook/Casebook';
import { watchScreen } from './device/theme';
import { arriveAt, watchForUpdates } from './device/update';
import { outbox, watch } from './outbox/useOutbox';
import { Gate } from './shell/Gate';
import { NotHere } from './shell/NotHere';
import { useTitle } from './shell/title';
import { Header } from './shell/Header';
import { Waiting } from './ui/basics';
import { useDraftsKept } from './ui/keeps';
import { RoomBoundary } from './ui/RoomBoundary';
import './styles.css';

// The casebook comes first; a case, its stages and the other pages are fetched when they are first opened.
const rooms = {
  arrival: () => import('./arrival/Arrival'),
  strip: () => import('./strip/Strip'),
  index: () => import('./index/Index'),
  look: () => import('./look/Look'),
  gauge: () => import('./gauge/Gauge'),
  trace: () => import('./trace/Trace'),
  verdict: () => import('./verdict/Verdict'),
  dossier: () => import('./dossier/Dossier'),
};
const caseShell = () => import('./shell/CaseShell');
const CaseShell = lazy(() => caseShell().then((m) => ({ default: m.CaseShell })));
const Arrival = lazy(() => rooms.arrival().then((m) => ({ default: m.Arrival })));
const Index = lazy(() => rooms.index().then((m) => ({ default: m.Index })));
const NewCase = lazy(() => import('./casebook/NewCase').then((m) => ({ default: m.NewCase })));
const Strip = lazy(() => rooms.strip().then((m) => ({ default: m.Strip })));
const Look = lazy(() => rooms.look().then((m) => ({ default: m.Look })));
const Atlas = lazy(() => import('./look/Atlas').then((m) => ({ default: m.Atlas })));
const Gauge = lazy(() => rooms.gauge().then((m) => ({ default: m.Gauge })));
const Trace = lazy(() => rooms.trace().then((m) => ({ default: m.Trace })));
const Verdict = lazy(() => rooms.verdict().then((m) => ({ default: m.Verdict })));
const Stock = lazy(() => import('./shop/Stock').then((m) => ({ default: m.Stock })));
const Suppliers = lazy(() => import('./shop/Suppliers').then((m) => ({ default: m.Suppliers })));
const Ways = lazy(() => import('./shop/Ways').then((m) => ({ default: m.Ways })));
const Studies = lazy(() => import('./gauge/Studies').then((m) => ({ default: m.Studies })));
const Instruments = lazy(() => import('./shop/Instruments').then((m) => ({ default: m.Instruments })));
const Reckoners = lazy(() => import('./gauge/Reckoners').then((m) => ({ default: m.Reckoners })));
const People = lazy(() => import('./shop/People').then((m) => ({ default: m.People })));
const Door = lazy(() => import('./shop/Door').then((m) => ({ default: m.Door })));
const Changes = lazy(() => import('./shop/Changes').then((m) => ({ default: m.Changes })));
const Practice = lazy(() => import('./trace/Practice').then((m) => ({ default: m.Practice })));
const Scripts = lazy(() => import('./strip/Scripts').then((m) => ({ default: m.Scripts })));
const Causes = lazy(() => import('./trace/Causes').then((m) => ({ default: m.Causes })));
const Station = lazy(() => import('./shell/Station').then((m) => ({ default: m.Station })));
const Dossier = lazy(() => rooms.dossier().then((m) => ({ default: m.Dossier })));

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
    if (how !== 'POP') window.scrollTo(0, 0);
  }, [pathname, how]);
  return (
    <RoomBoundary what="This page" at={pathname}>
      {children}
    </RoomBoundary>
  );
}

/** A page outside the cases, under the line at the top. */
function Titled({ title }: { title: string }) {
  useTitle(title || 'Casebook');
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

// A case that is opened by its address: its scripts and answers come side by side, not one after the other.
const [, opened, room = 'arrival'] = /^\/cases\/([0-9a-f-]{36})(?:\/(\w+))?/.exec(location.pathname) ?? [];
if (opened) {
  void import('./casebook/ahead').then((m) => m.readAhead(opened, room));
  void caseShell();
  if (room in rooms) void rooms[room as keyof typeof rooms]();
}

watch();
watchForUpdates();
if ('serviceWorker' in navigator && import.meta.env.PROD) void navigator.serviceWorker.register('/sw.js');

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      {/* What is pressed next belongs to the page that the address names: without transitions the old one never stays under the new address. */}
      <BrowserRouter useTransitions={false}>
        <RoomBoundary what="The program" at="">
          <Gate>
            <Suspense fallback={<Waiting what="the page" />}>
              <Page>
                <Routes>
                  <Route element={<Titled title="" />}>
                    <Route index element={<Casebook />} />
                  </Route>
                  <Route element={<Titled title="New case" />}>
                    <Route path="new" element={<NewCase />} />
                  </Route>
                  <Route element={<Titled title="Spares" />}>
                    <Route path="stock" element={<Stock />} />
                  </Route>
                  <Route element={<Titled title="Suppliers" />}>
                    <Route path="suppliers" element={<Suppliers />} />
                  </Route>
                  <Route element={<Titled title="Settings" />}>
                    <Route path="shop" element={<Ways />} />
                  </Route>
                  <Route element={<Titled title="People" />}>
                    <Route path="people" element={<People />} />
                  </Route>
                  <Route element={<Titled title="Your door" />}>
                    <Route path="door" element={<Door />} />
                  </Route>
                  <Route element={<Titled title="Record of changes" />}>
                    <Route path="changes" element={<Changes />} />
                  </Route>
                  <Route element={<Titled title="Instruments" />}>
                    <Route path="instruments" element={<Instruments />} />
                  </Route>
                  <Route element={<Titled title="Gauge studies" />}>
                    <Route path="studies" element={<Studies />} />
                  </Route>
                  <Route element={<Titled title="Practice" />}>
                    <Route path="practice" element={<Practice />} />
                    <Route path="practice/:seed" element={<Practice />} />
                  </Route>
                  <Route element={<Titled title="Causes known here" />}>
                    <Route path="causes" element={<Causes />} />
                    <Route path="causes/:cause" element={<Causes />} />
                  </Route>
                  <Route element={<Titled title="Strip scripts" />}>
                    <Route path="scripts" element={<Scripts />} />
                    <Route path="scripts/:script" element={<Scripts />} />
                  </Route>
                  <Route element={<Titled title="Calculators" />}>
                    <Route path="reckon" element={<Reckoners />} />
                    <Route path="reckon/:reckoner" element={<Reckoners />} />
                  </Route>
                  <Route element={<Titled title="Atlas of signs" />}>
                    <Route path="atlas" element={<Atlas />} />
                    <Route path="atlas/:sign" element={<Atlas />} />
                  </Route>
                  <Route path="cases/:id" element={<CaseShell />}>
                    <Route index element={<Navigate to="arrival" replace />} />
                    <Route path="arrival" element={<Arrival />} />
                    <Route path="strip" element={<Strip />} />
                    <Route path="index" element={<Index />} />
                    <Route path="look" element={<Look />} />
                    <Route path="gauge" element={<Gauge />} />
                    <Route path="trace" element={<Trace />} />
                    <Route path="verdict" element={<Verdict />} />
                    <Route path="dossier" element={<Dossier />} />
                    <Route path="station/:station" element={<Station />} />
                  </Route>
                  <Route element={<Titled title="Not here" />}>
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
);
