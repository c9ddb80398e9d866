import { FREE_FROM, type Kernels, kernels } from '../../kernels/kernels.ts';
import { KernelWindow, Places, roomFor, WINDOW_BYTES } from '../../kernels/window.ts';
import type { Stretch } from '../encoding.ts';
import type { FoundTagged } from './span-cells.ts';

/** A value of a line: where it stands, and the column it goes to. */
export interface LineValue {
  from: number;
  to: number;
  column: number;
}

/** What stands between the values of a line, the line feed at its end too. */
interface Shape {
  key: string;
  pieces: { bytes: Uint8Array; column: number }[];
}

/** So many shapes are known; lines of others are read the plain way. */
const MOST_SHAPES = 8;
/** So many lines are looked at for whether they have a new shape. */
const MOST_LOOKS = 64;
const CELL_BYTES = 15;
const BLOCK = 16;
/** 32-bit words of what the kernel is told of a piece (PIECE in its source). */
const PIECE_WORDS = 8;
const PIECE_BYTES = PIECE_WORDS * 4;

/** Reads lines of JSON with the kernel: those with the same fields, in the same order, as a line before them. */
export class LinesKernel {
  private readonly shapes: Shape[] = [];
  private looks = 0;
  private made: MadeKernel | undefined;
  private isRefused = false;

  constructor(private readonly bytes: Uint8Array) {}

  /** Whether a line that the kernel left is worth looking at. */
  get learns(): boolean {
    return this.shapes.length < MOST_SHAPES && this.looks < MOST_LOOKS && !this.isRefused;
  }

  /**
   * Learns the shape of a line that was read the plain way.
   * @param values in the order in which they stand
   * @param to behind its line feed
   */
  learn(from: number, to: number, values: readonly LineValue[]): void {
    this.looks++;
    const { bytes } = this;
    const pieces: Shape['pieces'] = [];
    let at = from;
    for (const value of values) {
      pieces.push({ bytes: bytes.slice(at, value.from), column: value.column });
      at = value.to;
    }
    pieces.push({ bytes: bytes.slice(at, to), column: -1 });
    const key = pieces.map((piece) => `${piece.column} ${piece.bytes.join()}`).join(' ');
    if (this.shapes.some((shape) => shape.key === key)) return;
    this.shapes.push({ key, pieces });
    this.made = MadeKernel.of(bytes, this.shapes);
    this.isRefused = this.made === undefined;
  }

  /** Bytes that it has seen to be ASCII. */
  get ascii(): Stretch | undefined {
    return this.made?.ascii;
  }

  /** Reads lines from a place on; undefined where the next has to be read the plain way. */
  read(at: number): MadeLines | undefined {
    return this.made?.read(at);
  }
}

/** Lines that were read, in the kernel's memory: valid until it reads again. */
export interface MadeLines {
  rows: number;
  /** Behind the last of them. */
  at: number;
  columns: number;
  /** The cells of a column, undefined where it has none. */
  cells(column: number): FoundTagged | undefined;
  /** Values of all lines, blank ones too. */
  values: number;
}

class MadeKernel {
  get ascii(): Stretch {
    return this.window.ascii;
  }

  private readonly most: number;
  private readonly window: KernelWindow;
  private readonly tags: Uint8Array;
  private readonly starts: Int32Array;
  private readonly lengths: Uint16Array;
  private readonly values: Float64Array;
  private readonly met: Uint8Array;
  /** Lines that were read by each shape. */
  private readonly counts: Int32Array;
  private readonly list: Int32Array;

  static of(bytes: Uint8Array, shapes: readonly Shape[]): MadeKernel | undefined {
    const columns = 1 + Math.max(0, ...shapes.flatMap(({ pieces }) => pieces.map((piece) => piece.column)));
    const most = roomFor(columns);
    const blocks = shapes.flatMap(({ pieces }) => pieces.map((piece) => blockBytes(piece.bytes) + PIECE_BYTES + 8));
    const size = blocks.reduce((sum, one) => sum + one, 0) + shapes.length * 8;
    const made = kernels(WINDOW_BYTES + most * columns * CELL_BYTES + columns + size + 128);
    return made && new MadeKernel(made.kernels, made.memory, bytes, shapes, columns);
  }

  private constructor(
    private readonly kernel: Kernels,
    memory: ArrayBuffer,
    bytes: Uint8Array,
    private readonly shapes: readonly Shape[],
    private readonly columns: number,
  ) {
    const most = roomFor(columns);
    this.most = most;
    const places = new Places(FREE_FROM);
    this.values = new Float64Array(memory, places.take(most * columns * 8), most * columns);
    this.starts = new Int32Array(memory, places.take(most * columns * 4), most * columns).fill(-1);
    this.lengths = new Uint16Array(memory, places.take(most * columns * 2), most * columns);
    this.tags = new Uint8Array(memory, places.take(most * columns), most * columns);
    this.met = new Uint8Array(memory, places.take(columns), columns);
    this.list = new Int32Array(memory, places.take(shapes.length * 4), shapes.length);
    this.counts = new Int32Array(memory, places.take(shapes.length * 4), shapes.length);
    shapes.forEach(({ pieces }, k) => {
      const table = new Int32Array(memory, places.take(pieces.length * PIECE_BYTES), pieces.length * PIECE_WORDS);
      this.list[k] = table.byteOffset;
      pieces.forEach((piece, p) => {
        const from = places.take(blockBytes(piece.bytes));
        const blocks = new Uint8Array(memory, from, blockBytes(piece.bytes));
        piece.bytes.forEach((byte, at) => {
          const block = Math.floor(at / BLOCK) * BLOCK * 2 + (at % BLOCK);
          blocks[block] = byte;
          blocks[block + BLOCK] = 255;
        });
        const first = Math.max(0, piece.column) * most;
        const cells = [this.tags, this.starts, this.lengths, this.values].map(
          ({ byteOffset, BYTES_PER_ELEMENT }) => byteOffset + first * BYTES_PER_ELEMENT,
        );
        const met = this.met.byteOffset + Math.max(0, piece.column);
        table.set([from, piece.bytes.length, piece.column, ...cells, met], p * PIECE_WORDS);
      });
    });
    this.window = new KernelWindow(kernel, bytes, new Uint8Array(memory, places.take(WINDOW_BYTES), WINDOW_BYTES));
  }

  read(at: number): MadeLines | undefined {
    const read = this.window.rows(at, (from, end, base) => {
      this.met.fill(0);
      this.counts.fill(0);
      return this.kernel.jsonLines(
        from,
        end,
        base,
        this.list.byteOffset,
        this.shapes.length,
        this.columns,
        this.most,
        this.tags.byteOffset,
        this.starts.byteOffset,
        this.counts.byteOffset,
      );
    });
    if (read === undefined) return undefined;
    const { rows, base } = read;
    const values = this.shapes.reduce((sum, { pieces }, k) => sum + this.counts[k]! * (pieces.length - 1), 0);
    const cells = (column: number) => this.cells(column, rows);
    return { rows, at: this.kernel.jsonLinesAt.value + base, columns: this.columns, cells, values };
  }

  private cells(column: number, rows: number): FoundTagged | undefined {
    const met = this.met[column]!;
    if (met === 0) return undefined;
    const from = column * this.most;
    return {
      met,
      tags: this.tags.subarray(from, from + rows),
      starts: this.starts.subarray(from, from + rows),
      lengths: this.lengths.subarray(from, from + rows),
      values: this.values.subarray(from, from + rows),
    };
  }
}

function blockBytes(bytes: Uint8Array): number {
  return Math.ceil(bytes.length / BLOCK) * BLOCK * 2;
}
