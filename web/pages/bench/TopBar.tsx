import Redo from '@mui/icons-material/Redo';
import Undo from '@mui/icons-material/Undo';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import { useState } from 'react';
import { Link } from 'react-router';
import { ExportSpec, type JobTable, writeJobFile } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { downloadExport } from '../../parts/download-export.ts';
import { downloadFile, fileName } from '../../parts/files.ts';
import { Mark } from '../../parts/Mark.tsx';
import { notify } from '../../parts/notify.ts';
import { notifyError } from '../../parts/report-error.ts';
import { useDraftStore } from '../../stores/draft-store.ts';
import { useJobStore } from '../../stores/job-store.ts';
import { lastRowsOf } from '../../stores/storage.ts';
import styles from './bench.module.css';
import { copyTable } from './copy.ts';
import { ExportDialog } from './ExportDialog.tsx';
import { RunAgain } from './RunAgain.tsx';
import { SqlDialog } from './SqlDialog.tsx';
import { TableTabs } from './TableTabs.tsx';
import { takeBack } from './use-bench-keys.ts';

export function TopBar({ table }: { table: JobTable }) {
  const { job, past, future, redo, edit, save } = useJobStore();
  const drafts = useDraftStore();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [exporting, setExporting] = useState(false);
  const [saying, setSaying] = useState(false);
  if (job === undefined) return null;
  const saveJobFile = () => downloadFile(`${fileName(job.name)}.job.json`, 'application/json', writeJobFile(job));
  const refuse = (error: unknown) => notifyError(new Error(`Nothing was exported: ${(error as Error).message}`));
  const exportCsv = async () => {
    try {
      const spec = table.export?.as === 'csv' ? table.export : ExportSpec.parse({ as: 'csv' });
      downloadExport(
        table.name,
        spec,
        await engineClient().engine.exports.table(job, table.id, spec, await lastRowsOf(job.id)),
        false,
      );
      const told = await engineClient().engine.exports.changesIn([table.id], spec);
      if (told !== undefined) notify({ text: told, long: true });
    } catch (error) {
      refuse(error);
    }
  };
  const copyAll = async () => {
    try {
      const { text, page } = await engineClient().engine.exports.clipboard(job, table.id, await lastRowsOf(job.id));
      await copyTable(text, page);
      notify({ text: `${table.name} is on the clipboard, ready to be pasted into a spreadsheet or a mail.` });
    } catch (error) {
      refuse(error);
    }
  };
  const changedDraft = drafts.past.length > 0;
  const last = changedDraft ? 'change the draft' : past.at(-1)?.label;
  const unkept = drafts.current?.tableId === table.id ? drafts.current : undefined;
  return (
    <header className={styles.top}>
      <Link to="/" className={styles.brand} title="To the shelf">
        <Mark /> Rimefield
      </Link>
      <input
        className={styles.jobName}
        aria-label="Name of the job"
        value={job.name}
        size={Math.max(8, job.name.length)}
        onChange={(event) =>
          event.target.value !== '' &&
          edit('rename the job', (before) => ({ ...before, name: event.target.value }), 'job-name')
        }
      />
      <span className={styles.saved} role="status">
        {save.as === 'saving' && 'saving'}
        {save.as === 'saved' &&
          save.at > 0 &&
          `saved ${new Date(save.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}`}
      </span>
      {save.as === 'refused' && (
        <span className={styles.refused} role="alert">
          This browser could not store {job.name}: {save.why}.
          <Button size="small" onClick={saveJobFile}>
            Save the job file
          </Button>
        </span>
      )}
      <TableTabs job={job} table={table} />
      <span className={styles.space} />
      <Tooltip title={last === undefined ? 'Nothing to undo since this page was loaded' : `Undo: ${last} (Ctrl Z)`}>
        <span>
          <IconButton size="small" aria-label="Undo" disabled={last === undefined} onClick={takeBack}>
            <Undo fontSize="small" />
          </IconButton>
        </span>
      </Tooltip>
      <Tooltip title={future.length === 0 ? 'Nothing to redo' : `Redo: ${future[0]!.label} (Ctrl Shift Z)`}>
        <span>
          <IconButton size="small" aria-label="Redo" disabled={future.length === 0} onClick={redo}>
            <Redo fontSize="small" />
          </IconButton>
        </span>
      </Tooltip>
      <RunAgain job={job} table={table} />
      <Button variant="contained" aria-haspopup="menu" onClick={(event) => setMenu(event.currentTarget)}>
        Export
      </Button>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)} onClick={() => setMenu(null)}>
        {unkept !== undefined && (
          <MenuItem disabled className={styles.unkept}>
            {unkept.from < 2
              ? 'The draft is not kept yet: only the reading is exported.'
              : `The draft is not kept yet: only steps 1 to ${unkept.from} are exported.`}
          </MenuItem>
        )}
        {unkept !== undefined && <MenuItem onClick={() => drafts.keep()}>Keep the draft first</MenuItem>}
        <MenuItem onClick={() => void exportCsv()}>Tidy table as CSV</MenuItem>
        <MenuItem onClick={() => setExporting(true)}>Other formats …</MenuItem>
        <MenuItem onClick={() => void copyAll()}>Copy the whole table</MenuItem>
        <MenuItem onClick={() => setSaying(true)}>Method as SQL …</MenuItem>
        <MenuItem onClick={saveJobFile}>Job file</MenuItem>
      </Menu>
      {saying && <SqlDialog job={job} table={table} onClose={() => setSaying(false)} />}
      {exporting && <ExportDialog job={job} table={table} onClose={() => setExporting(false)} />}
    </header>
  );
}
