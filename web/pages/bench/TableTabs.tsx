import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { Link } from 'react-router';
import { FROM_TABLE, type Job, type JobTable } from '../../../core/index.ts';
import { pickFile, SOURCE_FILES } from '../../parts/files.ts';
import { NameInput } from '../../parts/NameInput.tsx';
import { notifyError } from '../../parts/report-error.ts';
import { editTable, newId, newStep, useJobStore } from '../../stores/job-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { SameMethodDialog } from './combine/SameMethodDialog.tsx';

/** The tables of the job; + adds one that starts from this one or reads its source again. A double click renames. */
export function TableTabs({ job, table }: { job: Job; table: JobTable }) {
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const edit = useJobStore((store) => store.edit);
  const show = useViewStore((store) => store.showTable);
  const add = (steps: JobTable['steps']) => {
    const id = newId();
    edit('add a table', (before) => ({
      ...before,
      tables: [...before.tables, { id, name: `Table ${before.tables.length + 1}`, steps }],
    }));
    show(id);
  };
  const [naming, setNaming] = useState<string | undefined>();
  const rename = (id: string, name: string) => {
    setNaming(undefined);
    const before = job.tables.find((one) => one.id === id)?.name;
    if (name !== '' && name !== before)
      edit('rename a table', (whole) => editTable(whole, id, (one) => ({ ...one, name })));
  };
  const remove = () => {
    edit('remove a table', (before) => ({ ...before, tables: before.tables.filter((one) => one.id !== table.id) }));
    show(undefined);
  };
  const [spreading, setSpreading] = useState(false);
  const addFile = async () => {
    const file = await pickFile(SOURCE_FILES, true);
    if (file === undefined) return;
    try {
      show(await useJobStore.getState().addSource(file));
    } catch (error) {
      notifyError(error);
    }
  };
  const first = table.steps[0];
  return (
    <div className={styles.tables}>
      <div className={styles.tableTabs} role="tablist" aria-label="Tables">
        {job.tables.map((one) =>
          one.id === naming ? (
            <NameInput
              key={one.id}
              className={styles.tableName}
              label="Name of the table"
              text={one.name}
              onDone={(name) => rename(one.id, name)}
            />
          ) : (
            <button
              key={one.id}
              type="button"
              role="tab"
              aria-selected={one.id === table.id}
              onClick={() => show(one.id)}
              onDoubleClick={() => setNaming(one.id)}
            >
              {one.name}
            </button>
          ),
        )}
      </div>
      <button
        type="button"
        aria-label="More about tables"
        aria-haspopup="menu"
        onClick={(event) => setMenu(event.currentTarget)}
      >
        +
      </button>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)} onClick={() => setMenu(null)}>
        <MenuItem onClick={() => add([newStep({ kind: FROM_TABLE, params: { table: table.id, step: null } })])}>
          New table from {table.name}
        </MenuItem>
        {first !== undefined && first.kind !== FROM_TABLE && (
          <MenuItem onClick={() => add([newStep({ kind: first.kind, params: first.params })])}>
            New table from the same report
          </MenuItem>
        )}
        <MenuItem onClick={() => void addFile()}>New table from another file</MenuItem>
        {first !== undefined && first.kind !== FROM_TABLE && (
          <MenuItem onClick={() => setSpreading(true)}>The same method on other sheets or sources</MenuItem>
        )}
        <MenuItem onClick={() => setNaming(table.id)}>Rename {table.name}</MenuItem>
        {job.tables.length > 1 && <MenuItem onClick={remove}>Remove {table.name}</MenuItem>}
      </Menu>
      {spreading && <SameMethodDialog table={table} onClose={() => setSpreading(false)} />}
      {(job.tables.length > 1 || job.sources.length > 1) && (
        <Link className={styles.mapLink} to={`/jobs/${job.id}/map`}>
          Map
        </Link>
      )}
    </div>
  );
}
