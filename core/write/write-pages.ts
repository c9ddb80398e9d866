import type { Column } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { escapeHtml as escaped } from './escape-html.ts';
import { typedCell } from './typed-cells.ts';

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

/** A table as a page of its own. */
export function htmlPage(table: Table, name: string): string {
  const head = `<!doctype html>\n<html lang="en">\n<meta charset="utf-8">\n<title>${escaped(name)}</title>\n`;
  return `${head}${htmlTable(table, name)}</html>\n`;
}

/** @param ready what is done to names and texts, not to numbers */
export function htmlTable(table: Table, name: string, ready: (text: string) => string = (text) => text): string {
  const row = (tag: string, cells: readonly string[]) =>
    `<tr>${cells.map((cell) => `<${tag}>${escaped(cell)}</${tag}>`).join('')}</tr>\n`;
  const names = table.fields.map((field) => ready(field.name));
  const cell = (column: Column, r: number) => {
    const text = cellText(column, r) ?? '';
    return typeof typedCell(column, r) === 'number' ? text : ready(text);
  };
  const lines = [`<table>\n<caption>${escaped(name)}</caption>\n<thead>\n${row('th', names)}</thead>\n<tbody>\n`];
  for (let r = 0; r < table.rows; r++)
    lines.push(
      row(
        'td',
        table.fields.map((field) => cell(field.column, r)),
      ),
    );
  return `${lines.join('')}</tbody>\n</table>\n`;
}
