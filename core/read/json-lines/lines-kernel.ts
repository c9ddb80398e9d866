import {
  KernelWindow,
  type LaidOut,
  laidOut,
  type PieceCall,
  type PieceRoom,
  roomFor,
  type VectorPlaces,
  WINDOW_BYTES,
} from '../../kernels/window.ts';
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
const MAX_SHAPES = 8;
/** So many lines are looked at for whether they have a new shape. */
const MAX_LOOKS = 64;
const CELL_BYTES = 15;
const BLOCK = 16;
/** 32-bit words of what the kernel gets to know of a piece (PIECE in its source). */
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
    return this.shapes.length < MAX_SHAPES && this.looks < MAX_LOOKS && !this.isRefused;
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

interface Room extends PieceRoom {
  tags: Uint8Array;
  starts: Int32Array;
  lengths: Uint16Array;
  values: Float64Array;
  /** Of each column the tags that came. */
  met: Uint8Array;
  /** Lines that were read by each shape. */
  counts: Int32Array;
  list: Int32Array;
}

class MadeKernel {
  private readonly window: KernelWindow<Room>;

  static of(bytes: Uint8Array, shapes: readonly Shape[]): MadeKernel | undefined {
    const columns = 1 + Math.max(0, ...shapes.flatMap(({ pieces }) => pieces.map((piece) => piece.column)));
    const most = roomFor(columns);
    const blocks = shapes.flatMap(({ pieces }) => pieces.map((piece) => blockBytes(piece.bytes) + PIECE_BYTES + 8));
    const ofShapes = blocks.reduce((sum, one) => sum + one, 0) + shapes.length * 8;
    const size = WINDOW_BYTES + most * columns * CELL_BYTES + columns + ofShapes + 192;
    const laid = laidOut(size, (places) => roomOf(places, shapes, columns, most));
    return laid && new MadeKernel(laid, bytes, shapes, columns, most);
  }

  private constructor(
    laid: LaidOut<Room>,
    bytes: Uint8Array,
    private readonly shapes: readonly Shape[],
    private readonly columns: number,
    private readonly most: number,
  ) {
    this.window = new KernelWindow(bytes, laid, 'jsonLines');
  }

  get ascii(): Stretch {
    return this.window.ascii;
  }

  read(at: number): MadeLines | undefined {
    const read = this.window.rows(at, this.call);
    if (read === undefined) return undefined;
    const { rows, room } = read;
    const values = this.shapes.reduce((sum, { pieces }, k) => sum + room.counts[k]! * (pieces.length - 1), 0);
    return { rows, at: read.at, columns: this.columns, cells: (column) => this.cells(room, column, rows), values };
  }

  private readonly call: PieceCall<Room> = (room, from, end, base) => {
    room.met.fill(0);
    room.counts.fill(0);
    return [
      from,
      end,
      base,
      room.list.byteOffset,
      this.shapes.length,
      this.columns,
      this.most,
      room.tags.byteOffset,
      room.starts.byteOffset,
      room.counts.byteOffset,
      room.told.byteOffset,
    ];
  };

  private cells(room: Room, column: number, rows: number): FoundTagged | undefined {
    const met = room.met[column]!;
    if (met === 0) return undefined;
    const from = column * this.most;
    return {
      met,
      tags: room.tags.subarray(from, from + rows),
      starts: room.starts.subarray(from, from + rows),
      lengths: room.lengths.subarray(from, from + rows),
      values: room.values.subarray(from, from + rows),
    };
  }
}

/** Room for the cells of columns, and for what the kernel gets to know of the shapes. */
function roomOf(places: VectorPlaces, shapes: readonly Shape[], columns: number, most: number): Room {
  const room: Room = {
    values: places.doubles(most * columns),
    starts: places.words(most * columns).fill(-1),
    lengths: places.halves(most * columns),
    tags: places.bytes(most * columns).fill(0),
    met: places.bytes(columns),
    list: places.words(shapes.length),
    counts: places.words(shapes.length),
    told: places.words(2),
    window: places.window(),
  };
  const vectors = [room.tags, room.starts, room.lengths, room.values];
  shapes.forEach(({ pieces }, k) => {
    const table = places.words(pieces.length * PIECE_WORDS);
    room.list[k] = table.byteOffset;
    pieces.forEach((piece, p) => {
      const blocks = places.bytes(blockBytes(piece.bytes)).fill(0);
      piece.bytes.forEach((byte, at) => {
        const block = Math.floor(at / BLOCK) * BLOCK * 2 + (at % BLOCK);
        blocks[block] = byte;
        blocks[block + BLOCK] = 255;
      });
      const column = Math.max(0, piece.column);
      const cells = vectors.map(({ byteOffset, BYTES_PER_ELEMENT }) => byteOffset + column * most * BYTES_PER_ELEMENT);
      const met = room.met.byteOffset + column;
      table.set([blocks.byteOffset, piece.bytes.length, piece.column, ...cells, met], p * PIECE_WORDS);
    });
  });
  return room;
}

function blockBytes(bytes: Uint8Array): number {
  return Math.ceil(bytes.length / BLOCK) * BLOCK * 2;
}
