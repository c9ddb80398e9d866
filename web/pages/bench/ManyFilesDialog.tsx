import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useEffect, useState } from 'react';
import { ExportSpec, grouped, type JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { type FileView, isOvertaken } from '../../engine/protocol.ts';
import { downloadExport } from '../../parts/download-export.ts';
import { bytesOf } from '../../parts/files.ts';
import { Sheet } from '../../parts/Sheet.tsx';
import { dialogAs } from '../../stores/view/asked.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './combine/combine.module.css';
import { ExportChoices } from './ExportChoices.tsx';

/** The method on many files, each on its own: how each of them went, and what they gave as files. */
export function ManyFilesDialog({ table }: { table: JobTable }) {
  const asked = useViewStore(dialogAs('many files'));
  const ask = useViewStore((store) => store.ask);
  const [files, setFiles] = useState<readonly FileView[]>([]);
  const [count, setCount] = useState<{ done: number; all: number } | undefined>();
  const [ended, setEnded] = useState(false);
  const [trouble, setTrouble] = useState('');
  const [spec, setSpec] = useState<ExportSpec>(table.export ?? ExportSpec.parse({ as: 'csv' }));
  useEffect(() => {
    setFiles([]);
    setCount(undefined);
    setEnded(false);
    setTrouble('');
    if (asked === undefined) return;
    let current = true;
    void (async () => {
      try {
        const bytes = await bytesOf(asked.file);
        const file = { name: asked.file.name, bytes };
        await engineClient().runMany(
          { job: asked.job, tableId: asked.table, source: asked.source, file },
          (done, all, view) => {
            if (!current) return;
            setCount({ done, all });
            setFiles((before) => [...before, view]);
          },
        );
        if (current) setEnded(true);
      } catch (error) {
        if (current && !isOvertaken(error)) setTrouble((error as Error).message);
      }
    })();
    return () => {
      current = false;
    };
  }, [asked]);
  if (asked === undefined) return null;
  const close = () => {
    if (!ended) engineClient().cancel();
    ask(undefined);
  };
  const failed = files.filter((file) => file.rows === undefined);
  const well = files.length - failed.length;
  const rows = files.reduce((sum, file) => sum + (file.rows ?? 0), 0);
  const take = async (stacked: boolean) => {
    try {
      downloadExport(
        table.name,
        spec,
        await engineClient().engine.otherFiles.exportMany(table.name, spec, stacked),
        !stacked,
      );
    } catch (error) {
      setTrouble((error as Error).message);
    }
  };
  return (
    <Sheet
      title={`${table.name}, from each file on its own`}
      label="Many files"
      width={640}
      trouble={trouble}
      onClose={close}
      acts={
        <>
          <Button onClick={close}>{ended ? 'Close' : 'Stop'}</Button>
          <Button disabled={!ended || well === 0} onClick={() => void take(true)}>
            One table of all, with their names
          </Button>
          <Button variant="contained" disabled={!ended || well === 0} onClick={() => void take(false)}>
            {well === 1 ? 'Export 1 table' : `Export ${well} tables`}
          </Button>
        </>
      }
    >
      {!ended && trouble === '' && (
        <LinearProgress
          variant="determinate"
          value={count === undefined ? 0 : (count.done / count.all) * 100}
          aria-label="Files done"
        />
      )}
      <p role="status">
        {count === undefined ? 'Unpacking …' : `${count.done} of ${count.all} files`}
        {files.length > 0 && `: ${well} gave ${grouped(rows)} rows`}
        {failed.length > 0 && <b className={styles.stopping}>, {failed.length} failed</b>}
      </p>
      <ul className={styles.eachFile} aria-label="Files">
        {files.map((file, k) => (
          <li key={k} className={file.rows === undefined ? styles.stopping : file.good ? undefined : styles.look}>
            <b>{file.file}</b>
            {file.rows !== undefined && <span>{grouped(file.rows)} rows</span>}
            <em>{file.text}</em>
          </li>
        ))}
      </ul>
      {ended && well > 0 && (
        <div className={styles.spec}>
          <ExportChoices spec={spec} onChange={setSpec} />
        </div>
      )}
    </Sheet>
  );
}
