const START = 1 << 12;
const UTF8 = new TextEncoder();

/** Bytes of a page as they are made, in memory that grows. */
export class PageBytes {
  bytes = new Uint8Array(START);
  length = 0;

  all(): Uint8Array<ArrayBuffer> {
    return this.bytes.subarray(0, this.length);
  }

  /** Room for more bytes. */
  room(count: number): void {
    const wanted = this.length + count;
    if (wanted <= this.bytes.length) return;
    const bytes = new Uint8Array(Math.max(wanted, this.bytes.length * 2));
    bytes.set(this.all());
    this.bytes = bytes;
  }

  /** A whole number below 2^31 in groups of seven bits (ULEB128). */
  varint(value: number): void {
    this.room(5);
    let rest = value;
    for (; rest >= 0x80; rest >>>= 7) this.bytes[this.length++] = (rest & 0x7f) | 0x80;
    this.bytes[this.length++] = rest;
  }

  int32(value: number): void {
    this.room(4);
    const { bytes, length } = this;
    bytes[length] = value;
    bytes[length + 1] = value >>> 8;
    bytes[length + 2] = value >>> 16;
    bytes[length + 3] = value >>> 24;
    this.length = length + 4;
  }

  put(from: Uint8Array): void {
    this.room(from.length);
    this.bytes.set(from, this.length);
    this.length += from.length;
  }

  /** The bytes from one to before another, without an object for them: they are mostly few. */
  putRun(given: Uint8Array, from: number, to: number): void {
    this.room(to - from);
    const { bytes } = this;
    let at = this.length;
    for (let k = from; k < to; k++) bytes[at++] = given[k]!;
    this.length = at;
  }

  /** A text in UTF-8, with its length in four bytes before it. */
  text(text: string): void {
    const n = text.length;
    // A UTF-16 unit takes at most three bytes.
    this.room(4 + n * 3);
    const { bytes } = this;
    const from = this.length + 4;
    let k = 0;
    for (; k < n; k++) {
      const code = text.charCodeAt(k);
      if (code >= 0x80) break;
      bytes[from + k] = code;
    }
    const size = k === n ? n : k + UTF8.encodeInto(text.slice(k), bytes.subarray(from + k)).written;
    this.int32(size);
    this.length = from + size;
  }
}
