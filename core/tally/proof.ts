import type { CheckResult } from '../checks/checks.ts';
import { type Job, type JobTable, jobNames } from '../document/job.ts';
import { stepHeadline, stepSentence } from '../document/sentence-of.ts';
import { effectOfPiles } from '../kinds/headline.ts';
import { sentenceText } from '../kinds/sentence.ts';
import type { MethodRun } from '../run/run.ts';
import { counted, grouped } from '../values/counted.ts';
import { escapeHtml as escaped } from '../write/escape-html.ts';
import { placeText } from './place-text.ts';
import type { Tally } from './tally.ts';
import type { TotalEntry } from './totals.ts';

export interface ProofInput {
  job: Job;
  table: JobTable;
  run: MethodRun;
  tally: Tally;
  checks: readonly CheckResult[];
  /** When it ran, as text. */
  at: string;
}

const MAX_TOTALS = 500;

const STYLE = `
body{font:13px/1.5 "Public Sans",system-ui,sans-serif;color:#17303a;max-width:900px;margin:32px auto;padding:0 24px;font-variant-numeric:tabular-nums}
h1{font-size:20px;margin:0 0 4px}h2{font-size:14px;margin:28px 0 6px}
p{margin:4px 0}.quiet{color:#5d727c}
table{border-collapse:collapse;width:100%}th,td{border-bottom:1px solid #d3dde1;padding:3px 8px 3px 0;text-align:left;vertical-align:top}
th{color:#5d727c;font-weight:600}td.n,th.n{text-align:right}
ol{padding-left:22px}li{margin:3px 0}code{font:12px "Spline Sans Mono",monospace;overflow-wrap:anywhere}
.good{color:#20605a;font-weight:600}.bad{color:#b0402f;font-weight:600}.look{color:#8a5c10;font-weight:600}
@media print{body{margin:0;max-width:none}h2{break-after:avoid}tr{break-inside:avoid}}
`;

/**
 * The proof as one page that needs nothing else: method, files, counts by step, totals, checks, piles.
 * The same input gives the same bytes.
 */
export function proofPage(input: ProofInput): string {
  const { job, table, run, tally, checks, at } = input;
  const last = run.steps.at(-1);
  const { ledger, cells } = tally;
  const totals = ledger.agrees + ledger.disagrees + ledger.cannotTell + ledger.leftOut;
  const good =
    ledger.disagrees === 0 &&
    cells.accounted === cells.filled &&
    checks.every((check) => check.ok) &&
    run.stop === undefined;
  const row = (...all: string[]) => `<tr>${all.map((one) => `<td>${one}</td>`).join('')}</tr>`;
  const figures = (...all: [string, boolean][]) =>
    `<tr>${all.map(([text, number]) => `<td${number ? ' class="n"' : ''}>${text}</td>`).join('')}</tr>`;
  const steps = run.steps.map((step, k) => {
    const before = run.steps[k - 1]?.table.rows;
    const names = jobNames(job);
    const headline = stepHeadline(step.step, effectOfPiles(step.aside), names);
    const sentence = sentenceText(stepSentence(step.step, names));
    const looks = step.notices.filter((notice) => notice.severity === 'warning').map((notice) => notice.text);
    const note = step.step.note === undefined ? '' : `<br><span class="quiet">${escaped(step.step.note)}</span>`;
    return figures(
      [String(k + 1), true],
      [
        `<b>${escaped(headline)}</b><br>${escaped(sentence)}${note}${looks.map((text) => `<br><span class="look">${escaped(text)}</span>`).join('')}`,
        false,
      ],
      [before === undefined ? '' : grouped(before, 10), true],
      [grouped(step.table.rows, 10), true],
      [grouped(step.table.fields.length, 10), true],
    );
  });
  const state: Record<TotalEntry['state'], string> = {
    agrees: 'good',
    disagrees: 'bad',
    'left out': 'look',
    'cannot tell': 'look',
    'not calculated': 'look',
  };
  const entries = ledger.entries
    .slice(0, MAX_TOTALS)
    .map(
      (entry) =>
        `<tr><td><code>${escaped(placeText(run, entry.place))}</code></td><td>${escaped(entry.covers)}${
          entry.explanation === undefined ? '' : `<br><span class="look">${escaped(entry.explanation.text)}</span>`
        }</td><td class="n">${grouped(entry.figure, 10)}</td><td class="n">${grouped(entry.table, 10)}</td><td class="${state[entry.state]}">${entry.state}</td></tr>`,
    );
  const piles = run.steps.flatMap((step, k) =>
    step.aside.map((pile) =>
      row(
        escaped(pile.name),
        pile.columns === undefined ? counted(pile.rows.length, 'row') : counted(pile.columns.length, 'column'),
        `step ${k + 1}`,
      ),
    ),
  );
  return `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>Proof of ${escaped(table.name)}</title>
<style>${STYLE}</style>
<h1>${escaped(table.name)}</h1>
<p class="quiet">${escaped(job.name)}, ${escaped(at)}</p>
<p class="${good ? 'good' : 'bad'}">${
    run.stop !== undefined
      ? `The method stopped at step ${run.stop.index + 1}: ${escaped(run.stop.message)}`
      : good
        ? 'The table is the report: every cell is accounted for, totals agree, checks hold.'
        : 'Something is not as it should be: see below.'
  }</p>
<p>${last === undefined ? '' : `${counted(last.table.rows, 'row')}, ${counted(last.table.fields.length, 'column')}. `}${grouped(cells.accounted, 10)} of ${grouped(cells.filled, 10)} filled cells accounted for. ${
    totals === 0
      ? 'No rows or columns are marked as totals, so there was nothing to compare with.'
      : `${grouped(ledger.agrees, 10)} of ${grouped(totals, 10)} of its totals agree.`
  } ${checks.length === 0 ? 'There are no checks.' : `${checks.filter((check) => check.ok).length} of ${checks.length} checks hold.`}</p>

<h2>Files</h2>
<table><tr><th>source</th><th>file</th><th class="n">bytes</th><th>SHA-256</th></tr>
${job.sources
  .map((source) =>
    figures(
      [escaped(source.name), false],
      [escaped(source.file?.name ?? 'none'), false],
      [source.file === null ? '' : grouped(source.file.size, 10), true],
      [`<code>${escaped(source.file?.sha256 ?? '')}</code>`, false],
    ),
  )
  .join('\n')}
</table>

<h2>Method</h2>
<table><tr><th class="n">step</th><th>what it does</th><th class="n">rows before</th><th class="n">after</th><th class="n">columns</th></tr>
${steps.join('\n')}
</table>

<h2>Where every cell went</h2>
<table><tr><th>way</th><th class="n">figures</th><th class="n">words</th></tr>
${cells.fates.map((fate) => figures([escaped(fate.text), false], [grouped(fate.figures, 10), true], [grouped(fate.words, 10), true])).join('\n')}
</table>

<h2>The report's own totals</h2>
${
  totals === 0
    ? '<p>None.</p>'
    : `<table><tr><th>cell</th><th>what it covers</th><th class="n">report says</th><th class="n">table adds to</th><th></th></tr>
${entries.join('\n')}
</table>${totals > entries.length ? `<p class="quiet">and ${grouped(totals - entries.length, 10)} more, which agree</p>` : ''}`
}

<h2>Checks</h2>
${
  checks.length === 0
    ? '<p>None.</p>'
    : `<table>${checks.map((check) => row(escaped(check.text), escaped(check.found), `<span class="${check.ok ? 'good' : 'bad'}">${check.ok ? 'holds' : 'fails'}</span>`)).join('\n')}</table>`
}

<h2>Piles</h2>
${piles.length === 0 ? '<p>Nothing was set aside.</p>' : `<table>${piles.join('\n')}</table>`}
</html>
`;
}
