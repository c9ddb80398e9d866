import type { TextColumn } from '../table/column.ts';

/**
 * Collects a text column straight from bytes: each different run of bytes is kept once and made a string only at the
 * end, so that a cell costs a hash and a look-up.
 */
export class ByteColumn {
  private codes = new Int32Array(1024);
  private rows = 0;
  private slots = new Int32Array(1024).fill(-1);
  private hashes = new Int32Array(256);
  private starts = new Int32Array(257);
  private arena = new Uint8Array(4096);
  private count = 0;

  get length(): number {
    return this.rows;
  }

  /** A cell of these bytes; none at all is a blank cell. */
  push(bytes: Uint8Array, from: number, to: number): void {
    if (this.rows === this.codes.length) this.codes = wider(this.codes, this.rows * 2);
    this.codes[this.rows++] = from === to ? -1 : this.code(bytes, from, to);
  }

  /** An empty text, as against a blank cell. */
  pushBlank(): void {
    if (this.rows === this.codes.length) this.codes = wider(this.codes, this.rows * 2);
    this.codes[this.rows++] = -1;
  }

  padTo(rows: number): void {
    while (this.rows < rows) this.pushBlank();
  }

  private code(bytes: Uint8Array, from: number, to: number): number {
    let hash = 0x811c9dc5;
    for (let k = from; k < to; k++) hash = Math.imul(hash ^ bytes[k]!, 0x01000193);
    hash ^= hash >>> 15;
    const mask = this.slots.length - 1;
    const length = to - from;
    for (let slot = hash & mask; ; slot = (slot + 1) & mask) {
      const code = this.slots[slot]!;
      if (code < 0) return this.add(bytes, from, to, hash, slot);
      if (this.hashes[code] !== hash) continue;
      const start = this.starts[code]!;
      if (this.starts[code + 1]! - start !== length) continue;
      let k = 0;
      while (k < length && this.arena[start + k] === bytes[from + k]) k++;
      if (k === length) return code;
    }
  }

  private add(bytes: Uint8Array, from: number, to: number, hash: number, slot: number): number {
    const code = this.count++;
    if (code === this.hashes.length) {
      this.hashes = wider(this.hashes, code * 2);
      this.starts = wider(this.starts, code * 2 + 1);
    }
    const start = this.starts[code]!;
    const end = start + to - from;
    if (end > this.arena.length) {
      const arena = new Uint8Array(Math.max(end, this.arena.length * 2));
      arena.set(this.arena.subarray(0, start));
      this.arena = arena;
    }
    for (let k = from, at = start; k < to; k++, at++) this.arena[at] = bytes[k]!;
    this.starts[code + 1] = end;
    this.hashes[code] = hash;
    this.slots[slot] = code;
    if (this.count * 2 > this.slots.length) this.rehash();
    return code;
  }

  private rehash(): void {
    const slots = new Int32Array(this.slots.length * 4).fill(-1);
    const mask = slots.length - 1;
    for (let code = 0; code < this.count; code++) {
      let slot = this.hashes[code]! & mask;
      while (slots[slot]! >= 0) slot = (slot + 1) & mask;
      slots[slot] = code;
    }
    this.slots = slots;
  }

  finish(encoding: string): TextColumn {
    return { type: 'text', codes: this.codes.slice(0, this.rows), dictionary: this.texts(encoding), distinct: true };
  }

  private texts(encoding: string): string[] {
    const { starts, count } = this;
    const all = this.arena.subarray(0, starts[count]);
    const texts = new Array<string>(count);
    const ascii = !all.some((byte) => byte >= 0x80);
    if (ascii) {
      // One decoding for all: where every byte is a character, offsets in bytes are offsets in the text.
      const text = new TextDecoder('windows-1252').decode(all);
      for (let code = 0; code < count; code++) texts[code] = text.slice(starts[code], starts[code + 1]);
      return texts;
    }
    const decoder = new TextDecoder(encoding, { ignoreBOM: true });
    for (let code = 0; code < count; code++) texts[code] = decoder.decode(all.subarray(starts[code], starts[code + 1]));
    return texts;
  }
}

function wider(vector: Int32Array<ArrayBuffer>, size: number): Int32Array<ArrayBuffer> {
  const out = new Int32Array(size);
  out.set(vector);
  return out;
}
