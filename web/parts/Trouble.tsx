import { enqueueSnackbar } from 'notistack';
import { Link, useRouteError } from 'react-router';
import { OVERTAKEN } from '../engine/protocol.ts';
import styles from './job-page.module.css';

const WORDS = 'Something went wrong in Rimefield itself';
const KEPT = 'Your job is kept in this browser.';

/** A page that could not be drawn: what happened, and the way on. */
export function Trouble() {
  const error = useRouteError();
  return (
    <p className={styles.whole} role="alert">
      {WORDS} ({error instanceof Error ? error.message : String(error)}). {KEPT} Load the page again, or go{' '}
      <Link to="/">back to the shelf</Link>.
    </p>
  );
}

/** Says what nothing else caught, and lets the page go on. */
export function tellTrouble(): void {
  addEventListener('unhandledrejection', (event) => {
    const message = event.reason instanceof Error ? event.reason.message : String(event.reason);
    if (message === OVERTAKEN) return;
    enqueueSnackbar(`${WORDS} (${message}). ${KEPT} Go on, or load the page again.`, {
      variant: 'error',
      autoHideDuration: 12_000,
      preventDuplicate: true,
    });
  });
}
