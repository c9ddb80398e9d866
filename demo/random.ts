/** A seeded stream of numbers (mulberry32), so that the demo is the same on every machine. */
export class Random {
  constructor(private state: number) {}

  /** From 0 up to but not including 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** A whole number from least to most, both included. */
  whole(least: number, most: number): number {
    return least + Math.floor(this.next() * (most - least + 1));
  }

  pick<T>(items: readonly T[]): T {
    return items[this.whole(0, items.length - 1)]!;
  }
}
