import { useEffect, useState } from 'react';
import type { Job } from '../../core/index.ts';
import { useJobStore } from './job-store.ts';

/** Opens a job kept in this browser; 'unknown' when there is none of this id. */
export function useOpenJob(jobId: string): Job | 'opening' | 'unknown' {
  const [known, setKnown] = useState(true);
  const open = useJobStore((store) => store.open);
  const job = useJobStore((store) => store.job);
  useEffect(() => {
    let current = true;
    void open(jobId).then((found) => {
      if (current) setKnown(found);
    });
    return () => {
      current = false;
    };
  }, [open, jobId]);
  if (!known) return 'unknown';
  return job?.id === jobId ? job : 'opening';
}
