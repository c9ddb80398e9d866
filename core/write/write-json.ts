import type { Table } from '../table/table.ts';
import { typedCell } from './typed-cells.ts';

/** A row as a JSON object. The names of columns stand in the table's order, whatever they are. */
function rowTexts(table: Table): string[] {
  const names = table.fields.map((field) => JSON.stringify(field.name));
  return Array.from({ length: table.rows }, (_, r) => {
    const members = table.fields.map((field, c) => `${names[c]}:${JSON.stringify(typedCell(field.column, r))}`);
    return `{${members.join(',')}}`;
  });
}

/** A list of objects, one a row; or one object with a list for each column. RFC 8259. */
export function jsonText(table: Table, layout: 'rows' | 'columns'): string {
  if (layout === 'rows') return table.rows === 0 ? '[]\n' : `[\n${rowTexts(table).join(',\n')}\n]\n`;
  const columns = table.fields.map((field) => {
    const cells = Array.from({ length: table.rows }, (_, r) => typedCell(field.column, r));
    return `${JSON.stringify(field.name)}:${JSON.stringify(cells)}`;
  });
  return `{${columns.join(',')}}\n`;
}

/** Newline-delimited JSON: an object on each line. */
export function linesOfJson(table: Table): string {
  return rowTexts(table)
    .map((row) => `${row}\n`)
    .join('');
}
