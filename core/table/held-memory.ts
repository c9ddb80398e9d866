import { type Column, columnMemory } from './column.ts';

/** Something in memory: a buffer, a dictionary. */
type Held = object;

/** Characters of a text, and what the engine adds to each. */
const TEXT_BYTES = 24;

const dictionarySizes = new WeakMap<object, number>();

function dictionaryBytes(dictionary: readonly string[]): number {
  let size = dictionarySizes.get(dictionary);
  if (size === undefined) {
    size = 0;
    for (const text of dictionary) size += TEXT_BYTES + text.length;
    dictionarySizes.set(dictionary, size);
  }
  return size;
}

/** What columns and other vectors hold in memory, by what holds it: what two of them share is there once. */
export function memoryOf(columns: Iterable<Column>, vectors: Iterable<ArrayBufferView> = []): Map<Held, number> {
  const found = new Map<Held, number>();
  const addView = ({ buffer }: ArrayBufferView) => found.set(buffer, buffer.byteLength);
  for (const column of columns) {
    const { views, dictionary } = columnMemory(column);
    for (const view of views) addView(view);
    if (dictionary !== undefined) found.set(dictionary, dictionaryBytes(dictionary));
  }
  for (const view of vectors) addView(view);
  return found;
}

/** Counts what several holders keep in memory, each buffer once. */
export class HeldMemory {
  private readonly holders = new Map<Held, number>();
  private size = 0;

  /** Bytes that are held. */
  get bytes(): number {
    return this.size;
  }

  add(memory: ReadonlyMap<Held, number>): void {
    for (const [held, bytes] of memory) {
      const before = this.holders.get(held) ?? 0;
      if (before === 0) this.size += bytes;
      this.holders.set(held, before + 1);
    }
  }

  /** Lets go what was added as this. */
  remove(memory: ReadonlyMap<Held, number>): void {
    for (const [held, bytes] of memory) {
      const left = this.holders.get(held)! - 1;
      if (left > 0) {
        this.holders.set(held, left);
        continue;
      }
      this.holders.delete(held);
      this.size -= bytes;
    }
  }
}
