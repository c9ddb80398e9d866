import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, test } from 'vitest';
import {
  Cancelled,
  cellsOfReport,
  cellsOfTable,
  cellText,
  displayedText,
  type JobStep,
  jobNames,
  type MethodRun,
  Runner,
  readJobFile,
  rowFates,
  type StepAtWork,
  sentenceText,
  stepSentence,
  writeDelimited,
} from '../index.ts';
import { quiet } from '../test-support.ts';

const job = readJobFile(readFileSync('demo/files/quay-returns.job.json', 'utf8'));
const steps = job.tables[0]!.steps;
const source = { name: 'quay-returns-q2.xlsx', bytes: readFileSync('demo/files/quay-returns-q2.xlsx') };

function runner(budget?: number): Runner {
  const made = new Runner(budget);
  made.setSource('quay-returns', { ...source });
  return made;
}

describe('the demo job', () => {
  let run: MethodRun;
  beforeAll(() => {
    run = runner().run(steps, quiet);
  });

  test('gives the truth from which the report was made, byte for byte', () => {
    expect(run.stop).toBeUndefined();
    expect(Buffer.from(writeDelimited(run.steps.at(-1)!.table)).toString()).toBe(
      readFileSync('demo/truth/quay-returns-q2.csv', 'utf8'),
    );
  });

  test('law: trace from every tidy cell to the report and back comes home', () => {
    const last = run.steps.length - 1;
    const { table } = run.steps[last]!;
    const { report } = run.steps[0]!.reading!;
    for (let row = 0; row < table.rows; row++) {
      for (let column = 0; column < table.fields.length; column++) {
        const cells = cellsOfReport(run, last, { row, column });
        expect(cells.length).toBeGreaterThan(0);
        const text = cellText(table.fields[column]!.column, row);
        for (const cell of cells) {
          expect(cellsOfTable(run, last, cell)).toContainEqual(expect.objectContaining({ row, column }));
          // What the report shows there is what the tidy cell says, but for the grouping of figures.
          if (cell.role === 'value')
            expect(displayedText(report.parts[cell.part]!, cell.row, cell.column)!.replace(',', '')).toBe(text);
          if (cell.role === 'label' && cell.row >= 0)
            expect(displayedText(report.parts[cell.part]!, cell.row, cell.column)).toBe(text);
        }
      }
    }
  });

  test('roles: figures are values, months come from names, routes from labels, ports from sheet names', () => {
    const last = run.steps.length - 1;
    const roles = [0, 1, 2, 3, 4, 5].map(
      (column) => new Set(cellsOfReport(run, last, { row: 40, column }).map((cell) => cell.role)),
    );
    expect(roles).toEqual(['label', 'label', 'value', 'name', 'value', 'value'].map((role) => new Set([role])));
  });

  test('every row of the report is in the table or on a pile', () => {
    const fates = rowFates(run, run.steps.length - 1);
    const counts = new Map(fates.counts().map((one) => [one.pile ?? 'table', one.rows]));
    const { report } = run.steps[0]!.reading!;
    expect([...counts.values()].reduce((sum, n) => sum + n)).toBe(
      report.parts.reduce((sum, part) => sum + part.rows, 0),
    );
    expect(Object.fromEntries(counts)).toMatchObject({ titles: 12, headers: 2, labels: 12, totals: 16, notes: 4 });
  });

  test('the method reads as sentences', () => {
    expect(steps.map((step) => sentenceText(stepSentence(step, jobNames(job)))).join('\n')).toMatchInlineSnapshot(`
      "Read all sheets of quay returns, stacked, sheet name in Port
      Header from 2 rows where A is Sailing, joined with ' / ', upper tiers filled across; rows above set aside as titles in each Port, repeats set aside
      Set aside as blanks: rows where the row is empty
      Set aside as notes: rows below the last row where Sailing ends with total in each Port
      Carry Route down from Sailing on rows where only Sailing has a value in each Port
      Set aside as totals: rows where Sailing ends with total
      Set aside as totals the columns all whose name starts with Quarter
      Unpivot all but Port, Route, Sailing: names split at ' / ' into Month and one column each
      Set types: Sailing time; Foot, Vehicles whole number
      Rename Foot to Foot passengers"
    `);
  });
});

describe('runs', () => {
  const edited = (index: number, params: Record<string, unknown>): JobStep[] =>
    steps.map((step, k) => (k === index ? { ...step, params: { ...step.params, ...params } } : step));

  test('editing step k runs again from k, and going back costs nothing', () => {
    const one = runner();
    one.run(steps, quiet);
    expect(one.counts).toEqual({ ran: 10, reused: 0 });
    one.run(edited(7, { value: 'Other', blanks: 'drop' }), quiet);
    expect(one.counts).toEqual({ ran: 13, reused: 7 });
    one.run(steps, quiet);
    expect(one.counts).toEqual({ ran: 13, reused: 17 });
  });

  test('another file under the same steps is run again', () => {
    const one = runner();
    one.run(steps, quiet);
    one.setSource('quay-returns', { ...source });
    one.run(steps, quiet);
    expect(one.counts.ran).toBe(20);
  });

  test('what is forgotten is gone: nothing runs without its file, and with it all runs again', () => {
    const one = runner();
    one.run(steps, quiet);
    one.forget();
    expect(one.source('quay-returns')).toBeUndefined();
    expect(one.run(steps, quiet).stop).toMatchObject({ index: 0 });
    one.setSource('quay-returns', source);
    expect(one.run(steps, quiet).steps.at(-1)!.table.rows).toBe(117);
    expect(one.counts).toEqual({ ran: 20, reused: 0 });
  });

  test('however small the budget, an edit of the last step runs that step alone; what was before it is released', () => {
    const one = runner(1);
    one.run(steps, quiet);
    expect(one.run(steps, quiet).steps.at(-1)!.table.rows).toBe(117);
    expect(one.counts).toEqual({ ran: 10, reused: 10 });
    one.run(steps.slice(0, 9), quiet);
    expect(one.counts).toEqual({ ran: 10, reused: 19 });
    one.run(steps, quiet);
    expect(one.counts).toEqual({ ran: 11, reused: 28 });
  });

  test('what steps share is counted once: renaming columns holds nothing more', () => {
    const one = runner();
    const text = new TextEncoder().encode(
      `Ref,Foot\n${Array.from({ length: 5000 }, (_, r) => `B${r},${r}`).join('\n')}`,
    );
    one.setSource('s', { name: 'a.csv', bytes: text });
    const read = { id: 'a', kind: 'read-delimited', params: { source: 's' } };
    const header = { id: 'b', kind: 'header-from-rows', params: { rows: 1 } };
    one.run([read], quiet);
    const before = one.heldBytes;
    expect(before).toBeGreaterThan(text.length);
    one.run([read, header], quiet);
    // The rows that are left, and no cell twice.
    expect(one.heldBytes - before).toBeLessThan(5000 * 4 + 100);
    const after = one.heldBytes;
    const renames = Array.from({ length: 20 }, (_, k) => ({
      id: `r${k}`,
      kind: 'rename',
      params: { names: [{ from: k === 0 ? 'Foot' : `Foot ${k - 1}`, to: `Foot ${k}` }] },
    }));
    expect(one.run([read, header, ...renames], quiet).stop).toBeUndefined();
    expect(one.heldBytes).toBe(after);
    one.forget();
    expect(one.heldBytes).toBe(0);
  });

  test('a step that cannot run stops the method there; the steps before it stand', () => {
    const run = runner().run(edited(4, { from: 'Sailings' }), quiet);
    expect(run.steps).toHaveLength(4);
    expect(run.stop).toMatchObject({ index: 4, column: 'Sailings', alike: 'Sailing' });
    expect(run.stop!.message).toContain('Did you mean Sailing');
  });

  test('a source without its file, a broken file, an unknown sheet: each says what is wrong', () => {
    expect(new Runner().run(steps, quiet).stop!.message).toContain('has no file yet');
    const broken = new Runner();
    broken.setSource('quay-returns', { name: 'cut.xlsx', bytes: source.bytes.subarray(0, 4000) });
    expect(broken.run(steps, quiet).stop!.message).toContain('damaged or cut off');
    const sheets = runner().run(edited(0, { sheets: { by: 'names', names: ['Hosk'] } }), quiet).stop!;
    expect(sheets.message).toBe(
      'quay-returns-q2.xlsx has no sheet Hosk. The sheets are Hask, Ullin, Brannoch, Tarve. Did you mean Hask?',
    );
  });

  test('params that do not fit, an unknown kind and a late reading stop at their step', () => {
    expect(runner().run(edited(1, { rows: 0 }), quiet).stop).toMatchObject({ index: 1 });
    expect(runner().run([steps[0]!, { id: 'x', kind: 'conjure', params: {} }], quiet).stop!.message).toContain(
      'conjure',
    );
    expect(runner().run([steps[0]!, steps[0]!], quiet).stop!.message).toContain('only be the first');
  });

  test('a cancelled run throws and leaves the runner fit for use', () => {
    const one = runner();
    const stop = () => {
      throw new Cancelled('overtaken');
    };
    expect(() => one.run(steps, { progress: stop })).toThrow(Cancelled);
    expect(one.run(steps, quiet).stop).toBeUndefined();
  });
});

test('a step that is left off stops the method there, until it is changed or taken up again', () => {
  const file = () => ({ name: 'a.csv', bytes: new TextEncoder().encode('Port,Foot\nHask,12\n') });
  const method = (to: string): JobStep[] => [
    { id: 'a', kind: 'read-delimited', params: { source: 's', delimiter: ',' } },
    { id: 'b', kind: 'rename', params: { names: [{ from: 'A', to }] } },
  ];
  const first = new Runner();
  first.setSource('s', file());
  const seen: (StepAtWork | undefined)[] = [];
  first.onStep = (step) => seen.push(step);
  expect(first.run(method('Quay'), quiet).stop).toBeUndefined();
  expect(seen.map((one) => one?.index)).toEqual([0, 1, undefined]);

  const { key } = seen[1]!;
  const again = new Runner();
  again.setSource('s', file());
  again.disableSteps(new Map([[key, 'Stopped.']]));
  const stopped = again.run(method('Quay'), quiet);
  expect(stopped.steps).toHaveLength(1);
  expect(stopped.stop).toEqual({ index: 1, message: 'Stopped.', leftOff: key });
  expect(again.run(method('Pier'), quiet).stop).toBeUndefined();
  again.disableSteps(new Map());
  expect(again.run(method('Quay'), quiet).stop).toBeUndefined();
});
