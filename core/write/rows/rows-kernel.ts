import { FREE_FROM, type Kernels, kernels } from '../../kernels/kernels.ts';
import { Places } from '../../kernels/window.ts';
import type { Batch } from './batch.ts';
import { concatenate, type TextBytes } from './text-bytes.ts';

/** 32-bit words of what the kernel gets to know of a part (PART in its source). */
const WORDS = 12;
const CELLS_WORD = 10;
const KIND = { same: 0, runs: 1, numbers: 2, coded: 3 };
/** Room for the cells of a batch, and for its rows. */
const CELL_BYTES = 262_144;
const OUT_BYTES = 393_216;
/** For texts that are given once: those of more columns are given with each batch. */
const CODED_BYTES = 131_072;
/** What the kernel may look at behind a text. */
const BEHIND = 16;
/** Batches for which numbers are written as texts at most, until the kernel is asked again. */
const MAX_WAIT = 64;

const UTF8 = new TextEncoder();

/** Writes the rows of a batch; numbers that the kernel does not know are written as texts. */
export class RowsKernel {
  /** For each part how many batches on the kernel is not asked for its numbers, and for how many after the next failure. */
  private readonly wait: Uint8Array;
  private readonly nextWait: Uint8Array;

  private constructor(
    private readonly batch: Batch,
    private readonly kernel: Kernels,
    private readonly memory: ArrayBuffer,
    private readonly places: { parts: number; cells: readonly number[]; bytes: number; out: number },
    private readonly kinds: readonly number[],
  ) {
    this.wait = new Uint8Array(batch.parts.length);
    this.nextWait = new Uint8Array(batch.parts.length).fill(1);
  }

  /** @returns undefined where there are no kernels */
  static of(batch: Batch): RowsKernel | undefined {
    const { parts } = batch;
    const places = new Places(FREE_FROM);
    const take = (bytes: number) => places.take(bytes + BEHIND);
    const given: { bytes: Uint8Array; at: number }[] = [];
    const give = (bytes: Uint8Array) => {
      const at = take(bytes.length);
      given.push({ bytes, at });
      return [at, bytes.length] as const;
    };
    let codedBytes = 0;
    const told = parts.map(({ front, isNumbered, behind, cells }) => {
      const { numbers, coded } = cells ?? {};
      // A text has as many bytes as signs at least.
      const signs = coded?.texts.reduce((sum, { length }) => sum + length, codedBytes) ?? Number.POSITIVE_INFINITY;
      const dictionary = signs <= CODED_BYTES ? runsOf(coded!.texts) : undefined;
      const isCoded = dictionary !== undefined && codedBytes + dictionary.bytes.length <= CODED_BYTES;
      if (isCoded) codedBytes += dictionary.bytes.length;
      const kind = cells === undefined ? KIND.same : isCoded ? KIND.coded : numbers ? KIND.numbers : KIND.runs;
      const around = [give(UTF8.encode(front)), isNumbered === true ? 1 : 0];
      if (isCoded) {
        const [textsAt] = give(dictionary.bytes);
        const ends = dictionary.ends.map((end) => textsAt + end);
        around.push(give(new Uint8Array(ends.buffer)), [0, 0], give(UTF8.encode(coded!.blank)));
      } else {
        const { before = behind ?? '', behind: last = '', blank = '' } = numbers ?? {};
        around.push(...[before, last, blank].map((text) => give(UTF8.encode(text))));
      }
      const cellsAt = cells === undefined ? 0 : take((batch.most + 1) * 8);
      return [kind, ...around.flat(), cellsAt, cells?.isLeftOut === true ? 1 : 0] as number[];
    });
    const at = {
      parts: take(parts.length * WORDS * 4),
      cells: told.map((words) => words[CELLS_WORD]!),
      bytes: take(CELL_BYTES),
      out: take(OUT_BYTES),
    };
    const made = kernels(take(0) - FREE_FROM);
    if (made === undefined) return undefined;
    for (const { bytes, at: place } of given) new Uint8Array(made.memory, place, bytes.length).set(bytes);
    new Int32Array(made.memory, at.parts, parts.length * WORDS).set(told.flat());
    return new RowsKernel(
      batch,
      made.kernels,
      made.memory,
      at,
      told.map(([kind]) => kind!),
    );
  }

  /** Whether it writes the cells of a part itself in the next batch. */
  knows(p: number): boolean {
    if (this.kinds[p] === KIND.runs) return false;
    if (this.wait[p] === 0) return true;
    this.wait[p]!--;
    return false;
  }

  /** Adds the rows of the batch to what is written. */
  addTo(out: TextBytes): void {
    const { batch } = this;
    const row = this.addRows(out);
    if (row < batch.rows) batch.addTo(out, row, batch.rows);
    for (let p = 0; p < batch.parts.length; p++) if (batch.isWritten[p] === 0) this.nextWait[p] = 1;
  }

  /** @returns the row before which there was no room for one, or for the texts that numbers were written as */
  private addRows(out: TextBytes): number {
    const { batch, kernel, places } = this;
    const { rows } = batch;
    for (let p = 0; p < batch.parts.length; p++) this.giveCells(p);
    let given = this.giveBytes(0);
    let row = 0;
    while (row < rows && given >= 0) {
      const end = kernel.rowBytes(
        places.parts,
        batch.parts.length,
        row,
        rows,
        batch.number,
        places.bytes,
        places.out,
        places.out + OUT_BYTES,
      );
      out.putPiece(new Uint8Array(this.memory.slice(places.out, end)));
      const isStuck = kernel.rowBytesRows.value === row;
      row = kernel.rowBytesRows.value;
      const p = kernel.rowBytesPart.value;
      if (p >= 0) {
        this.wait[p] = this.nextWait[p]!;
        this.nextWait[p] = Math.min(MAX_WAIT, this.nextWait[p]! * 2);
        batch.write(p, row);
        this.giveCells(p);
        given = this.giveBytes(given);
      } else if (isStuck) break;
    }
    return row;
  }

  private giveCells(p: number): void {
    const { batch, memory, places } = this;
    const { cells } = batch.parts[p]!;
    if (cells === undefined) return;
    const { from, rows } = batch;
    const at = places.cells[p]!;
    const kind = batch.isWritten[p] === 1 ? KIND.runs : this.kinds[p]!;
    new Int32Array(memory, places.parts + p * WORDS * 4, 1)[0] = kind;
    if (kind === KIND.numbers)
      new Float64Array(memory, at, rows).set(cells.numbers!.values.subarray(from, from + rows));
    else if (kind === KIND.coded) new Int32Array(memory, at, rows).set(cells.coded!.codes.subarray(from, from + rows));
    else new Int32Array(memory, at, rows + 1).set(batch.ends[p]!.subarray(0, rows + 1));
  }

  /** The bytes of cells from some byte on. @returns how many there are, or -1 where they have no room */
  private giveBytes(from: number): number {
    const { memory, places } = this;
    const { added } = this.batch.bytes;
    if (added.length > CELL_BYTES) return -1;
    new Uint8Array(memory, places.bytes).set(added.subarray(from), from);
    return added.length;
  }
}

/** Texts one behind the other, and where each ends with a zero before them. */
function runsOf(texts: readonly string[]): { bytes: Uint8Array; ends: Int32Array } {
  const each = texts.map((text) => UTF8.encode(text));
  const ends = new Int32Array(texts.length + 1);
  each.forEach(({ length }, k) => {
    ends[k + 1] = ends[k]! + length;
  });
  return { bytes: concatenate(each), ends };
}
