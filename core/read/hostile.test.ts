import { readdirSync, readFileSync } from 'node:fs';
import { CFB, utils, type WorkSheet, write } from '@e965/xlsx';
import { unzipSync, zipSync } from 'fflate';
import { beforeAll, describe, expect, test } from 'vitest';
import { cellText, displayedText, guessReading, READINGS, type ReadResult } from '../index.ts';
import { openDuck } from '../test-duck.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';
import { unreadableRows } from '../write/typed-cells.ts';

const encode = (text: string) => new TextEncoder().encode(text);
function read(name: string, bytes: Uint8Array, params: object = {}): ReadResult {
  const source = { name, bytes };
  const guess = guessReading('s', source);
  const kind = READINGS.get(guess.kind)!;
  return kind.read(source, kind.params.parse({ ...guess.params, ...params }), quiet);
}
const told = (result: ReadResult) => result.notices.map((notice) => notice.text).join('; ');
function workbook(sheets: Record<string, WorkSheet>, bookType: 'xlsx' | 'xlsb' | 'biff8' | 'ods' = 'xlsx') {
  return new Uint8Array(
    write({ SheetNames: Object.keys(sheets), Sheets: sheets }, { type: 'buffer', bookType }) as Buffer,
  );
}

describe('hostile and broken input says what and where', () => {
  test('NUL bytes stay in their cells and harm nothing', () => {
    const result = read('a.csv', encode('a,b\n1,x\u0000y\n2,\u0000\n'));
    expect(cellsOf(result.table)).toEqual([
      ['a', 'b'],
      ['1', 'x\u0000y'],
      ['2', '\u0000'],
    ]);
  });

  test('16,384 columns are read; one more is reported with the delimiter', () => {
    const line = (n: number) => encode(`${Array.from({ length: n }, (_, k) => k).join(',')}\n`);
    expect(read('wide.csv', line(16_384)).table.fields).toHaveLength(16_384);
    expect(() => read('wide.csv', line(16_385))).toThrow(
      /Line 1 of wide\.csv has more than 16,384 cells, by the delimiter ','/,
    );
  });

  test('one line of very many cells among short ones is refused, before the blanks are made', () => {
    const short = '1,2,3\n'.repeat(50_000);
    expect(() => read('wide.csv', encode(`${short}${','.repeat(16_000)}\n${short}`))).toThrow(
      /Line 50,001 of wide\.csv has 800 cells or more, .* would hold 39,899,\d00 blank cells/,
    );
    expect(() => read('wide.csv', encode(`${','.repeat(16_000)}\n${short}`), { delimiter: ',' })).toThrow(
      /Line 1 of wide\.csv has 16,001 cells or more/,
    );
    const both = `${','.repeat(16_000)}\n${short}${','.repeat(16_000)}\n`;
    expect(() => read('wide.csv', encode(both), { delimiter: ',' })).toThrow(/Line 1 of wide\.csv has 16,001 cells/);
    const some = read('wide.csv', encode(`${short}${','.repeat(300)}\n`), { delimiter: ',' });
    expect([some.table.rows, some.table.fields.length]).toEqual([50_001, 301]);
  });

  test('one endless line is a cell of delimited text, and no line of a print-out', () => {
    const long = encode('x'.repeat(2_000_000));
    const result = read('long.txt', long, { delimiter: ',' });
    expect(cellText(result.table.fields[0]!.column, 0)).toHaveLength(2_000_000);
    const fixed = READINGS.get('read-fixed-width')!;
    expect(() => fixed.start('s', { name: 'long.txt', bytes: long })).toThrow(/Line 1 of long\.txt has 2,000,000/);
  });

  test('mixed encodings are read in one, with the first place that broke', () => {
    const mixed = Uint8Array.of(...encode('Côté\n'), 0x43, 0xf4, 0x74, 0xe9, 0x0a);
    const result = read('mixed.csv', mixed);
    expect(told(result)).toContain('invalid UTF-8 at byte 9 (line 2): read as Windows-1252');
    expect(cellsOf(result.table)[1]).toEqual(['Côté']);
  });

  test('what is lost behind a byte order mark is reported', () => {
    const bad = Uint8Array.of(0xef, 0xbb, 0xbf, ...encode('Port\nH'), 0xe9, ...encode('sk\n'));
    const result = read('mark.csv', bad);
    expect(cellsOf(result.table)[1]).toEqual(['H\ufffdsk']);
    expect(told(result)).toContain('invalid UTF-8 at byte 7 (line 2): unreadable characters are shown as \ufffd');
    const wide = (text: string) =>
      Uint8Array.from([...text].flatMap((one) => [one.charCodeAt(0) & 255, one.charCodeAt(0) >> 8]));
    const odd = read('odd.csv', Uint8Array.of(...wide('\ufeffPort\nHask\n'), 0x41));
    expect(told(odd)).toContain('not all of it is utf-16le: unreadable characters are shown as \ufffd');
    expect(told(read('whole.csv', wide('\ufeffPort\nH\ufffdsk\n')))).not.toContain('not all of it');
  });

  test('delimiters, quotes and comment signs beyond ASCII, in the encoding of the file', () => {
    const text = '£ made by hand\na¬b¬c\n1¬»2¬5»¬3\n';
    const [utf8, latin] = [encode(text), Uint8Array.from(text, (character) => character.charCodeAt(0))];
    const form = { delimiter: '¬', comment: '£', quote: '»' };
    const rows = [
      ['a', 'b', 'c'],
      ['1', '2¬5', '3'],
    ];
    expect(cellsOf(read('a.csv', latin, form).table)).toEqual(rows);
    expect(() => read('a.csv', utf8, form)).toThrow(/The quote » takes several bytes in utf-8/);
    expect(cellsOf(read('a.csv', utf8, { ...form, quote: '"' }).table)[0]!.slice(0, 3)).toEqual(rows[0]);
  });

  test('a letter whose byte is elsewhere the no-break blank is kept (WHATWG Encoding, index ibm866)', () => {
    const cell = Uint8Array.of(0xa0, 0xa0, 0x20, 0x20, 0xa0);
    const lines = new Uint8Array([...cell, 0x0a, ...cell, 0x0a]);
    const fixed = (encoding: string) => {
      const source = { name: 'a.txt', bytes: lines };
      const kind = READINGS.get('read-fixed-width')!;
      return cellsOf(kind.read(source, kind.params.parse({ source: 's', encoding, cuts: [3] }), quiet).table)[0];
    };
    expect(fixed('ibm866')).toEqual(['аа', 'а']);
    expect(fixed('windows-1252')).toEqual([null, null]);
  });

  test('a cell far outside its table is said, and not millions of blanks read', () => {
    const files = unzipSync(workbook({ Trips: utils.aoa_to_sheet([['Port'], ['Hask']]) }));
    const path = 'xl/worksheets/sheet1.xml';
    const xml = new TextDecoder().decode(files[path]);
    files[path] = encode(
      xml.replace('A1:A2', 'A1:ZZ90000').replace('<row r="2"', '<row r="90000"').replace('r="A2"', 'r="ZZ90000"'),
    );
    expect(() => read('far.xlsx', zipSync(files))).toThrow(
      /Trips reaches over 90,000 rows and 702 columns; a sheet may have 16,384 columns, and all sheets of a report 40,000,000 cells together/,
    );
    const row = `<tr>${'<td colspan=1000>a'.repeat(16)}`;
    expect(() => read('far.html', encode(`<table>${row.repeat(2501)}</table>`))).toThrow(
      /2,501 rows and 16,000 columns/,
    );
    const some = `<table>${row.repeat(200)}</table>`;
    expect(() => read('far.html', encode(some.repeat(20)))).toThrow(/Table 13 reaches over 200 rows/);
    expect(() => read('far.html', encode(`<table><tr>${'<td colspan=1000>a'.repeat(200_000)}`))).toThrow(
      /more than 16,384 columns/,
    );
  });

  test('thousands of merged cells are filled within the time of one', () => {
    const rows = Array.from({ length: 4000 }, (_, r) => [r % 2 === 0 ? `Pier ${r}` : null, null, r]);
    const sheet = utils.aoa_to_sheet(rows);
    sheet['!merges'] = Array.from({ length: 2000 }, (_, k) => ({ s: { r: 2 * k, c: 0 }, e: { r: 2 * k + 1, c: 1 } }));
    const { table } = read('merged.xlsx', workbook({ Piers: sheet }), { merged: 'all' });
    const cells = cellsOf(table);
    const at = namesOf(table).length - 3;
    expect(cells.slice(0, 4000).every((row, r) => row[at] === `Pier ${r - (r % 2)}` && row[at + 1] === row[at])).toBe(
      true,
    );
  });

  test('items without fields in common, and fields repeated for very many items, are refused', () => {
    const apart = (count: number) => encode(`[${Array.from({ length: count }, (_, k) => `{"k${k}":1}`).join(',')}]`);
    expect(() => read('a.json', apart(20_000))).toThrow(/would have more than 16,384 columns/);
    expect(() => read('a.json', apart(8000))).toThrow(/would hold 63,992,000 blank cells/);
    const around = Array.from({ length: 10_000 }, (_, k) => `"k${k}":1`).join(',');
    const items = `[${'{"a":1},'.repeat(30_000)}{"a":1}]`;
    expect(() => read('a.json', encode(`{${around},"list":${items}}`))).toThrow(/would repeat very many fields/);
  });

  test('JSON cut in the middle, and nested without end', () => {
    expect(() => read('a.json', encode('{"a": [1, 2'))).toThrow(/a\.json is not valid JSON/);
    expect(() => read('a.json', encode('['.repeat(100_000)))).toThrow(/nested more than 500 levels deep/);
  });

  test('a workbook locked with a password, and one cut off', () => {
    const box = CFB.utils.cfb_new();
    CFB.utils.cfb_add(box, '/EncryptionInfo', new Uint8Array(64));
    CFB.utils.cfb_add(box, '/EncryptedPackage', new Uint8Array(64));
    const locked = new Uint8Array(CFB.write(box, { type: 'buffer' }) as Buffer);
    expect(() => read('locked.xlsx', locked)).toThrow(/protected by a password/);
    const whole = workbook({ A: utils.aoa_to_sheet([['x']]) });
    expect(() => read('cut.xlsx', whole.subarray(0, whole.length - 60))).toThrow(/cut off/);
  });

  test('a wrong ending changes nothing: the content decides', () => {
    const sheet = utils.aoa_to_sheet([['Port'], ['Hask']]);
    expect(cellsOf(read('report.csv', workbook({ A: sheet })).table)).toEqual([['Port'], ['Hask']]);
    expect(cellsOf(read('report.xlsx', encode('Port,Foot\nHask,3\n')).table)[1]).toEqual(['Hask', '3']);
  });
});

describe('workbooks of every format', () => {
  const rows = [
    ['Port', 'Foot', 'Open'],
    ['Hask', 3.5, true],
    ['Ullin', null, false],
  ];

  test.each(['xlsx', 'xlsb', 'biff8', 'ods'] as const)('%s gives the same cells', (bookType) => {
    const result = read(`a.${bookType}`, workbook({ One: utils.aoa_to_sheet(rows) }, bookType));
    expect(cellsOf(result.table)).toEqual([
      ['Port', 'Foot', 'Open'],
      ['Hask', '3.5', 'yes'],
      ['Ullin', null, 'no'],
    ]);
  });

  const sheet = utils.aoa_to_sheet([
    ['Port', 'Secret', 'Foot'],
    ['Hask', 1, 3],
    ['Ullin', 2, 4],
    ['Tarve', 3, 5],
  ]);
  sheet['!rows'] = [{}, {}, { hidden: true }];
  sheet['!cols'] = [{}, { hidden: true }];
  utils.cell_add_comment(sheet['C2'], 'counted twice', 'Isla');
  const bytes = workbook({ One: sheet });

  test('hidden rows and columns are reported, and kept or left', () => {
    const kept = read('a.xlsx', bytes);
    expect(told(kept)).toContain('1 hidden row kept; 1 hidden column kept');
    expect(kept.report.parts[0]).toMatchObject({ hiddenRows: [2], hiddenColumns: [1] });
    const left = read('a.xlsx', bytes, { hidden: 'leave' });
    expect(cellsOf(left.table)).toEqual([
      ['Port', 'Foot'],
      ['Hask', '3'],
      ['Tarve', '5'],
    ]);
    expect([...left.places.row]).toEqual([0, 1, 3]);
  });

  test('comments come as a column beside theirs', () => {
    const result = read('a.xlsx', bytes, { comments: true });
    expect(namesOf(result.table)).toEqual(['A', 'B', 'C', 'Comment C']);
    expect(cellsOf(result.table)[1]).toEqual(['Hask', '1', '3', 'counted twice']);
  });

  test.each([
    ['B2:C3', 2, ['B', 'C']],
    ['c2:a', 3, ['A', 'B', 'C']],
    ['C:C', 4, ['C']],
  ])('the range %s', (range, count, names) => {
    const result = read('a.xlsx', bytes, { range });
    expect(result.table.rows).toBe(count);
    expect(namesOf(result.table)).toEqual(names);
  });

  test('a range that is none is reported', () => {
    expect(() => read('a.xlsx', bytes, { range: 'the first rows' })).toThrow(/write it as A3:H40, A3:H or C:F/);
  });

  test('hidden sheets are left unless they are asked for', () => {
    const book = {
      SheetNames: ['Shown', 'Hidden'],
      Sheets: { Shown: utils.aoa_to_sheet([['a']]), Hidden: utils.aoa_to_sheet([['b']]) },
      Workbook: { Sheets: [{ Hidden: 0 as const }, { Hidden: 1 as const }] },
    };
    const both = new Uint8Array(write(book, { type: 'buffer', bookType: 'xlsx' }) as Buffer);
    const result = read('a.xlsx', both);
    expect(cellsOf(result.table)).toEqual([['a']]);
    expect(told(result)).toContain('1 hidden sheet left out: Hidden');
    expect(told(read('a.xlsx', both, { sheets: { by: 'all' } }))).toContain('1 hidden sheet read: Hidden');
  });
});

// csv-spectrum: files with their cells as JSON, header first.
describe('csv-spectrum', () => {
  const folder = 'node_modules/csv-spectrum';
  // Its location_coordinates.json has another telephone number than its csv.
  for (const file of readdirSync(`${folder}/csvs`).filter((name) => name !== 'location_coordinates.csv')) {
    test(file, () => {
      const result = read(file, new Uint8Array(readFileSync(`${folder}/csvs/${file}`)), { delimiter: ',' });
      const [header, ...rows] = cellsOf(result.table).map((row) => row.map((cell) => cell ?? ''));
      const expected = JSON.parse(readFileSync(`${folder}/json/${file.replace('.csv', '.json')}`, 'utf8')) as unknown;
      const found = rows.map((row) => Object.fromEntries(header!.map((name, c) => [name, row[c]])));
      expect(found).toEqual(Array.isArray(expected) ? expected : [expected]);
    });
  }
});

describe('DuckDB reads the same', () => {
  let duck: Awaited<ReturnType<typeof openDuck>>;
  beforeAll(async () => {
    duck = await openDuck();
  });

  test.each(['airports.csv', 'seattle-weather.csv', 'birdstrikes.csv', 'github.csv', 'unemployment.tsv'])(
    'vega-datasets: %s',
    async (file) => {
      const path = `node_modules/vega-datasets/data/${file}`;
      const result = read(file, new Uint8Array(readFileSync(path)));
      const theirs = await duck.query(
        `select * from read_csv('${path}', header = false, all_varchar = true, null_padding = true)`,
      );
      expect(cellsOf(result.table)).toEqual(theirs.map((row) => row.map((cell) => (cell === '' ? null : cell))));
    },
  );
});

describe('workbooks that are not whole', () => {
  const two = () =>
    workbook({ Hask: utils.aoa_to_sheet([['Foot'], [12]]), Ullin: utils.aoa_to_sheet([['Foot'], [7]]) });

  test('a sheet that is named but whose part is missing is reported, and the others are read', () => {
    const files = unzipSync(two());
    delete files['xl/worksheets/sheet2.xml'];
    const result = read('a.xlsx', zipSync(files));
    expect(cellsOf(result.table)).toEqual([['Foot'], ['12']]);
    expect(told(result)).toContain('1 sheet named in the workbook but not in it: Ullin');
  });

  test('formulas without a stored value are reported', () => {
    const files = unzipSync(two());
    const path = 'xl/worksheets/sheet1.xml';
    const xml = new TextDecoder().decode(files[path]!);
    files[path] = encode(xml.replace(/<c r="A2"[^>]*>.*?<\/c>/, '<c r="A2"><f>1+1</f></c>'));
    const result = read('a.xlsx', zipSync(files));
    expect(told(result)).toContain('1 formula with no stored value, or an empty one, read as blank');
    expect(told(read('a.xlsx', two()))).not.toContain('formula');
  });

  test('serial numbers at the edges of the calendar (ISO/IEC 29500, 18.17.4.1)', () => {
    const serials = [59, 60, 61, 2_958_465, 2_958_466, -1];
    const sheet = utils.aoa_to_sheet(serials.map((serial) => [serial]));
    for (const [k] of serials.entries()) (sheet[`A${k + 1}`] as { z: string }).z = 'yyyy-mm-dd';
    const { report, table } = read('a.xlsx', workbook({ Days: sheet }));
    const column = report.parts[0]!.columns[0]!;
    expect(serials.map((_, row) => cellText(column, row))).toEqual([
      '1900-02-28',
      '1900-02-29',
      '1900-03-01',
      '9999-12-31',
      '2958466',
      '-1',
    ]);
    expect(unreadableRows(table.fields[0]!)).toEqual([1]);
  });

  test('elapsed hours past a day stay a number of days, and are shown as they were', () => {
    const sheet = utils.aoa_to_sheet([[1.25], [0.25]]);
    for (const at of ['A1', 'A2']) (sheet[at] as { z: string }).z = '[h]:mm';
    const { report } = read('a.xlsx', workbook({ Hours: sheet }));
    const part = report.parts[0]!;
    expect([cellText(part.columns[0]!, 0), displayedText(part, 0, 0)]).toEqual(['1.25', '30:00']);
    expect(cellText(part.columns[0]!, 1)).toBe('06:00');
  });

  test('a chart sheet is no sheet of cells', () => {
    const book = unzipSync(two());
    const types = new TextDecoder().decode(book['[Content_Types].xml']!);
    const rels = new TextDecoder().decode(book['xl/_rels/workbook.xml.rels']!);
    const kind = 'application/vnd.openxmlformats-officedocument.spreadsheetml.chartsheet+xml';
    book['[Content_Types].xml'] = encode(
      types
        .replace(/<Override PartName="\/xl\/worksheets\/sheet2.xml"[^>]*>/, '')
        .replace('</Types>', `<Override PartName="/xl/chartsheets/sheet1.xml" ContentType="${kind}"/></Types>`),
    );
    book['xl/_rels/workbook.xml.rels'] = encode(
      rels
        .replace(
          /(Type="[^"]*)\/worksheet("\s+Target=")worksheets\/sheet2.xml/,
          '$1/chartsheet$2chartsheets/sheet1.xml',
        )
        .replace(
          /(Target=")worksheets\/sheet2.xml("\s+Type="[^"]*)\/worksheet/,
          '$1chartsheets/sheet1.xml$2/chartsheet',
        ),
    );
    delete book['xl/worksheets/sheet2.xml'];
    book['xl/chartsheets/sheet1.xml'] = encode(
      '<?xml version="1.0"?><chartsheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetViews/></chartsheet>',
    );
    expect(read('a.xlsx', zipSync(book)).report.parts.map((part) => part.name)).toEqual(['Hask']);
  });

  test('a workbook given to a reading of text is named, not shown as rubbish', () => {
    const source = { name: 'a.xlsx', bytes: two() };
    for (const kind of ['read-delimited', 'read-fixed-width', 'read-pattern', 'read-blocks']) {
      const reading = READINGS.get(kind)!;
      expect(() => reading.read(source, reading.params.parse({ source: 's' }), quiet)).toThrow(
        /a\.xlsx is a workbook, and this step reads text/,
      );
    }
  });
});
