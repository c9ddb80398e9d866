import { ByteDictionary } from '../../table/byte-dictionary.ts';
import { type Column, Tag } from '../../table/column.ts';
import { SpanBuilder } from '../../table/span-builder.ts';
import { spannedColumn } from '../../table/spanned-column.ts';
import { Spans } from '../../table/spans.ts';
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

/** Cells that were found elsewhere, none of them long. */
export interface FoundTagged {
  /** A bit for each tag that may be among them. */
  met: number;
  tags: Uint8Array;
  /** Where a text begins, -1 in blank cells; of others it says nothing. */
  starts: Int32Array;
  lengths: Uint16Array;
  values: Float64Array;
}

/** Cells of one field: texts as runs of the source's bytes, numbers and yes/no as they are. */
export class SpanCells implements CellBuilder {
  private tags = new Uint8Array(64);
  private starts: Int32Array | undefined;
  private lengths = new Uint16Array(0);
  private readonly longs = new Map<number, number>();
  private values: Float64Array | undefined;

  /** A bit for each tag that came. */
  private met = 0;

  /** @param expected rows that there will be as far as is known */
  constructor(
    private readonly bytes: Uint8Array,
    private readonly extra: ExtraTexts,
    private readonly expected: () => number,
  ) {}

  text(row: number, text: string): void {
    const { from, length } = this.extra.add(text);
    this.span(row, from, length);
  }

  /** A text by its bytes. */
  span(row: number, from: number, length: number): void {
    if (row >= this.tags.length) this.grow(row);
    this.roomForTexts();
    this.met |= 1 << Tag.text;
    this.tags[row] = Tag.text;
    this.starts![row] = from;
    this.lengths[row] = SpanBuilder.lengthOf(from, length, this.longs);
  }

  counted(row: number, tag: number, value: number): void {
    if (row >= this.tags.length) this.grow(row);
    this.values ??= new Float64Array(this.tags.length);
    this.met |= 1 << tag;
    this.tags[row] = tag;
    this.values[row] = value;
  }

  /** Puts cells that follow each other from a row on. */
  found(row: number, { met, tags, starts, lengths, values }: FoundTagged): void {
    const last = row + tags.length - 1;
    if (last >= this.tags.length) this.grow(last);
    this.tags.set(tags, row);
    this.met |= met;
    if ((met & (1 << Tag.text)) !== 0) {
      this.roomForTexts();
      this.starts!.set(starts, row);
      this.lengths.set(lengths, row);
    }
    if ((met & ~TEXT_OR_BLANK) !== 0) {
      this.values ??= new Float64Array(this.tags.length);
      this.values.set(values, row);
    }
  }

  private roomForTexts(): void {
    if (this.starts !== undefined) return;
    this.starts = new Int32Array(this.tags.length).fill(-1);
    this.lengths = new Uint16Array(this.tags.length);
  }

  clear(row: number): void {
    if (row >= this.tags.length) return;
    this.tags[row] = Tag.blank;
    if (this.starts !== undefined) this.starts[row] = -1;
  }

  private grow(row: number): void {
    this.resize(Math.max(row + 1, Math.ceil(this.tags.length * 1.7), this.expected()));
  }

  private resize(rows: number): void {
    const tags = new Uint8Array(rows);
    tags.set(this.tags);
    if (this.starts !== undefined) {
      const starts = new Int32Array(rows).fill(-1, this.tags.length);
      starts.set(this.starts);
      this.starts = starts;
      const lengths = new Uint16Array(rows);
      lengths.set(this.lengths);
      this.lengths = lengths;
    }
    if (this.values !== undefined) {
      const values = new Float64Array(rows);
      values.set(this.values);
      this.values = values;
    }
    this.tags = tags;
  }

  finish(rows: number): Column {
    if (rows > this.tags.length) this.resize(rows);
    const isTight = rows > this.tags.length * 0.9;
    const own = <V extends Uint8Array | Int32Array | Uint16Array | Float64Array>(vector: V) =>
      (isTight ? vector.subarray(0, rows) : vector.slice(0, rows)) as V;
    const tags = own(this.tags);
    if ((this.met & ~TEXT_OR_BLANK) === 0 || areTexts(tags)) return spannedColumn(this.spans(own, rows));
    const values = own(this.values!);
    const dictionary = new ByteDictionary();
    if (this.starts !== undefined) {
      const spans = this.spans((vector) => vector.slice(0, rows) as typeof vector, rows, tags);
      spans.each((row, bytes, from, to) => {
        values[row] = dictionary.code(bytes, from, to);
      });
    }
    return { type: 'received', tags, values, dictionary: dictionary.texts('utf-8'), cells: [] };
  }

  /** @param tags where cells that are no texts are to be blank */
  private spans(own: <V extends Int32Array | Uint16Array>(vector: V) => V, rows: number, tags?: Uint8Array): Spans {
    const starts = this.starts === undefined ? new Int32Array(rows).fill(-1) : own(this.starts);
    const lengths = this.starts === undefined ? new Uint16Array(rows) : own(this.lengths);
    if (tags !== undefined) for (let r = 0; r < rows; r++) if (tags[r] !== Tag.text) starts[r] = -1;
    return new Spans(this.bytes, this.extra.all(), starts, lengths, this.longs, 'utf-8');
  }
}

const TEXT_OR_BLANK = (1 << Tag.text) | (1 << Tag.blank);

function areTexts(tags: Uint8Array): boolean {
  for (let r = 0; r < tags.length; r++) if (tags[r] !== Tag.blank && tags[r] !== Tag.text) return false;
  return true;
}
