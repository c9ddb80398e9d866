import Dialog from '@mui/material/Dialog';
import type { ComponentType } from 'react';
import { fullTables, type JobStep, type JobTable } from '../../../../core/index.ts';
import { editShown, shownJob } from '../../../stores/draft-store.ts';
import { newId, newStep, useJobStore } from '../../../stores/job-store.ts';
import { dialogAs } from '../../../stores/view/asked.ts';
import { useViewStore } from '../../../stores/view-store.ts';
import { AppendPane } from './AppendPane.tsx';
import styles from './combine.module.css';
import { COMBINING } from './combining.ts';
import { JoinPane } from './JoinPane.tsx';
import type { PaneProps } from './pane-props.ts';
import { SplitOffPane } from './SplitOffPane.tsx';

/** What stands in the dialog for each kind. */
const PANES: Readonly<Record<string, ComponentType<PaneProps>>> = {
  join: (props) => <JoinPane {...props} kind="join" />,
  'look-up': (props) => <JoinPane {...props} kind="look-up" />,
  append: AppendPane,
  'split-off': SplitOffPane,
};

/** Tables that are put together, seen before it is kept. */
export function CombineDialog({ table, step }: { table: JobTable; step: number }) {
  const combine = useViewStore(dialogAs('combine'));
  const { ask, showStep } = useViewStore.getState();
  const job = useJobStore((store) => store.job)!;
  const edit = useJobStore((store) => store.edit);
  const close = () => ask(undefined);
  if (combine === undefined) return null;
  const { kind, step: changed } = combine;
  const { title } = COMBINING[kind]!;
  const Pane = PANES[kind]!;
  const at = changed === undefined ? step : changed - 1;
  const keep: PaneProps['onKeep'] = (one, before = []) => {
    close();
    edit(`${changed === undefined ? 'add' : 'change'} ${title.toLowerCase()}`, (whole) =>
      editShown(whole, table.id, (own) => {
        const kept: JobStep = changed === undefined ? newStep(one) : { ...own.steps[changed]!, ...one };
        const fresh = [...before.map((each) => ({ ...each, id: newId() })), kept];
        return { ...own, steps: own.steps.toSpliced(at + 1, changed === undefined ? 0 : 1, ...fresh) };
      }),
    );
    const last = at + 1 >= table.steps.length;
    showStep(last ? undefined : at + 1 + before.length);
  };
  const props: PaneProps = {
    table,
    place: { tables: fullTables(shownJob(job)), tableId: table.id, at },
    params: changed === undefined ? undefined : table.steps[changed]?.params,
    onKeep: keep,
    onClose: close,
  };
  return (
    <Dialog
      open
      onClose={close}
      maxWidth={false}
      slotProps={{ paper: { className: styles.paper, 'aria-label': title } }}
    >
      <h2 className={styles.title}>{title}</h2>
      <Pane {...props} />
    </Dialog>
  );
}
