import type { Table } from '../table/table.ts';
import { cellText, countedText } from '../values/cell-text.ts';
import { numberText } from '../values/number-text.ts';
import { escapeHtml as escaped } from './escape-html.ts';
import { readyCells, TextBytes } from './ready-cells.ts';

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

/** A table as a page of its own, as UTF-8. */
export function writeHtmlPage(table: Table, name: string): Uint8Array<ArrayBuffer> {
  const out = new TextBytes();
  out.add(`<!doctype html>\n<html lang="en">\n<meta charset="utf-8">\n<title>${escaped(name)}</title>\n`);
  htmlInto((text) => out.add(text), table, name);
  out.add('</html>\n');
  return out.all();
}

/** @param ready what is done to names and texts, not to numbers */
export function htmlTable(table: Table, name: string, ready?: (text: string) => string): string {
  let page = '';
  htmlInto(
    (text) => {
      page += text;
    },
    table,
    name,
    ready,
  );
  return page;
}

function htmlInto(
  add: (text: string) => void,
  table: Table,
  name: string,
  ready: (text: string) => string = (text) => text,
): void {
  const head = table.fields.map((field) => `<th>${escaped(ready(field.name))}</th>`).join('');
  add(`<table>\n<caption>${escaped(name)}</caption>\n<thead>\n<tr>${head}</tr>\n</thead>\n<tbody>\n`);
  const cells = table.fields.map((field) =>
    readyCells(field.column, {
      blank: '<td></td>',
      text: (text) => `<td>${escaped(ready(text))}</td>`,
      number: (value) => `<td>${numberText(value)}</td>`,
      yesno: (value) => `<td>${escaped(ready(countedText('yesno', value ? 1 : 0)))}</td>`,
    }),
  );
  for (let r = 0; r < table.rows; r++) {
    add('<tr>');
    for (let c = 0; c < cells.length; c++) add(cells[c]!(r));
    add('</tr>\n');
  }
  add('</tbody>\n</table>\n');
}
