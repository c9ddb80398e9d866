import '@fontsource-variable/public-sans';
import '@fontsource-variable/spline-sans-mono';
import './styles.css';
import { ThemeProvider } from '@mui/material/styles';
import { SnackbarProvider } from 'notistack';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Shelf } from './pages/shelf/Shelf.tsx';
import { Stop } from './parts/Stop.tsx';
import { Trouble, tellTrouble } from './parts/Trouble.tsx';
import { theme } from './theme.ts';

tellTrouble();

const router = createBrowserRouter([
  {
    ErrorBoundary: Trouble,
    children: [
      { path: '/', Component: Shelf },
      { path: '/jobs/:jobId', lazy: async () => ({ Component: (await import('./pages/bench/Bench.tsx')).Bench }) },
      {
        path: '/jobs/:jobId/map',
        lazy: async () => ({ Component: (await import('./pages/map/MapPage.tsx')).MapPage }),
      },
      {
        path: '/jobs/:jobId/tally',
        lazy: async () => ({ Component: (await import('./pages/tally/TallyPage.tsx')).TallyPage }),
      },
      {
        path: '/jobs/:jobId/runs',
        lazy: async () => ({ Component: (await import('./pages/runs/RunsPage.tsx')).RunsPage }),
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
