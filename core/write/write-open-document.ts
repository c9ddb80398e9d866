/** Sheets of OpenDocument (OASIS ODF 1.3, part 3; the package by part 2). */

import { strToU8, type Zippable, zipSync } from 'fflate';
import type { Column, CountedType } from '../table/column.ts';
import { columnLetters } from '../table/table.ts';
import { cellText, countedText } from '../values/cell-text.ts';
import { numberText } from '../values/number-text.ts';
import { concatenate } from './rows/text-bytes.ts';
import type { BookSheet } from './sheet-xml/write-book.ts';
import { kindOf } from './typed-cells.ts';
import { ZIP_TIME } from './zip-time.ts';

const TYPE = 'application/vnd.oasis.opendocument.spreadsheet';
const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n';
const NAMESPACES = ['office', 'style', 'text', 'table']
  .map((name) => `xmlns:${name}="urn:oasis:names:tc:opendocument:xmlns:${name}:1.0"`)
  .concat(
    'xmlns:number="urn:oasis:names:tc:opendocument:xmlns:datastyle:1.0"',
    'xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0"',
  )
  .join(' ');

/** Width of one character in centimetres, about that of 11 point text. */
const CHARACTER_CM = 0.2;

/** A spreadsheet with real dates and times. The same sheets give the same bytes. */
export function writeOpenDocument(sheets: readonly BookSheet[]): Uint8Array<ArrayBuffer> {
  const manifest = `${HEAD}<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3"><manifest:file-entry manifest:full-path="/" manifest:media-type="${TYPE}" manifest:version="1.3"/>${['content.xml', 'styles.xml'].map((part) => `<manifest:file-entry manifest:full-path="${part}" manifest:media-type="text/xml"/>`).join('')}</manifest:manifest>`;
  const files: Zippable = {
    // The package begins with its type, which is not packed (part 2, 3.3).
    mimetype: [strToU8(TYPE), { level: 0 }],
    'META-INF/manifest.xml': strToU8(manifest),
    // Some readers refuse a package without styles.
    'styles.xml': strToU8(
      `${HEAD}<office:document-styles ${NAMESPACES} office:version="1.3"><office:styles/></office:document-styles>`,
    ),
    'content.xml': contentOf(sheets),
  };
  return zipSync(files, { mtime: ZIP_TIME, level: 1 }) as Uint8Array<ArrayBuffer>;
}

function contentOf(sheets: readonly BookSheet[]): Uint8Array {
  const widths = [...new Set(sheets.flatMap((sheet) => sheet.widths))];
  const columnStyles = widths.map(
    (width) =>
      `<style:style style:name="w${width}" style:family="table-column"><style:table-column-properties style:column-width="${(width * CHARACTER_CM).toFixed(1)}cm"/></style:style>`,
  );
  const filters = sheets.flatMap((sheet, k) => (sheet.filtered ? [filterOf(sheet, k)] : []));
  const bytes: Uint8Array[] = [];
  let text = '';
  // A large table is more than one string can hold.
  const add = (piece: string) => {
    text += piece;
    if (text.length < PIECE) return;
    bytes.push(strToU8(text));
    text = '';
  };
  add(
    `${HEAD}<office:document-content ${NAMESPACES} office:version="1.3"><office:automatic-styles>${DATE_STYLES}${columnStyles.join('')}</office:automatic-styles><office:body><office:spreadsheet>`,
  );
  for (const sheet of sheets) for (const piece of sheetPieces(sheet)) add(piece);
  if (filters.length > 0) add(`<table:database-ranges>${filters.join('')}</table:database-ranges>`);
  add('</office:spreadsheet></office:body></office:document-content>');
  return concatenate([...bytes, strToU8(text)]);
}

/** Characters that are encoded at a time. */
const PIECE = 1 << 20;

const STYLED: readonly CountedType[] = ['date', 'datetime', 'time'];
const DAY =
  '<number:year number:style="long"/><number:text>-</number:text><number:month number:style="long"/><number:text>-</number:text><number:day number:style="long"/>';
const CLOCK =
  '<number:hours number:style="long"/><number:text>:</number:text><number:minutes number:style="long"/><number:text>:</number:text><number:seconds number:style="long"/>';
const DATE_STYLES = [
  `<number:date-style style:name="f-date">${DAY}</number:date-style>`,
  `<number:date-style style:name="f-datetime">${DAY}<number:text> </number:text>${CLOCK}</number:date-style>`,
  `<number:time-style style:name="f-time">${CLOCK}</number:time-style>`,
  ...STYLED.map(
    (type) => `<style:style style:name="${type}" style:family="table-cell" style:data-style-name="f-${type}"/>`,
  ),
  '<style:style style:name="header" style:family="table-cell"><style:text-properties fo:font-weight="bold"/></style:style>',
].join('');

function filterOf({ name, table }: BookSheet, k: number): string {
  const sheet = `'${name.replaceAll("'", "''")}'`;
  const last = `${columnLetters(Math.max(0, table.fields.length - 1))}${table.rows + 1}`;
  return `<table:database-range table:name="filter${k + 1}" table:target-range-address="${attribute(`${sheet}.A1:${sheet}.${last}`)}" table:display-filter-buttons="true"/>`;
}

function* sheetPieces({ name, table, widths }: BookSheet): Generator<string> {
  yield `<table:table table:name="${attribute(name)}">`;
  for (const width of widths) yield `<table:table-column table:style-name="w${width}"/>`;
  if (table.fields.length > 0)
    yield `<table:table-header-rows><table:table-row>${table.fields.map((field) => textCell(field.name, ' table:style-name="header"')).join('')}</table:table-row></table:table-header-rows>`;
  const cells = table.fields.map(({ column }) => cellOf(column));
  for (let r = 0; r < table.rows; r++) {
    yield '<table:table-row>';
    for (const cell of cells) yield cell(r);
    yield '</table:table-row>';
  }
  yield '</table:table>';
}

const BLANK = '<table:table-cell/>';

/** How the cells of a column are written. A text that stands in many rows is put together once. */
function cellOf(column: Column): (row: number) => string {
  const texts = new Map<string, string>();
  const text = (row: number): string => {
    const own = cellText(column, row);
    if (own === null) return BLANK;
    let cell = texts.get(own);
    if (cell === undefined) {
      cell = textCell(own);
      texts.set(own, cell);
    }
    return cell;
  };
  if (column.type === 'text') return text;
  const { values } = column;
  return (row) => {
    const type = column.type === 'received' ? kindOf(column.tags[row]!) : column.type;
    const value = values[row]!;
    return type === undefined || Number.isNaN(value) ? text(row) : (countedCell(type, value) ?? text(row));
  };
}

/** @returns undefined for a value that is written as text: years that the format does not have, infinity */
function countedCell(type: CountedType, value: number): string | undefined {
  const shown = countedText(type, value);
  const cell = (kind: string, attributes: string) =>
    `<table:table-cell office:value-type="${kind}" ${attributes}><text:p>${shown}</text:p></table:table-cell>`;
  switch (type) {
    case 'number':
    case 'whole':
      return Number.isFinite(value) ? cell('float', `office:value="${numberText(value)}"`) : undefined;
    case 'yesno':
      return cell('boolean', `office:boolean-value="${value !== 0}"`);
    case 'time': {
      const [hour, minute, second = '00'] = shown.split(':');
      return cell('time', `office:time-value="PT${hour}H${minute}M${second}S" table:style-name="time"`);
    }
    default: {
      if (!/^\d{4}-/.test(shown)) return undefined;
      const whole = type === 'datetime' && /T\d\d:\d\d$/.test(shown) ? `${shown}:00` : shown;
      return cell('date', `office:date-value="${whole}" table:style-name="${type}"`);
    }
  }
}

/** Line ends that paragraphs do not tell apart stand in an attribute, which readers prefer (part 3, 19.385). */
function textCell(text: string, style = ''): string {
  const exact = /\r/.test(text) ? ` office:string-value="${attribute(text)}"` : '';
  const paragraphs = text
    .split(/\r\n|\n|\r/)
    .map((line) => `<text:p>${paragraph(line)}</text:p>`)
    .join('');
  return `<table:table-cell office:value-type="string"${exact}${style}>${paragraphs}</table:table-cell>`;
}

/** Spaces that markup would collapse are elements (part 3, 6.1.2). */
function paragraph(line: string): string {
  return escaped(line)
    .replace(/^ +| {2,}| +$/g, (spaces) => `<text:s text:c="${spaces.length}"/>`)
    .replaceAll('\t', '<text:tab/>');
}

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (character) => ESCAPES[character]!);
}

function attribute(text: string): string {
  return escaped(text).replace(/[\r\n\t]/g, (character) => `&#${character.charCodeAt(0)};`);
}
