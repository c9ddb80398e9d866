import { type Column, type CountedColumn, type CountedType, Tag, type TextColumn, type Unreadable } from './column.ts';

/** Gives each distinct text a code, in order of first appearance. */
export class Dictionary {
  readonly texts: string[] = [];
  private readonly codes = new Map<string, number>();

  code(text: string): number {
    let code = this.codes.get(text);
    if (code === undefined) {
      code = this.texts.length;
      this.codes.set(text, code);
      this.texts.push(text);
    }
    return code;
  }
}

/** Collects a text column cell by cell; null is blank. */
export class TextBuilder {
  private codes: Int32Array;
  private length = 0;
  private readonly dictionary = new Dictionary();

  constructor(capacity = 1024) {
    this.codes = new Int32Array(capacity);
  }

  get rows(): number {
    return this.length;
  }

  push(text: string | null): void {
    if (this.length === this.codes.length) {
      const wider = new Int32Array(this.codes.length * 2);
      wider.set(this.codes);
      this.codes = wider;
    }
    this.codes[this.length++] = text === null ? -1 : this.dictionary.code(text);
  }

  /** Blank cells until the column holds this many rows. */
  padTo(rows: number): void {
    while (this.length < rows) this.push(null);
  }

  finish(): TextColumn {
    return {
      type: 'text',
      codes: this.codes.slice(0, this.length),
      dictionary: this.dictionary.texts,
      distinct: true,
    };
  }
}

/** Collects unreadable cells for a column of known length. */
export class UnreadableBuilder {
  private codes: Int32Array | undefined;
  private readonly cells: Unreadable[] = [];
  private readonly known = new Map<string, number>();
  /** Rows that were set, in the order in which they were. */
  readonly rowsSet: number[] = [];

  constructor(private readonly rows: number) {}

  set(row: number, text: string, reason: string): void {
    this.codes ??= new Int32Array(this.rows).fill(-1);
    this.rowsSet.push(row);
    const key = `${reason}\u0000${text}`;
    let code = this.known.get(key);
    if (code === undefined) {
      code = this.cells.length;
      this.known.set(key, code);
      this.cells.push({ text, reason });
    }
    this.codes[row] = code;
  }

  attach(type: CountedType, values: Float64Array): CountedColumn {
    return this.codes === undefined
      ? { type, values }
      : { type, values, unreadable: { codes: this.codes, cells: this.cells } };
  }
}

/** A column as received, filled in any order. */
export class ReceivedBuilder {
  private tags: Uint8Array;
  private values: Float64Array;
  private readonly dictionary = new Dictionary();
  private readonly cells: Unreadable[] = [];
  private readonly seen = new Set<number>();

  /** @param rows as many as there will be, or where to begin */
  constructor(rows: number) {
    this.tags = new Uint8Array(rows);
    this.values = new Float64Array(rows);
  }

  text(row: number, text: string): void {
    this.put(row, Tag.text, this.dictionary.code(text));
  }

  counted(row: number, tag: number, value: number): void {
    this.put(row, tag, value);
  }

  unreadable(row: number, text: string, reason: string): void {
    this.cells.push({ text, reason });
    this.put(row, Tag.unreadable, this.cells.length - 1);
  }

  private put(row: number, tag: number, value: number): void {
    if (row >= this.tags.length) this.resize(Math.max(row + 1, this.tags.length * 2));
    this.tags[row] = tag;
    this.values[row] = value;
    this.seen.add(tag);
  }

  private resize(rows: number): void {
    const tags = new Uint8Array(rows);
    tags.set(this.tags.subarray(0, rows));
    this.tags = tags;
    const values = new Float64Array(rows);
    values.set(this.values.subarray(0, rows));
    this.values = values;
  }

  /** A plain text column where only text came, else a received column. */
  finish(rows = this.tags.length): Column {
    if (rows !== this.tags.length) this.resize(rows);
    const onlyText = [...this.seen].every((tag) => tag === Tag.text);
    if (!onlyText) {
      return {
        type: 'received',
        tags: this.tags,
        values: this.values,
        dictionary: this.dictionary.texts,
        cells: this.cells,
      };
    }
    const codes = new Int32Array(this.tags.length);
    for (let r = 0; r < codes.length; r++) codes[r] = this.tags[r] === Tag.text ? this.values[r]! : -1;
    return { type: 'text', codes, dictionary: this.dictionary.texts, distinct: true };
  }
}

export function textColumn(cells: readonly (string | null)[]): TextColumn {
  const builder = new TextBuilder(Math.max(1, cells.length));
  for (const cell of cells) builder.push(cell);
  return builder.finish();
}

/** One text on every row. */
export function constantText(text: string, rows: number): TextColumn {
  return { type: 'text', codes: new Int32Array(rows), dictionary: [text], distinct: true };
}

/** Null is blank. */
export function countedColumn(type: CountedType, cells: readonly (number | null)[]): CountedColumn {
  return { type, values: Float64Array.from(cells, (cell) => cell ?? Number.NaN) };
}
