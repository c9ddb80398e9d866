import { lazy, type MouseEvent, Suspense, useState } from 'react';
import { grouped, type JobTable } from '../../../core/index.ts';
import { PREVIEW } from '../../engine/protocol.ts';
import { useDraftStore } from '../../stores/draft-store.ts';
import { useMethodStore } from '../../stores/method-store.ts';
import { keyOf } from '../../stores/use-engine-query.ts';
import { useViewStore } from '../../stores/view-store.ts';
import { ActionBar } from './ActionBar.tsx';
import styles from './bench.module.css';
import { showWanted } from './draft/show-wanted.ts';
import { WantedPanel } from './draft/WantedPanel.tsx';
import { FindBar } from './FindBar.tsx';
import { shownStep } from './MethodPage.tsx';
import { TablePage } from './TablePage.tsx';
import { useRenameColumn } from './use-rename-column.ts';
import { useReportFollows } from './use-together.ts';
import { useTraceFromTable } from './use-trace.ts';

// Drawing needs a large library, which is fetched when something is drawn.
const ChartPage = lazy(async () => ({ default: (await import('./ChartPage.tsx')).ChartPage }));
const GlancePanel = lazy(async () => ({ default: (await import('./GlancePanel.tsx')).GlancePanel }));

const NOTHING: never[] = [];

export function TidyPage({ table }: { table: JobTable }) {
  const view = useMethodStore((store) => store.view);
  const {
    step: selected,
    selection,
    litTable,
    journey,
    noticed,
    preview,
    glance,
    finding,
    follow,
    select,
    notice,
  } = useViewStore();
  const [asChart, setAsChart] = useState(false);
  const from = useDraftStore((store) => (store.current?.tableId === table.id ? store.current.from : undefined));
  const told = noticed?.of === 'after' ? noticed : undefined;
  const taking = useViewStore((store) => store.takeColumn);
  const step = taking?.step ?? shownStep(selected, view);
  const shown = view?.steps[step];
  const wanting = useDraftStore((store) => store.wanted?.tableId === table.id);
  const drafted = from !== undefined && step >= from;
  const { trace, traceRange } = useTraceFromTable(table.id, step);
  const tried = preview?.view === undefined ? undefined : preview;
  const rename = useRenameColumn(table, step);
  const scrolled = useReportFollows(table.id, step);
  const selectText = (event: MouseEvent) => {
    const stretch = selectedStretch(event.currentTarget as HTMLElement);
    if (stretch !== undefined) select({ of: 'stretch', ...stretch });
  };
  return (
    <section className={styles.page} aria-label="Tidy">
      <div className={styles.cap}>
        <h2>Tidy</h2>
        {taking !== undefined ? (
          <span className={styles.trying}>before step {step + 2} · click on the columns</span>
        ) : preview !== undefined ? (
          <span className={styles.trying} role="status">
            {preview.stop === undefined
              ? `${preview.label}: ${grouped(preview.view?.rows ?? 0)} rows × ${preview.view?.columns.length} columns, not taken yet`
              : preview.stop}
          </span>
        ) : (
          shown !== undefined && (
            <span>
              {drafted ? 'drafted' : `after step ${step + 1}`} · {grouped(shown.rows)} rows × {shown.columns.length}{' '}
              columns
            </span>
          )
        )}
        {shown !== undefined && !wanting && (
          <button type="button" className={styles.capButton} onClick={() => showWanted(table.id, shown)}>
            Show the row you want
          </button>
        )}
        {shown !== undefined && (
          <span className={styles.facing} role="group" aria-label="Show as">
            {[false, true].map((chart) => (
              <button
                key={String(chart)}
                type="button"
                aria-pressed={asChart === chart}
                onClick={() => setAsChart(chart)}
              >
                {chart ? 'chart' : 'table'}
              </button>
            ))}
          </span>
        )}
      </div>
      {finding && <FindBar table={table} step={step} />}
      {shown === undefined ? (
        <p className={styles.empty}>The table appears here once the first step has run.</p>
      ) : asChart ? (
        <Suspense fallback={<p className={styles.empty}>Drawing …</p>}>
          <ChartPage tableId={table.id} step={step} view={shown} />
        </Suspense>
      ) : (
        <div className={styles.beside}>
          <div className={styles.sheet} onMouseUp={selectText}>
            <TablePage
              label="Tidy table"
              tableId={tried === undefined ? table.id : PREVIEW}
              step={tried === undefined ? step : tried.at + 1}
              version={tried === undefined ? undefined : keyOf(tried)}
              view={tried?.view ?? shown}
              lit={tried === undefined ? (told?.cells ?? litTable) : NOTHING}
              selected={selection?.of === 'columns' ? selection.names : NOTHING}
              picked={selection?.of === 'cell' || selection?.of === 'example' ? selection : undefined}
              range={selection?.of === 'range' ? selection : undefined}
              onRange={(next) => {
                if (next !== undefined) {
                  select({ of: 'range', ...next });
                  traceRange(next);
                } else if (selection?.of === 'range') select(undefined);
              }}
              onPoint={(at, text) => trace(at, text, false)}
              onPick={(at, text) => {
                if (String(getSelection()) !== '') return;
                select({ of: 'cell', ...at });
                notice(undefined);
                trace(at, text, true);
              }}
              onSelect={(names) => select(names.length === 0 ? undefined : { of: 'columns', names })}
              onExample={tried === undefined ? (at, wanted) => select({ of: 'example', ...at, wanted }) : undefined}
              onRename={tried === undefined ? rename : undefined}
              goTo={tried === undefined ? (told?.goTo ?? (journey?.on === 'table' ? journey : undefined)) : undefined}
              onScrolled={tried === undefined ? scrolled : undefined}
              follow={tried === undefined && follow?.on === 'table' ? follow : undefined}
            />
          </div>
          {glance !== undefined && (
            <Suspense fallback={null}>
              <GlancePanel table={table} step={step} column={glance} />
            </Suspense>
          )}
        </div>
      )}
      {shown !== undefined && shown.rows === 0 && <p className={styles.empty}>No row is left after this step.</p>}
      <ActionBar table={table} step={step} />
      {wanting && <WantedPanel table={table} />}
    </section>
  );
}

/** A stretch of text selected inside one cell. */
function selectedStretch(within: HTMLElement) {
  const selection = getSelection();
  if (selection === null || selection.isCollapsed || selection.rangeCount === 0) return undefined;
  const range = selection.getRangeAt(0);
  const node = range.commonAncestorContainer;
  const cell = (node instanceof HTMLElement ? node : node.parentElement)?.closest<HTMLElement>('[data-cell]');
  if (!cell || !within.contains(cell) || range.startContainer !== range.endContainer) return undefined;
  const [row, column] = cell.dataset['cell']!.split(':').map(Number);
  const text = range.toString();
  if (row === undefined || column === undefined || text === '') return undefined;
  return { row, column, from: range.startOffset, to: range.endOffset, text };
}
