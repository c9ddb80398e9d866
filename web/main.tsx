import '@fontsource-variable/public-sans';
import '@fontsource-variable/spline-sans-mono';
import './styles.css';
import { ThemeProvider } from '@mui/material/styles';
import { type ComponentType, lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { ErrorBoundary } from 'react-error-boundary';
import { BrowserRouter, Route, Routes, useLocation } from 'react-router';
import { engineClient } from './engine/client.ts';
import { Shelf } from './pages/shelf/Shelf.tsx';
import { walkGroups } from './parts/arrow-keys.ts';
import { keepOffline } from './parts/offline.ts';
import { Trouble } from './parts/PageTrouble.tsx';
import { catchAll } from './parts/report-error.ts';
import { Stop } from './parts/Stop.tsx';
import { theme } from './theme.ts';

catchAll();
walkGroups();
keepOffline();

// Loaded again, the bench wants its worker and its own script: neither waits for the other, nor for what is around it.
if (/^\/jobs\/[^/]+\/?$/.test(location.pathname)) {
  engineClient();
  void import('./pages/bench/Bench.tsx');
}

// The shelf is what loads first; each other page comes when it is gone to.
const later = (load: () => Promise<ComponentType>) => lazy(async () => ({ default: await load() }));
const Messages = later(async () => (await import('./parts/Messages.tsx')).Messages);
const JobPages = later(async () => (await import('./pages/JobPages.tsx')).JobPages);
const Bench = later(async () => (await import('./pages/bench/Bench.tsx')).Bench);
const MapPage = later(async () => (await import('./pages/map/MapPage.tsx')).MapPage);
const TallyPage = later(async () => (await import('./pages/tally/TallyPage.tsx')).TallyPage);
const RunsPage = later(async () => (await import('./pages/runs/RunsPage.tsx')).RunsPage);

function Pages() {
  const { key } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Trouble} resetKeys={[key]}>
      <Suspense>
        <Routes>
          <Route path="/" element={<Shelf />} />
          <Route path="/jobs/:jobId" element={<JobPages />}>
            <Route index element={<Bench />} />
            <Route path="map" element={<MapPage />} />
            <Route path="tally" element={<TallyPage />} />
            <Route path="runs" element={<RunsPage />} />
          </Route>
          <Route path="*" element={<Shelf />} />
        </Routes>
      </Suspense>
    </ErrorBoundary>
  );
}

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ThemeProvider theme={theme} defaultMode="system">
      <BrowserRouter>
        <Pages />
      </BrowserRouter>
      <Suspense>
        <Messages />
      </Suspense>
      <Stop />
    </ThemeProvider>
  </StrictMode>,
);
