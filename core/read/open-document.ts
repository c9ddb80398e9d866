/** Sheets of OpenDocument (OASIS ODF 1.3, part 3), packed or in one flat file. */

import { Parser } from 'htmlparser2';
import { ReceivedBuilder } from '../table/builder.ts';
import { type Column, Tag } from '../table/column.ts';
import { decoderOf } from '../table/decoder.ts';
import { daysFromCivil, MS } from '../values/civil.ts';
import { grouped } from '../values/counted.ts';
import { keepsDigits } from '../values/number-text.ts';
import { archiveEntry, hasEntry, type UnpackBudget } from './archive.ts';
import { declaredInXml, decodeSource } from './encoding.ts';
import { KeptNumbers } from './kept-numbers.ts';
import { CellBudget, MAX_COLUMNS, ReadFailure } from './read-failure.ts';
import { type Comment, cellKey, type DisplayedColumn, type Merge, type Report, type ReportPart } from './report.ts';
import { ShownTexts } from './shown-texts.ts';
import { isOpenDocumentXml } from './sniff.ts';

/** Cells that repeats may stand for, all sheets together. */
const MAX_CELLS = 20_000_000;
/** Elements inside one another. */
const MAX_DEPTH = 2000;

/** What a cell holds, as its attributes have it. */
interface Cell {
  type: string | undefined;
  value: string | undefined;
  formula: boolean;
  /** Text of its paragraphs, or undefined where it has none. */
  text: string | undefined;
}

interface Sheet {
  name: string;
  hidden: boolean;
  /** By row, then column. */
  rows: (Map<number, Cell> | undefined)[];
  merges: Merge[];
  comments: Comment[];
  hiddenRows: number[];
  hiddenColumns: number[];
  emptyFormulas: number;
  zeroFormulas: Set<number>;
  /** Numbers of more digits than a number keeps. */
  keptNumbers: KeptNumbers;
}

export function isOpenDocument(bytes: Uint8Array, file: string): boolean {
  if (bytes[0] === 0x50) return hasEntry(bytes, file, 'mimetype');
  return bytes[0] !== 0xd0 && bytes[0] !== 0x09 && isOpenDocumentXml(headOf(bytes));
}

function headOf(bytes: Uint8Array): string {
  return decoderOf('windows-1252').decode(bytes.subarray(0, 4096));
}

/** @throws ReadFailure when it is broken, locked, or holds no sheets */
export function readOpenDocument(bytes: Uint8Array, file: string, room?: UnpackBudget): Report {
  const sheets = sheetsOf(contentOf(bytes, file, room), file);
  if (sheets.length === 0) throw new ReadFailure(file, `${file} holds no sheets.`);
  const reach = new CellBudget(file);
  return { format: 'workbook', parts: sheets.map((sheet) => sheetPart(sheet, reach)) };
}

function contentOf(bytes: Uint8Array, file: string, room: UnpackBudget | undefined): string {
  if (bytes[0] !== 0x50) {
    const { bytes: own, now } = decodeSource(bytes, declaredInXml(bytes), file);
    return decoderOf(now).decode(own);
  }
  const manifest = archiveEntry(bytes, file, 'META-INF/manifest.xml', room);
  if (manifest !== undefined && decoderOf('utf-8').decode(manifest).includes('encryption-data')) {
    throw new ReadFailure(
      file,
      'The workbook is protected by a password. Open it in a spreadsheet program, save it without one, and try again.',
    );
  }
  const content = archiveEntry(bytes, file, 'content.xml', room);
  if (content === undefined) throw new ReadFailure(file, `${file} is an OpenDocument file without its content.`);
  return decoderOf('utf-8').decode(content);
}

/** Elements whose text belongs to no cell: drawings and what is in them, deleted content, rules for input. */
const SILENT =
  /^(?:draw:|dr3d:|chart:|table:(?:shapes|tracked-changes|content-validations|dde-links|forms)|office:forms)/;

class SheetReader {
  readonly sheets: Sheet[] = [];
  private readonly hiddenStyles = new Set<string>();
  private style: string | undefined;
  private silent = 0;
  private depth = 0;
  private sheet: Sheet | undefined;
  private row = 0;
  private rowTimes = 1;
  private rowCells = new Map<number, Cell>();
  private column = 0;
  private definedColumns = 0;
  private cell: Cell | undefined;
  private cellTimes = 1;
  private paragraphs: string[] = [];
  private inParagraph = 0;
  private note: { author: string; text: string[] } | undefined;
  private inAuthor = false;
  private budget = MAX_CELLS;

  constructor(private readonly file: string) {}

  open(name: string, given: Record<string, string>): void {
    if (++this.depth > MAX_DEPTH) {
      throw new ReadFailure(
        this.file,
        `${this.file} has more than ${grouped(MAX_DEPTH)} elements inside one another; no report has. Ask for it in another form.`,
      );
    }
    if (this.silent > 0 || SILENT.test(name)) {
      this.silent++;
      return;
    }
    switch (name) {
      case 'style:style':
        this.style = given['style:name'];
        return;
      case 'style:table-properties':
        if (given['table:display'] === 'false' && this.style !== undefined) this.hiddenStyles.add(this.style);
        return;
      case 'table:table':
        this.beginSheet(given);
        return;
      case 'table:table-column': {
        const times = repeats(given['table:number-columns-repeated']);
        if (isHidden(given) && this.sheet !== undefined) {
          for (let c = 0; c < Math.min(times, MAX_COLUMNS); c++) this.sheet.hiddenColumns.push(this.definedColumns + c);
        }
        this.definedColumns += times;
        return;
      }
      case 'table:table-row':
        this.rowTimes = repeats(given['table:number-rows-repeated']);
        this.rowCells = new Map();
        this.column = 0;
        if (isHidden(given)) this.hideRows();
        return;
      case 'table:table-cell':
        this.beginCell(given);
        return;
      case 'table:covered-table-cell':
        // What a merge covers is not seen, whatever is left in it.
        this.cellTimes = repeats(given['table:number-columns-repeated']);
        this.cell = undefined;
        return;
      case 'office:annotation':
        this.note = { author: '', text: [] };
        return;
      case 'dc:creator':
        this.inAuthor = this.note !== undefined;
        return;
      case 'text:p':
      case 'text:h':
        this.inParagraph++;
        if (this.inParagraph === 1) this.lines()?.push('');
        return;
      case 'text:s':
        this.put(' '.repeat(Math.min(1000, repeats(given['text:c']))));
        return;
      case 'text:tab':
        this.put('\t');
        return;
      case 'text:line-break':
        this.put('\n');
    }
  }

  text(data: string): void {
    if (this.silent > 0) return;
    if (this.inAuthor) this.note!.author += data;
    // Spaces between the elements of a paragraph count once, as ODF has them (part 3, 6.1.2).
    else if (this.inParagraph > 0) this.put(data.replace(/[ \t\r\n]+/g, ' '));
  }

  close(name: string): void {
    this.depth--;
    if (this.silent > 0) {
      this.silent--;
      return;
    }
    switch (name) {
      case 'style:style':
        this.style = undefined;
        return;
      case 'text:p':
      case 'text:h':
        this.inParagraph--;
        return;
      case 'dc:creator':
        this.inAuthor = false;
        return;
      case 'office:annotation':
        this.endNote();
        return;
      case 'table:table-cell':
      case 'table:covered-table-cell':
        this.endCell();
        return;
      case 'table:table-row':
        this.endRow();
        return;
      case 'table:table':
        this.sheet = undefined;
    }
  }

  private beginSheet(given: Record<string, string>): void {
    this.sheet = {
      name: given['table:name'] ?? `Sheet ${this.sheets.length + 1}`,
      hidden: this.hiddenStyles.has(given['table:style-name'] ?? '') || given['table:display'] === 'false',
      rows: [],
      merges: [],
      comments: [],
      hiddenRows: [],
      hiddenColumns: [],
      emptyFormulas: 0,
      zeroFormulas: new Set(),
      keptNumbers: new KeptNumbers(),
    };
    this.sheets.push(this.sheet);
    this.row = 0;
    this.definedColumns = 0;
  }

  private hideRows(): void {
    for (let r = 0; r < Math.min(this.rowTimes, 65_536); r++) this.sheet?.hiddenRows.push(this.row + r);
  }

  private beginCell(given: Record<string, string>): void {
    this.cellTimes = repeats(given['table:number-columns-repeated']);
    this.paragraphs = [];
    const type = given['calcext:value-type'] === 'error' ? 'error' : given['office:value-type'];
    this.cell = {
      type,
      value:
        given['office:value'] ??
        given['office:date-value'] ??
        given['office:time-value'] ??
        given['office:boolean-value'] ??
        given['office:string-value'],
      formula: given['table:formula'] !== undefined,
      text: undefined,
    };
    const [rows, columns] = [given['table:number-rows-spanned'], given['table:number-columns-spanned']].map(repeats);
    if (rows! > 1 || columns! > 1)
      this.sheet?.merges.push({ row: this.row, column: this.column, rows: rows!, columns: columns! });
  }

  private endCell(): void {
    const { cell, sheet } = this;
    const times = this.cellTimes;
    this.cell = undefined;
    this.column += times;
    if (cell === undefined || sheet === undefined) return;
    if (this.paragraphs.length > 0) cell.text = this.paragraphs.join('\n');
    const filled = cell.type !== undefined || (cell.text ?? '') !== '';
    if (cell.formula && cell.type === undefined && (cell.text ?? '') === '') sheet.emptyFormulas += times;
    if (!filled) return;
    this.spend(times * this.rowTimes);
    const end = Math.min(MAX_COLUMNS, this.column);
    for (let c = this.column - times; c < end; c++) this.rowCells.set(c, cell);
  }

  private endRow(): void {
    if (this.sheet !== undefined && this.rowCells.size > 0)
      for (let r = 0; r < this.rowTimes; r++) this.sheet.rows[this.row + r] = this.rowCells;
    this.row += this.rowTimes;
  }

  private endNote(): void {
    const note = this.note;
    this.note = undefined;
    if (note !== undefined)
      this.sheet?.comments.push({
        row: this.row,
        column: this.column,
        text: note.text.join('\n'),
        author: note.author,
      });
  }

  private lines(): string[] | undefined {
    return this.note?.text ?? (this.cell === undefined ? undefined : this.paragraphs);
  }

  private put(text: string): void {
    const lines = this.lines();
    if (this.inParagraph > 0 && lines !== undefined && lines.length > 0) lines[lines.length - 1] += text;
  }

  private spend(cells: number): void {
    this.budget -= cells;
    if (this.budget < 0) {
      throw new ReadFailure(
        this.file,
        `${this.file} repeats cells to more than ${grouped(MAX_CELLS)}; no report is that large. Ask for it in another form.`,
      );
    }
  }
}

function repeats(given: string | undefined): number {
  const count = Number.parseInt(given ?? '1', 10);
  return Number.isFinite(count) && count > 0 ? Math.min(count, 1_048_576) : 1;
}

function isHidden(given: Record<string, string>): boolean {
  const visibility = given['table:visibility'];
  return visibility === 'collapse' || visibility === 'filter';
}

function sheetsOf(content: string, file: string): Sheet[] {
  const reader = new SheetReader(file);
  const parser = new Parser(
    {
      onopentag: (name, given) => reader.open(name, given),
      ontext: (data) => reader.text(data),
      onclosetag: (name) => reader.close(name),
    },
    { xmlMode: true, decodeEntities: true },
  );
  parser.end(content);
  return reader.sheets;
}

function sheetPart(sheet: Sheet, reach: CellBudget): ReportPart {
  const rows = sheet.rows.length;
  let columns = 0;
  for (const row of new Set(sheet.rows))
    if (row !== undefined) for (const c of row.keys()) columns = Math.max(columns, c + 1);
  const size = sheet.comments.reduce(
    (most, one) => ({ rows: Math.max(most.rows, one.row + 1), columns: Math.max(most.columns, one.column + 1) }),
    { rows, columns },
  );
  reach.add(sheet.name, size.rows, size.columns);
  const stored: Column[] = [];
  const displayed: (DisplayedColumn | undefined)[] = [];
  for (let c = 0; c < size.columns; c++) {
    const column = storedColumn(sheet, c, size.rows);
    stored.push(column);
    displayed.push(displayedColumn(sheet, c, column, size.rows));
  }
  return {
    name: sheet.name,
    rows: size.rows,
    columns: stored,
    displayed,
    merges: sheet.merges.filter((merge) => merge.row < size.rows && merge.column < size.columns),
    comments: sheet.comments,
    hidden: sheet.hidden,
    hiddenRows: sheet.hiddenRows.filter((row) => row < size.rows),
    hiddenColumns: sheet.hiddenColumns.filter((column) => column < size.columns),
    emptyFormulas: sheet.emptyFormulas,
    ...(sheet.keptNumbers.count === 0 ? {} : { keptNumbers: sheet.keptNumbers }),
    ...(sheet.zeroFormulas.size === 0 ? {} : { zeroFormulas: sheet.zeroFormulas }),
  };
}

function storedColumn(sheet: Sheet, c: number, rows: number): Column {
  const builder = new ReceivedBuilder(rows);
  sheet.rows.forEach((row, r) => {
    const cell = row?.get(c);
    if (cell === undefined) return;
    putCell(builder, r, cell);
    if (
      cell.type !== 'string' &&
      cell.value !== undefined &&
      /^-?[\d.]{16,}$/.test(cell.value) &&
      !keepsDigits(cell.value)
    )
      sheet.keptNumbers.add(cell.value);
    if (cell.formula && cell.type === 'float' && Number(cell.value) === 0) sheet.zeroFormulas.add(cellKey(r, c));
  });
  return builder.finish();
}

function putCell(builder: ReceivedBuilder, row: number, cell: Cell): void {
  const { type, value, text = '' } = cell;
  const plain = () => {
    const shown = value ?? text;
    if (shown !== '') builder.text(row, shown);
  };
  if (type === 'error' || (type === 'string' && /^(?:#[A-Z/0!?]+|Err:\d+)$/.test(text) && cell.formula)) {
    builder.unreadable(row, text || '#ERROR', 'an error cell of the workbook');
    return;
  }
  switch (type) {
    case 'float':
    case 'percentage':
    case 'currency': {
      const number = Number(value);
      if (value === undefined || value === '' || Number.isNaN(number) || !keepsDigits(value)) plain();
      else builder.counted(row, Tag.number, number);
      return;
    }
    case 'boolean':
      builder.counted(row, Tag.yesno, value === 'true' ? 1 : 0);
      return;
    case 'date': {
      const ms = dateOf(value ?? '');
      if (ms === undefined) plain();
      else if (ms % MS.day === 0) builder.counted(row, Tag.date, ms / MS.day);
      else builder.counted(row, Tag.datetime, ms);
      return;
    }
    case 'time': {
      const ms = durationOf(value ?? '');
      if (ms === undefined) plain();
      else if (ms < MS.day) builder.counted(row, Tag.time, ms);
      // A duration is no time of day: it is kept in days, as workbooks store it.
      else builder.counted(row, Tag.number, ms / MS.day);
      return;
    }
    default:
      plain();
  }
}

/** Milliseconds since 1970 of an ISO 8601 date or date and time, or undefined. */
function dateOf(text: string): number | undefined {
  const match = /^(-?\d{4,})-(\d\d)-(\d\d)(?:T(\d\d):(\d\d)(?::(\d\d)(?:[.,](\d{1,9}))?)?)?/.exec(text);
  if (match === null) return undefined;
  const [year, month, day, hour, minute, second] = match.slice(1, 7).map((piece) => Number(piece ?? 0));
  const days = daysFromCivil(year!, month!, day!);
  const fraction = Number(`0.${match[7] ?? '0'}`);
  return days * MS.day + hour! * MS.hour + minute! * MS.minute + Math.round((second! + fraction) * 1000);
}

/** Milliseconds of an ISO 8601 duration of hours, minutes and seconds, or undefined. */
function durationOf(text: string): number | undefined {
  const match = /^P(?:(\d+)D)?T(?:(\d+)H)?(?:(\d+)M)?(?:(\d+(?:[.,]\d+)?)S)?$/.exec(text);
  if (match === null) return undefined;
  const [days, hours, minutes, seconds] = match.slice(1).map((piece) => Number((piece ?? '0').replace(',', '.')));
  return days! * MS.day + hours! * MS.hour + minutes! * MS.minute + Math.round(seconds! * 1000);
}

function displayedColumn(sheet: Sheet, c: number, stored: Column, rows: number): DisplayedColumn | undefined {
  const shown = new ShownTexts(rows);
  sheet.rows.forEach((row, r) => {
    const cell = row?.get(c);
    const text = cell?.text?.trim() ?? '';
    if (text !== '' && cell?.type !== 'string') shown.put(r, text, stored);
  });
  return shown.finish();
}
