import Close from '@mui/icons-material/Close';
import type { JobTable } from '../../../../core/index.ts';
import { capital } from '../../../parts/capital.ts';
import { usePointed } from '../../../parts/use-pointed.ts';
import styles from './draft.module.css';
import { useFindings } from './use-findings.ts';

/** Things seen in the table as it is now: pointed at, each shows what its step would give; its number takes it. */
export function Findings({ table, at }: { table: JobTable; at: number }) {
  const { findings, show, clear, take, wave } = useFindings(table, at);
  const look = usePointed(show, clear);
  if (findings.length === 0) return null;
  return (
    <section className={styles.findings} aria-label="Findings">
      <h3>Suggestions</h3>
      <ul>
        {findings.map((finding, k) => (
          <li key={finding.sentence}>
            <button
              type="button"
              className={styles.finding}
              data-finding={k + 1}
              aria-keyshortcuts={String(k + 1)}
              title={finding.sentence}
              onClick={() => take(finding)}
              {...look(finding)}
            >
              <kbd>{k + 1}</kbd>
              <span>
                {capital(finding.text)}
                <small>{finding.sentence}</small>
              </span>
            </button>
            <button
              type="button"
              className={styles.wave}
              aria-label={`Dismiss: ${finding.text}`}
              title="Don't show again"
              onClick={() => wave(finding)}
            >
              <Close style={{ fontSize: 12 }} />
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
