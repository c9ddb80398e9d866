/** One column of a row group: pages of codes behind a dictionary where cells repeat, plain ones where they do not. */
import type { ColumnMetaData, Encoding, Statistics } from 'hyparquet';
import type { Writer } from 'hyparquet-writer';
import { writePageHeader } from 'hyparquet-writer/src/datapage.js';
import { addHybrid, bitsOf } from './hybrid.ts';
import { packSnappy } from './pack-snappy.ts';
import { PageBytes } from './page-bytes.ts';

/** Rows of a page at most. */
const PAGE_ROWS = 1 << 15;
/** Bytes from which a page of plain cells is full. */
export const PAGE_BYTES = 1 << 20;

/** The cells of a column in one row group. */
export interface ChunkCells {
  rows: number;
  /** 1 where a cell is filled. */
  filled: Uint8Array;
  statistics: Pick<Statistics, 'min_value' | 'max_value'>;
  cells: CodedCells | PlainCells;
}

export interface CodedCells {
  /** For each filled cell its place in the dictionary. */
  codes: Int32Array;
  entries: number;
  /** All entries, one behind the other ('PLAIN'). */
  dictionary: Uint8Array;
}

export interface PlainCells {
  /** Adds filled cells from a row on, and says before which row it stopped: 'to', or one where the page is full. */
  add(out: PageBytes, from: number, to: number): number;
}

/** Writes a column, and gives what the foot of the file says of it. */
export function writeChunk(
  to: Writer,
  path: string[],
  type: ColumnMetaData['type'],
  { rows, filled, statistics, cells }: ChunkCells,
): ColumnMetaData {
  const start = to.offset;
  let unpacked = 0;
  const isCoded = 'codes' in cells;
  const encoding: Encoding = isCoded ? 'RLE_DICTIONARY' : 'PLAIN';
  let dictionaryAt: bigint | undefined;
  if (isCoded) {
    dictionaryAt = BigInt(start);
    const packed = packSnappy(cells.dictionary);
    writePageHeader(to, {
      type: 'DICTIONARY_PAGE',
      uncompressed_page_size: cells.dictionary.length,
      compressed_page_size: packed.length,
      dictionary_page_header: { num_values: cells.entries, encoding: 'PLAIN' },
    });
    unpacked += to.offset - start + cells.dictionary.length;
    to.appendBytes(packed);
  }
  const pagesAt = to.offset;
  let pages = 0;
  let blanks = 0;
  // Pages of a column are much alike: behind one that did not get smaller no other is tried.
  let packs = true;
  /** Filled cells of the pages before. */
  let cell = 0;
  for (let from = 0; from < rows; pages++) {
    const body = new PageBytes();
    const most = Math.min(rows, from + PAGE_ROWS);
    const end = isCoded ? most : cells.add(body, from, most);
    const own = sum(filled, from, end);
    if (isCoded) addCodes(body, cells, cell, cell + own);
    cell += own;
    const levels = new PageBytes();
    addHybrid(levels, filled.subarray(from, end), 1);
    const plain = body.all();
    const packed: Uint8Array = packs ? packSnappy(plain) : plain;
    const isPacked = packed.length < plain.length;
    packs = isPacked;
    const kept = isPacked ? packed : plain;
    const headAt = to.offset;
    writePageHeader(to, {
      type: 'DATA_PAGE_V2',
      uncompressed_page_size: levels.length + body.length,
      compressed_page_size: levels.length + kept.length,
      data_page_header_v2: {
        num_values: end - from,
        num_nulls: end - from - own,
        num_rows: end - from,
        encoding,
        definition_levels_byte_length: levels.length,
        repetition_levels_byte_length: 0,
        is_compressed: isPacked,
      },
    });
    unpacked += to.offset - headAt + levels.length + body.length;
    to.appendBytes(levels.all());
    to.appendBytes(kept);
    blanks += end - from - own;
    from = end;
  }
  return {
    type,
    encodings: isCoded ? ['PLAIN', 'RLE_DICTIONARY', 'RLE'] : ['PLAIN', 'RLE'],
    path_in_schema: path,
    codec: 'SNAPPY',
    num_values: BigInt(rows),
    total_uncompressed_size: BigInt(unpacked),
    total_compressed_size: BigInt(to.offset - start),
    data_page_offset: BigInt(pagesAt),
    ...(dictionaryAt === undefined ? {} : { dictionary_page_offset: dictionaryAt }),
    statistics: { ...statistics, null_count: BigInt(blanks) },
    encoding_stats: [
      ...(isCoded ? [{ page_type: 'DICTIONARY_PAGE', encoding: 'PLAIN', count: 1 } as const] : []),
      { page_type: 'DATA_PAGE_V2', encoding, count: pages },
    ],
  };
}

/** Codes of filled cells, all of one page. */
function addCodes(out: PageBytes, { codes, entries }: CodedCells, from: number, to: number): void {
  const width = bitsOf(Math.max(0, entries - 1));
  out.put(Uint8Array.of(width));
  addHybrid(out, codes.subarray(from, to), width);
}

function sum(flags: Uint8Array, from: number, to: number): number {
  let all = 0;
  for (let r = from; r < to; r++) all += flags[r]!;
  return all;
}
