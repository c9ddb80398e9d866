/** How many drafts give the true table, by family of layout. */
import { draftsOf } from '../../core/index.ts';
import { Chance } from './chance.ts';
import { FAMILIES } from './families.ts';
import type { MadeReport } from './page.ts';
import { differs, truthOf } from './same-table.ts';
import { LANGUAGES, makeScenario } from './scenarios.ts';
import { SIXTH_FAMILIES } from './sixth-families.ts';
import { UNSEEN_FAMILIES } from './unseen-families.ts';

const LATER_FAMILIES = { ...UNSEEN_FAMILIES, ...SIXTH_FAMILIES };

/** Every layout that reports can be made of. */
export const FAMILY_NAMES: readonly string[] = [...Object.keys(FAMILIES), ...Object.keys(LATER_FAMILIES)];

/** Rows that a report has at most, in turn. */
const SIZES = [12, 40, 120, 25, 400, 60, 15, 5000];

export interface FamilyScore {
  family: string;
  /** Written when the detectors were done. */
  later: boolean;
  reports: number;
  outright: number;
  inThree: number;
  sure: number;
  wrongAndSure: number;
  /** It said itself that it is a guess, and it was wrong. */
  honest: number;
  missed: string[];
}

/** @param seed what tells a set of reports from others: weights were found with seeds below 1000 */
export function madeReport(family: string, seed: number, turn: number): MadeReport {
  const chance = new Chance(seed * 7919 + family.length * 31);
  const scenario = makeScenario(chance, LANGUAGES[turn % LANGUAGES.length]!);
  const make = FAMILIES[family]?.make ?? LATER_FAMILIES[family]!;
  return { family, ...make(chance, scenario, SIZES[turn % SIZES.length]!) };
}

export function scoreFamily(family: string, first: number, reports: number): FamilyScore {
  const score: FamilyScore = {
    family,
    later: FAMILIES[family]?.later ?? false,
    reports,
    outright: 0,
    inThree: 0,
    sure: 0,
    wrongAndSure: 0,
    honest: 0,
    missed: [],
  };
  for (let k = 0; k < reports; k++) {
    const { name, bytes, want } = madeReport(family, first + k, k);
    const drafts = draftsOf('report', { name, bytes }, { progress: () => undefined });
    const why = drafts.map(({ run }) => differs(truthOf(run.steps.at(-1)!.table), want));
    const right = drafts.length > 0 && why[0] === undefined;
    if (right) score.outright++;
    else score.missed.push(`seed ${first + k}: ${why[0] ?? 'no draft'}`);
    if (drafts.some((_, n) => why[n] === undefined)) score.inThree++;
    const sure = drafts[0]?.sureness === 'sure';
    if (sure) score.sure++;
    if (sure && !right) score.wrongAndSure++;
    if (!right && drafts[0]?.sureness !== 'sure') score.honest++;
  }
  return score;
}
