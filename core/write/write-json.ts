import type { Table } from '../table/table.ts';
import { numberText } from '../values/number-text.ts';
import { type CellForms, cellWriter, TextBytes } from './ready-cells.ts';

const FORMS: CellForms = {
  blank: 'null',
  text: (text) => JSON.stringify(text),
  number: (value) => numberText(value),
  yesno: String,
};

/** Writes a row as a JSON object. The names of columns stand in the table's order, whatever they are. */
function rowWriter(table: Table, out: TextBytes): (row: number) => void {
  const cells = table.fields.map((field) => cellWriter(field.column, FORMS, out));
  const names = table.fields.map((field, c) => `${c === 0 ? '{' : ','}${JSON.stringify(field.name)}:`);
  if (cells.length === 0) return () => out.add('{}');
  return (row) => {
    for (let c = 0; c < cells.length; c++) {
      out.add(names[c]!);
      cells[c]!(row);
    }
    out.add('}');
  };
}

/** A list of objects, one a row; or one object with a list for each column. RFC 8259, as UTF-8. */
export function writeJson(table: Table, layout: 'rows' | 'columns'): Uint8Array<ArrayBuffer> {
  const out = new TextBytes();
  if (layout === 'rows') {
    if (table.rows === 0) out.add('[]\n');
    else {
      const writeRow = rowWriter(table, out);
      for (let r = 0; r < table.rows; r++) {
        out.add(r === 0 ? '[\n' : ',\n');
        writeRow(r);
      }
      out.add('\n]\n');
    }
    return out.all();
  }
  out.add('{');
  table.fields.forEach((field, c) => {
    const cell = cellWriter(field.column, FORMS, out);
    out.add(`${c === 0 ? '' : ','}${JSON.stringify(field.name)}:[`);
    for (let r = 0; r < table.rows; r++) {
      if (r > 0) out.add(',');
      cell(r);
    }
    out.add(']');
  });
  out.add('}\n');
  return out.all();
}

/** Newline-delimited JSON: an object on each line, as UTF-8. */
export function writeJsonLines(table: Table): Uint8Array<ArrayBuffer> {
  const out = new TextBytes();
  const writeRow = rowWriter(table, out);
  for (let r = 0; r < table.rows; r++) {
    writeRow(r);
    out.add('\n');
  }
  return out.all();
}
