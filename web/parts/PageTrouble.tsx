import type { FallbackProps } from 'react-error-boundary';
import { Link } from 'react-router';
import styles from './job-page.module.css';
import { KEPT, UNFORESEEN } from './report-error.ts';

/** A page that could not be drawn: what happened, and the way on. */
export function Trouble({ error }: FallbackProps) {
  return (
    <p className={styles.whole} role="alert">
      {UNFORESEEN} ({error instanceof Error ? error.message : String(error)}). {KEPT} Load the page again, or go{' '}
      <Link to="/">back to the shelf</Link>.
    </p>
  );
}
