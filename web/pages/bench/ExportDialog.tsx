import Button from '@mui/material/Button';
import { useState } from 'react';
import { ExportSpec, type Job, type JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { downloadExport } from '../../parts/download-export.ts';
import { notify } from '../../parts/notify.ts';
import { Sheet } from '../../parts/Sheet.tsx';
import { editTable, useJobStore } from '../../stores/job-store.ts';
import { lastRowsOf } from '../../stores/storage.ts';
import styles from './combine/combine.module.css';
import { ExportChoices } from './ExportChoices.tsx';

/** A table, or all of them, as files in open formats; the choices belong to the job. */
export function ExportDialog({ job, table, onClose }: { job: Job; table: JobTable; onClose(): void }) {
  const [spec, setSpec] = useState<ExportSpec>(table.export ?? ExportSpec.parse({ as: 'xlsx' }));
  const [trouble, setTrouble] = useState('');
  const edit = useJobStore((store) => store.edit);
  const take = async (all: boolean) => {
    try {
      const { engine } = engineClient();
      const lastRows = await lastRowsOf(job.id);
      const bytes = all
        ? await engine.exports.all(job, spec, lastRows)
        : await engine.exports.table(job, table.id, spec, lastRows);
      downloadExport(all ? job.name : table.name, spec, bytes, all);
      const told = await engine.exports.changesIn(all ? job.tables.map((one) => one.id) : [table.id], spec);
      if (told !== undefined) notify({ text: told, long: true });
      if (JSON.stringify(table.export) !== JSON.stringify(spec))
        edit('choose an export', (before) => editTable(before, table.id, (one) => ({ ...one, export: spec })));
      onClose();
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };
  return (
    <Sheet
      title={`Export ${table.name}`}
      label="Export"
      width={560}
      trouble={trouble}
      onClose={onClose}
      acts={
        <>
          <Button onClick={onClose}>Cancel</Button>
          {job.tables.length > 1 && <Button onClick={() => void take(true)}>All {job.tables.length} tables</Button>}
          <Button variant="contained" onClick={() => void take(false)}>
            Export
          </Button>
        </>
      }
    >
      <div className={styles.spec}>
        <ExportChoices spec={spec} onChange={setSpec} />
      </div>
    </Sheet>
  );
}
