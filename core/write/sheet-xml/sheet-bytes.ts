import type { Column } from '../../table/column.ts';
import { columnLetters, type Table } from '../../table/table.ts';
import { numberText } from '../../values/number-text.ts';
import { type PartForms, partCells } from '../ready-cells.ts';
import type { PartCells } from '../rows/batch.ts';
import { TextBytes } from '../rows/text-bytes.ts';
import { writeRows } from '../rows/write-rows.ts';
import { serialOf } from '../workbook-dates.ts';
import { styleOf } from './book-parts.ts';
import type { SharedTexts } from './shared-texts.ts';

/** Rows that are put together while those before are packed, so that no more of them pile up. */
const STRETCH = 32_768;

/**
 * Writes the XML of one sheet (ISO/IEC 29500-1, 18.3.1.99): a header in bold that stays in sight, and the rows under it.
 *
 * @param filtered with a filter over the header
 * @param send is handed the bytes piece by piece, and waited for a stretch of rows later
 */
export async function writeSheet(
  table: Table,
  filtered: boolean,
  widths: readonly number[],
  texts: SharedTexts,
  send: (piece: Uint8Array) => Promise<void>,
): Promise<void> {
  let sending = Promise.resolve();
  const out = new TextBytes(undefined, (piece) => {
    sending = send(piece);
  });
  const range = rangeOf(table);
  const columns = widths.map((width, c) => `<col min="${c + 1}" max="${c + 1}" width="${width}" customWidth="1"/>`);
  out.add(
    `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><dimension ref="${range}"/><sheetViews><sheetView workbookViewId="0"><pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews><cols>${columns.join('')}</cols><sheetData>`,
  );
  const head = table.fields.map(
    ({ name }, c) => `<c r="${columnLetters(c)}1" s="${styleOf('header')}"${sharedCell(texts.index(name))}`,
  );
  out.add(`<row r="1">${head.join('')}</row>`);
  const cells = table.fields.map((field, c) => ({
    front: `<c r="${columnLetters(c)}`,
    isNumbered: true,
    cells: cellsOf(field.column, texts),
  }));
  const parts = [{ front: '<row r="', isNumbered: true, behind: '">' }, ...cells, { front: '</row>' }];
  // The header is the first row.
  for (let from = 0; from < table.rows; from += STRETCH) {
    const before = sending;
    writeRows(parts, { from, to: Math.min(from + STRETCH, table.rows) }, out, { first: 2 });
    await before;
  }
  out.add(`</sheetData>${filtered ? `<autoFilter ref="${range}"/>` : ''}</worksheet>`);
  out.flush();
  await sending;
}

/** From the header to the last cell. */
export function rangeOf(table: Table): string {
  return `A1:${columnLetters(Math.max(0, table.fields.length - 1))}${table.rows + 1}`;
}

/** What follows the place of each cell; nothing for a blank one. */
function cellsOf(column: Column, texts: SharedTexts): PartCells {
  const { type } = column;
  const forms: PartForms = {
    blank: '',
    text: (text) => `"${sharedCell(texts.index(text))}`,
    number: (value) => `"><v>${numberText(value)}</v></c>`,
    aroundNumbers: { before: '"><v>', behind: '</v></c>' },
    yesno: (value) => `" t="b"><v>${value ? 1 : 0}</v></c>`,
  };
  const told = { ...partCells(column, forms), isLeftOut: true };
  if (type !== 'date' && type !== 'time' && type !== 'datetime') return told;
  const style = styleOf(type);
  return {
    isLeftOut: true,
    write(row, out) {
      const serial = serialOf(column, row);
      if (serial === undefined) told.write(row, out);
      else out.add(`" s="${style}"><v>${serial}</v></c>`);
    },
  };
}

function sharedCell(index: number): string {
  return ` t="s"><v>${index}</v></c>`;
}
