import type { Table } from '../table/table.ts';
import { numberText } from '../values/number-text.ts';
import { type CellForms, readyCells, TextBytes } from './ready-cells.ts';

const FORMS: CellForms = {
  blank: 'null',
  text: (text) => JSON.stringify(text),
  number: (value) => numberText(value),
  yesno: String,
};

/** A row as a JSON object. The names of columns stand in the table's order, whatever they are. */
function rowWriter(table: Table): (row: number) => string {
  const cells = table.fields.map((field) => readyCells(field.column, FORMS));
  const names = table.fields.map((field, c) => `${c === 0 ? '' : ','}${JSON.stringify(field.name)}:`);
  return (row) => {
    let text = '{';
    for (let c = 0; c < cells.length; c++) text += names[c]! + cells[c]!(row);
    return `${text}}`;
  };
}

/** A list of objects, one a row; or one object with a list for each column. RFC 8259, as UTF-8. */
export function writeJson(table: Table, layout: 'rows' | 'columns'): Uint8Array<ArrayBuffer> {
  const out = new TextBytes();
  if (layout === 'rows') {
    if (table.rows === 0) out.add('[]\n');
    else {
      const rowText = rowWriter(table);
      out.add(`[\n${rowText(0)}`);
      for (let r = 1; r < table.rows; r++) out.add(`,\n${rowText(r)}`);
      out.add('\n]\n');
    }
    return out.bytes();
  }
  out.add('{');
  table.fields.forEach((field, c) => {
    const cell = readyCells(field.column, FORMS);
    out.add(`${c === 0 ? '' : ','}${JSON.stringify(field.name)}:[`);
    for (let r = 0; r < table.rows; r++) out.add(r === 0 ? cell(r) : `,${cell(r)}`);
    out.add(']');
  });
  out.add('}\n');
  return out.bytes();
}

/** Newline-delimited JSON: an object on each line, as UTF-8. */
export function writeJsonLines(table: Table): Uint8Array<ArrayBuffer> {
  const out = new TextBytes();
  const rowText = rowWriter(table);
  for (let r = 0; r < table.rows; r++) out.add(`${rowText(r)}\n`);
  return out.bytes();
}
