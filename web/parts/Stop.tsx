import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { useEffect, useState } from 'react';
import { engineWork, stopEngine } from '../engine/client.ts';

/** What takes longer can be stopped. */
const LONG_MS = 2000;
const LOOK_EVERY_MS = 500;

/** What a worker has been at for long, with a way to stop it. On every page. */
export function Stop() {
  const [work, setWork] = useState<{ what: string; seconds: number }>();
  useEffect(() => {
    const timer = setInterval(() => {
      const at = engineWork();
      const ms = at === undefined ? 0 : performance.now() - at.since;
      setWork(at === undefined || ms < LONG_MS ? undefined : { what: at.what, seconds: Math.floor(ms / 1000) });
    }, LOOK_EVERY_MS);
    return () => clearInterval(timer);
  }, []);
  return (
    <Snackbar
      open={work !== undefined}
      anchorOrigin={{ vertical: 'top', horizontal: 'center' }}
      // Over the free middle of the top bar.
      sx={{ top: { xs: 0, sm: 0 } }}
      message={work === undefined ? '' : `Still ${work.what}, ${work.seconds} s`}
      action={
        <Button size="small" color="inherit" onClick={() => void stopEngine()}>
          Stop
        </Button>
      }
    />
  );
}
