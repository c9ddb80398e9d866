import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import { useState } from 'react';
import {
  EXPORT_FORMATS,
  type ExportFormat,
  ExportSpec,
  fullTables,
  type Job,
  type JobTable,
} from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { downloadFile, fileName } from '../../parts/files.ts';
import { Picker } from '../../parts/sentence/fields.tsx';
import { editTable, useJobStore } from '../../stores/job-store.ts';
import styles from './combine/combine.module.css';

type Csv = Extract<ExportSpec, { as: 'csv' }>;

const DELIMITERS = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'bar' };

/** A table, or all of them, as files in open formats; the choices belong to the job. */
export function ExportDialog({
  job,
  table,
  stopped,
  onClose,
}: {
  job: Job;
  table: JobTable;
  /** Whether a check forbids it; says so itself. */
  stopped(): Promise<boolean>;
  onClose(): void;
}) {
  const [spec, setSpec] = useState<ExportSpec>(table.export ?? ExportSpec.parse({ as: 'xlsx' }));
  const [trouble, setTrouble] = useState('');
  const edit = useJobStore((store) => store.edit);
  const put = (change: Partial<Csv> | { layout: 'rows' | 'columns' }) => setSpec({ ...spec, ...change } as ExportSpec);
  const take = async (all: boolean) => {
    if (await stopped()) return;
    try {
      const { engine } = engineClient();
      const tables = fullTables(job);
      const bytes = all ? await engine.exportedAll(tables, spec) : await engine.exported(tables, table.id, spec);
      const { ending, type } = EXPORT_FORMATS[spec.as];
      const whole = all && spec.as !== 'xlsx' && spec.as !== 'ods';
      downloadFile(
        `${fileName(all ? job.name : table.name)}.${whole ? 'zip' : ending}`,
        whole ? 'application/zip' : type,
        bytes,
      );
      if (JSON.stringify(table.export) !== JSON.stringify(spec))
        edit('choose an export', (before) => editTable(before, table.id, (one) => ({ ...one, export: spec })));
      onClose();
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      slotProps={{ paper: { className: styles.paper, style: { width: 480 }, 'aria-label': 'Export' } }}
    >
      <h2 className={styles.title}>Export {table.name}</h2>
      <div className={styles.choice}>
        <Picker<ExportFormat>
          label="Format"
          value={spec.as}
          choices={
            Object.fromEntries(
              Object.entries(EXPORT_FORMATS).map(([as, { title, ending }]) => [as, `${title} (.${ending})`]),
            ) as Record<ExportFormat, string>
          }
          onChange={(as) => setSpec(ExportSpec.parse({ as, unreadable: spec.unreadable }))}
        />
        {spec.as === 'csv' && (
          <>
            <Picker
              label="Delimiter"
              value={spec.delimiter}
              choices={DELIMITERS}
              onChange={(delimiter) => put({ delimiter })}
            />
            <Picker
              label="Decimal mark"
              value={spec.decimal}
              choices={{ '.': 'decimal point', ',': 'decimal comma' }}
              onChange={(decimal) => put({ decimal })}
            />
            <Picker
              label="Quoting"
              value={spec.quoting}
              choices={{ needed: 'quotes where they are needed', all: 'quotes around every cell' }}
              onChange={(quoting) => put({ quoting })}
            />
            <Picker
              label="Line ends"
              value={spec.lineEnd}
              choices={{ crlf: 'line ends CR LF', lf: 'line ends LF' }}
              onChange={(lineEnd) => put({ lineEnd })}
            />
            <Picker
              label="Byte order mark"
              value={String(spec.bom)}
              choices={{ false: 'UTF-8', true: 'UTF-8 with a byte order mark' }}
              onChange={(text) => put({ bom: text === 'true' })}
            />
            <Picker
              label="Formulas"
              value={String(spec.guard)}
              choices={{ false: 'texts as they are', true: 'guard texts that a spreadsheet would compute' }}
              onChange={(text) => put({ guard: text === 'true' })}
            />
          </>
        )}
        {spec.as === 'json' && (
          <Picker
            label="Layout"
            value={spec.layout}
            choices={{ rows: 'an object for each row', columns: 'a list for each column' }}
            onChange={(layout) => put({ layout })}
          />
        )}
        <Picker
          label="Unreadable cells"
          value={spec.unreadable}
          choices={{
            text: 'unreadable cells as their text',
            blank: 'unreadable cells blank',
            stop: 'stop at unreadable cells',
          }}
          onChange={(unreadable) => setSpec({ ...spec, unreadable })}
        />
      </div>
      {trouble !== '' && (
        <p className={styles.look} role="alert">
          {trouble}
        </p>
      )}
      <div className={styles.foot}>
        <Button onClick={onClose}>Leave it</Button>
        {job.tables.length > 1 && <Button onClick={() => void take(true)}>All {job.tables.length} tables</Button>}
        <Button variant="contained" onClick={() => void take(false)}>
          Export
        </Button>
      </div>
    </Dialog>
  );
}
