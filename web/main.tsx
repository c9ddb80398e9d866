import '@fontsource-variable/public-sans';
import '@fontsource-variable/spline-sans-mono';
import './styles.css';
import { ThemeProvider } from '@mui/material/styles';
import { SnackbarProvider } from 'notistack';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Bench } from './pages/bench/Bench.tsx';
import { MapPage } from './pages/map/MapPage.tsx';
import { RunsPage } from './pages/runs/RunsPage.tsx';
import { Shelf } from './pages/shelf/Shelf.tsx';
import { TallyPage } from './pages/tally/TallyPage.tsx';
import { theme } from './theme.ts';

const router = createBrowserRouter([
  { path: '/', Component: Shelf },
  { path: '/jobs/:jobId', Component: Bench },
  { path: '/jobs/:jobId/map', Component: MapPage },
  { path: '/jobs/:jobId/tally', Component: TallyPage },
  { path: '/jobs/:jobId/runs', Component: RunsPage },
  { path: '*', Component: Shelf },
]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ThemeProvider theme={theme} defaultMode="system">
      <SnackbarProvider maxSnack={3} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
        <RouterProvider router={router} />
      </SnackbarProvider>
    </ThemeProvider>
  </StrictMode>,
);
