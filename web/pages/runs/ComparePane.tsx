import Checkbox from '@mui/material/Checkbox';
import LinearProgress from '@mui/material/LinearProgress';
import { useState } from 'react';
import { grouped, type JobTable } from '../../../core/index.ts';
import type { ComparedView, PastRun, RowView } from '../../engine/protocol.ts';
import { capital } from '../../parts/capital.ts';
import { loadSource, type PastRunKept } from '../../stores/storage.ts';
import { keyOf, useEngineQuery } from '../../stores/use-engine-query.ts';
import { runFiles } from './RunList.tsx';
import styles from './runs.module.css';

const rowsText = (count: number) => `${grouped(count)} ${count === 1 ? 'row' : 'rows'}`;

type Sort = 'changed' | 'added' | 'gone';

/** One table of two runs, row against row. */
export function ComparePane({
  jobId,
  table,
  earlier,
  later,
}: {
  jobId: string;
  table: JobTable;
  earlier: PastRunKept;
  later: PastRunKept;
}) {
  const [key, setKey] = useState<readonly string[] | undefined>();
  const [shown, setShown] = useState<Sort | undefined>();
  const { data: view, error } = useEngineQuery(
    ['compare runs', jobId, table.id, keyOf(earlier), keyOf(later), key],
    async (engine) => {
      const [before, after] = [await pastRun(jobId, earlier), await pastRun(jobId, later)];
      return engine.otherFiles.compareRuns(before, after, table.id, key);
    },
    { keep: true, shown: true },
  );
  const trouble = error?.message ?? '';
  const counts = view && { changed: view.changed.count, added: view.added.count, gone: view.gone.count };
  const sort = shown ?? (['changed', 'added', 'gone'] as const).find((one) => (counts?.[one] ?? 0) > 0) ?? 'changed';
  const byKey = key ?? view?.key ?? [];
  return (
    <section className={styles.pane} aria-label="Comparison">
      <h2>
        {runFiles(earlier)} <span>against</span> {runFiles(later)}
      </h2>
      {trouble !== '' && (
        <p className={styles.trouble} role="alert">
          {trouble}
        </p>
      )}
      {trouble === '' && view === undefined && <LinearProgress aria-label="Running both" />}
      {view !== undefined && trouble === '' && (
        <>
          <p className={styles.sum} role="status">
            {rowsText(view.rows.before)} then, {grouped(view.rows.after)} now: <b>{grouped(view.same)} the same</b>,{' '}
            {grouped(view.changed.count)} changed, {grouped(view.added.count)} added, {grouped(view.gone.count)} gone
            {view.repeated > 0 && <em>. {rowsText(view.repeated)} repeat a key and are paired in their order</em>}
          </p>
          <fieldset className={styles.keys}>
            <legend>Rows are the same when these agree:</legend>
            {view.columns.map((name) => (
              <label key={name}>
                <Checkbox
                  checked={byKey.includes(name)}
                  onChange={(event) =>
                    setKey(event.target.checked ? [...byKey, name] : byKey.filter((one) => one !== name))
                  }
                />
                {name}
              </label>
            ))}
          </fieldset>
          {(view.addedColumns.length > 0 || view.goneColumns.length > 0) && (
            <p className={styles.columns}>
              {view.addedColumns.length > 0 && `New columns: ${view.addedColumns.join(', ')}. `}
              {view.goneColumns.length > 0 && `Removed columns: ${view.goneColumns.join(', ')}.`}
            </p>
          )}
          {view.sums.length > 0 && (
            <ul className={styles.sums} aria-label="Sums">
              {view.sums.map((sum) => (
                <li key={sum.column}>
                  {sum.column} {figure(sum.before)} → <b>{figure(sum.after)}</b>{' '}
                  <i>{sum.after === sum.before ? 'the same' : signed(sum.after - sum.before)}</i>
                </li>
              ))}
            </ul>
          )}
          <div className={styles.tabs} role="tablist" aria-label="Rows">
            {(['changed', 'added', 'gone'] as const).map((one) => (
              <button key={one} type="button" role="tab" aria-selected={sort === one} onClick={() => setShown(one)}>
                {capital(one)} {grouped(counts![one])}
              </button>
            ))}
          </div>
          <div className={styles.scroll}>
            {sort === 'changed' ? <ChangedRows view={view} /> : <PlainRows rows={view[sort]} what={sort} />}
          </div>
        </>
      )}
    </section>
  );
}

/** @throws Error when a file of the run is not here any more */
async function pastRun(jobId: string, { job }: PastRunKept): Promise<PastRun> {
  const files: PastRun['files'][number][] = [];
  for (const source of job.sources) {
    const bytes = await loadSource(jobId, source);
    if (bytes === undefined) throw new Error(`${source.file?.name ?? source.name} is no longer in this browser.`);
    files.push({ source: source.id, name: source.file?.name ?? source.name, bytes });
  }
  return { job, files };
}

function ChangedRows({ view }: { view: ComparedView }) {
  const { rows, count } = view.changed;
  if (count === 0) return <p className={styles.empty}>No matching row has changed.</p>;
  return (
    <table className={styles.rows} aria-label="Changed rows">
      <Head columns={view.columns} />
      <tbody>
        {rows.map(({ before, after, columns }, k) => (
          <tr key={k}>
            {view.columns.map((name, c) => {
              const [was, is] = [before.cells[c]!, after.cells[c]!];
              return columns.includes(name) ? (
                <td key={name} className={`${styles.changed} ${is.kind === 'counted' ? styles.figure : ''}`}>
                  <s>{was.kind === 'blank' ? 'blank' : was.text}</s> {is.kind === 'blank' ? 'blank' : is.text}
                </td>
              ) : (
                <td key={name} className={is.kind === 'counted' ? styles.figure : undefined}>
                  {is.text}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
      <More shown={rows.length} of={count} columns={view.columns.length} />
    </table>
  );
}

function PlainRows({ rows, what }: { rows: ComparedView['added']; what: 'added' | 'gone' }) {
  if (rows.count === 0) return <p className={styles.empty}>{what === 'added' ? 'No new rows.' : 'No removed rows.'}</p>;
  return (
    <table className={styles.rows} aria-label={what === 'added' ? 'Added rows' : 'Removed rows'}>
      <Head columns={rows.columns} />
      <tbody>
        {rows.rows.map((row: RowView, k) => (
          <tr key={k}>
            {row.cells.map((cell, c) => (
              <td key={c} className={cell.kind === 'counted' ? styles.figure : undefined}>
                {cell.text}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
      <More shown={rows.rows.length} of={rows.count} columns={rows.columns.length} />
    </table>
  );
}

function Head({ columns }: { columns: readonly string[] }) {
  return (
    <thead>
      <tr>
        {columns.map((name) => (
          <th key={name} scope="col">
            {name}
          </th>
        ))}
      </tr>
    </thead>
  );
}

function More({ shown, of, columns }: { shown: number; of: number; columns: number }) {
  if (of <= shown) return null;
  return (
    <tfoot>
      <tr>
        <td colSpan={columns}>and {grouped(of - shown)} more</td>
      </tr>
    </tfoot>
  );
}

function figure(value: number): string {
  return grouped(value, 6);
}

function signed(value: number): string {
  return `${value > 0 ? '+' : '−'}${figure(Math.abs(value))}`;
}
