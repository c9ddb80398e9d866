import type { Table } from '../table/table.ts';
import { cellText, countedText } from '../values/cell-text.ts';
import { numberText } from '../values/number-text.ts';
import { escapeHtml as escaped } from './escape-html.ts';
import { type PartForms, partCells, stopsAt } from './ready-cells.ts';
import { TextBytes } from './rows/text-bytes.ts';
import { writeRows } from './rows/write-rows.ts';

/** A table as GitHub Flavored Markdown; numbers stand at the right. */
export function markdownText(table: Table): string {
  // Whatever Markdown would take for markup stands for itself behind a backslash (CommonMark 0.31, 2.4).
  const cell = (text: string) => text.replace(/[\\`*_[\]<>~&|]/g, '\\$&').replace(/\r\n|\r|\n/g, '<br>');
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |\n`;
  const ends = table.fields.map((field) =>
    field.column.type === 'number' || field.column.type === 'whole' ? '---:' : '---',
  );
  const lines = [line(table.fields.map((field) => cell(field.name))), line(ends)];
  for (let r = 0; r < table.rows; r++)
    lines.push(line(table.fields.map((field) => cell(cellText(field.column, r) ?? ''))));
  return lines.join('');
}

/** A table as its own page, as UTF-8. */
export function writeHtmlPage(table: Table, name: string): Uint8Array<ArrayBuffer> {
  const out = new TextBytes();
  out.add(`<!doctype html>\n<html lang="en">\n<meta charset="utf-8">\n<title>${escaped(name)}</title>\n`);
  htmlInto(out, table, name);
  out.add('</html>\n');
  return out.all();
}

/** @param ready what is done to names and texts, not to numbers */
export function htmlTable(table: Table, name: string, ready?: (text: string) => string): string {
  const out = new TextBytes();
  htmlInto(out, table, name, ready);
  return new TextDecoder().decode(out.all());
}

function htmlInto(out: TextBytes, table: Table, name: string, own?: (text: string) => string): void {
  const ready = own ?? ((text) => text);
  const head = table.fields.map((field) => `<th>${escaped(ready(field.name))}</th>`).join('');
  out.add(`<table>\n<caption>${escaped(name)}</caption>\n<thead>\n<tr>${head}</tr>\n</thead>\n<tbody>\n`);
  const around = { before: '<td>', behind: '</td>' };
  const cell = (text: string) => `<td>${escaped(ready(text))}</td>`;
  const forms: PartForms = {
    blank: '<td></td>',
    text: cell,
    ...(own === undefined ? { plain: { ...around, stops: stopsAt('&<>"') } } : {}),
    number: (value) => `<td>${numberText(value)}</td>`,
    aroundNumbers: around,
    yesno: (value) => cell(countedText('yesno', value ? 1 : 0)),
  };
  const cells = table.fields.map(({ column }) => ({
    front: '',
    cells: partCells(column, forms),
  }));
  writeRows([{ front: '<tr>' }, ...cells, { front: '</tr>\n' }], { from: 0, to: table.rows }, out);
  out.add('</tbody>\n</table>\n');
}
