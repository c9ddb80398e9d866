import { type Decoder, decoderOf } from './decoder.ts';

/** Numbers of a slot: two that tell the text, its length, and its code plus one; 0 there is an empty slot. */
const STRIDE = 4;
/** Texts up to this many bytes stand in the slot itself. */
const SHORT = 8;

/**
 * Gives each different run of bytes a code and makes it a string only at the end. Short texts are distinguished by their
 * slot alone, so that most cells cost one look into memory.
 */
export class ByteDictionary {
  private slots = new Int32Array(1024 * STRIDE);
  private starts = new Int32Array(257);
  private arena = new Uint8Array(4096);
  private count = 0;

  /** Codes so far. */
  get size(): number {
    return this.count;
  }

  code(bytes: Uint8Array, from: number, to: number): number {
    const length = to - from;
    let low = 0;
    let high = 0;
    if (length <= SHORT) {
      const middle = Math.min(to, from + 4);
      for (let k = from; k < middle; k++) low = (low << 8) | bytes[k]!;
      for (let k = middle; k < to; k++) high = (high << 8) | bytes[k]!;
    } else {
      low = 0x811c9dc5 | 0;
      high = length;
      for (let k = from; k < to; k++) {
        low = Math.imul(low ^ bytes[k]!, 0x01000193);
        high = Math.imul(high, 31) + bytes[k]!;
      }
      high |= 0;
    }
    const { slots } = this;
    const mask = slots.length - STRIDE;
    for (let slot = place(low, high, length) & mask; ; slot = (slot + STRIDE) & mask) {
      const code = slots[slot + 3]! - 1;
      if (code < 0) return this.add(bytes, from, to, low, high, slot);
      if (slots[slot] !== low || slots[slot + 1] !== high || slots[slot + 2] !== length) continue;
      if (length <= SHORT || this.sameBytes(code, bytes, from, length)) return code;
    }
  }

  private sameBytes(code: number, bytes: Uint8Array, from: number, length: number): boolean {
    const start = this.starts[code]!;
    for (let k = 0; k < length; k++) if (this.arena[start + k] !== bytes[from + k]) return false;
    return true;
  }

  private add(bytes: Uint8Array, from: number, to: number, low: number, high: number, slot: number): number {
    const code = this.count++;
    if (code + 2 > this.starts.length) this.starts = wider(this.starts, code * 2 + 1);
    const start = this.starts[code]!;
    const end = start + to - from;
    if (end > this.arena.length) {
      const arena = new Uint8Array(Math.max(end, this.arena.length * 2));
      arena.set(this.arena.subarray(0, start));
      this.arena = arena;
    }
    for (let k = from, at = start; k < to; k++, at++) this.arena[at] = bytes[k]!;
    this.starts[code + 1] = end;
    this.slots[slot] = low;
    this.slots[slot + 1] = high;
    this.slots[slot + 2] = to - from;
    this.slots[slot + 3] = code + 1;
    if (this.count * STRIDE * 2 > this.slots.length) this.spread();
    return code;
  }

  private spread(): void {
    const old = this.slots;
    const slots = new Int32Array(old.length * 4);
    const mask = slots.length - STRIDE;
    for (let from = 0; from < old.length; from += STRIDE) {
      if (old[from + 3] === 0) continue;
      let slot = place(old[from]!, old[from + 1]!, old[from + 2]!) & mask;
      while (slots[slot + 3] !== 0) slot = (slot + STRIDE) & mask;
      for (let k = 0; k < STRIDE; k++) slots[slot + k] = old[from + k]!;
    }
    this.slots = slots;
  }

  /** The different runs as they came, one behind the other; starts[code + 1] is where one ends. */
  get runs(): { bytes: Uint8Array; starts: Int32Array } {
    return { bytes: this.arena.subarray(0, this.starts[this.count]), starts: this.starts };
  }

  texts(encoding: string): string[] {
    return this.textsLater(encoding).texts;
  }

  /** The texts, made when they are looked at; of the dictionary no more is kept than they need. */
  textsLater(encoding: string): ByteTexts {
    const { starts, count } = this;
    return new ByteTexts(this.arena.slice(0, starts[count]), starts.slice(0, count + 1), encoding);
  }
}

/** Share of the texts after which all are made. */
const ASKED_SHARE = 16;

/**
 * Different texts that are still bytes. Millions of them cost little so: of texts that were made, the collector looks at
 * each one again whenever large vectors are made.
 */
export class ByteTexts {
  readonly count: number;
  private made: string[] | undefined;
  /** How many were looked at one by one. */
  private asked = 0;
  private decoder: Decoder | undefined;

  /**
   * @param runs one behind the other
   * @param starts where each begins, and where the last ends
   */
  constructor(
    private runs: Uint8Array,
    private starts: Int32Array,
    private readonly encoding: string,
  ) {
    this.count = starts.length - 1;
  }

  get texts(): string[] {
    if (this.made === undefined) {
      this.made = decodedRuns(this.runs, this.starts, this.encoding);
      this.runs = new Uint8Array();
      this.starts = new Int32Array();
    }
    return this.made;
  }

  /** One of them. Who looks at many gets them all made. */
  text(code: number): string {
    if (this.made !== undefined || this.asked++ >= this.count / ASKED_SHARE) return this.texts[code]!;
    this.decoder ??= decoderOf(this.encoding);
    return this.decoder.decode(this.runs.subarray(this.starts[code], this.starts[code + 1]));
  }

  /** The vectors of texts that are not made; undefined where they are. */
  get memory(): readonly ArrayBufferView[] | undefined {
    return this.made === undefined ? [this.runs, this.starts] : undefined;
  }
}

function decodedRuns(runs: Uint8Array, starts: Int32Array, encoding: string): string[] {
  const count = starts.length - 1;
  const texts = new Array<string>(count);
  if (!runs.some((byte) => byte >= 0x80)) {
    // One decoding for all: where every byte is a character, offsets in bytes are offsets in the text.
    const text = new TextDecoder('windows-1252').decode(runs);
    for (let code = 0; code < count; code++) texts[code] = text.slice(starts[code], starts[code + 1]);
    return texts;
  }
  const decoder = decoderOf(encoding);
  for (let code = 0; code < count; code++) texts[code] = decoder.decode(runs.subarray(starts[code], starts[code + 1]));
  return texts;
}

/** Where a text is searched for first, mixed so that neighbours in the alphabet are none in the table; a multiple of STRIDE. */
function place(low: number, high: number, length: number): number {
  let h = Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b) ^ length;
  h ^= h >>> 15;
  h = Math.imul(h, 0xc2b2ae35);
  return (h ^ (h >>> 13)) & ~(STRIDE - 1);
}

function wider(vector: Int32Array<ArrayBuffer>, size: number): Int32Array<ArrayBuffer> {
  const out = new Int32Array(size);
  out.set(vector);
  return out;
}
