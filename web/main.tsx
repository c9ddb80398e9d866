import '@fontsource-variable/public-sans';
import '@fontsource-variable/spline-sans-mono';
import './styles.css';
import { ThemeProvider } from '@mui/material/styles';
import { SnackbarProvider } from 'notistack';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Shelf } from './pages/shelf/Shelf.tsx';
import { walkGroups } from './parts/arrow-keys.ts';
import { keepOffline } from './parts/offline.tsx';
import { Trouble } from './parts/PageTrouble.tsx';
import { Stop } from './parts/Stop.tsx';
import { catchAll } from './parts/trouble.ts';
import { theme } from './theme.ts';

catchAll();
walkGroups();
keepOffline();

const router = createBrowserRouter([
  {
    ErrorBoundary: Trouble,
    children: [
      { path: '/', Component: Shelf },
      {
        path: '/jobs/:jobId',
        lazy: async () => ({ Component: (await import('./pages/JobPages.tsx')).JobPages }),
        children: [
          { index: true, lazy: async () => ({ Component: (await import('./pages/bench/Bench.tsx')).Bench }) },
          { path: 'map', lazy: async () => ({ Component: (await import('./pages/map/MapPage.tsx')).MapPage }) },
          { path: 'tally', lazy: async () => ({ Component: (await import('./pages/tally/TallyPage.tsx')).TallyPage }) },
          { path: 'runs', lazy: async () => ({ Component: (await import('./pages/runs/RunsPage.tsx')).RunsPage }) },
        ],
      },
      { path: '*', Component: Shelf },
    ],
  },
]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ThemeProvider theme={theme} defaultMode="system">
      <SnackbarProvider
        maxSnack={3}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        classes={{ containerRoot: 'messages' }}
      >
        <RouterProvider router={router} />
        <Stop />
      </SnackbarProvider>
    </ThemeProvider>
  </StrictMode>,
);
