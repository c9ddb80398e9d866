import { ByteWriter, ParquetWriter, type Writer } from 'hyparquet-writer';
import type { Table } from '../../table/table.ts';
import { type ValueKind, valueKind, valuesOf } from '../value-kinds.ts';
import { numberCells, textCells } from './chunk-cells.ts';
import { type ChunkCells, writeChunk } from './column-chunk.ts';

const SCHEMA = {
  text: { type: 'BYTE_ARRAY', converted_type: 'UTF8' },
  number: { type: 'DOUBLE' },
  whole: { type: 'INT64' },
  yesno: { type: 'BOOLEAN' },
  date: { type: 'INT32', converted_type: 'DATE' },
  time: { type: 'INT32', converted_type: 'TIME_MILLIS' },
  datetime: { type: 'INT64', converted_type: 'TIMESTAMP_MILLIS' },
} as const;

/** Rows of a row group at most. */
const GROUP_ROWS = 1 << 17;

/**
 * Writes tables with the same columns into one Parquet file, each as one or more row groups. Head and foot are
 * the library's; pages are made here, straight from the vectors of the columns (docs of the format: apache/parquet-format).
 */
export class ParquetPieces {
  private file: ParquetWriter | undefined;

  /** @param to takes the bytes; a writer of the library */
  constructor(private readonly to: Writer) {}

  add(table: Table): void {
    const kinds = table.fields.map(valueKind);
    this.file ??= new ParquetWriter({ writer: this.to, schema: schemaOf(table, kinds), createdBy: 'rimefield' });
    const cells = table.fields.map(({ column }, c) => cellsOf(column, kinds[c]!));
    for (let from = 0; from < table.rows; from += GROUP_ROWS) {
      const to = Math.min(table.rows, from + GROUP_ROWS);
      const start = this.to.offset;
      const columns = table.fields.map(({ name }, c) => {
        const at = BigInt(this.to.offset);
        return { file_offset: at, meta_data: writeChunk(this.to, [name], SCHEMA[kinds[c]!].type, cells[c]!(from, to)) };
      });
      this.file.row_groups.push({
        columns,
        total_byte_size: columns.reduce((all, { meta_data }) => all + meta_data.total_uncompressed_size, 0n),
        num_rows: BigInt(to - from),
        total_compressed_size: BigInt(this.to.offset - start),
      });
      this.file.num_rows += BigInt(to - from);
      void this.to.flush?.();
    }
  }

  end(): void {
    void this.file?.finish();
  }
}

/** A table as Apache Parquet, columns by their types. */
export function writeParquet(table: Table): Uint8Array<ArrayBuffer> {
  const to = new ByteWriter();
  const pieces = new ParquetPieces(to);
  pieces.add(table);
  pieces.end();
  return new Uint8Array(to.getBuffer());
}

function schemaOf(table: Table, kinds: readonly ValueKind[]) {
  return [
    { name: 'root', num_children: kinds.length },
    ...kinds.map((kind, c) => ({
      name: table.fields[c]!.name,
      repetition_type: 'OPTIONAL' as const,
      ...SCHEMA[kind],
    })),
  ];
}

function cellsOf(column: Table['fields'][number]['column'], kind: ValueKind): (from: number, to: number) => ChunkCells {
  if (kind === 'text') return textCells(column);
  const values = valuesOf(column);
  return (from, to) => numberCells(values.subarray(from, to), kind);
}
