import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { counted, type DialectName, type Job, type JobTable, type MethodSql } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { downloadFile, fileName } from '../../parts/files.ts';
import { notify } from '../../parts/notify.ts';
import { notifyError } from '../../parts/report-error.ts';
import { Sheet } from '../../parts/Sheet.tsx';
import { Picker } from '../../parts/sentence/fields.tsx';
import styles from './combine/combine.module.css';

const DIALECTS: Record<DialectName, string> = {
  duckdb: 'DuckDB',
  postgres: 'PostgreSQL',
  spark: 'Spark',
  ansi: 'standard SQL (ISO/IEC 9075)',
};

/** The method as a script that runs where the data are, and its input tables. */
export function SqlDialog({ job, table, onClose }: { job: Job; table: JobTable; onClose(): void }) {
  const [dialect, setDialect] = useState<DialectName>('duckdb');
  const { data: made, error } = useQuery({
    queryKey: ['method as sql', job, table.id, dialect],
    queryFn: () => engineClient().engine.exports.sql(job, table.id, dialect),
    meta: { shown: true },
  });
  const copy = async (text: string) => {
    try {
      await navigator.clipboard.writeText(text);
      notify({ text: 'The script is on the clipboard.' });
    } catch (refused) {
      notifyError(refused);
    }
  };
  // A database that reads no file takes text.
  const as = dialect === 'duckdb' || dialect === 'spark' ? 'parquet' : 'csv';
  const saveRaw = async (raw: MethodSql['raw'][number]) => {
    try {
      const bytes = await engineClient().engine.exports.raw(job, raw.table, raw.step, as);
      downloadFile(`${raw.name}.${as}`, as === 'csv' ? 'text/csv' : 'application/vnd.apache.parquet', bytes);
    } catch (refused) {
      notifyError(refused);
    }
  };
  const nameOf = (id: string) => job.tables.find((one) => one.id === id)?.name ?? id;
  return (
    <Sheet
      title={`The method of ${table.name} as SQL`}
      label="Method as SQL"
      width={820}
      trouble={error?.message ?? ''}
      onClose={onClose}
      acts={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button variant="outlined" disabled={made === undefined} onClick={() => void copy(made!.text)}>
            Copy
          </Button>
          <Button
            variant="contained"
            disabled={made === undefined}
            onClick={() => downloadFile(`${fileName(table.name)}.sql`, 'application/sql', made!.text)}
          >
            Save the script
          </Button>
        </>
      }
    >
      <div className={styles.choice}>
        <Picker<DialectName>
          label="Dialect"
          value={dialect}
          choices={DIALECTS}
          onChange={(chosen) => setDialect(chosen)}
        />
      </div>
      {made !== undefined && (
        <>
          {made.raw.map((raw) => (
            <p key={raw.name} className={styles.raw}>
              <span>
                {nameOf(raw.table)} begins after step {raw.step + 1}
                {raw.why === undefined ? '' : `, which Rimefield does because ${raw.why}`}.
              </span>
              <Button size="small" onClick={() => void saveRaw(raw)}>
                Save {raw.name}.{as}
              </Button>
            </p>
          ))}
          <textarea
            className={styles.script}
            aria-label="Script"
            readOnly
            spellCheck={false}
            wrap="off"
            rows={18}
            value={made.text}
          />
          <p className={styles.quiet} role="status">
            {counted(made.said, 'step')} translated to SQL, for the columns of this report. Next month the command line
            makes its input tables: the script says how.
          </p>
        </>
      )}
    </Sheet>
  );
}
