/** A method on a file that is too large to hold: read, run and written piece by piece. */
import { closeSync, fsyncSync, mkdirSync, openSync, readSync, renameSync, rmSync, statSync, writeSync } from 'node:fs';
import { availableParallelism } from 'node:os';
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
import { type PieceCounts, PiecePool, type PiecesSetup } from './piece-pool.ts';
import { linesBefore, rowsAsText } from './piece-text.ts';

/** Bytes of a piece, and of the first, which tells what all others need. */
const PIECE = 33_554_432;
const FIRST_PIECE = 4_194_304;
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
  /** Text that was made of a table elsewhere; undefined where only tables are taken. */
  addText?(text: Uint8Array): void;
  end(): void;
}

/** How large pieces are, and on how many threads they are run beside this one. */
export interface PiecesPlan {
  piece?: number;
  threads?: number;
}

/**
 * @param told says how far it is
 * @throws Trouble, PiecesFailure, ExportStopped
 */
export async function runInPieces(
  { job, table, source }: { job: Job; table: JobTable; source: string },
  path: string,
  out: string,
  spec: ExportSpec,
  io: Io,
  told: (text: string) => void,
  { piece = PIECE, threads }: PiecesPlan = {},
): Promise<PiecesCounts> {
  const run = new InPieces(job, table, source, basename(path), (byte) => linesBefore(path, byte));
  const { size } = statSync(path);
  const counts: PiecesCounts = { received: 0, rows: 0, aside: {}, unreadable: 0, pieces: 0 };
  const aside = out === '-' ? '' : `${out}.${process.pid}.part`;
  if (out !== '-') mkdirSync(dirname(out), { recursive: true });
  const output = writing(out, () => outputOf(spec, aside, io));
  const count = (made: PieceCounts, end: number) => {
    counts.received += made.received;
    counts.rows += made.rows;
    counts.unreadable += made.unreadable;
    counts.pieces++;
    for (const [name, rows] of made.aside) counts.aside[name] = (counts.aside[name] ?? 0) + rows;
    told(`${Math.round((100 * end) / size)}%: ${counted(counts.rows, 'row')}`);
  };
  let pool: PiecePool | undefined;
  try {
    for (const { bytes, length, at } of piecesOf(run, path, size, piece)) {
      const isBegun = run.begun !== undefined;
      if (isBegun && pool === undefined && spec.as === 'csv')
        pool = poolFor({ job, table: table.id, source, path, spec, begun: run.begun! }, size - at, piece, threads);
      if (pool === undefined) {
        const made = run.next(bytes.subarray(0, length));
        writing(out, () => output.add(made.table));
        count({ ...made, rows: made.table.rows }, at + length);
        continue;
      }
      while (pool.isFull) await takeOne(pool);
      pool.give({ bytes, length, at });
    }
    while (pool?.isWorking === true) await takeOne(pool);
    writing(out, () => {
      output.end();
      if (aside !== '') renameSync(aside, out);
    });
  } catch (error) {
    if (aside !== '') rmSync(aside, { force: true });
    throw error;
  } finally {
    pool?.end();
    told('');
  }
  return counts;

  async function takeOne(from: PiecePool) {
    const { text, made, end } = await from.take();
    writing(out, () => output.addText!(text));
    count(made, end);
  }
}

/** Threads beside this one where there is enough for two of them; none where there is one processor. */
function poolFor(
  setup: PiecesSetup,
  left: number,
  piece: number,
  threads = availableParallelism() < 2 ? 0 : Math.min(MAX_THREADS, availableParallelism()),
): PiecePool | undefined {
  return threads === 0 || left < 2 * piece ? undefined : new PiecePool(setup, threads);
}

/** Threads that one which reads and writes can keep busy. */
const MAX_THREADS = 4;

/** A file in pieces of whole rows: in each the bytes up to a length, which begin at a byte of the file. */
function* piecesOf(
  run: InPieces,
  path: string,
  size: number,
  piece: number,
): Generator<{ bytes: Uint8Array<ArrayBuffer>; length: number; at: number }> {
  const file = openSync(path, 'r');
  try {
    let left = new Uint8Array();
    let at = 0;
    while (at < size || left.length > 0) {
      const wanted = run.begun === undefined ? Math.min(piece, FIRST_PIECE) : piece;
      const bytes = new Uint8Array(left.length + Math.min(wanted, size - at));
      bytes.set(left);
      for (let filled = left.length; filled < bytes.length; ) {
        const read = readSync(file, bytes, filled, bytes.length - filled, at);
        if (read === 0) throw new Trouble(`${path} became shorter while it was read.`);
        filled += read;
        at += read;
      }
      const length = run.wholeRows(bytes, at === size);
      if (length === 0) {
        if (bytes.length > MAX_ROW_LENGTH)
          throw new Trouble(
            `A row of ${path} is longer than ${grouped(MAX_ROW_LENGTH / 1_048_576)} MiB, before byte ${grouped(at)}: a quote may never be closed. Correct it, or say in the reading that there are no quotes.`,
          );
        left = bytes;
        continue;
      }
      left = bytes.slice(length);
      yield { bytes, length, at: at - bytes.length };
    }
  } finally {
    closeSync(file);
  }
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
      put(isFirst ? writeDelimited(table, spec) : rowsAsText(table, spec));
      isFirst = false;
    },
    addText: put,
    end() {
      if (to === undefined) return;
      fsyncSync(to);
      closeSync(to);
    },
  };
}
