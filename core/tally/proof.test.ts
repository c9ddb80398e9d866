import { readFileSync } from 'node:fs';
import { Parser } from 'htmlparser2';
import { describe, expect, test } from 'vitest';
import { runChecks } from '../checks/checks.ts';
import { jobNames } from '../document/job.ts';
import { readJobFile } from '../document/job-file.ts';
import { fullTables } from '../document/step-set.ts';
import { Runner } from '../run/run.ts';
import { proofPage } from './proof.ts';
import { tallyOf } from './tally.ts';

const job = readJobFile(readFileSync('demo/files/quay-returns.job.json', 'utf8'));

function page(change: (bytes: Uint8Array) => Uint8Array = (bytes) => bytes) {
  const runner = new Runner();
  const bytes = change(new Uint8Array(readFileSync('demo/files/quay-returns-q2.xlsx')));
  runner.setSource(job.sources[0]!.id, { name: 'q2.xlsx', bytes });
  const [table] = fullTables(job);
  const run = runner.runTable(fullTables(job), table!.id, { progress: () => undefined });
  const tally = tallyOf(run, table!, jobNames(job).table);
  const last = run.steps.at(-1)!.table;
  const checks = runChecks(last, [{ kind: 'rows', id: 'r', level: 'warn', least: 1000, most: null }], {
    totals: tally.ledger,
  });
  return { html: proofPage({ job, table: job.tables[0]!, run, tally, checks, at: 'run on 4 July 2031' }), tally, last };
}

/** The words of a page, and whatever it would fetch. */
function readPage(html: string) {
  const words: string[] = [];
  const fetched: string[] = [];
  const open: string[] = [];
  let depth = 0;
  const parser = new Parser({
    onopentag(name, attributes) {
      if (!['meta', 'br', 'link', 'img', 'hr', 'col'].includes(name)) open.push(name);
      depth = Math.max(depth, open.length);
      for (const key of ['src', 'href']) if (attributes[key] !== undefined) fetched.push(attributes[key]);
      if (name === 'script') fetched.push('script');
    },
    ontext: (text) => words.push(text),
    onclosetag(name) {
      if (open.at(-1) === name) open.pop();
    },
  });
  parser.end(html);
  return { words: words.join(' ').replace(/\s+/g, ' '), fetched, left: open };
}

describe('the proof, as one page to hand over', () => {
  test('it says rows, cells, totals, the method and the checks, with figures grouped', () => {
    const { html, tally, last } = page();
    const { words } = readPage(html);
    expect(words).toContain(`${last.rows} rows`);
    expect(words).toContain(`${tally.cells.accounted} of ${tally.cells.filled} filled cells accounted for`);
    expect(words).toContain(`${tally.ledger.agrees} of ${tally.ledger.entries.length} of its totals agree`);
    expect(words).toContain('there are between 1,000 and anything rows');
    expect(words).toContain('q2.xlsx');
    expect(words).toContain('run on 4 July 2031');
  });

  test('it stands alone: it fetches nothing, runs nothing, and every element is closed', () => {
    const { fetched, left } = readPage(page().html);
    expect(fetched).toEqual([]);
    expect(left).toEqual([]);
  });

  test('the same run gives the same bytes', () => {
    expect(page().html).toBe(page().html);
  });
});
