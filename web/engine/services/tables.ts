import {
  type ChartData,
  cellOffers,
  cellText,
  chartOf,
  columnOffers,
  exampleOffers,
  type Field,
  type Found,
  findText,
  type Glance,
  glanceAt,
  type Offer,
  stretchOffers,
  textView,
} from '../../../core/index.ts';
import type { ColumnView, RowView, Selection } from '../protocol.ts';
import { type EngineState, MAX_SENT } from '../state.ts';
import { tableColumns, tableRows } from '../views.ts';

/** The table after a step, as it is looked at. */
export class Tables {
  constructor(private readonly state: EngineState) {}

  columns(tableId: string, step: number): ColumnView[] {
    const table = this.state.tableOf(tableId, step);
    return table === undefined ? [] : tableColumns(table);
  }

  rows(tableId: string, step: number, from: number, to: number): RowView[] {
    const table = this.state.tableOf(tableId, step);
    return table === undefined ? [] : tableRows(table, from, to);
  }

  /** What can be done with what is selected after a step. */
  offers(tableId: string, step: number, selection: Selection): Offer[] {
    const table = this.state.tableOf(tableId, step);
    if (table === undefined || selection.of === 'range') return [];
    if (selection.of === 'columns') return columnOffers(table, selection.names);
    const column = table.fields[selection.column]?.name ?? '';
    if (selection.of === 'example') return exampleOffers(table, selection.row, column, selection.wanted);
    return selection.of === 'cell'
      ? cellOffers(table, selection.row, column)
      : stretchOffers(table, selection.row, column, selection.from, selection.to);
  }

  glance(tableId: string, step: number, column: string): Glance | undefined {
    const field = this.fieldOf(tableId, step, column);
    return field === undefined ? undefined : glanceAt(field.column);
  }

  chart(
    tableId: string,
    step: number,
    by: string,
    split: string | null,
    measure: string | null,
  ): ChartData | undefined {
    const table = this.state.tableOf(tableId, step);
    return table === undefined ? undefined : chartOf(table, by, split, measure);
  }

  /** Rows of the table in which a column reads like this. */
  rowsWith(tableId: string, step: number, column: string, text: string | null): { rows: number[]; total: number } {
    const field = this.fieldOf(tableId, step, column);
    if (field === undefined) return { rows: [], total: 0 };
    const { codes, texts } = textView(field.column);
    const code = text === null ? -1 : texts.indexOf(text);
    const rows: number[] = [];
    let total = 0;
    codes.forEach((own, row) => {
      if (own !== code || (text !== null && code < 0)) return;
      total++;
      if (rows.length < MAX_SENT) rows.push(row);
    });
    return { rows, total };
  }

  /** Cells that hold a text. */
  find(tableId: string, step: number, text: string): { cells: Found[]; total: number } {
    const table = this.state.tableOf(tableId, step);
    if (table === undefined) return { cells: [], total: 0 };
    return findText(
      table.fields.map((field) => field.column),
      text,
      MAX_SENT,
    );
  }

  /** Cells from one corner to the other as tab-separated text, with the column names above them if wanted. */
  copyText(tableId: string, step: number, range: { from: Found; to: Found }, names: boolean): string {
    const table = this.state.tableOf(tableId, step);
    if (table === undefined) return '';
    const fields = table.fields.slice(range.from.column, range.to.column + 1);
    const plain = (text: string) => text.replace(/[\t\r\n]+/g, ' ');
    const lines = names ? [fields.map((field) => plain(field.name)).join('\t')] : [];
    for (let row = range.from.row; row <= Math.min(range.to.row, table.rows - 1); row++)
      lines.push(fields.map((field) => plain(cellText(field.column, row) ?? '')).join('\t'));
    return lines.join('\n');
  }

  private fieldOf(tableId: string, step: number, column: string): Field | undefined {
    return this.state.tableOf(tableId, step)?.fields.find((one) => one.name === column);
  }
}
