import { Parser } from 'htmlparser2';
import { decoderOf } from '../table/decoder.ts';
import { grouped } from '../values/counted.ts';
import { decodeSource } from './encoding.ts';
import { pageParts } from './page-parts.ts';
import { MAX_COLUMNS, ReadFailure } from './read-failure.ts';
import type { Merge, Report, ReportPart } from './report.ts';

/** Limits of the HTML standard for colspan and rowspan. */
const MAX_ACROSS = 1000;
const MAX_DOWN = 65_534;

/** Elements inside one another. Old pages leave many open; browsers stop at 512. */
const MAX_DEPTH = 2000;

interface OpenTable {
  caption: string;
  heading: string;
  rows: (string | undefined)[][];
  /** Rows that a cell above still reaches into, by column. */
  reach: number[];
  merges: Merge[];
  column: number;
  cell: { text: string; rows: number; columns: number } | undefined;
  inCaption: boolean;
}

const BREAKS = new Set(['br', 'p', 'div', 'li', 'tr']);
const HEADINGS = /^h[1-6]$/;

/**
 * The tables of a page in HTML, each a part of the report: cells as their text reads, rowspan and colspan as merges.
 * A table inside a cell is its own part.
 *
 * @throws ReadFailure when there is no table
 */
export function readWebPage(bytes: Uint8Array, fileName: string): Report {
  const encoded = decodeSource(bytes, declaredEncoding(bytes), fileName);
  const text = decoderOf(encoded.now).decode(encoded.bytes);
  const parts = tablesOf(fileName, text);
  if (parts.length === 0) {
    throw new ReadFailure(
      fileName,
      `${fileName} is a web page without a table. If it was saved while its table was still loading, save it again; or read it as lines.`,
    );
  }
  return { format: 'workbook', parts };
}

/** What the page says about its encoding (HTML, 13.2.3.2), or null. */
function declaredEncoding(bytes: Uint8Array): string | null {
  const head = decoderOf('windows-1252').decode(bytes.subarray(0, 1024));
  const declared = /<meta[^>]+charset\s*=\s*["']?([\w-]+)/i.exec(head)?.[1] ?? null;
  return declared !== null && /^utf-?8$/i.test(declared) ? null : declared;
}

function tablesOf(fileName: string, text: string): ReportPart[] {
  const open: OpenTable[] = [];
  const done: OpenTable[] = [];
  let silent = 0;
  let depth = 0;
  let heading = '';
  let inHeading = false;
  const parser = new Parser(
    {
      onopentag(name, attributes) {
        if (++depth > MAX_DEPTH) throw new ReadFailure(fileName, tooDeep(fileName));
        const table = open.at(-1);
        if (name === 'script' || name === 'style' || name === 'template') silent++;
        else if (name === 'table') open.push(newTable(heading));
        else if (HEADINGS.test(name)) {
          inHeading = true;
          heading = '';
        } else if (table === undefined) return;
        else if (name === 'caption') table.inCaption = true;
        else if (name === 'tr') {
          closeCell(table);
          table.rows.push([]);
          table.column = 0;
        } else if (name === 'td' || name === 'th') {
          closeCell(table);
          if (table.rows.length === 0) table.rows.push([]);
          table.cell = {
            text: '',
            rows: span(attributes['rowspan'], MAX_DOWN),
            columns: span(attributes['colspan'], MAX_ACROSS),
          };
          if (table.column + table.cell.columns > MAX_COLUMNS) throw new ReadFailure(fileName, tooWide(fileName));
        } else if (BREAKS.has(name) && table.cell !== undefined) table.cell.text += ' ';
      },
      ontext(data) {
        if (silent > 0) return;
        if (inHeading) heading += data;
        const table = open.at(-1);
        if (table?.inCaption) table.caption += data;
        else if (table?.cell !== undefined) table.cell.text += data;
      },
      onclosetag(name) {
        depth--;
        const table = open.at(-1);
        if (name === 'script' || name === 'style' || name === 'template') silent--;
        else if (HEADINGS.test(name)) inHeading = false;
        else if (table === undefined) return;
        else if (name === 'caption') table.inCaption = false;
        else if (name === 'td' || name === 'th') closeCell(table);
        else if (name === 'table') {
          closeCell(table);
          open.pop();
          done.push(table);
        }
      },
    },
    { decodeEntities: true, lowerCaseTags: true },
  );
  parser.end(text);
  const filled = done.filter((table) => table.rows.some((row) => row.some((cell) => cell !== undefined)));
  return pageParts(
    fileName,
    filled.map(({ caption, heading, rows, merges }) => ({ name: plain(caption) || heading, rows, merges })),
  );
}

function tooDeep(file: string): string {
  return `${file} has more than ${grouped(MAX_DEPTH)} elements inside one another, more than can be read. Save the page again; or read it as lines.`;
}

function tooWide(file: string): string {
  return `A table of ${file} has more than ${grouped(MAX_COLUMNS)} columns, more than can be read. If its cells span too many columns, correct the page; or read it as lines.`;
}

function newTable(heading: string): OpenTable {
  return {
    caption: '',
    heading: plain(heading),
    rows: [],
    reach: [],
    merges: [],
    column: 0,
    cell: undefined,
    inCaption: false,
  };
}

function span(given: string | undefined, most: number): number {
  const number = Number.parseInt(given ?? '1', 10);
  return Number.isNaN(number) ? 1 : Math.min(most, Math.max(1, number));
}

/** Puts the cell in hand at the next place of its row that no cell above reaches into. */
function closeCell(table: OpenTable): void {
  const { cell, rows, reach } = table;
  if (cell === undefined) return;
  table.cell = undefined;
  const row = rows.length - 1;
  while ((reach[table.column] ?? 0) > row) table.column++;
  const column = table.column;
  const text = plain(cell.text);
  rows[row]![column] = text === '' ? undefined : text;
  for (let c = 0; c < cell.columns; c++) reach[column + c] = row + cell.rows;
  if (cell.rows > 1 || cell.columns > 1) {
    table.merges.push({ row, column, rows: cell.rows, columns: cell.columns });
  }
  table.column += cell.columns;
}

function plain(text: string): string {
  return text.replace(/[\s\u00a0]+/g, ' ').trim();
}
