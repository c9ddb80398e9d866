import { Random as Seeded } from '../demo/random.ts';

/** A seeded stream: the same number gives the same input on every machine. */
export class Random extends Seeded {
  /** A whole number from 0 up to but not including this one. */
  below(most: number): number {
    return Math.floor(this.next() * most);
  }

  chance(share: number): boolean {
    return this.next() < share;
  }

  /** From none up to this many. */
  times<T>(most: number, make: () => T): T[] {
    return Array.from({ length: this.below(most + 1) }, make);
  }
}
