import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { stopEngine } from '../engine/client.ts';

export function StopBar({ work }: { work: { what: string; seconds: number } | undefined }) {
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
