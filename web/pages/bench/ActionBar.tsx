import Close from '@mui/icons-material/Close';
import { useEffect, useState } from 'react';
import type { JobTable } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import styles from './bench.module.css';
import { useAddStep } from './use-add-step.ts';

const ON_COLUMNS: readonly { kind: string; label: string; one?: boolean }[] = [
  { kind: 'set-types', label: 'Set type' },
  { kind: 'rename', label: 'Rename' },
  { kind: 'unpivot', label: 'Unpivot' },
  { kind: 'carry', label: 'Carry down', one: true },
  { kind: 'keep-columns', label: 'Keep' },
  { kind: 'drop-columns', label: 'Drop' },
];

/** The actions that fit what is selected, docked at the foot of the page so that it covers no data for long. */
export function ActionBar({ table, step }: { table: JobTable; step: number }) {
  const { columns, cell, set } = useViewStore();
  const brief = useMethodStore((store) => store.view?.steps[step]?.columns);
  const addStep = useAddStep(table, step);
  const text = useCellText(table.id, step, cell);
  if (columns.length > 0) {
    return (
      <div className={styles.bar} role="toolbar" aria-label="Actions for the selected columns">
        <span className={styles.barName}>{columns.length === 1 ? columns[0] : `${columns.length} columns`}</span>
        {ON_COLUMNS.filter((action) => !action.one || columns.length === 1).map((action) => (
          <button key={action.kind} type="button" onClick={() => void addStep(action.kind, action.label)}>
            {action.label}
          </button>
        ))}
        <CloseBar onClick={() => set({ columns: [] })} />
      </div>
    );
  }
  const column = cell === undefined ? undefined : brief?.[cell.column]?.name;
  if (cell === undefined || column === undefined || text === undefined) return null;
  const rule =
    text === ''
      ? { test: 'blank', columns: { by: 'names', names: [column] } }
      : { test: 'equals', column, text, exact: true };
  return (
    <div className={styles.bar} role="toolbar" aria-label="Actions for the picked cell">
      <span className={styles.barName}>{text === '' ? `${column} is blank` : text}</span>
      <button
        type="button"
        onClick={() => void addStep('set-aside', 'set aside rows', [column], { pile: 'others', rules: [rule] })}
      >
        Set aside rows like this
      </button>
      <button
        type="button"
        onClick={() =>
          void addStep('header-from-rows', 'header from rows', [column], {
            rows: 1,
            at: text === '' ? null : rule,
            join: ' / ',
            fillAcross: true,
            above: true,
            within: brief?.find((one) => one.standing === 'beside')?.name,
            repeats: true,
          })
        }
      >
        Header from this row
      </button>
      <CloseBar onClick={() => set({ cell: undefined })} />
    </div>
  );
}

function CloseBar({ onClick }: { onClick(): void }) {
  return (
    <button type="button" aria-label="Clear the selection" onClick={onClick}>
      <Close style={{ fontSize: 14 }} />
    </button>
  );
}

function useCellText(
  tableId: string,
  step: number,
  cell: { row: number; column: number } | undefined,
): string | undefined {
  const [text, setText] = useState<string | undefined>();
  useEffect(() => {
    let current = true;
    setText(undefined);
    if (cell !== undefined) {
      void engineClient()
        .engine.rows(tableId, step, cell.row, cell.row + 1)
        .then((rows) => {
          if (current) setText(rows[0]?.cells[cell.column]?.text);
        });
    }
    return () => {
      current = false;
    };
  }, [tableId, step, cell]);
  return text;
}
