import { lazy, Suspense, useEffect, useState } from 'react';
import { engineWork } from '../engine/client.ts';

/** What takes longer can be stopped. */
const LONG_MS = 2000;
const LOOK_EVERY_MS = 500;

const StopBar = lazy(async () => ({ default: (await import('./StopBar.tsx')).StopBar }));

/** What a worker has been at for long, with a way to stop it. On every page. */
export function Stop() {
  const [work, setWork] = useState<{ what: string; seconds: number }>();
  const [was, setWas] = useState(false);
  useEffect(() => {
    const timer = setInterval(() => {
      const at = engineWork();
      const ms = at === undefined ? 0 : performance.now() - at.since;
      const isLong = at !== undefined && ms >= LONG_MS;
      setWork(isLong ? { what: at.what, seconds: Math.floor(ms / 1000) } : undefined);
      if (isLong) setWas(true);
    }, LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }, []);
  return (
    was && (
      <Suspense>
        <StopBar work={work} />
      </Suspense>
    )
  );
}
