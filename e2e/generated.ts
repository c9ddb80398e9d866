import { Chance } from '../benchmarks/drafts/chance.ts';
import { FAMILIES } from '../benchmarks/drafts/families.ts';
import type { MadeReport } from '../benchmarks/drafts/page.ts';
import { madeReport } from '../benchmarks/drafts/score.ts';

/** Twenty reports of the generator, their layouts chosen by their own seed. */
export const GENERATED: readonly MadeReport[] = new Chance(2031)
  .some(Object.keys(FAMILIES), 20)
  .map((family, k) => madeReport(family, 5000 + k, k));
