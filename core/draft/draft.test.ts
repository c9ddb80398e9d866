import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { CATALOGUE, draftsOf, jobOfDraft, READINGS, Runner, readJobFile, tidyTable, writeJobFile } from '../index.ts';
import { cellsOf, namesOf } from '../test-support.ts';
import { likenessTo } from './like.ts';
import { proofOnWhole } from './proof.ts';
import { sampleOf } from './sample.ts';

const quiet = { progress: () => undefined };
const text = (lines: readonly string[], name = 'report.csv') => ({
  name,
  bytes: new TextEncoder().encode(`${lines.join('\n')}\n`),
});
const kindsOf = (source: { name: string; bytes: Uint8Array }) =>
  draftsOf('s', source, quiet, { most: 1 })[0]!
    .steps.slice(1)
    .map(({ kind }) => kind);

const REPORT = text([
  'Quay returns 2031;;',
  ';;',
  'Quay;Foot;Fares',
  'North;;',
  'Hask;1204;310,50',
  'Ullin;866;42,25',
  'Subtotal;2070;352,75',
  'South;;',
  'Tarve;302;7,75',
  'Brannoch;540;12,50',
  'Subtotal;842;20,25',
  'Total;2912;373,00',
  'Source: gates;;',
]);

describe('a draft', () => {
  test('is an ordinary method with its reasons, proven by the totals of the report', () => {
    const [draft] = draftsOf('s', REPORT, quiet);
    const table = draft!.run.steps.at(-1)!.table;
    expect(cellsOf(table)).toEqual([
      ['North', 'Hask', '1204', '310.5'],
      ['North', 'Ullin', '866', '42.25'],
      ['South', 'Tarve', '302', '7.75'],
      ['South', 'Brannoch', '540', '12.5'],
    ]);
    expect(draft!.sureness).toBe('sure');
    expect(draft!.totals).toEqual({ agree: 6, of: 6 });
    for (const { kind, params, why } of draft!.steps.slice(1)) {
      expect(CATALOGUE.get(kind)!.params.parse(params)).toEqual(params);
      expect(why.length).toBeGreaterThan(5);
    }
  });

  test('loses no cell from account', () => {
    for (const { tally } of draftsOf('s', REPORT, quiet)) expect(tally!.cells.accounted).toBe(tally!.cells.filled);
  });

  test('the same bytes give the same drafts', () => {
    const drafts = () => draftsOf('s', REPORT, quiet).map(({ steps, sureness, score }) => ({ steps, sureness, score }));
    expect(drafts()).toEqual(drafts());
  });

  test('its job is read back to the same bytes', () => {
    const file = { name: 'report.csv', size: REPORT.bytes.length, sha256: 'ab'.repeat(32) };
    const written = writeJobFile(jobOfDraft(draftsOf('s', REPORT, quiet)[0]!, file));
    expect(writeJobFile(readJobFile(written))).toBe(written);
  });

  test('continues after any of its steps as it did before', () => {
    const plain = (steps: readonly { kind: string; params: unknown }[]) =>
      steps.map(({ kind, params }) => ({ kind, params }));
    const [draft] = draftsOf('s', REPORT, quiet);
    for (let kept = 1; kept <= draft!.steps.length; kept++) {
      const [again] = draftsOf('s', REPORT, quiet, { given: draft!.steps.slice(0, kept) });
      expect(plain(again!.steps)).toEqual(plain(draft!.steps));
    }
  });

  test('a step that was left out is not proposed again', () => {
    const [draft] = draftsOf('s', REPORT, quiet);
    const at = draft!.steps.findIndex(({ kind }) => kind === 'carry');
    const [other] = draftsOf('s', REPORT, quiet, {
      given: draft!.steps.slice(0, at),
      without: [draft!.steps[at]!],
    });
    expect(draft!.steps.map(({ kind }) => kind)).toContain('carry');
    expect(other!.steps.map(({ kind }) => kind)).not.toContain('carry');
  });

  test('another way at a step can be taken in its place, and the rest follows', () => {
    const report = text(['Quay,2029,2030,2031', 'Hask,5,6,7', 'Ullin,7,8,9', 'Tarve,1,2,3']);
    const [draft] = draftsOf('s', report, quiet);
    const choice = draft!.choices.find(({ steps }) => steps.length === 0)!;
    const taken = draft!.steps.slice(choice.from, choice.to);
    expect(taken.map(({ kind }) => kind)).toContain('unpivot');
    const [other] = draftsOf('s', report, quiet, {
      given: [...draft!.steps.slice(0, choice.from), ...choice.steps],
      without: taken,
    });
    expect(namesOf(other!.run.steps.at(-1)!.table)).toEqual(['Quay', '2029', '2030', '2031']);
  });

  test('holds next month: other figures, one quay more, one note more', () => {
    const [draft] = draftsOf('s', REPORT, quiet);
    const steps = draft!.steps.slice(1);
    const next = text([
      'Quay returns 2032;;',
      ';;',
      'Quay;Foot;Fares',
      'North;;',
      'Hask;99;1,50',
      'Ullin;1;2,25',
      'Skene;3;4,25',
      'Subtotal;103;8,00',
      'Total;103;8,00',
      'Source: gates;;',
      'Printed again;;',
    ]);
    let table = draftsOf('s', next, quiet, { most: 1 })[0]!.run.steps[0]!.table;
    for (const { kind, params } of steps)
      table = CATALOGUE.get(kind)!.run(table, params, { ...quiet, name: '', other: () => ({ name: '', table }) }).table;
    expect(cellsOf(table).map((row) => row.slice(0, 3))).toEqual([
      ['North', 'Hask', '99'],
      ['North', 'Ullin', '1'],
      ['North', 'Skene', '3'],
    ]);
  });

  test('a total that is wrong in the report is not sure', () => {
    const wrong = {
      ...REPORT,
      bytes: new TextEncoder().encode(new TextDecoder().decode(REPORT.bytes).replace('842;20,25', '843;20,25')),
    };
    const [draft] = draftsOf('s', wrong, quiet);
    expect(draft!.sureness).not.toBe('sure');
    expect(draft!.totals.agree).toBeLessThan(draft!.totals.of);
  });

  test('nothing to read gives no draft, and giving up is passed on', () => {
    expect(draftsOf('s', text(['']), quiet)).toEqual([]);
    const stop = () => {
      throw new Error('enough');
    };
    expect(() => draftsOf('s', REPORT, { progress: stop })).toThrow('enough');
  });
});

describe('tidy tables stay as they are', () => {
  // Open data of the vega-datasets package: long tables, each with its header in the first row.
  test.each([
    'stocks.csv',
    'seattle-weather.csv',
    'sp500.csv',
    'iowa-electricity.csv',
    'gapminder-health-income.csv',
    'github.csv',
    'disasters.csv',
  ])('%s gets a header and types alone', (file) => {
    const source = { name: file, bytes: new Uint8Array(readFileSync(`node_modules/vega-datasets/data/${file}`)) };
    expect(kindsOf(source)).toEqual(['header-from-rows', 'set-types']);
  });
  test.each([
    'barley.json',
    'cars.json',
    'penguins.json',
    'jobs.json',
    'unemployment-across-industries.json',
    'gapminder.json',
  ])('%s gets types alone', (file) => {
    const source = { name: file, bytes: new Uint8Array(readFileSync(`node_modules/vega-datasets/data/${file}`)) };
    const shaped = kindsOf(source).filter((kind) => !['set-types', 'blank-texts', 'clean-text'].includes(kind));
    expect(shaped).toEqual([]);
  });
  test('what was drafted is tidy: a second draft finds nothing but types', () => {
    const [draft] = draftsOf('s', REPORT, quiet);
    const table = draft!.run.steps.at(-1)!.table;
    const again = text([namesOf(table).join(','), ...cellsOf(table).map((row) => row.join(','))], 'tidy.csv');
    expect(kindsOf(again)).toEqual(['header-from-rows', 'set-types']);
  });
});

describe('towards a finished table', () => {
  const finished = (rows: string[]) => tidyTable(text(['Area,Quay,Passengers', ...rows], 'finished.csv'))!;

  test('its columns under its names, in its order; what differs is reported cell by cell', () => {
    const wanted = finished(['North,Hask,1204', 'North,Ullin,867', 'South,Tarve,302', 'South,Brannoch,540']);
    const [draft] = draftsOf('s', REPORT, quiet, { most: 1, wanted: { table: wanted, partial: false } });
    expect(namesOf(draft!.run.steps.at(-1)!.table)).toEqual(['Area', 'Quay', 'Passengers']);
    expect(draft!.sureness).toBe('guess');
    expect(draft!.likeness!.gaps).toEqual([{ row: 1, column: 'Passengers', wanted: '867', got: '866' }]);
    expect(draft!.likeness!.share).toBeCloseTo(11 / 12);
  });

  test('two rows are enough to choose by', () => {
    const wanted = { table: finished(['North,Hask,1204', 'South,Tarve,302']), partial: true };
    const [draft] = draftsOf('s', REPORT, quiet, { most: 1, wanted });
    expect(draft!.likeness).toMatchObject({ share: 1, gaps: [], missing: 0 });
    expect(cellsOf(draft!.run.steps.at(-1)!.table)).toHaveLength(4);
  });

  test('what no reading gives is made from the cells that were shown', () => {
    const report = text(['Ref,Quay,Foot', 'HU-0710/b,HASK,5', 'TT-1510/a,TARVE,7', 'UL-2210/c,ULLIN,9']);
    const wanted = {
      table: tidyTable(text(['Sailing,Quay,Foot', '0710,Hask,5', '1510,Tarve,7']))!,
      partial: true,
    };
    const [draft] = draftsOf('s', report, quiet, { most: 1, wanted });
    expect(draft!.likeness).toMatchObject({ share: 1, gaps: [] });
    expect(cellsOf(draft!.run.steps.at(-1)!.table)).toEqual([
      ['0710', 'Hask', '5'],
      ['1510', 'Tarve', '7'],
      ['2210', 'Ullin', '9'],
    ]);
  });

  test('rows that are missing or too many count against a table', () => {
    const table = finished(['North,Hask,1204', 'South,Tarve,302']);
    expect(likenessTo(table, finished(['North,Hask,1204']), false)).toMatchObject({ extra: 1, missing: 0 });
    expect(likenessTo(table, finished(['North,Hask,1204', 'South,Tarve,302', 'West,Skene,9']), false)).toMatchObject({
      missing: 1,
    });
    expect(likenessTo(table, table, false)).toMatchObject({ share: 1, columns: [0, 1, 2] });
  });
});

test('a large report is sampled by whole neighbourhoods, its head and its tail', () => {
  const table = tidyTable(text(['A', ...Array.from({ length: 20_000 }, (_, r) => String(r))]))!;
  const sample = sampleOf(table, undefined);
  const cells = cellsOf(sample).map(([cell]) => Number(cell));
  expect(sample.rows).toBeLessThanOrEqual(4000);
  expect([cells[0], cells[1], cells.at(-1)]).toEqual([0, 1, 19_999]);
});

describe('the totals of a report that does not wait for its tally', () => {
  // Sums of Jan and Feb by hand: 10 + 30 = 40, 20 + 40 = 60, 3 + 4 = 7.
  const report = (total: string) =>
    text([
      'Site,Jan,Feb,Mar',
      'Hask,10,20,3',
      'Ullin,30,40,4',
      `Total,${total}`,
      'Tarve,5,6,1',
      'Skene,7,8,2',
      'Total,12,14,3',
    ]);
  const steps = [
    { kind: 'read-delimited', params: { source: 's', delimiter: ',' } },
    { kind: 'header-from-rows', params: { rows: 1, at: null } },
    { kind: 'set-aside', params: { pile: 'totals', rules: [{ test: 'starts', column: 'Site', text: 'Total' }] } },
    {
      kind: 'unpivot',
      params: { columns: { by: 'names', names: ['Jan', 'Feb', 'Mar'] }, parts: [{ as: 'column', name: 'Month' }] },
    },
  ];
  const proofOf = (total: string) => {
    const runner = new Runner();
    runner.setSource('s', report(total));
    const run = runner.run(
      steps.map(({ kind, params }, k) => ({
        id: `s${k}`,
        kind,
        params: (CATALOGUE.get(kind) ?? READINGS.get(kind))!.params.parse(params) as Record<string, unknown>,
      })),
      quiet,
    );
    expect(run.stop).toBeUndefined();
    return proofOnWhole(run, undefined);
  };

  test('are summed up although the table is unpivoted behind them', () => {
    expect(proofOf('40,60,7')).toEqual({ agree: 6, of: 6 });
    expect(proofOf('40,61,7')).toEqual({ agree: 5, of: 6 });
  });
});
