import { ByteDictionary } from '../../table/byte-dictionary.ts';
import { type Column, Tag } from '../../table/column.ts';
import { SpanBuilder, Spans, spannedColumn } from '../../table/spans.ts';
import type { CellBuilder } from '../nested-rows.ts';
import { NotPlain } from '../not-plain.ts';

/** Bytes of texts that stand nowhere as they read, for all columns of a reading; places behind the source's own bytes. */
export class ExtraTexts {
  private bytes = new Uint8Array(256);
  private size = 0;

  /** @param base length of the source */
  constructor(readonly base: number) {}

  /** Where the text stands from now on. @throws NotPlain for one that has no bytes: half of a pair of surrogates */
  add(text: string): { from: number; length: number } {
    if (/\p{Surrogate}/u.test(text)) throw new NotPlain();
    const own = new TextEncoder().encode(text);
    if (this.size + own.length > this.bytes.length) {
      const wider = new Uint8Array(Math.max(this.size + own.length, this.bytes.length * 2));
      wider.set(this.bytes.subarray(0, this.size));
      this.bytes = wider;
    }
    this.bytes.set(own, this.size);
    const from = this.base + this.size;
    this.size += own.length;
    return { from, length: own.length };
  }

  /** All of them, once no more come. */
  all(): Uint8Array {
    return this.bytes.subarray(0, this.size);
  }
}

/** Cells of one field: texts as runs of the source's bytes, numbers and yes/no as they are. */
export class SpanCells implements CellBuilder {
  private tags = new Uint8Array(64);
  private starts: Int32Array | undefined;
  private lengths = new Uint16Array(0);
  private readonly longs = new Map<number, number>();
  private values: Float64Array | undefined;

  constructor(
    private readonly bytes: Uint8Array,
    private readonly extra: ExtraTexts,
  ) {}

  text(row: number, text: string): void {
    const { from, length } = this.extra.add(text);
    this.span(row, from, length);
  }

  /** A text by its bytes. */
  span(row: number, from: number, length: number): void {
    if (row >= this.tags.length) this.grow(row);
    if (this.starts === undefined) {
      this.starts = new Int32Array(this.tags.length).fill(-1);
      this.lengths = new Uint16Array(this.tags.length);
    }
    this.tags[row] = Tag.text;
    this.starts[row] = from;
    this.lengths[row] = SpanBuilder.lengthOf(from, length, this.longs);
  }

  counted(row: number, tag: number, value: number): void {
    if (row >= this.tags.length) this.grow(row);
    this.values ??= new Float64Array(this.tags.length);
    this.tags[row] = tag;
    this.values[row] = value;
  }

  clear(row: number): void {
    if (row >= this.tags.length) return;
    this.tags[row] = Tag.blank;
    if (this.starts !== undefined) this.starts[row] = -1;
  }

  private grow(row: number): void {
    this.resize(Math.max(row + 1, Math.ceil(this.tags.length * 1.7)));
  }

  private resize(rows: number): void {
    const before = Math.min(rows, this.tags.length);
    const tags = new Uint8Array(rows);
    tags.set(this.tags.subarray(0, before));
    this.tags = tags;
    if (this.starts !== undefined) {
      const starts = new Int32Array(rows).fill(-1, before);
      starts.set(this.starts.subarray(0, before));
      this.starts = starts;
      const lengths = new Uint16Array(rows);
      lengths.set(this.lengths.subarray(0, before));
      this.lengths = lengths;
    }
    if (this.values !== undefined) {
      const values = new Float64Array(rows);
      values.set(this.values.subarray(0, before));
      this.values = values;
    }
  }

  finish(rows: number): Column {
    if (rows !== this.tags.length) this.resize(rows);
    const { tags } = this;
    const starts = this.starts ?? new Int32Array(rows).fill(-1);
    const lengths = this.starts === undefined ? new Uint16Array(rows) : this.lengths;
    const spans = new Spans(this.bytes, this.extra.all(), starts, lengths, this.longs, 'utf-8');
    if (tags.every((tag) => tag === Tag.blank || tag === Tag.text)) return spannedColumn(spans);
    const values = this.values!;
    const dictionary = new ByteDictionary();
    for (let r = 0; r < rows; r++) if (tags[r] !== Tag.text) starts[r] = -1;
    spans.each((row, bytes, from, to) => {
      values[row] = dictionary.code(bytes, from, to);
    });
    return { type: 'received', tags, values, dictionary: dictionary.texts('utf-8'), cells: [] };
  }
}
