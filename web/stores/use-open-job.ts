import { useEffect, useState } from 'react';
import type { Job } from '../../core/index.ts';
import { reportError } from '../parts/report-error.ts';
import { useJobStore } from './job-store.ts';

/** Opens a job kept in this browser; 'unknown' when there is none of this id. */
export function useOpenJob(jobId: string): Job | 'opening' | 'unknown' {
  const [opened, setOpened] = useState<{ id: string; found: boolean } | undefined>();
  const open = useJobStore((store) => store.open);
  const leave = useJobStore((store) => store.leave);
  const job = useJobStore((store) => store.job);
  useEffect(() => {
    let current = true;
    open(jobId).then((found) => current && setOpened({ id: jobId, found }), reportError);
    return () => {
      current = false;
      leave();
    };
  }, [open, leave, jobId]);
  if (opened?.id !== jobId) return 'opening';
  if (!opened.found) return 'unknown';
  return job?.id === jobId ? job : 'opening';
}
