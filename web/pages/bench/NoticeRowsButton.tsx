import { useState } from 'react';
import { grouped } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import type { NoticeView } from '../../engine/protocol.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';

/** The warnings of a step. */
export function NoticeRowsButtons({
  notices,
  tableId,
  step,
}: {
  notices: readonly NoticeView[] | undefined;
  tableId: string;
  step: number;
}) {
  return notices?.map(
    (notice, n) =>
      notice.severity === 'warning' && (
        <NoticeRowsButton key={notice.text} notice={notice} tableId={tableId} step={step} index={n} />
      ),
  );
}

/** A warning; where it is about rows, each click leads to the next of them. */
function NoticeRowsButton({
  notice,
  tableId,
  step,
  index,
}: {
  notice: NoticeView;
  tableId: string;
  step: number;
  index: number;
}) {
  const [at, setAt] = useState(0);
  if (notice.rows === undefined || notice.rows.count === 0) return <p className={styles.look}>{notice.text}</p>;
  const { of } = notice.rows;
  const lead = async () => {
    const { rows, column } = await engineClient().engine.method.noticed(tableId, step, index);
    const row = rows[at % rows.length];
    if (row === undefined) return;
    const cells = rows.map((one) => ({ row: one, column: Math.max(0, column) }));
    const { showStep, face, notice } = useViewStore.getState();
    showStep(step);
    if (of === 'before') face('before');
    notice({ of, cells, goTo: { row, column: Math.max(0, column) } });
    setAt(at + 1);
  };
  return (
    <button
      type="button"
      className={styles.look}
      title={`Step through the rows (${grouped(notice.rows.count)})`}
      onClick={(event) => {
        event.stopPropagation();
        void lead();
      }}
    >
      {notice.text}
    </button>
  );
}
