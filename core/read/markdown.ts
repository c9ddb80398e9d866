/** Tables in Markdown (GitHub Flavored Markdown, 4.10): lines with bars, under names and a line of dashes. */

import { decoderOf } from '../table/decoder.ts';
import { decodeSource } from './encoding.ts';
import { type PageTable, pageParts } from './page-parts.ts';
import { ReadFailure } from './read-failure.ts';
import type { Report } from './report.ts';

const DASHES = /^ {0,3}\|?\s*:?-+:?\s*(?:\|\s*:?-+:?\s*)*\|?\s*$/;

/** Whether a text is one of this kind with a table, by its name or a heading at its top. @param head its first lines */
export function isMarkdown(head: string, file: string): boolean {
  return (/\.(?:md|markdown)$/i.test(file) || /^\s*#{1,6} \S/.test(head)) && holdsTable(head);
}

function holdsTable(head: string): boolean {
  const lines = head.split(/\r?\n/);
  return lines.some((line, k) => isDashes(lines[k + 1]) && cellsOf(line).length === cellsOf(lines[k + 1]!).length);
}

function isDashes(line: string | undefined): boolean {
  return line?.includes('|') === true && DASHES.test(line);
}

/** The cells of a line; a bar behind a backslash is none, and code keeps its letters. */
function cellsOf(line: string): string[] {
  const inner = line
    .trim()
    .replace(/^\|/, '')
    .replace(/(?<!\\)\|$/, '');
  return inner.split(/(?<!\\)\|/).map((cell) => plain(cell.trim().replaceAll('\\|', '|')));
}

/** Without the marks of bold, italic, code and links, which say how it looks. */
function plain(text: string): string {
  return text
    .replace(/`([^`]*)`/g, '$1')
    .replace(/\[([^[\]]*)\]\([^)]*\)/g, '$1')
    .replace(/(\*\*|__)(?=\S)(.{0,999}?\S)\1/g, '$2')
    .replace(/(?<![\p{L}\p{N}*])([*_])(?=\S)(.{0,999}?\S)\1(?![\p{L}\p{N}*])/gu, '$2')
    .replace(/<br\s*\/?>/gi, ' ');
}

/** The text of a heading, without the signs around it. */
function headingOf(line: string): string | undefined {
  const text = /^ {0,3}#{1,6}\s+(\S.*)?$/.exec(line.trimEnd())?.[1];
  return text?.replace(/(?<!\S)#+$/, '').trimEnd();
}

/** Every table is a part, called by the heading above it. @throws ReadFailure when there is none */
export function readMarkdown(bytes: Uint8Array, file: string): Report {
  const encoded = decodeSource(bytes, null, file);
  const lines = decoderOf(encoded.now).decode(encoded.bytes).split(/\r?\n/);
  const tables: PageTable[] = [];
  let heading = '';
  for (let k = 0; k < lines.length; k++) {
    const line = lines[k]!;
    heading = headingOf(line) ?? heading;
    if (!isDashes(lines[k + 1]) || cellsOf(line).length !== cellsOf(lines[k + 1]!).length) continue;
    const rows = [cellsOf(line)];
    // It goes on to the first line that is blank or begins something else.
    for (k += 2; k < lines.length && lines[k]!.trim() !== '' && !/^ {0,3}(?:#|>|```)/.test(lines[k]!); k++)
      rows.push(cellsOf(lines[k]!));
    const cells = rows.map((row) => row.map((cell) => cell || undefined));
    tables.push({ name: plain(heading), rows: cells, merges: [] });
    // A heading may follow at once.
    k--;
  }
  if (tables.length === 0) throw new ReadFailure(file, `${file} holds no table in Markdown. Read it as lines.`);
  return { format: 'workbook', parts: pageParts(file, tables) };
}
