import { QueryClientProvider } from '@tanstack/react-query';
import { Outlet } from 'react-router';
import { queries } from '../stores/use-engine-query.ts';

/** What all pages of a job ask the engine stands in one place. */
export function JobPages() {
  return (
    <QueryClientProvider client={queries}>
      <Outlet />
    </QueryClientProvider>
  );
}
