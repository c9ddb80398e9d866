import { registerSW } from 'virtual:pwa-register';
import Button from '@mui/material/Button';
import { enqueueSnackbar } from 'notistack';

/** Keeps the whole application in the browser, so that it opens without a network. */
export function keepOffline(): void {
  const take = registerSW({
    onNeedRefresh() {
      enqueueSnackbar('A newer Rimefield is here.', {
        variant: 'info',
        persist: true,
        preventDuplicate: true,
        action: (
          <Button color="inherit" size="small" onClick={() => void take()}>
            Load it
          </Button>
        ),
      });
    },
  });
}
