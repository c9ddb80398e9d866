import { ReadFailure } from './read-failure.ts';
import type { Source } from './read-kind.ts';

/** Sources that are remembered, beyond those whose very bytes are given again. */
const MAX_RECENT = 64;

/**
 * What was made of a source's bytes by something that takes a while, for whoever reads the same bytes afterwards. It
 * goes when the bytes go.
 */
export class Opened<T> {
  private readonly made = new WeakMap<Uint8Array, T>();
  private recent: WeakRef<Uint8Array>[] = [];

  set(bytes: Uint8Array, value: T): void {
    this.made.set(bytes, value);
    const alive = this.recent.filter((one) => one.deref() !== undefined);
    this.recent = [...alive.slice(-MAX_RECENT + 1), new WeakRef(bytes)];
  }

  /** For these bytes, or for a copy of them. */
  get(bytes: Uint8Array): T | undefined {
    const known = this.made.get(bytes);
    if (known !== undefined) return known;
    const twin = this.recent.map((one) => one.deref()).find((one) => one !== undefined && areSame(one, bytes));
    const value = twin && this.made.get(twin);
    if (value !== undefined) this.made.set(bytes, value);
    return value;
  }
}

function areSame(one: Uint8Array, other: Uint8Array): boolean {
  if (one.length !== other.length) return false;
  for (let k = 0; k < one.length; k++) if (one[k] !== other[k]) return false;
  return true;
}

/** Sources of one kind that a library takes apart before they are read, and what went wrong with each. */
export class OpenedSources<T> {
  private readonly opened = new Opened<{ made: T } | ReadFailure>();

  /** @param make throws a ReadFailure, which `of` then throws */
  async open(bytes: Uint8Array, make: () => Promise<T>): Promise<void> {
    const before = this.opened.get(bytes);
    // A failure may lie outside the bytes, so a copy of them is tried again.
    if (before !== undefined && !(before instanceof ReadFailure)) return;
    try {
      this.opened.set(bytes, { made: await make() });
    } catch (error) {
      if (!(error instanceof ReadFailure)) throw error;
      this.opened.set(bytes, error);
    }
  }

  /** @throws ReadFailure */
  of({ bytes, name }: Source): T {
    const found = this.opened.get(bytes);
    if (found === undefined) throw new ReadFailure(name, `${name} has not been opened yet. Open it again.`);
    if (found instanceof ReadFailure) throw found;
    return found.made;
  }
}
