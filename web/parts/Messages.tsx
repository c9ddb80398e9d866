import Button from '@mui/material/Button';
import { closeSnackbar, enqueueSnackbar, SnackbarProvider } from 'notistack';
import { useEffect } from 'react';
import { type Message, showMessagesBy } from './notify.ts';

const LONG_MS = 12_000;

/** Where messages that pass by are shown, on every page. */
export function Messages() {
  useEffect(() => showMessagesBy(show), []);
  return (
    <SnackbarProvider
      maxSnack={3}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      classes={{ containerRoot: 'messages' }}
    />
  );
}

function show({ text, tone = 'plain', long, stays, once, act }: Message): void {
  enqueueSnackbar(text, {
    variant: tone === 'plain' ? 'default' : tone,
    preventDuplicate: once,
    ...(stays ? { persist: true } : long ? { autoHideDuration: LONG_MS } : {}),
    ...(act && {
      action: (key) => (
        <Button
          color="inherit"
          size="small"
          onClick={() => {
            closeSnackbar(key);
            act.run();
          }}
        >
          {act.label}
        </Button>
      ),
    }),
  });
}
