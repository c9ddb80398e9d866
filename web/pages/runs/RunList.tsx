import DeleteOutline from '@mui/icons-material/DeleteOutlined';
import IconButton from '@mui/material/IconButton';
import Radio from '@mui/material/Radio';
import { grouped } from '../../../core/index.ts';
import type { PastRunKept } from '../../stores/storage.ts';
import styles from './runs.module.css';

interface Chosen {
  earlier: number;
  later: number;
}

export const runFiles = (run: PastRunKept) =>
  run.job.sources.map((source) => source.file?.name ?? source.name).join(', ');

/** What was run, newest first. Two of them are chosen: one to compare from, one to compare to. */
export function RunList({
  runs,
  tableId,
  chosen,
  onChoose,
  onForget,
}: {
  runs: readonly PastRunKept[] | undefined;
  tableId: string;
  chosen: Chosen | undefined;
  onChoose(chosen: Chosen): void;
  onForget(at: number): Promise<void>;
}) {
  return (
    <section className={styles.pane} aria-label="Runs">
      <h2>
        Runs <span>{runs === undefined ? '' : runs.length}</span>
      </h2>
      {runs?.length === 0 && <p className={styles.empty}>No runs yet. Each run is saved once its tally is complete.</p>}
      <table className={styles.runs}>
        <thead>
          <tr>
            <th scope="col">from</th>
            <th scope="col">to</th>
            <th scope="col">Files</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {runs?.map((run, k) => {
            const outcome = run.tables[tableId];
            const files = runFiles(run);
            const label = `${files}, ${whenText(run.at)}`;
            return (
              <tr
                key={run.at}
                className={run.at === chosen?.earlier || run.at === chosen?.later ? styles.lit : undefined}
              >
                {(['earlier', 'later'] as const).map((which) => (
                  <td key={which}>
                    <Radio
                      name={which}
                      slotProps={{ input: { 'aria-label': `Compare ${which === 'earlier' ? 'from' : 'to'} ${label}` } }}
                      checked={chosen?.[which] === run.at}
                      disabled={chosen === undefined || chosen[which === 'earlier' ? 'later' : 'earlier'] === run.at}
                      onChange={() => chosen !== undefined && onChoose({ ...chosen, [which]: run.at })}
                    />
                  </td>
                ))}
                <td>
                  <b className={styles.files} title={shaText(run)}>
                    {files}
                  </b>
                  <span className={styles.when}>
                    {whenText(run.at)}
                    {k === 0 && ' · as it is now'}
                  </span>
                  {outcome !== undefined && (
                    <span className={outcome.stop !== undefined ? styles.wrong : undefined}>
                      {outcome.stop !== undefined ? `stopped: ${outcome.stop}` : `${grouped(outcome.rows)} rows`}
                      {outcome.unreadable > 0 && <b className={styles.wrong}>, {outcome.unreadable} unreadable</b>}
                    </span>
                  )}
                  {outcome?.tally !== undefined && outcome.tally.text !== '' && (
                    <span className={outcome.tally.good ? styles.good : styles.wrong}>
                      {outcome.tally.good ? '✓' : '✗'} {outcome.tally.text}
                    </span>
                  )}
                </td>
                <td>
                  {k > 0 && (
                    <IconButton
                      size="small"
                      aria-label={`Delete the run of ${label}`}
                      title="Delete this run"
                      onClick={() => void onForget(run.at)}
                    >
                      <DeleteOutline fontSize="small" />
                    </IconButton>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

function whenText(at: number): string {
  return new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
}

/** The files by what stands in them. */
function shaText(run: PastRunKept): string {
  return run.job.sources
    .map((source) => `${source.file?.name ?? source.name}\nSHA-256 ${source.file?.sha256 ?? 'unknown'}`)
    .join('\n');
}
