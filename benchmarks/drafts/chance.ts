import { Random } from '../../demo/random.ts';

/** Choices from a seed, so that a report can be made again. */
export class Chance extends Random {
  yes(share = 0.5): boolean {
    return this.next() < share;
  }

  /** Some of the items, none twice, in the order of the draw. */
  some<T>(of: readonly T[], count: number): T[] {
    const left = [...of];
    return Array.from(
      { length: Math.min(count, left.length) },
      () => left.splice(this.whole(0, left.length - 1), 1)[0]!,
    );
  }
}
