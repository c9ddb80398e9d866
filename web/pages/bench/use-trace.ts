import { useCallback } from 'react';
import { grouped, NAME } from '../../../core/index.ts';
import { engineClient } from '../../engine/client.ts';
import type { ReportAddress, TableCell, Traced, TracedToReport, TracedToTable } from '../../engine/protocol.ts';
import type { GridRange } from '../../parts/grid/grid-types.ts';
import { useLatest } from '../../parts/use-latest.ts';
import { useViewStore } from '../../stores/view-store.ts';

export function cameFrom(traced: Traced<TracedToReport>): string {
  const { cells, total } = traced;
  if (total === 0) return 'computed, from no cell of the report';
  const places = cells.slice(0, 3).map((cell) => cell.place);
  const more = total > places.length ? ` and ${grouped(total - places.length)} more` : '';
  const first = cells[0]!.role;
  const how = first === 'name' ? ' (column name)' : first === 'label' && cells[0]!.row !== NAME ? ' (label)' : '';
  return `came from ${places.join(', ')}${more}${how}`;
}

/** Pointing at a tidy cell lights the report's cells; picking it also goes there. */
export function useTraceFromTable(tableId: string, step: number) {
  const { latest } = useLatest();
  const trace = useCallback(
    (cell: TableCell | undefined, text: string, go: boolean) => {
      const { selection, light, dark, goTo } = useViewStore.getState();
      // What a rectangle came from stays lit while the pointer rests or leaves.
      if (selection?.of === 'range' && !go) return;
      if (cell === undefined) {
        latest(
          () => undefined,
          () => dark(),
        );
        return;
      }
      latest(
        () => engineClient().engine.traces.toReport(tableId, step, cell),
        (traced) => {
          const first = traced.cells.find((one) => one.row !== NAME && !one.elsewhere);
          light({
            litReport: traced.cells,
            litTable: [{ ...cell, role: 'value' }],
            saying: { of: text === '' ? 'A blank cell' : text, text: cameFrom(traced) },
          });
          if (go && first !== undefined) goTo({ ...first, on: 'report' });
        },
      );
    },
    [tableId, step, latest],
  );
  const traceRange = useCallback(
    (range: GridRange) =>
      latest(
        () => engineClient().engine.traces.rangeToReport(tableId, step, range),
        (traced) => {
          const rows = range.to.row - range.from.row + 1;
          const columns = range.to.column - range.from.column + 1;
          useViewStore.getState().light({
            litReport: traced.cells,
            litTable: [],
            saying: { of: `${rows} × ${columns} cells`, text: cameFrom(traced) },
          });
        },
      ),
    [tableId, step, latest],
  );
  return { trace, traceRange };
}

/** Goes to the next lit cell of the report, or of the table where the pages are the other way round. */
export function nextLit(by: number): void {
  const { litReport, litTable, light, goTo } = useViewStore.getState();
  const there = litReport.filter((cell) => cell.row !== NAME && !cell.elsewhere);
  const here = litTable.filter((cell) => cell.row !== NAME);
  const [cells, where] = there.length >= here.length ? [there, 'report'] : [here, 'table'];
  if (cells.length === 0) return;
  lit = (((lit + by) % cells.length) + cells.length) % cells.length;
  const cell = cells[lit]!;
  if (where === 'report') {
    const to = there[lit]!;
    goTo({ ...to, on: 'report' });
    light({ saying: { of: to.place, text: `${lit + 1} of ${cells.length} it came from` } });
  } else goTo({ ...cell, on: 'table' });
}

let lit = -1;

/** Pointing at a cell of the report lights the tidy cells that came from it; picking it also goes there. */
export function useTraceFromReport(tableId: string, step: number) {
  const { latest } = useLatest();
  return useCallback(
    (cell: ReportAddress | undefined, text: string, place: string, go: boolean) => {
      const { light, dark, goTo } = useViewStore.getState();
      if (cell === undefined || text === '') {
        latest(
          () => undefined,
          () => dark(),
        );
        return;
      }
      latest(
        () => engineClient().engine.traces.toTable(tableId, step, cell),
        (traced) => {
          const first = traced.cells.find((one) => one.row !== NAME);
          light({
            litReport: [{ ...cell, role: 'value', place }],
            litTable: traced.cells,
            saying: { of: `${text} in ${place}`, text: wentTo(traced) },
          });
          if (go && first !== undefined) goTo({ ...first, on: 'table' });
        },
      );
    },
    [tableId, step, latest],
  );
}

export function wentTo({ cells, total }: Traced<TracedToTable>): string {
  if (total === 0) return 'is not in the table';
  const names = cells.filter((cell) => cell.row === NAME).length;
  if (names === total) return 'is a column name';
  return total === 1 ? 'is one cell of the table' : `is in ${grouped(total)} cells of the table`;
}
