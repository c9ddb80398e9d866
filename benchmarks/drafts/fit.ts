/**
 * Fits the probability that a draft is right, on reports with known tables, whole layouts left out in turn, and writes
 * core/draft/sureness-weights.json. The figures that it prints are those on the layouts that were left out.
 *
 *   npm run draft:fit                  the layouts of this folder
 *   npm run draft:fit -- FOLDER ...    and reports of others: folders with meta.json, the report and want.csv
 */
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { EVIDENCE, probabilityOf } from '../../core/draft/sureness.ts';
import { draftsOf, openSource, tidyTable } from '../../core/index.ts';
import { differs, type Truth, truthOf } from './same-table.ts';
import { FAMILY_NAMES, madeReport } from './score.ts';

const REPORTS = 8;
const FIRST = 3000;

interface Sample {
  layout: string;
  evidence: readonly number[];
  right: boolean;
  /** The first draft of its report. */
  isFirst: boolean;
  /** Sure by the rules alone, without a total that agrees: there the probability decides. */
  isSure: boolean;
  /** Sure by totals that agree. */
  isProven: boolean;
}

interface Weights {
  weights: number[];
  bias: number;
}

async function samplesOf(layout: string, name: string, bytes: Uint8Array<ArrayBuffer>, want: Truth): Promise<Sample[]> {
  await openSource(bytes, name);
  return draftsOf('report', { name, bytes }, { progress: () => undefined }).map((draft, k) => ({
    layout,
    evidence: draft.evidence,
    right: differs(truthOf(draft.run.steps.at(-1)!.table), want) === undefined,
    isFirst: k === 0,
    isSure: draft.isSureByRules && draft.totals.agree === 0,
    isProven: draft.isSureByRules && draft.totals.agree > 0,
  }));
}

/** Reports that others made, a folder each; the layout is the name of its folder without the number at its end. */
async function* othersIn(folder: string): AsyncGenerator<Sample[]> {
  for (const one of readdirSync(folder).sort()) {
    const meta = join(folder, one, 'meta.json');
    if (!existsSync(meta)) continue;
    const { file } = JSON.parse(readFileSync(meta, 'utf8')) as { file: string };
    const wanted = new Uint8Array(readFileSync(join(folder, one, 'want.csv')));
    const want = tidyTable({ name: 'want.csv', bytes: wanted });
    if (want === undefined) continue;
    const bytes = new Uint8Array(readFileSync(join(folder, one, file)));
    yield await samplesOf(one.replace(/-\d+$/, ''), file, bytes, truthOf(want));
  }
}

/** What speaks for a draft cannot speak against it: 1 for evidence that may only raise the probability, -1 for the reverse. */
const SIGNS: Record<(typeof EVIDENCE)[number], 1 | -1 | 0> = {
  lead: 1,
  'totals that agree': 1,
  'share of totals that disagree': -1,
  steps: -1,
  'steps that reshape without a total': -1,
  remarks: -1,
  'grave remarks': -1,
  doubts: -1,
  'cells of a column in another kind': -1,
  'columns of words': -1,
  rows: 0,
  'columns without a name': -1,
};

const ROUNDS = 600;
const STEP = 1;
/** Keeps weights small where few samples speak. */
const RIDGE = 0.0005;

/** Logistic regression by gradient descent over evidence that is brought to one size. */
function fitted(samples: readonly Sample[]): Weights {
  const width = EVIDENCE.length;
  const mean = Array.from(
    { length: width },
    (_, k) => samples.reduce((sum, { evidence }) => sum + evidence[k]!, 0) / samples.length,
  );
  const spread = mean.map(
    (middle, k) =>
      Math.sqrt(samples.reduce((sum, { evidence }) => sum + (evidence[k]! - middle) ** 2, 0) / samples.length) || 1,
  );
  const rows = samples.map(({ evidence }) => evidence.map((value, k) => (value - mean[k]!) / spread[k]!));
  // Each layout counts alike, however many drafts it has.
  const counts = new Map<string, number>();
  for (const { layout } of samples) counts.set(layout, (counts.get(layout) ?? 0) + 1);
  const shares = samples.map(({ layout }) => 1 / (counts.get(layout)! * counts.size));
  const own: Weights = { weights: new Array<number>(width).fill(0), bias: 0 };
  for (let round = 0; round < ROUNDS; round++) {
    const slope = new Array<number>(width).fill(0);
    let bias = 0;
    for (const [n, row] of rows.entries()) {
      const miss = (probabilityOf(row, own) - Number(samples[n]!.right)) * shares[n]!;
      for (const [k, value] of row.entries()) slope[k]! += miss * value;
      bias += miss;
    }
    own.weights = own.weights.map((weight, k) => {
      const next = weight - STEP * (slope[k]! + RIDGE * weight);
      return next * SIGNS[EVIDENCE[k]!] < 0 ? 0 : next;
    });
    own.bias -= STEP * bias;
  }
  const weights = own.weights.map((weight, k) => weight / spread[k]!);
  return { weights, bias: own.bias - weights.reduce((sum, weight, k) => sum + weight * mean[k]!, 0) };
}

const samples: Sample[] = [];
const say = (text: string) => process.stdout.write(`${text}\n`);
for (const family of FAMILY_NAMES)
  for (let k = 0; k < REPORTS; k++) {
    const { name, bytes, want } = madeReport(family, FIRST + k, k === 7 ? 6 : k);
    samples.push(...(await samplesOf(`own: ${family}`, name, bytes as Uint8Array<ArrayBuffer>, want)));
  }
for (const folder of process.argv.slice(2)) for await (const own of othersIn(folder)) samples.push(...own);

const layouts = [...new Set(samples.map(({ layout }) => layout))];
const leftOut = layouts.flatMap((layout) => {
  const weights = fitted(samples.filter((one) => one.layout !== layout));
  return samples
    .filter((one) => one.layout === layout)
    .map((one) => ({ ...one, probability: probabilityOf(one.evidence, weights) }));
});
const firsts = leftOut.filter(({ isFirst }) => isFirst);
// Just above the most likely of the first drafts that are wrong, on layouts that the weights have not seen.
const wrong = firsts.filter(({ right, isSure }) => !right && isSure).map(({ probability }) => probability);
const most = Math.max(0.5, ...wrong);
const sure = Math.min(0.99, Math.ceil(most * 1000 + 1) / 1000);
const all = fitted(samples);
writeFileSync(
  join(import.meta.dirname, '..', '..', 'core', 'draft', 'sureness-weights.json'),
  `${JSON.stringify({ evidence: EVIDENCE, weights: all.weights.map((weight) => Number(weight.toFixed(4))), bias: Number(all.bias.toFixed(4)), sure }, null, 2)}\n`,
);
say(`${samples.length} drafts of ${firsts.length} reports of ${layouts.length} layouts, each layout left out in turn`);
say(`right outright: ${firsts.filter(({ right }) => right).length}`);
const proven = firsts.filter(({ isProven }) => isProven);
say(`sure by totals that agree: ${proven.length}, of them wrong ${proven.filter(({ right }) => !right).length}`);
say(`sure by other rules: ${firsts.filter(({ isSure }) => isSure).length}, of them wrong ${wrong.length}`);
const held = firsts.filter(({ isSure, probability }) => isSure && probability >= sure);
say(
  `and of a probability of ${sure} or more: ${held.length}, of them wrong ${held.filter(({ right }) => !right).length}`,
);
for (const [from, to] of [
  [0, 0.5],
  [0.5, 0.8],
  [0.8, 0.9],
  [0.9, 0.95],
  [0.95, 1.01],
] as const) {
  const own = firsts.filter(({ probability }) => probability >= from && probability < to);
  if (own.length > 0)
    say(
      `probability ${from} to ${Math.min(1, to)}: ${own.length} reports, right ${Math.round((100 * own.filter(({ right }) => right).length) / own.length)}%`,
    );
}
