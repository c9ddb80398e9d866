/** The part of docs/benchmarks.md that tells how drafts do. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { draftsOf, grouped } from '../../core/index.ts';
import { openAllDemos } from '../../demo/later-run.ts';
import { ACTIONS, DRAFTED } from '../../e2e/actions.ts';
import { GENERATED } from '../../e2e/generated.ts';
import { draftDemos, laterDrafts } from './demo.ts';
import { FAMILIES } from './families.ts';
import { type DraftTimes, draftTimes } from './in-browser.ts';
import { largeReport, layeredReport } from './large-report.ts';
import { type FamilyScore, scoreFamily } from './score.ts';

const REPORTS = 16;
/** Seeds that nothing was bettered by. */
const FIRST = 7000;

const percent = (share: number, of: number) => `${of === 0 ? 0 : Math.round((share / of) * 100)}%`;

/** What the draft of a report of so many rows takes, in milliseconds. */
function timeOf(rows: number): number {
  const bytes = largeReport(rows);
  const times = [1, 2, 3].map(() => {
    const start = performance.now();
    draftsOf('report', { name: 'returns.csv', bytes }, { progress: () => undefined }, { most: 1 });
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b)[1]!;
}

/** Rows of reports with every layer: titles, a header of two tiers, headings, subtotals, a grand total, notes. */
const LAYERED = [1000, 10_000, 100_000];

/** What the built command takes from the file to the drafted job, the median of three, in seconds. */
function commandTimes(): string {
  const folder = mkdtempSync(join(tmpdir(), 'rimefield-drafts-'));
  const command = join(import.meta.dirname, '..', '..', 'dist', 'node', 'cli.js');
  const lines = LAYERED.map((rows) => {
    const file = join(folder, `returns-${rows}.csv`);
    writeFileSync(file, layeredReport(rows));
    const times = [1, 2, 3].map(() => {
      const start = performance.now();
      spawnSync(process.execPath, [command, 'draft', file, '--out', join(folder, 'out.job.json')]);
      return (performance.now() - start) / 1000;
    });
    return `| ${grouped(rows)} | ${times.sort((a, b) => a - b)[1]!.toFixed(1)} |`;
  });
  rmSync(folder, { recursive: true });
  return ['| rows | s |', '| ---: | ---: |', ...lines].join('\n');
}

function totalOf(scores: readonly FamilyScore[]): string {
  const sum = (of: (one: FamilyScore) => number) => scores.reduce((total, one) => total + of(one), 0);
  const reports = sum((one) => one.reports);
  return `${grouped(reports)} reports: ${percent(
    sum((one) => one.outright),
    reports,
  )} outright, ${percent(
    sum((one) => one.inThree),
    reports,
  )} among the first three, ${percent(
    sum((one) => one.sure),
    reports,
  )} said sure, ${sum((one) => one.wrongAndSure)} wrong and sure`;
}

export async function draftsSection(): Promise<string> {
  const scores = Object.keys(FAMILIES).map((family) => scoreFamily(family, FIRST, REPORTS));
  await openAllDemos();
  const demos = draftDemos();
  const later = laterDrafts(demos);
  const right = later.filter(({ found }) => found === 'right').length;
  return `## Drafts
Methods drafted from reports alone (docs/draft.md), beside the tables that the reports were made from: ${scores.length} layouts by \`benchmarks/drafts/\`, in four languages, up to 5,000 rows, values and rows strict, names of columns told but not judged. The detectors were written while looking at reports of these layouts made with other seeds, so that what is measured here is whether they hold, not what they do with layouts that nobody foresaw. Those with a star were written afterwards: before anything was changed for them, 128 of their 160 reports came out (80%), and the drafts of one of them (a legend beside the table) were wrong and sure; that is mended.

All ${totalOf(scores)}. Layouts with a star, ${totalOf(scores.filter((one) => one.later))}.

| layout | outright | among three | sure | wrong and sure | wrong and not sure |
| --- | ---: | ---: | ---: | ---: | ---: |
${scores
  .map(
    (one) =>
      `| ${one.family}${one.later ? ' *' : ''} | ${percent(one.outright, one.reports)} | ${percent(one.inThree, one.reports)} | ${percent(one.sure, one.reports)} | ${one.wrongAndSure} | ${one.honest} |`,
  )
  .join('\n')}

Of the thirteen demo reports ${demos.filter((one) => one.right).length} drafts give the truth of their job from the first file alone (${demos
    .filter((one) => one.right)
    .map((one) => one.demo)
    .join(
      ', ',
    )}); two of the others join a second table, which no draft of one report can. Those drafted methods, as they are, on ${later.length} reports of later quarters: ${right} give the true table (${percent(right, later.length)}), ${later.filter(({ found }) => found === 'stops').length} stop, ${later.filter(({ found }) => found === 'other').length} give another table.

A delimited report of 20 columns, from bytes to the draft and its proof: 1,000 rows ${grouped(Math.round(timeOf(1000)))} ms, 200,000 rows ${grouped(Math.round(timeOf(200_000)))} ms.

The whole command (\`rimefield draft\`, from the file to the job) on delimited text with every layer that reports have, 20 columns under two tiers, headings, subtotals and notes:

${commandTimes()}

### On the bench
${await timesInBrowser()}

Actions from the dropped file to the true table, as the browser tests count them: clicks, drags, and keys other than typed words. With the draft, Enter that keeps the first one is not counted, and names that the report does not say are not asked for.

| job | by hand | with the draft |
| --- | ---: | ---: |
${Object.entries(ACTIONS)
  .map(([name, count]) => `| ${name} | ${count} | ${DRAFTED[name]} |`)
  .join('\n')}
| on average | ${average(Object.values(ACTIONS))} | ${average(Object.values(DRAFTED))} |

The same for twenty reports of the generator, their layouts chosen by a fixed seed:

| layout | with the draft |
| --- | ---: |
${GENERATED.map(({ family }) => `| ${family} | 0 |`).join('\n')}
`;
}

const average = (counts: readonly number[]) =>
  (counts.reduce((sum, count) => sum + count, 0) / counts.length).toFixed(1);

/** From the drop to the draft in sight, in Debian's Chromium. */
async function timesInBrowser(): Promise<string> {
  const [small, large] = [await draftTimes(1000), await draftTimes(200_000)];
  const said = (ms: number) => `${(ms / 1000).toFixed(1)} s`;
  const row = (rows: string, { steps, table, proven }: DraftTimes) =>
    `| ${rows} | ${said(steps)} | ${said(table)} | ${said(proven)} |`;
  return `In Debian's Chromium, on two cores, from the drop of the same report on the shelf (median of three; the second is a file of ${(largeReport(200_000).length / 1e6).toFixed(0)} MB, whose reading and rows are in sight earlier):

| rows | drafted steps in sight | their table in sight | proven, and can be kept |
| --- | ---: | ---: | ---: |
${row('1,000', small)}
${row('200,000', large)}`;
}
