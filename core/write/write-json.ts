import type { Table } from '../table/table.ts';
import { numberText } from '../values/number-text.ts';
import { type PartForms, partCells, stopsAt } from './ready-cells.ts';
import type { RowPart } from './rows/batch.ts';
import { TextBytes } from './rows/text-bytes.ts';
import { writeRows } from './rows/write-rows.ts';

const FORMS: PartForms = {
  blank: 'null',
  text: (text) => JSON.stringify(text),
  plain: { stops: stopsAt('"\\', 0x20), before: '"', behind: '"' },
  number: (value) => numberText(value),
  aroundNumbers: { before: '', behind: '' },
  yesno: String,
};

/** A row as a JSON object. The names of columns stand in the table's order, whatever they are. */
function objectParts(table: Table): RowPart[] {
  const cells = table.fields.map((field, c) => ({
    front: `${c === 0 ? '{' : ','}${JSON.stringify(field.name)}:`,
    cells: partCells(field.column, FORMS),
  }));
  return [...cells, { front: cells.length === 0 ? '{}' : '}' }];
}

/** Rows with a text before the first and another before each that follows. */
function writeList(parts: readonly RowPart[], rows: number, first: string, next: string, out: TextBytes): void {
  writeRows([{ front: first }, ...parts], { from: 0, to: Math.min(1, rows) }, out);
  writeRows([{ front: next }, ...parts], { from: 1, to: rows }, out);
}

/** A list of objects, one a row; or one object with a list for each column. RFC 8259, as UTF-8. */
export function writeJson(table: Table, layout: 'rows' | 'columns'): Uint8Array<ArrayBuffer> {
  const out = new TextBytes();
  if (layout === 'rows') {
    if (table.rows === 0) out.add('[]\n');
    else {
      writeList(objectParts(table), table.rows, '[\n', ',\n', out);
      out.add('\n]\n');
    }
    return out.all();
  }
  out.add('{');
  table.fields.forEach(({ name, column }, c) => {
    out.add(`${c === 0 ? '' : ','}${JSON.stringify(name)}:[`);
    writeList([{ front: '', cells: partCells(column, FORMS) }], table.rows, '', ',', out);
    out.add(']');
  });
  out.add('}\n');
  return out.all();
}

/** Newline-delimited JSON: an object on each line, as UTF-8. */
export function writeJsonLines(table: Table): Uint8Array<ArrayBuffer> {
  const out = new TextBytes();
  writeRows([...objectParts(table), { front: '\n' }], { from: 0, to: table.rows }, out);
  return out.all();
}
