/** A method on a file that is too large to hold: read, run and written piece by piece. */
import { closeSync, fsyncSync, mkdirSync, openSync, readSync, renameSync, rmSync, statSync, writeSync } from 'node:fs';
import { basename, dirname } from 'node:path';
import { fileWriter } from 'hyparquet-writer';
import {
  counted,
  type ExportSpec,
  grouped,
  InPieces,
  type Job,
  type JobTable,
  type Table,
  writeDelimited,
} from '../core/index.ts';
import { ParquetPieces } from '../core/write/parquet/write-parquet.ts';
import { type Io, Trouble } from './command-files.ts';
import { startSecondThread } from './second-thread.ts';

/** Bytes of a piece. */
const PIECE = 67_108_864;
/** A row that is longer is none: a quote is never closed. */
const MAX_ROW_LENGTH = 536_870_912;
/** Files from here on are run piece by piece. */
export const WHOLE_BYTES = 1_000_000_000;

export interface PiecesCounts {
  received: number;
  rows: number;
  aside: Record<string, number>;
  unreadable: number;
  pieces: number;
}

interface Output {
  add(table: Table): void;
  end(): void;
}

/**
 * @param told says how far it is
 * @throws Trouble, PiecesFailure
 */
export function runInPieces(
  { job, table, source }: { job: Job; table: JobTable; source: string },
  path: string,
  out: string,
  spec: ExportSpec,
  io: Io,
  told: (text: string) => void,
  piece = PIECE,
): PiecesCounts {
  const run = new InPieces(job, table, source, basename(path), (byte) => linesBefore(path, byte));
  const { size } = statSync(path);
  startSecondThread(size);
  const counts: PiecesCounts = { received: 0, rows: 0, aside: {}, unreadable: 0, pieces: 0 };
  const aside = out === '-' ? '' : `${out}.${process.pid}.part`;
  if (out !== '-') mkdirSync(dirname(out), { recursive: true });
  const output = writing(out, () => outputOf(spec, aside, io));
  const file = openSync(path, 'r');
  try {
    let left = new Uint8Array();
    let at = 0;
    while (at < size || left.length > 0) {
      const bytes = new Uint8Array(left.length + Math.min(piece, size - at));
      bytes.set(left);
      for (let filled = left.length; filled < bytes.length; ) {
        const read = readSync(file, bytes, filled, bytes.length - filled, at);
        if (read === 0) throw new Trouble(`${path} became shorter while it was read.`);
        filled += read;
        at += read;
      }
      const whole = run.wholeRows(bytes, at === size);
      if (whole === 0) {
        if (bytes.length > MAX_ROW_LENGTH)
          throw new Trouble(
            `A row of ${path} is longer than ${grouped(MAX_ROW_LENGTH / 1_048_576)} MiB, before byte ${grouped(at)}: a quote may never be closed. Correct it, or say in the reading that there are no quotes.`,
          );
        left = bytes;
        continue;
      }
      const made = run.next(bytes.subarray(0, whole));
      writing(out, () => output.add(made.table));
      counts.received += made.received;
      counts.rows += made.table.rows;
      counts.unreadable += made.unreadable;
      counts.pieces++;
      for (const [name, rows] of made.aside) counts.aside[name] = (counts.aside[name] ?? 0) + rows;
      left = bytes.slice(whole);
      told(`${Math.round((100 * at) / size)}%: ${counted(counts.rows, 'row')}`);
    }
    writing(out, () => {
      output.end();
      if (aside !== '') renameSync(aside, out);
    });
  } catch (error) {
    if (aside !== '') rmSync(aside, { force: true });
    throw error;
  } finally {
    closeSync(file);
    told('');
  }
  return counts;
}

/** @throws Trouble that names the file where the system refuses to write it */
function writing<T>(out: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException;
    throw code === undefined ? error : new Trouble(`${out} cannot be written: ${message}`);
  }
}

/** Line feeds before a byte of a file. */
function linesBefore(path: string, byte: number): number {
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

function outputOf(spec: ExportSpec, aside: string, io: Io): Output {
  if (spec.as === 'parquet') {
    if (aside === '') throw new Trouble('Parquet is written piece by piece into a file: name it with --out.');
    const pieces = new ParquetPieces(fileWriter(aside));
    return { add: (table) => pieces.add(table), end: () => pieces.end() };
  }
  if (spec.as !== 'csv')
    throw new Trouble(
      `A file of this size is written as csv or parquet, and not as ${spec.as}. Choose one of them with --as.`,
    );
  const to = aside === '' ? undefined : openSync(aside, 'w');
  const put = (bytes: Uint8Array) => {
    if (to === undefined) io.output(bytes);
    else for (let at = 0; at < bytes.length; ) at += writeSync(to, bytes, at);
  };
  let isFirst = true;
  return {
    add(table) {
      const bytes = writeDelimited(table, spec);
      const names = isFirst ? 0 : writeDelimited({ ...table, rows: 0 }, spec).length;
      isFirst = false;
      put(bytes.subarray(names));
    },
    end() {
      if (to === undefined) return;
      fsyncSync(to);
      closeSync(to);
    },
  };
}
