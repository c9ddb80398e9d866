import { type Column, Tag, type Unreadable } from '../../table/column.ts';
import { decodeRun } from '../../table/spans.ts';
import { cellText } from '../../values/cell-text.ts';
import { KeptNumbers } from '../kept-numbers.ts';
import { cellKey, type DisplayedColumn } from '../report.ts';
import { type BookTexts, unescaped } from './book-texts.ts';
import type { CellSink } from './scan-cells.ts';

const MIN_ROWS = 256;

/** What a number in a cell is by the format that it is shown in. */
export interface NumberReader {
  /** Whether the format makes a date, a time or both of a number. */
  dated(style: number): boolean;
  /** Puts what the number is by its format. */
  read(style: number, value: number): { tag: number; value: number } | Unreadable;
  /** What is shown; undefined where the format shows nothing that is known. */
  shown(style: number, value: number | boolean): string | undefined;
}

/** Cells of one column while they are taken. */
class CellColumn {
  tags: Uint8Array;
  /** Numbers; codes of texts; indices into errors. */
  values: Float64Array;
  /** Indices of formats plus one, where any cell has one. */
  styles: Uint16Array | undefined;
  readonly errors: Unreadable[] = [];
  rows = 0;
  kinds = 0;

  constructor(rows: number) {
    this.tags = new Uint8Array(rows);
    this.values = new Float64Array(rows);
  }

  put(row: number, tag: number, value: number, style: number): void {
    if (row >= this.tags.length) this.resize(Math.max(row + 1, this.tags.length * 2, MIN_ROWS));
    this.tags[row] = tag;
    this.values[row] = value;
    this.kinds |= 1 << tag;
    if (row >= this.rows) this.rows = row + 1;
    if (style >= 0 || this.styles !== undefined) {
      this.styles ??= new Uint16Array(this.tags.length);
      this.styles[row] = style + 1;
    }
  }

  resize(rows: number): void {
    this.tags = resized(this.tags, new Uint8Array(rows));
    this.values = resized(this.values, new Float64Array(rows));
    if (this.styles !== undefined) this.styles = resized(this.styles, new Uint16Array(rows));
  }
}

function resized<V extends Uint8Array | Uint16Array | Float64Array>(from: V, into: V): V {
  into.set(from.subarray(0, into.length));
  return into;
}

/** The filled cells of one sheet, taken as the scanner comes to them. */
export class SheetCells implements CellSink {
  rows = 0;
  emptyFormulas = 0;
  readonly keptNumbers = new KeptNumbers();
  readonly zeroFormulas = new Set<number>();
  highestStyle = -1;
  readonly hiddenRows = new Set<number>();
  private readonly columnsTaken: (CellColumn | undefined)[] = [];

  /**
   * @param bytes that places of texts are in
   * @param room told of rows and columns before memory is taken for them; throws where they are too many
   */
  constructor(
    private readonly bytes: Uint8Array,
    private readonly texts: BookTexts,
    private readonly room: (rows: number, columns: number) => void,
  ) {}

  get columns(): number {
    return this.columnsTaken.length;
  }

  row(row: number, hidden: boolean): void {
    if (hidden) this.hiddenRows.add(row);
  }

  number(row: number, column: number, style: number, value: number): void {
    this.put(row, column, Tag.number, value, style);
  }

  shared(row: number, column: number, style: number, index: number): void {
    this.putText(row, column, style, this.texts.sharedCode(index));
  }

  text(row: number, column: number, style: number, from: number, to: number, rich: boolean): void {
    const { bytes } = this;
    this.putText(row, column, style, rich ? this.texts.item(bytes, from, to) : this.texts.code(bytes, from, to));
  }

  yesno(row: number, column: number, style: number, value: boolean): void {
    this.put(row, column, Tag.yesno, value ? 1 : 0, style);
  }

  error(row: number, column: number, style: number, from: number, to: number): void {
    const errors = this.column(row, column).errors;
    errors.push({
      text: unescaped(decodeRun(this.bytes, from, to, 'utf-8')),
      reason: 'an error cell of the workbook',
    });
    this.put(row, column, Tag.unreadable, errors.length - 1, style);
  }

  empty(_row: number, _column: number, _style: number, formula: boolean): void {
    if (formula) this.emptyFormulas++;
  }

  longNumber(row: number, column: number, style: number, from: number, to: number): void {
    this.keptNumbers.add(decodeRun(this.bytes, from, to, 'utf-8'));
    this.text(row, column, style, from, to, false);
  }

  zeroFormula(row: number, column: number): void {
    this.zeroFormulas.add(cellKey(row, column));
  }

  private putText(row: number, column: number, style: number, code: number): void {
    if (!this.texts.isEmpty(code)) this.put(row, column, Tag.text, code, style);
  }

  private put(row: number, column: number, tag: number, value: number, style: number): void {
    if (row >= this.rows) this.rows = row + 1;
    if (style > this.highestStyle) this.highestStyle = style;
    this.column(row, column).put(row, tag, value, style);
  }

  private column(row: number, column: number): CellColumn {
    const own = this.columnsTaken[column];
    if (own !== undefined && row < own.tags.length) return own;
    this.room(Math.max(this.rows, row + 1), Math.max(this.columns, column + 1));
    if (own !== undefined) return own;
    const made = new CellColumn(Math.max(MIN_ROWS, Math.min(this.rows, row + 1)));
    while (this.columnsTaken.length < column) this.columnsTaken.push(undefined);
    this.columnsTaken[column] = made;
    return made;
  }

  /**
   * The columns, once all texts are taken and formats are known.
   * @param rows of the part, which may be more than hold cells
   */
  finish(rows: number, columns: number, numbers: NumberReader): Grid {
    const codes = new Int32Array(this.texts.count).fill(-1);
    const grid: Grid = { columns: [], displayed: [] };
    for (let c = 0; c < columns; c++) {
      const own = this.columnsTaken[c] ?? new CellColumn(0);
      if (own.tags.length !== rows) own.resize(rows);
      const dictionary = this.dictionaryOf(own, codes);
      if ((own.kinds & ~TEXT_ALONE) === 0) {
        grid.columns.push(textColumnOf(own, dictionary));
        grid.displayed.push(undefined);
        continue;
      }
      const raw = own.values;
      const styles = own.styles;
      if (styles !== undefined) readDates(own, styles, numbers);
      const column: Column = {
        type: 'received',
        tags: own.tags,
        values: own.values,
        dictionary,
        cells: own.errors,
      };
      grid.columns.push(column);
      grid.displayed.push(shownIn(column, raw, styles, numbers));
    }
    return grid;
  }

  /** Gives the texts of a column their own codes, in the order in which they come. */
  private dictionaryOf(own: CellColumn, codes: Int32Array): string[] {
    const dictionary: string[] = [];
    if ((own.kinds & TEXT_ALONE) === 0) return dictionary;
    const used: number[] = [];
    const { tags, values } = own;
    for (let r = 0; r < tags.length; r++) {
      if (tags[r] !== Tag.text) continue;
      const text = this.texts.final(values[r]!);
      let code = codes[text]!;
      if (code < 0) {
        code = dictionary.length;
        codes[text] = code;
        dictionary.push(this.texts.text(text));
        used.push(text);
      }
      values[r] = code;
    }
    for (const text of used) codes[text] = -1;
    return dictionary;
  }
}

/** Columns as they are stored, and what is shown where that is another text. */
export interface Grid {
  columns: Column[];
  displayed: (DisplayedColumn | undefined)[];
}

const TEXT_ALONE = 1 << Tag.text;

function textColumnOf({ tags, values }: CellColumn, dictionary: readonly string[]): Column {
  const codes = new Int32Array(tags.length);
  for (let r = 0; r < codes.length; r++) codes[r] = tags[r] === Tag.text ? values[r]! : -1;
  return { type: 'text', codes, dictionary, distinct: true };
}

/** Numbers that their format shows as days or times become these; what they were stays for what is shown. */
function readDates(own: CellColumn, styles: Uint16Array, numbers: NumberReader): void {
  const { tags } = own;
  let raw: Float64Array | undefined;
  for (let r = 0; r < tags.length; r++) {
    const style = styles[r]! - 1;
    if (style < 0 || tags[r] !== Tag.number || !numbers.dated(style)) continue;
    if (raw === undefined) {
      raw = own.values;
      own.values = raw.slice();
    }
    const read = numbers.read(style, raw[r]!);
    if ('tag' in read) {
      tags[r] = read.tag;
      own.values[r] = read.value;
    } else {
      own.errors.push(read);
      tags[r] = Tag.unreadable;
      own.values[r] = own.errors.length - 1;
    }
  }
}

/** What cells show is worked out when one is looked at: formats are slow, and most cells never are. */
function shownIn(
  column: Column & { type: 'received' },
  raw: Float64Array,
  styles: Uint16Array | undefined,
  numbers: NumberReader,
): DisplayedColumn {
  return {
    text(row) {
      const tag = column.tags[row]!;
      if (tag === Tag.blank || tag === Tag.text || tag === Tag.unreadable) return undefined;
      const shown = numbers.shown((styles?.[row] ?? 0) - 1, tag === Tag.yesno ? raw[row] === 1 : raw[row]!)?.trim();
      return shown === cellText(column, row) ? undefined : shown;
    },
  };
}
