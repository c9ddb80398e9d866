import { expect, test } from 'vitest';
import { scoreGuesses } from './guessing.ts';

/** Guessing is no exact art; what may not happen is that it gets worse unseen. */
const MIN_SHARE = 0.97;
/** Columns a blank apart look at times as if their words ended alike. */
const MIN_CUTS = 0.9;

test('what a file is, and how it is divided, is guessed right nearly always', () => {
  for (const score of scoreGuesses()) {
    expect(score.right / score.of, `${score.what}: missed ${score.missed.join('; ')}`).toBeGreaterThanOrEqual(
      score.what === 'cuts' ? MIN_CUTS : MIN_SHARE,
    );
    expect(score.of).toBeGreaterThan(5);
  }
});
