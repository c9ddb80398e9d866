import { CellBytes, type CellRuns, type TextBytes } from './text-bytes.ts';

/** What stands in every row, one part behind the other. */
export interface RowPart {
  /** Stands first. */
  front: string;
  /** Behind it stands the number of the row. */
  isNumbered?: boolean;
  /** Behind both, where there are no cells. */
  behind?: string;
  cells?: PartCells;
}

export interface PartCells {
  /** Writes what stands in a row behind the front. */
  write(row: number, out: TextBytes): void;
  /** The same once more, where most cells are bytes as they stand. */
  runs?: CellRuns | undefined;
  /** Where nothing is written, the front is left out too. */
  isLeftOut?: boolean;
  /** The same once more, where cells are numbers between two texts; NaN is a blank cell. */
  numbers?: { values: Float64Array; before: string; behind: string; blank: string } | undefined;
  /** The same once more, where few different texts are written; a code below zero is a blank cell. */
  coded?: { codes: Int32Array; texts: readonly string[]; blank: string } | undefined;
}

/** Bytes of cells, which parts share: where one has had its own, the batch ends. */
const MAX_BYTES = 196_608;

/** Some rows: the cells of each part as bytes, but for those that a kernel writes itself. */
export class Batch {
  /** Where it begins in the table. */
  from = 0;
  rows = 0;
  readonly bytes = new CellBytes();
  /** For each part with cells where they end: those of row k of the batch are from ends[k] to ends[k + 1]. */
  readonly ends: readonly Int32Array[];
  /** 1 for each part whose cells are among the bytes. */
  readonly isWritten: Uint8Array;
  /** Rows that the next one may have. */
  private tried: number;

  constructor(
    readonly parts: readonly RowPart[],
    readonly most: number,
    private readonly first: number,
  ) {
    this.ends = parts.map(({ cells }) => new Int32Array(cells === undefined ? 0 : most + 1));
    this.isWritten = new Uint8Array(parts.length);
    this.tried = most;
  }

  /** The number of its first row, where rows are numbered. */
  get number(): number {
    return this.first + this.from;
  }

  /**
   * Takes rows from some row of the table on: as many as there is room for, fewer where their cells are long.
   * @param isKnown for each part whether a kernel writes its cells itself
   */
  take(from: number, end: number, isKnown: (part: number) => boolean): void {
    this.from = from;
    this.rows = Math.min(this.tried, end - from);
    this.bytes.clear();
    this.isWritten.fill(0);
    const written = this.parts.flatMap(({ cells }, p) => (cells === undefined || isKnown(p) ? [] : [p]));
    for (const p of written) this.write(p, 0, MAX_BYTES / written.length);
    // What a part wrote beyond the row at which another ended the batch is written again: at most as much once more.
    this.tried = Math.min(this.most, this.rows * 2);
  }

  /**
   * Writes the cells of a part, from a row of the batch on.
   * @param most bytes behind which the batch ends
   */
  write(p: number, row: number, most = Number.POSITIVE_INFINITY): void {
    const { bytes, from } = this;
    const { write, runs } = this.parts[p]!.cells!;
    const ends = this.ends[p]!;
    const start = bytes.size;
    this.isWritten[p] = 1;
    ends[row] = start;
    if (runs !== undefined) {
      this.rows = row + bytes.putRuns(runs, from + row, this.rows - row, ends, row, most);
      return;
    }
    for (let k = row; k < this.rows; k++) {
      write(from + k, bytes);
      ends[k + 1] = bytes.size;
      if (bytes.size - start > most) this.rows = k + 1;
    }
  }

  /** Adds rows of the batch to what is written, and writes first what cells are not among the bytes. */
  addTo(out: TextBytes, row: number, end: number): void {
    const { parts, number } = this;
    parts.forEach(({ cells }, p) => {
      if (cells !== undefined && this.isWritten[p] === 0) this.write(p, row);
    });
    const bytes = this.bytes.added;
    for (let k = row; k < end; k++)
      for (let p = 0; p < parts.length; p++) {
        const { front, isNumbered, behind, cells } = parts[p]!;
        const ends = this.ends[p]!;
        if (cells?.isLeftOut === true && ends[k] === ends[k + 1]) continue;
        out.add(front);
        if (isNumbered === true) out.add(String(number + k));
        if (cells !== undefined) out.putRun(bytes, ends[k]!, ends[k + 1]!);
        else if (behind !== undefined) out.add(behind);
      }
  }
}
