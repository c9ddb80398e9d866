import { readFileSync } from 'node:fs';
import { table as columnTable, desc, from, fromCSV, op } from 'arquero';
import { describe, expect, test } from 'vitest';
import { draftsOf, openSource, tidyTable } from '../../index.ts';
import { cellsOf, namesOf, quiet } from '../../test-support.ts';
import type { OtherReport } from '../draft.ts';

const text = (content: string, name: string) => ({ name, bytes: new TextEncoder().encode(content) });

/** Open data of the vega-datasets package; what is to come of it is worked out by arquero. */
const CSV = readFileSync('node_modules/vega-datasets/data/seattle-weather.csv', 'utf8');
const REPORT = text(CSV, 'seattle-weather.csv');
// Dates stay texts: arquero would move them by the time zone.
const weather = () => fromCSV(CSV, { parse: { date: (date) => date } });

function towards(wanted: string, partial: boolean, report = REPORT, others: readonly OtherReport[] = []) {
  const goal = { table: tidyTable(text(wanted, 'finished.csv'))!, partial, others };
  const [draft] = draftsOf('s', report, quiet, { most: 1, wanted: goal });
  return draft!;
}

const tableOf = (draft: ReturnType<typeof towards>) => draft.run.steps.at(-1)!.table;
const sorted = (rows: readonly (readonly (string | null)[])[]) => rows.map((row) => row.join()).toSorted();
const firstLines = (csv: string, n: number) =>
  csv
    .split('\n')
    .slice(0, n + 1)
    .join('\n');
const linesOf = (csv: string) => csv.trimEnd().split('\n').slice(1).toSorted();

describe('from some rows of a finished table to all of them', () => {
  test('groups with a sum, a rounded mean, a greatest value and a count', () => {
    const truth = weather()
      .groupby('weather')
      .rollup({
        rain: (d: { precipitation: number }) => op.round(op.sum(d.precipitation) * 10) / 10,
        'Mean high': (d: { temp_max: number }) => op.round(op.mean(d.temp_max) * 100) / 100,
        'Highest wind': (d: { wind: number }) => op.max(d.wind),
        days: () => op.count(),
      })
      .toCSV();
    const draft = towards(firstLines(truth, 3), true);
    expect(draft.likeness!.share).toBe(1);
    expect(sorted(cellsOf(tableOf(draft)))).toEqual(linesOf(truth));
    expect(draft.steps.map(({ kind }) => kind)).toContain('group');
  });

  test('a month of each date is a group', () => {
    const truth = weather()
      .derive({ month: (d: { date: string }) => op.substring(d.date, 0, 7) })
      .groupby('month')
      .rollup({ precipitation: (d: { precipitation: number }) => op.round(op.sum(d.precipitation) * 10) / 10 })
      .toCSV();
    const draft = towards(firstLines(truth, 4), true);
    expect(sorted(cellsOf(tableOf(draft)))).toEqual(linesOf(truth));
  });

  test('a difference of two columns, under a name of its own', () => {
    const truth = weather()
      .derive({ range: (d: { temp_max: number; temp_min: number }) => op.round((d.temp_max - d.temp_min) * 10) / 10 })
      .select('date', 'temp_max', 'temp_min', 'range')
      .toCSV();
    const draft = towards(firstLines(truth, 5), true);
    expect(namesOf(tableOf(draft))).toEqual(['date', 'temp_max', 'temp_min', 'range']);
    expect(sorted(cellsOf(tableOf(draft)))).toEqual(linesOf(truth));
    expect(draft.sureness).toBe('likely');
  });

  test('sums of each year side by side', () => {
    const hundredths = (sum: number) => String(Math.round(sum * 100) / 100);
    const json = readFileSync('node_modules/vega-datasets/data/barley.json', 'utf8');
    const truth = from(JSON.parse(json) as object[])
      .rename({ yield: 'bushels' })
      .groupby('site', 'year')
      .rollup({ bushels: (d: { bushels: number }) => op.sum(d.bushels) })
      .groupby('site')
      .pivot('year', 'bushels')
      .toCSV({ format: { 1931: hundredths, 1932: hundredths } });
    const draft = towards(firstLines(truth, 3), true, text(json, 'barley.json'));
    const names = namesOf(tableOf(draft));
    expect(names.toSorted()).toEqual(['1931', '1932', 'site']);
    const rounded = cellsOf(tableOf(draft)).map(([site, ...sums]) =>
      [site, ...sums.map((sum) => hundredths(Number(sum)))].join(),
    );
    expect(rounded.toSorted()).toEqual(linesOf(truth));
  });
});

describe('from a whole finished table', () => {
  test('other words for a column, learned from all of its rows', () => {
    const words: Record<string, string> = { rain: 'wet', drizzle: 'wet', snow: 'wet', sun: 'dry', fog: 'dull' };
    const truth = `date,Kind\n${CSV.trimEnd()
      .split('\n')
      .slice(1)
      .map((line) => line.split(','))
      .map((cells) => `${cells[0]},${words[cells[5]!]}`)
      .join('\n')}\n`;
    const draft = towards(truth, false);
    const recode = draft.steps.find(({ kind }) => kind === 'recode')!;
    expect(recode.params['crosswalk']).toHaveLength(5);
    expect(sorted(cellsOf(tableOf(draft)))).toEqual(linesOf(truth));
    expect(draft.sureness).toBe('sure');
  });

  test('rows that are not in it are left out by a rule', () => {
    const truth = weather()
      .filter((d: { weather: string }) => d.weather !== 'fog' && d.weather !== 'drizzle')
      .select('date', 'wind', 'weather')
      .toCSV();
    const draft = towards(truth, false);
    expect(sorted(cellsOf(tableOf(draft)))).toEqual(linesOf(truth));
  });

  test('columns that another report has', async () => {
    const kinds = text(
      'kind,Sky,Icon\nrain,grey,R\ndrizzle,grey,D\nsnow,white,S\nsun,blue,C\nfog,white,F\n',
      'kinds.csv',
    );
    await openSource(kinds.bytes, kinds.name);
    const [own] = draftsOf('s2', kinds, quiet, { most: 1 });
    const others = [{ id: 't2', sourceId: 's2', name: kinds.name, source: kinds, draft: own! }];
    const sky = columnTable({
      weather: ['rain', 'drizzle', 'snow', 'sun', 'fog'],
      Sky: ['grey', 'grey', 'white', 'blue', 'white'],
    });
    const truth = weather()
      .join_left(sky)
      .groupby('Sky')
      .rollup({ days: () => op.count() })
      .orderby(desc('days'))
      .toCSV();
    const draft = towards(truth, false, REPORT, others);
    expect(draft.steps.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['look-up', 'group']));
    expect(sorted(cellsOf(tableOf(draft)))).toEqual(linesOf(truth));
  });
});

describe('what is not told is not taken for known', () => {
  const REGISTER = ['Ship,Foot,Bikes,Vans', 'Tern,4,2,2', 'Skua,7,1,3', 'Gull,5,3,3', 'Fulmar,9,2,6', 'Petrel,8,4,1'];

  test('two calculations that fit the rows shown: the row that decides is named', () => {
    const draft = towards('Ship,Total\nTern,6\n', true, text(REGISTER.join('\n'), 'ships.csv'));
    expect(draft.sureness).toBe('guess');
    expect(draft.because).toMatchObject({ code: 'ambiguous', column: 'Total' });
    expect((draft.because as { row: string }).row).toContain('Skua');
  });

  test('once that row is shown, it is decided', () => {
    const draft = towards('Ship,Total\nTern,6\nSkua,8\n', true, text(REGISTER.join('\n'), 'ships.csv'));
    expect(draft.ambiguities).toEqual([]);
    expect(cellsOf(tableOf(draft))).toEqual([
      ['Tern', '6'],
      ['Skua', '8'],
      ['Gull', '8'],
      ['Fulmar', '11'],
      ['Petrel', '12'],
    ]);
  });

  test('figures that nothing gives are not made up', () => {
    const draft = towards(
      'Ship,Draught\nTern,3.71\nSkua,2.96\nGull,5.83\n',
      true,
      text(REGISTER.join('\n'), 'ships.csv'),
    );
    expect(draft.likeness!.share).toBeLessThan(1);
    expect(draft.sureness).toBe('guess');
    expect(draft.likeness!.gaps.map(({ column }) => column)).toContain('Draught');
  });

  test('words that stand nowhere are no recoding of a column that says one thing', () => {
    const report = text('Ship,Kind\nTern,ferry\nSkua,ferry\nGull,ferry\n', 'ships.csv');
    const draft = towards('Ship,Where\nTern,nowhere\n', true, report);
    expect(draft.likeness!.share).toBeLessThan(1);
    expect(draft.sureness).toBe('guess');
  });
});
