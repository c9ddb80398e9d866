/** Runs pieces of a file in its own thread. */
import { basename } from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { InPieces } from '../core/index.ts';
import type { GivenPiece, PieceAnswer, PiecesSetup } from './piece-pool.ts';
import { linesBefore, rowsAsText } from './piece-text.ts';

const { job, table, source, path, spec, begun } = workerData as PiecesSetup;
const own = job.tables.find(({ id }) => id === table)!;
const run = new InPieces(job, own, source, basename(path), (byte) => linesBefore(path, byte));

parentPort!.on('message', ({ bytes, length, at }: GivenPiece) => {
  const answer = answerTo(bytes.subarray(0, length), at);
  parentPort!.postMessage(answer, 'text' in answer ? [answer.text.buffer] : []);
});

function answerTo(bytes: Uint8Array, at: number): PieceAnswer {
  try {
    run.goOn(begun, at);
    const { table: made, received, aside, unreadable } = run.next(bytes);
    const text = rowsAsText(made, spec);
    return { text, made: { received, rows: made.rows, aside, unreadable }, end: at + bytes.length };
  } catch (error) {
    return { failed: (error as Error).name, message: (error as Error).message };
  }
}
