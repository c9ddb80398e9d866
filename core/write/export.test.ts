/** Every export is read back by a reader that is not ours. */
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { read, utils, write } from '@e965/xlsx';
import Ajv04 from 'ajv-draft-04';
import { fromArrow } from 'arquero';
import { unzipSync } from 'fflate';
import { parquetReadObjects } from 'hyparquet';
import initSqlJs from 'sql.js';
import { beforeAll, describe, expect, test } from 'vitest';
import {
  cellText,
  countedColumn,
  EXPORT_FORMATS,
  type Exported,
  ExportSpec,
  ExportStopped,
  exportChanges,
  guarded,
  guardedText,
  htmlTable,
  makeTable,
  READINGS,
  type Table,
  textColumn,
} from '../index.ts';
import { type Duck, openDuck } from '../test-duck.ts';
import { quiet } from '../test-support.ts';
import { exportAll, exportTable } from './export.ts';

const day = (text: string) => Date.parse(`${text}T00:00:00Z`) / 86_400_000;
const table: Table = makeTable({
  Name: textColumn(['Zoë, "Brandt"', 'line\nbreak', '', null, '=1+1']),
  Foot: countedColumn('whole', [12, null, -3, 9_007_199_254_740_991, 0]),
  Fare: countedColumn('number', [12.5, 0.1, null, -1e-7, 1e21]),
  Day: countedColumn('date', [day('2031-06-30'), null, day('1969-12-31'), day('2000-02-29'), day('1900-01-01')]),
  At: countedColumn('datetime', [day('2031-06-30') * 86_400_000 + 3_661_000, null, 0, 1, 2]),
  Sails: countedColumn('yesno', [1, 0, null, 1, 0]),
});

let folder: string;
let duck: Duck;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'rimefield-export-'));
  duck = await openDuck();
});

const made = (spec: object, of = table, more: Partial<Exported> = {}) =>
  exportTable({ name: 'Sailings', table: of, ...more }, ExportSpec.parse(spec));
const text = (bytes: Uint8Array) => new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes);
function kept(name: string, bytes: Uint8Array): string {
  const file = join(folder, name);
  writeFileSync(file, bytes);
  return file;
}

const NAMES = ['Zoë, "Brandt"', 'line\nbreak', '', null, '=1+1'];

test('yes and no are written as it is chosen', async () => {
  const sails = makeTable({ Sails: countedColumn('yesno', [1, 0, null]) });
  const text = async (yesno: string) =>
    new TextDecoder().decode(
      await exportTable({ name: 'T', table: sails }, ExportSpec.parse({ as: 'csv', lineEnd: 'lf', yesno })),
    );
  expect(await text('yes/no')).toBe('Sails\nyes\nno\n""\n');
  expect(await text('true/false')).toBe('Sails\ntrue\nfalse\n""\n');
  expect(await text('1/0')).toBe('Sails\n1\n0\n""\n');
});

describe('read back by DuckDB', () => {
  test('delimited text: quotes, line breaks, empty text beside blank', async () => {
    const file = kept('a.csv', await made({ as: 'csv', guard: false }));
    const rows = await duck.query(
      `select * from read_csv('${file}', header = true, all_varchar = true, nullstr = '', allow_quoted_nulls = false)`,
    );
    expect(rows.map((row) => row[0])).toEqual(NAMES);
    expect(rows.map((row) => row[1])).toEqual(['12', null, '-3', '9007199254740991', '0']);
    expect(rows.map((row) => row[3])).toEqual(['2031-06-30', null, '1969-12-31', '2000-02-29', '1900-01-01']);
  });

  test('semicolons, decimal commas, all quoted, line feeds, a byte order mark', async () => {
    const bytes = await made({ as: 'csv', delimiter: ';', decimal: ',', quoting: 'all', lineEnd: 'lf', bom: true });
    expect([...bytes.subarray(0, 3)]).toEqual([0xef, 0xbb, 0xbf]);
    const file = kept('b.csv', bytes);
    const rows = await duck.query(
      `select "Fare" from read_csv('${file}', header = true, delim = ';', decimal_separator = ',')`,
    );
    expect(rows.map((row) => row[0])).toEqual([12.5, 0.1, null, -1e-7, 1e21]);
    expect(text(bytes)).not.toContain('\r');
  });

  test('JSON by rows, and a line for each row', async () => {
    for (const [as, name] of [
      ['json', 'a.json'],
      ['ndjson', 'a.ndjson'],
    ] as const) {
      const file = kept(name, await made({ as }));
      const rows = await duck.query(`select "Name", "Foot", "Fare", "Sails" from read_json('${file}')`);
      expect(rows.map((row) => row[0])).toEqual(NAMES);
      expect(rows.map((row) => Number(row[1] ?? Number.NaN))).toEqual([12, Number.NaN, -3, 9_007_199_254_740_991, 0]);
      expect(rows.map((row) => row[3])).toEqual([true, false, null, true, false]);
    }
  });

  test('Parquet, with its types', async () => {
    const file = kept('a.parquet', await made({ as: 'parquet' }));
    const types = await duck.query(`select column_name, column_type from (describe select * from '${file}')`);
    expect(Object.fromEntries(types)).toEqual({
      Name: 'VARCHAR',
      Foot: 'BIGINT',
      Fare: 'DOUBLE',
      Day: 'DATE',
      At: 'TIMESTAMP',
      Sails: 'BOOLEAN',
    });
    const rows = await duck.query(
      `select "Name", "Foot"::varchar, "Fare", "Day"::varchar, "At"::varchar, "Sails" from '${file}'`,
    );
    expect(rows[0]).toEqual(['Zoë, "Brandt"', '12', 12.5, '2031-06-30', '2031-06-30 01:01:01', true]);
    expect(rows.map((row) => row[0])).toEqual(NAMES);
    expect(rows.map((row) => row[1])).toEqual(['12', null, '-3', '9007199254740991', '0']);
    expect(rows.map((row) => row[3])).toEqual(['2031-06-30', null, '1969-12-31', '2000-02-29', '1900-01-01']);
  });
});

test('Parquet read back by hyparquet', async () => {
  const { buffer } = await made({ as: 'parquet' });
  const rows = await parquetReadObjects({ file: buffer });
  expect(rows.map((row) => row['Fare'] ?? null)).toEqual([12.5, 0.1, null, -1e-7, 1e21]);
});

test.each(['xlsx', 'ods'] as const)('a workbook (%s): typed cells and real dates', async (as) => {
  const book = read(await made({ as }), { cellDates: false });
  expect(book.SheetNames).toEqual(['Sailings']);
  const sheet = book.Sheets['Sailings']!;
  const rows = utils.sheet_to_json<unknown[]>(sheet, { header: 1, raw: true, defval: null });
  expect(rows[0]).toEqual(['Name', 'Foot', 'Fare', 'Day', 'At', 'Sails']);
  expect(rows.slice(1).map((row) => row[1])).toEqual([12, null, -3, 9_007_199_254_740_991, 0]);
  expect(rows[1]![5]).toBe(true);
  // 30 June 2031 is day 48029 of the 1900 system.
  const date = rows[1]![3];
  expect(date instanceof Date ? date.toISOString() : date).toBe(as === 'ods' ? '2031-06-30T00:00:00.000Z' : 48_029);
  // A text that looks like a formula stays a text.
  expect(sheet['A6']).toMatchObject({ t: 's', v: '=1+1' });
  expect(sheet['A6']!.f).toBeUndefined();
});

test('JSON by columns, Markdown, HTML', async () => {
  expect(JSON.parse(text(await made({ as: 'json', layout: 'columns' })))).toMatchObject({
    Name: NAMES,
    Sails: [true, false, null, true, false],
  });
  expect(
    text(await made({ as: 'markdown' }))
      .split('\n')
      .slice(0, 4),
  ).toEqual([
    '| Name | Foot | Fare | Day | At | Sails |',
    '| --- | ---: | ---: | --- | --- | --- |',
    '| Zoë, "Brandt" | 12 | 12.5 | 2031-06-30 | 2031-06-30T01:01:01 | yes |',
    '| line<br>break |  | 0.1 |  |  | no |',
  ]);
  expect(text(await made({ as: 'html' }))).toContain('<td>Zoë, &quot;Brandt&quot;</td><td>12</td>');
});

test('Arrow read back by arquero', async () => {
  const read = fromArrow(await made({ as: 'arrow' }));
  expect(read.columnNames()).toEqual(['Name', 'Foot', 'Fare', 'Day', 'At', 'Sails']);
  const column = (name: string) =>
    [...read.array(name)].map((value) => (typeof value === 'bigint' ? Number(value) : value));
  expect(column('Name')).toEqual(NAMES);
  expect(column('Foot')).toEqual([12, null, -3, 9_007_199_254_740_991, 0]);
  expect(column('Fare')).toEqual([12.5, 0.1, null, -1e-7, 1e21]);
  expect(
    column('Day').map((value) => (value === null ? null : new Date(value as number).toISOString().slice(0, 10))),
  ).toEqual(['2031-06-30', null, '1969-12-31', '2000-02-29', '1900-01-01']);
  expect(Number(column('At')[0])).toBe(Date.parse('2031-06-30T01:01:01Z'));
  expect(column('Sails')).toEqual([true, false, null, true, false]);
});

test('a table without rows, and one without columns, are whole files too', async () => {
  const none = makeTable({ Name: textColumn([]), Foot: countedColumn('whole', []) });
  expect(fromArrow(await made({ as: 'arrow' }, none)).numRows()).toBe(0);
  const { ask } = await sqlite(await made({ as: 'sqlite' }, none));
  expect(ask('select count(*) from Sailings')).toEqual([[0]]);
  expect(text(await made({ as: 'ndjson' }, none))).toBe('');
  for (const as of Object.keys(EXPORT_FORMATS).filter((one) => one !== 'ndjson'))
    expect((await made({ as }, none)).length).toBeGreaterThan(0);
});

async function sqlite(bytes: Uint8Array) {
  const database = new (await initSqlJs()).Database(bytes);
  return { ask: (text: string) => database.exec(text)[0]?.values ?? [] };
}

describe('SQLite read back by sql.js', () => {
  test('types, blanks, empty text, the last digits of whole numbers', async () => {
    const { ask } = await sqlite(await made({ as: 'sqlite' }, table, { key: ['Name'] }));
    expect(ask(`select name, type from pragma_table_info('Sailings')`)).toEqual([
      ['Name', 'TEXT'],
      ['Foot', 'INTEGER'],
      ['Fare', 'REAL'],
      ['Day', 'TEXT'],
      ['At', 'TEXT'],
      ['Sails', 'INTEGER'],
    ]);
    expect(ask('select Name from Sailings order by rowid').flat()).toEqual(NAMES);
    expect(ask('select cast(Foot as text) from Sailings').flat()).toEqual(['12', null, '-3', '9007199254740991', '0']);
    expect(ask('select Fare from Sailings').flat()).toEqual([12.5, 0.1, null, -1e-7, 1e21]);
    expect(ask(`select strftime('%d.%m.%Y', Day), strftime('%H:%M:%S', At), Sails from Sailings limit 1`)).toEqual([
      ['30.06.2031', '01:01:01', 1],
    ]);
    expect(ask(`select count(*) from pragma_index_list('Sailings')`)).toEqual([[1]]);
    expect(ask('pragma integrity_check')).toEqual([['ok']]);
  });

  test('all tables stand in one database, whatever they are called', async () => {
    const tables = ['Traffic', 'TRAFFIC', 'traffic "2"', 'sqlite_odd'].map((name) => ({ name, table }));
    const twice = makeTable({ Foot: textColumn(['a']), FOOT: textColumn(['b']) });
    const bytes = await exportAll(
      [...tables, { name: 'Case', table: twice }],
      'All',
      ExportSpec.parse({ as: 'sqlite' }),
    );
    const { ask } = await sqlite(bytes);
    expect(ask(`select name from sqlite_schema where type = 'table' order by name`).flat()).toEqual([
      'Case',
      'TRAFFIC 2',
      'Traffic',
      'table_odd',
      'traffic "2"',
    ]);
    expect(ask('select * from "Case"')).toEqual([['a', 'b']]);
    expect(ask('select "Foot", "FOOT 2" from "Case"')).toEqual([['a', 'b']]);
    expect(exportChanges(twice, ExportSpec.parse({ as: 'sqlite' }))).toEqual([
      'SQLite ignores the case of column names, so in the file FOOT is FOOT 2',
    ]);
    expect(exportChanges(twice, ExportSpec.parse({ as: 'csv' }))).toEqual([]);
  });
});

describe('a data package', () => {
  const many = [
    { name: 'Sailings', table, key: ['Name', 'Day'], brought: new Map([['Name', 'Header from rows']]) },
    { name: 'Nächte & Züge', table },
  ];
  const spec = ExportSpec.parse({ as: 'data-package' });

  test('is valid by the published JSON Schemas of Data Package and Table Schema', async () => {
    const ajv = new Ajv04({ strict: false, validateFormats: false });
    const schema = JSON.parse(readFileSync('core/write/published/tabular-data-package.json', 'utf8'));
    const valid = ajv.compile(schema);
    for (const bytes of [await made({ as: 'data-package' }), await exportAll(many, 'Both of them', spec)]) {
      const description = JSON.parse(text(unzipSync(bytes)['datapackage.json']!));
      expect(valid(description), JSON.stringify(valid.errors)).toBe(true);
      // The schema does refuse what is not one.
      description.resources[0].schema.fields[0].type = 'words';
      expect(valid(description)).toBe(false);
    }
  });

  test('says types, keys and what brought a column, and holds the files', async () => {
    const files = unzipSync(await exportAll(many, 'Both of them', spec));
    expect(Object.keys(files)).toEqual(['datapackage.json', 'sailings.csv', 'na-chte-zu-ge.csv']);
    const { name, resources } = JSON.parse(text(files['datapackage.json']!));
    expect(name).toBe('both-of-them');
    const { schema } = resources[0];
    expect(schema.primaryKey).toEqual(['Name', 'Day']);
    // Types of Table Schema, Frictionless Data version 1.
    expect(schema.fields.map((field: { type: string }) => field.type)).toEqual([
      'string',
      'integer',
      'number',
      'date',
      'datetime',
      'boolean',
    ]);
    expect(schema.fields[0].description).toBe('Brought by: Header from rows');
    expect(text(files['sailings.csv']!)).toBe(text(await made({ as: 'csv', guard: false })));
  });
});

describe('beside the table in a workbook', () => {
  test('the method, and the piles', async () => {
    const method = [
      { sentence: 'Read all sheets', rows: 12 },
      { sentence: 'Set aside totals', note: 'asked by Ada', rows: 9 },
    ];
    const piles = [{ name: 'totals (step 2)', table: makeTable({ A: textColumn(['Total', '12']) }) }];
    const book = read(await made({ as: 'xlsx', method: true, piles: true }, table, { method, piles }));
    expect(book.SheetNames).toEqual(['Sailings', 'method', 'totals (step 2)']);
    expect(utils.sheet_to_json(book.Sheets['method']!, { header: 1 })).toEqual([
      ['Step', 'What it does', 'Rows after it', 'Note'],
      [1, 'Read all sheets', 12],
      [2, 'Set aside totals', 9, 'asked by Ada'],
    ]);
    expect(read(await made({ as: 'xlsx' }, table, { method, piles })).SheetNames).toEqual(['Sailings']);
  });

  test('the header is bold and stays in sight', async () => {
    const files = unzipSync(await made({ as: 'xlsx' }));
    const sheet = text(files['xl/worksheets/sheet1.xml']!);
    const style = Number(/<c r="A1" s="(\d+)"/.exec(sheet)?.[1]);
    const styles = text(files['xl/styles.xml']!);
    const formats = [.../<cellXfs[^>]*>(.*)<\/cellXfs>/.exec(styles)![1]!.matchAll(/<xf [^>]*\/>/g)].map(
      (one) => one[0],
    );
    const fonts = [.../<fonts[^>]*>(.*)<\/fonts>/.exec(styles)![1]!.matchAll(/<font>.*?<\/font>/g)].map(
      (one) => one[0],
    );
    expect(fonts[Number(/fontId="(\d+)"/.exec(formats[style]!)![1])]).toContain('<b/>');
    expect(sheet).toContain('<pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" state="frozen"/>');
    expect(sheet).not.toMatch(/<c r="A2" s=/);
  });
});

describe('encodings of delimited text', () => {
  const words = makeTable({ Port: textColumn(['Zoë', '€ 5']) });

  test.each([
    ['windows-1252', 'windows-1252', ['Zoë', '€ 5']],
    ['iso-8859-15', 'iso-8859-15', ['Zoë', '€ 5']],
    ['utf-16le', 'utf-16le', ['Zoë', '€ 5']],
  ])('%s is read back by the decoder of the platform', async (encoding, label, expected) => {
    const bytes = await made({ as: 'csv', encoding }, words);
    // Node 20 takes windows-1252 for ISO-8859-1, where 0x80 is not the euro sign (WHATWG Encoding).
    const read = new TextDecoder(label).decode(bytes).replace('\u0080', '€');
    expect(read).toBe(`Port\r\n${expected.join('\r\n')}\r\n`);
  });

  test('a character that has no place stops the export and says where', async () => {
    const far = makeTable({ Port: textColumn(['Hask', 'Łódź']) });
    await expect(made({ as: 'csv', encoding: 'windows-1252' }, far)).rejects.toThrow(
      'windows-1252 has no place for Ł in Port, row 2. Choose UTF-8.',
    );
  });
});

describe('choices', () => {
  const doubtful = makeTable({
    Foot: {
      type: 'whole',
      values: Float64Array.of(1, Number.NaN),
      unreadable: { codes: Int32Array.of(-1, 0), cells: [{ text: 'n/a', reason: 'no number' }] },
    },
  });

  test('unreadable cells: their text, blank, or a stop that says where', async () => {
    expect(text(await made({ as: 'csv' }, doubtful))).toBe('Foot\r\n1\r\nn/a\r\n');
    expect(text(await made({ as: 'csv', unreadable: 'blank' }, doubtful))).toBe('Foot\r\n1\r\n""\r\n');
    const stopped = made({ as: 'csv', unreadable: 'stop' }, doubtful);
    await expect(stopped).rejects.toThrow(ExportStopped);
    await expect(stopped).rejects.toThrow('Foot has 1 unreadable cell, the first in row 2');
  });

  test('texts that a spreadsheet would compute are guarded where that is chosen; numbers are not', async () => {
    expect(text(await made({ as: 'csv' }))).toContain("\r\n'=1+1,0,");
    expect(text(await made({ as: 'csv' }))).toContain(',-3,');
    expect(text(await made({ as: 'csv', guard: false }))).toContain('\r\n=1+1,0,');
    const odd = makeTable({
      '=cmd()': textColumn(['-', '-5', '- 1,234.50', '+44 20', '-5%', '-a', '+cmd', '@sum', '\tx']),
    });
    expect(text(await made({ as: 'csv', lineEnd: 'lf' }, odd))).toBe(
      "'=cmd()\n-\n-5\n\"- 1,234.50\"\n+44 20\n-5%\n'-a\n'+cmd\n'@sum\n'\tx\n",
    );
    expect(guardedText(odd, ExportSpec.parse({ as: 'csv' }))).toMatch(/^5 texts in =cmd\(\) begin like a formula/);
    expect(guardedText(doubtful, ExportSpec.parse({ as: 'csv' }))).toBeUndefined();
    expect(htmlTable(odd, 'T', guarded)).toMatch(/<td>(?:'|&#39;)@sum<\/td>/);
  });

  test('what a format cannot hold is refused, with the cell and what to do', async () => {
    const long = makeTable({ Note: textColumn(['a', 'b'.repeat(32_768)]) });
    for (const as of ['xlsx', 'ods'])
      await expect(made({ as }, long)).rejects.toThrow(/^Note, row 2 holds 32,768 characters; a cell .* holds 32,767/);
    expect(text(await made({ as: 'csv' }, long)).length).toBe(32_768 + 11);
    const half = makeTable({ Note: textColumn(['fine', 'x\ud800y']) });
    for (const as of Object.keys(EXPORT_FORMATS))
      await expect(made({ as }, half)).rejects.toThrow(/^Note, row 2 holds half of a character/);
    await expect(made({ as: 'csv' }, makeTable({ '\udc00': textColumn([]) }))).rejects.toThrow(
      /^The name .* Rename it/,
    );
    const large = makeTable({ Foot: countedColumn('whole', [1, 2 ** 63]) });
    const far = makeTable({ Day: countedColumn('date', [0, 1e9]) });
    const late = makeTable({ At: countedColumn('datetime', [0, 9e15]) });
    for (const as of ['parquet', 'arrow', 'sqlite']) {
      await expect(made({ as }, large)).rejects.toThrow(/^Foot, row 2 is 9223372036854776000, more than the whole/);
      await expect(made({ as }, far)).rejects.toThrow(/^Day, row 2 is .*, beyond the dates/);
      await expect(made({ as }, late)).rejects.toThrow(/^At, row 2 is .*, beyond the dates/);
      const edge = makeTable({ Foot: countedColumn('whole', [-(2 ** 53), 2 ** 62]) });
      expect((await made({ as }, edge)).length).toBeGreaterThan(50);
    }
  });

  test('sheets get names that spreadsheet programs take, and texts like escapes come back as they are', async () => {
    const odd = makeTable({ _x0041_: textColumn(['_x0041_', '_x005F_', 'x_x00e9_', '_X0041_']) });
    const days = makeTable({ Day: countedColumn('date', [day('9999-12-31'), day('9999-12-31') + 1]) });
    const all = [
      { name: 'History', table: odd },
      { name: 'Data', table: days },
      { name: 'data', table: days },
    ];
    const book = read(await exportAll(all, 'All', ExportSpec.parse({ as: 'xlsx' })), { cellDates: false });
    expect(book.SheetNames).toEqual(['History 2', 'Data', 'data 2']);
    const cells = utils.sheet_to_json<string[]>(book.Sheets['History 2']!, { header: 1 });
    expect(cells.flat()).toEqual(['_x0041_', '_x0041_', '_x005F_', 'x_x00e9_', '_X0041_']);
    const file = kept('odd.xlsx', await exportTable(all[0]!, ExportSpec.parse({ as: 'xlsx' })));
    const own = READINGS.get('read-sheets')!;
    const source = { name: 'odd.xlsx', bytes: new Uint8Array(readFileSync(file)) };
    const { table: again } = own.read(source, own.params.parse({ source: 's', nameColumn: null }), quiet);
    expect(cellText(again.fields[0]!.column, 1)).toBe('_x0041_');
    expect(book.Sheets['Data']!['A3']).toMatchObject({ t: 's', v: '+010000-01-01' });
  });

  test('Markdown keeps every character as it is (CommonMark 0.31, 2.4)', async () => {
    const odd = makeTable({ 'a*b': textColumn(['\\| <b>&amp;</b>', '_x_ `y` [z](u)', 'one\rtwo\r\nthree\nfour']) });
    expect(text(await made({ as: 'markdown' }, odd))).toBe(
      '| a\\*b |\n| --- |\n| \\\\\\| \\<b\\>\\&amp;\\</b\\> |\n| \\_x\\_ \\`y\\` \\[z\\](u) |\n| one<br>two<br>three<br>four |\n',
    );
  });

  test('more rows than a sheet has stop the export', async () => {
    const long = makeTable({ Foot: { type: 'whole', values: new Float64Array(1_048_576) } });
    await expect(made({ as: 'xlsx' }, long)).rejects.toThrow('a sheet holds 1,048,575 under its header');
  });

  test('all tables at once, names made unique', async () => {
    const files = unzipSync(
      await exportAll(
        [
          { name: 'T', table },
          { name: 'T', table: doubtful },
        ],
        'Both',
        ExportSpec.parse({ as: 'csv' }),
      ),
    );
    expect(Object.keys(files)).toEqual(['T.csv', 'T 2.csv']);
  });

  test('the same bytes whatever was read before', async () => {
    const before = await made({ as: 'xlsx' });
    const odd = utils.aoa_to_sheet([['a'], [1]]);
    odd['A2'].z = '0.000"kg"';
    const book = utils.book_new();
    utils.book_append_sheet(book, odd, 'One');
    read(write(book, { type: 'array' }), { cellNF: true, cellStyles: true });
    expect(await made({ as: 'xlsx' })).toEqual(before);
    expect(text(unzipSync(before)['xl/styles.xml']!)).toContain('numFmtId="164" formatCode="yyyy-mm-dd"');
  });

  test('the same bytes each time', async () => {
    for (const as of ['xlsx', 'ods', 'parquet', 'arrow', 'sqlite', 'data-package'])
      expect(await made({ as })).toEqual(await made({ as }));
  });
});
