import type { JobTable } from '../../../core/index.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { useViewStore } from '../../stores/view-store.ts';
import { ActionBar } from './ActionBar.tsx';
import styles from './bench.module.css';
import { shownStep } from './MethodPage.tsx';
import { TablePage } from './TablePage.tsx';
import { useTraceFromTable } from './use-trace.ts';

export function TidyPage({ table }: { table: JobTable }) {
  const view = useMethodStore((store) => store.view);
  const { step: selected, columns, cell, litTable, goToTable, noticed, set } = useViewStore();
  const told = noticed?.of === 'after' ? noticed : undefined;
  const step = shownStep(selected, view);
  const shown = view?.steps[step];
  const trace = useTraceFromTable(table.id, step);
  return (
    <section className={styles.page} aria-label="Tidy">
      <div className={styles.cap}>
        <h2>Tidy</h2>
        {shown !== undefined && (
          <span>
            after step {step + 1} · {shown.rows.toLocaleString('en-GB')} rows × {shown.columns.length} columns
          </span>
        )}
      </div>
      {shown === undefined ? (
        <p className={styles.empty}>The table stands here as soon as the first step has run.</p>
      ) : (
        <TablePage
          label="Tidy table"
          tableId={table.id}
          step={step}
          view={shown}
          lit={told?.cells ?? litTable}
          selected={columns}
          picked={cell}
          onPoint={(at, text) => trace(at, text, false)}
          onPick={(at, text) => {
            set({ cell: at, columns: [], noticed: undefined });
            trace(at, text, true);
          }}
          onSelect={(names) => set({ columns: names, cell: undefined })}
          goTo={told?.goTo ?? goToTable}
        />
      )}
      {shown !== undefined && shown.rows === 0 && <p className={styles.empty}>No row is left after this step.</p>}
      <ActionBar table={table} step={step} />
    </section>
  );
}
