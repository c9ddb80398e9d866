import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import { useState } from 'react';
import { ExportSpec, type Job, type JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { downloadExport } from '../../parts/files.ts';
import { editTable, useJobStore } from '../../stores/job-store.ts';
import styles from './combine/combine.module.css';
import { ExportChoices } from './ExportChoices.tsx';

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
  const take = async (all: boolean) => {
    if (await stopped()) return;
    try {
      const { engine } = engineClient();
      const bytes = all ? await engine.exportedAll(job, spec) : await engine.exported(job, table.id, spec);
      downloadExport(all ? job.name : table.name, spec, bytes, all);
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
      slotProps={{ paper: { className: styles.paper, style: { width: 560 }, 'aria-label': 'Export' } }}
    >
      <h2 className={styles.title}>Export {table.name}</h2>
      <div className={styles.spec}>
        <ExportChoices spec={spec} onChange={setSpec} />
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
