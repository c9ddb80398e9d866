/** Bytes that are made before they are put with the others. */
const PIECE = 1 << 20;
/** Bytes from which they are copied as one. */
const LONG_RUN = 64;
/** Bytes from which they are their own piece. */
const LONG_PIECE = 1 << 14;

const UTF8 = new TextEncoder();

/** Cells that are runs of bytes of their source. */
export interface CellRuns {
  bytes: Uint8Array;
  /** Where the cell of each row begins: below zero for a blank one, behind the bytes for one that stands elsewhere. */
  starts: Int32Array;
  lengths: Uint16Array;
  /** 1 for each byte with which a cell is not written as it is. */
  stops: Uint8Array;
  /** Writes any other cell. */
  other(row: number, out: TextBytes): void;
}

/** Collects text as bytes, to be handed on piece by piece or taken as a whole: no limit of one string is met. */
export class TextBytes {
  private readonly pieces: Uint8Array[] = [];
  protected bytes: Uint8Array = new Uint8Array();
  protected length = 0;
  private text = '';

  /**
   * @param encode where it is not UTF-8 that is wanted
   * @param send is handed each piece; without it they are kept for all()
   */
  constructor(
    private readonly encode?: (text: string) => Uint8Array,
    private readonly send: (piece: Uint8Array) => void = (piece) => this.pieces.push(piece),
  ) {}

  /** Whether bytes are those of UTF-8. */
  get isPlain(): boolean {
    return this.encode === undefined;
  }

  add(text: string): void {
    if (this.encode !== undefined) {
      this.text += text;
      if (this.text.length > PIECE) this.flush();
      return;
    }
    const n = text.length;
    this.make(n);
    const { bytes } = this;
    let at = this.length;
    for (let k = 0; k < n; k++) {
      const code = text.charCodeAt(k);
      if (code >= 0x80) {
        this.length = at;
        this.addEncoded(text.slice(k));
        return;
      }
      bytes[at++] = code;
    }
    this.length = at;
  }

  /**
   * A text between two others of ASCII, if it has signs and none that stops it.
   * @param stops for each byte; 1 for all beyond ASCII
   * @returns false where nothing is added
   */
  addPlain(text: string, stops: Uint8Array, before: string, behind: string): boolean {
    const n = text.length;
    if (!this.isPlain || n === 0) return false;
    this.make(before.length + n + behind.length);
    const { bytes } = this;
    let at = this.length;
    for (let k = 0; k < before.length; k++) bytes[at++] = before.charCodeAt(k);
    for (let k = 0; k < n; k++) {
      const code = text.charCodeAt(k);
      if (code >= 0x80 || stops[code] === 1) return false;
      bytes[at++] = code;
    }
    for (let k = 0; k < behind.length; k++) bytes[at++] = behind.charCodeAt(k);
    this.length = at;
    return true;
  }

  private addEncoded(text: string): void {
    const encoded = UTF8.encode(text);
    this.putRun(encoded, 0, encoded.length);
  }

  /** Bytes as they are. */
  putRun(given: Uint8Array, from: number, to: number): void {
    this.make(to - from);
    const { bytes } = this;
    if (to - from >= LONG_RUN) {
      bytes.set(given.subarray(from, to), this.length);
      this.length += to - from;
      return;
    }
    let at = this.length;
    for (let k = from; k < to; k++) bytes[at++] = given[k]!;
    this.length = at;
  }

  /**
   * The cells of rows one behind the other, each a run of bytes as it is, without a call for each.
   *
   * @param ends where the cell of row from + k ends is put at at + k + 1
   * @param most bytes behind which no more rows are taken
   * @returns how many rows were taken
   */
  putRuns(runs: CellRuns, from: number, rows: number, ends: Int32Array, at: number, most: number): number {
    const { bytes: source, starts, lengths, stops, other } = runs;
    const begin = this.length;
    let { bytes, length } = this;
    for (let k = 0; k < rows; k++) {
      const start = starts[from + k]!;
      const count = lengths[from + k]!;
      let copied = -1;
      if (start >= 0 && count > 0 && count < LONG_RUN && start + count <= source.length) {
        if (length + count > bytes.length) {
          this.length = length;
          this.make(count);
          ({ bytes, length } = this);
        }
        for (copied = 0; copied < count; copied++) {
          const byte = source[start + copied]!;
          if (stops[byte] === 1) break;
          bytes[length + copied] = byte;
        }
      }
      if (copied === count) length += count;
      else {
        this.length = length;
        other(from + k, this);
        ({ bytes, length } = this);
      }
      ends[at + k + 1] = length;
      if (length - begin > most) {
        this.length = length;
        return k + 1;
      }
    }
    this.length = length;
    return rows;
  }

  /** Bytes as they are, which are nobody else's. */
  putPiece(piece: Uint8Array): void {
    if (piece.length < LONG_PIECE) this.putRun(piece, 0, piece.length);
    else {
      this.flush();
      this.send(piece);
    }
  }

  /** Room for a number of bytes. */
  protected make(count: number): void {
    if (this.length + count <= this.bytes.length) return;
    this.flush();
    this.bytes = new Uint8Array(Math.max(PIECE, count));
  }

  /** All that was added. */
  all(): Uint8Array<ArrayBuffer> {
    this.flush();
    return concatenate(this.pieces);
  }

  /** Hands on what was added since the last piece. */
  flush(): void {
    if (this.encode !== undefined) {
      this.send(this.encode(this.text));
      this.text = '';
      return;
    }
    if (this.length === 0) return;
    this.send(this.bytes.subarray(0, this.length));
    // What was handed on may still be in use.
    this.bytes = this.bytes.subarray(this.length);
    this.length = 0;
  }
}

/** Texts as bytes in one memory that grows, to be looked at and written over. */
export class CellBytes extends TextBytes {
  /** How many there are. */
  get size(): number {
    return this.length;
  }

  /** Those that were added. */
  get added(): Uint8Array {
    return this.bytes.subarray(0, this.length);
  }

  clear(): void {
    this.length = 0;
  }

  protected override make(count: number): void {
    const wanted = this.length + count;
    if (wanted <= this.bytes.length) return;
    const bytes = new Uint8Array(Math.max(wanted, this.bytes.length * 2));
    bytes.set(this.added);
    this.bytes = bytes;
  }
}

/** All pieces in one. */
export function concatenate(pieces: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  return out;
}
