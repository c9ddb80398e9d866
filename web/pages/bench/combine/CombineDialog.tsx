import Dialog from '@mui/material/Dialog';
import { fullTables, type JobStep, type JobTable } from '../../../../core/index.ts';
import { editTable, newId, newStep, useJobStore } from '../../../stores/job-store.ts';
import { type Combined, useViewStore } from '../../../stores/view-store.ts';
import { AppendPane } from './AppendPane.tsx';
import styles from './combine.module.css';
import { JoinPane } from './JoinPane.tsx';
import type { PaneProps } from './pane-props.ts';
import { SplitOffPane } from './SplitOffPane.tsx';

const TITLES: Record<Combined, string> = {
  join: 'Join a table',
  'look-up': 'Look up in another table',
  append: 'Append tables',
  'split-off': 'Split off columns',
};

/** Tables that are put together, seen before it is kept. */
export function CombineDialog({ table, step }: { table: JobTable; step: number }) {
  const combine = useViewStore((store) => store.combine);
  const set = useViewStore((store) => store.set);
  const job = useJobStore((store) => store.job)!;
  const edit = useJobStore((store) => store.edit);
  const close = () => set({ combine: undefined });
  if (combine === undefined) return null;
  const { kind, step: changed } = combine;
  const at = changed === undefined ? step : changed - 1;
  const keep: PaneProps['onKeep'] = (one, before = []) => {
    close();
    edit(`${changed === undefined ? 'add' : 'change'} ${TITLES[kind].toLowerCase()}`, (whole) =>
      editTable(whole, table.id, (own) => {
        const kept: JobStep = changed === undefined ? newStep(one) : { ...own.steps[changed]!, ...one };
        const fresh = [...before.map((each) => ({ ...each, id: newId() })), kept];
        return { ...own, steps: own.steps.toSpliced(at + 1, changed === undefined ? 0 : 1, ...fresh) };
      }),
    );
    const last = at + 1 >= table.steps.length;
    set({ step: last ? undefined : at + 1 + before.length, columns: [], cell: undefined, range: undefined });
  };
  const props: PaneProps = {
    table,
    place: { tables: fullTables(job), tableId: table.id, at },
    params: changed === undefined ? undefined : table.steps[changed]?.params,
    onKeep: keep,
    onClose: close,
  };
  return (
    <Dialog
      open
      onClose={close}
      maxWidth={false}
      slotProps={{ paper: { className: styles.paper, 'aria-label': TITLES[kind] } }}
    >
      <h2 className={styles.title}>{TITLES[kind]}</h2>
      {(kind === 'join' || kind === 'look-up') && <JoinPane {...props} kind={kind} />}
      {kind === 'append' && <AppendPane {...props} />}
      {kind === 'split-off' && <SplitOffPane {...props} />}
    </Dialog>
  );
}
