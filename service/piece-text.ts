/** What the pieces of a file need of its text, in each thread that runs them. */
import { closeSync, openSync, readSync } from 'node:fs';
import { type ExportSpec, type Table, writeDelimited } from '../core/index.ts';

/** Line feeds before a byte of a file. */
export function linesBefore(path: string, byte: number): number {
  const file = openSync(path, 'r');
  const bytes = Buffer.alloc(1 << 20);
  let lines = 0;
  try {
    for (let at = 0; at < byte; ) {
      const read = readSync(file, bytes, 0, Math.min(bytes.length, byte - at), at);
      if (read === 0) break;
      for (let k = bytes.indexOf(10); k >= 0 && k < read; k = bytes.indexOf(10, k + 1)) lines++;
      at += read;
    }
  } finally {
    closeSync(file);
  }
  return lines;
}

/** Delimited text of the rows alone. */
export function rowsAsText(table: Table, spec: ExportSpec & { as: 'csv' }): Uint8Array<ArrayBuffer> {
  const names = writeDelimited({ ...table, rows: 0 }, spec).length;
  return writeDelimited(table, spec).subarray(names);
}
