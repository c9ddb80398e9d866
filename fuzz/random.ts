/** A generator that gives the same for the same seed (mulberry32, public domain). */
export class Random {
  private state: number;

  constructor(seed: number) {
    this.state = seed >>> 0;
  }

  /** From 0 up to 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** A whole number from 0 up to this one. */
  below(most: number): number {
    return Math.floor(this.next() * most);
  }

  chance(share: number): boolean {
    return this.next() < share;
  }

  pick<T>(of: readonly T[]): T {
    return of[this.below(of.length)]!;
  }

  times<T>(most: number, make: () => T): T[] {
    return Array.from({ length: this.below(most + 1) }, make);
  }
}
