/** What a column's cells are in a row group, as numbers or as text. */
import { ByteDictionary } from '../../table/byte-dictionary.ts';
import type { Column } from '../../table/column.ts';
import { spansOf } from '../../table/spanned-column.ts';
import type { Spans } from '../../table/spans.ts';
import { flags, intVector } from '../../table/vectors.ts';
import { textView } from '../../values/cell-text.ts';
import type { ValueKind } from '../value-kinds.ts';
import { type ChunkCells, PAGE_BYTES } from './column-chunk.ts';
import { addBooleans } from './hybrid.ts';
import { numberCodes } from './number-codes.ts';
import { PageBytes } from './page-bytes.ts';
import { textBounds } from './text-bounds.ts';

const HIGH = 2 ** 32;

/** Numbers in the bytes that their type has, one behind the other ('PLAIN'); Parquet and typed arrays are little-endian. */
function plainBytes(values: Float64Array, kind: Exclude<ValueKind, 'text' | 'yesno'>): Uint8Array {
  const n = values.length;
  if (kind === 'number') return bytesOf(values);
  if (kind === 'date' || kind === 'time') return bytesOf(intVector(n, (k) => values[k]!));
  const halves = new Int32Array(n * 2);
  for (let k = 0; k < n; k++) {
    const high = Math.floor(values[k]! / HIGH);
    halves[2 * k] = values[k]! - high * HIGH;
    halves[2 * k + 1] = high;
  }
  return bytesOf(halves);
}

function bytesOf({ buffer, byteOffset, byteLength }: ArrayBufferView): Uint8Array {
  return new Uint8Array(buffer, byteOffset, byteLength);
}

/** @param values of a row group; NaN is blank */
export function numberCells(values: Float64Array, kind: Exclude<ValueKind, 'text'>): ChunkCells {
  const { filled, least, most, coded } = numberCodes(values);
  const own = { rows: values.length, filled, statistics: boundsOf(least, most, kind) };
  if (kind === 'yesno') return { ...own, cells: { add: (out, from, to) => addTruth(out, values, from, to) } };
  if (coded !== undefined) {
    const { codes, entries } = coded;
    return { ...own, cells: { codes, entries: entries.length, dictionary: plainBytes(entries, kind) } };
  }
  return {
    ...own,
    cells: {
      add(out, from, to) {
        out.put(plainBytes(filledOf(values, from, to), kind));
        return to;
      },
    },
  };
}

function filledOf(values: Float64Array, from: number, to: number): Float64Array {
  const out = new Float64Array(to - from);
  let count = 0;
  for (let r = from; r < to; r++) if (!Number.isNaN(values[r]!)) out[count++] = values[r]!;
  return out.subarray(0, count);
}

function boundsOf(least: number, most: number, kind: ValueKind): ChunkCells['statistics'] {
  if (least > most) return {};
  if (kind === 'yesno') return { min_value: least !== 0, max_value: most !== 0 };
  // Bounds of 0 hold both zeros (parquet.thrift, ColumnOrder).
  if (kind === 'number') return { min_value: least === 0 ? -0 : least, max_value: most === 0 ? 0 : most };
  return { min_value: least, max_value: most };
}

function addTruth(out: PageBytes, values: Float64Array, from: number, to: number): number {
  addBooleans(
    out,
    flags(filledOf(values, from, to), (value) => value !== 0),
  );
  return to;
}

/** The different texts of a row group, and which of them each filled cell is. */
interface Texts {
  filled: Uint8Array;
  codes: Int32Array;
  /** One behind the other, each with its length in four bytes before it ('PLAIN'). */
  bytes: Uint8Array;
  /** Where each text ends, a zero before them. */
  ends: Float64Array;
}

/** Gives the cells of a text column row group by row group. */
export function textCells(column: Column): (from: number, to: number) => ChunkCells {
  const spans = column.type === 'text' ? spansOf(column) : undefined;
  let ofDictionary: ((from: number, to: number) => Texts) | undefined;
  return (from, to) => {
    let texts = spans && textsOfSpans(spans.stretch(from, to));
    if (texts === undefined) {
      ofDictionary ??= textsOfDictionary(column);
      texts = ofDictionary(from, to);
    }
    return chunkOf(texts);
  };
}

function chunkOf({ filled, codes, bytes, ends }: Texts): ChunkCells {
  const own = { rows: filled.length, filled, statistics: boundsOfTexts(bytes, ends) };
  const entries = ends.length - 1;
  if (entries <= codes.length / 2) return { ...own, cells: { codes, entries, dictionary: bytes } };
  /** Pages follow each other. */
  let cell = 0;
  return {
    ...own,
    cells: {
      add(out, from, to) {
        let r = from;
        for (; r < to && out.length < PAGE_BYTES; r++) {
          if (filled[r] === 0) continue;
          const code = codes[cell++]!;
          out.putRun(bytes, ends[code]!, ends[code + 1]!);
        }
        return r;
      },
    },
  };
}

/** Cells that are still bytes of their source, without a text for each; undefined where they are not all of ASCII. */
function textsOfSpans(spans: Spans): Texts | undefined {
  const filled = new Uint8Array(spans.rows);
  const codes = new Int32Array(spans.rows);
  const different = new ByteDictionary();
  let cells = 0;
  spans.each((row, bytes, from, to) => {
    filled[row] = 1;
    codes[cells++] = different.code(bytes, from, to);
  });
  const { bytes, starts } = different.runs;
  if (bytes.some((byte) => byte >= 0x80)) return undefined;
  const out = new PageBytes();
  const ends = new Float64Array(different.size + 1);
  for (let k = 0; k < different.size; k++) {
    out.int32(starts[k + 1]! - starts[k]!);
    out.put(bytes.subarray(starts[k], starts[k + 1]));
    ends[k + 1] = out.length;
  }
  return { filled, codes: codes.subarray(0, cells), bytes: out.all(), ends };
}

function textsOfDictionary(column: Column): (from: number, to: number) => Texts {
  const { codes: all, texts } = textView(column);
  /** The place of each text in the row group's own dictionary, and 1 more. */
  const places = new Int32Array(texts.length);
  return (from, to) => {
    const rows = to - from;
    const filled = new Uint8Array(rows);
    const codes = new Int32Array(rows);
    const used: number[] = [];
    let cells = 0;
    for (let r = 0; r < rows; r++) {
      const code = all[from + r]!;
      if (code < 0) continue;
      filled[r] = 1;
      if (places[code] === 0) places[code] = used.push(code);
      codes[cells++] = places[code]! - 1;
    }
    for (const code of used) places[code] = 0;
    const out = new PageBytes();
    const ends = new Float64Array(used.length + 1);
    used.forEach((code, k) => {
      out.text(texts[code]!);
      ends[k + 1] = out.length;
    });
    return { filled, codes: codes.subarray(0, cells), bytes: out.all(), ends };
  };
}

/** The least and the greatest text by their bytes. @param ends where each text ends, a zero before them */
function boundsOfTexts(bytes: Uint8Array, ends: Float64Array): ChunkCells['statistics'] {
  if (ends.length === 1) return {};
  const { least, most } = textBounds(bytes, ends);
  const text = (k: number) => bytes.slice(ends[k]! + 4, ends[k + 1]!);
  return { min_value: text(least), max_value: text(most) };
}
