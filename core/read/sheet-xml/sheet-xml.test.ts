import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { utils, write } from '@e965/xlsx';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { cellText } from '../../values/cell-text.ts';
import { ReadFailure } from '../read-failure.ts';
import { readSheets } from '../read-sheets.ts';
import { displayedText, type Report } from '../report.ts';
import { readWorkbook } from '../workbook.ts';

const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const RELATIONS = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const TYPES = 'application/vnd.openxmlformats-officedocument.spreadsheetml';

/** Formats of cells by their index: General, two built in, three of the workbook's own, and one that writers leave out. */
const FORMATS = [0, 14, 46, 164, 165, 166, 44];
const STYLES = `<styleSheet xmlns="${MAIN}"><numFmts><numFmt numFmtId="164" formatCode="yyyy\\-mm\\-dd hh:mm"/><numFmt numFmtId="165" formatCode="#,##0.0&quot; t&quot;"/><numFmt numFmtId="166" formatCode=";;;"/></numFmts><cellXfs>${FORMATS.map((id) => `<xf numFmtId="${id}"/>`).join('')}</cellXfs></styleSheet>`;

/** A workbook of one sheet, written by hand. */
function bookOf(
  sheet: string | Uint8Array,
  shared?: string,
  sheets = '<sheet name="Sailings &amp; quays" sheetId="1" r:id="rId1"/>',
): Uint8Array {
  const xml = (text: string) => strToU8(`<?xml version="1.0" encoding="UTF-8"?>\n${text}`);
  const relation = (id: number, type: string, target: string) =>
    `<Relationship Id="rId${id}" Type="${RELATIONS}/${type}" Target="${target}"/>`;
  const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';
  return zipSync({
    '[Content_Types].xml': xml(
      `<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="${TYPES}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="${TYPES}.worksheet+xml"/><Override PartName="/xl/styles.xml" ContentType="${TYPES}.styles+xml"/><Override PartName="/xl/sharedStrings.xml" ContentType="${TYPES}.sharedStrings+xml"/></Types>`,
    ),
    '_rels/.rels': xml(
      `<Relationships xmlns="${PACKAGE}/relationships">${relation(1, 'officeDocument', 'xl/workbook.xml')}</Relationships>`,
    ),
    'xl/workbook.xml': xml(`<workbook xmlns="${MAIN}" xmlns:r="${RELATIONS}"><sheets>${sheets}</sheets></workbook>`),
    'xl/_rels/workbook.xml.rels': xml(
      `<Relationships xmlns="${PACKAGE}/relationships">${relation(1, 'worksheet', 'worksheets/sheet1.xml')}${relation(2, 'styles', 'styles.xml')}${relation(3, 'sharedStrings', 'sharedStrings.xml')}</Relationships>`,
    ),
    'xl/styles.xml': xml(STYLES),
    'xl/sharedStrings.xml': xml(shared ?? `<sst xmlns="${MAIN}"/>`),
    'xl/worksheets/sheet1.xml': typeof sheet === 'string' ? xml(sheet) : sheet,
  });
}

function sheetOf(rows: string, around = ''): string {
  return `<worksheet xmlns="${MAIN}"><cols><col min="2" max="2" hidden="1" width="9"/></cols><sheetData>${rows}</sheetData>${around}</worksheet>`;
}

/** All that is reported of a report, as plain values. */
function told(report: Report) {
  return report.parts.map(({ styles, odd: _, columns, displayed: __, ...part }) => ({
    ...part,
    columns: columns.map((column) => ({ ...column })),
    shown: columns.map((_column, c) =>
      Array.from({ length: part.rows }, (_row, r) => displayedText({ ...part, columns, displayed: __ }, r, c)),
    ),
    styles: styles?.()?.columns,
  }));
}

/** Reads a workbook by the scanner and by the library, and sees that both tell the same. */
function sameBothWays(bytes: Uint8Array, name = 'a.xlsx'): Report {
  const scanned = readWorkbook(bytes, name);
  expect(told(scanned)).toEqual(told(readWorkbook(bytes, name, undefined, undefined, 'library')));
  return scanned;
}

function cells(report: Report): (string | null)[][] {
  const part = report.parts[0]!;
  return Array.from({ length: part.rows }, (_, r) => part.columns.map((column) => cellText(column, r)));
}

describe('the scanner of sheets beside the library', () => {
  const files = readdirSync('demo/files').filter((file) => file.endsWith('.xlsx'));
  test.each(files)('%s', (file) => {
    const report = sameBothWays(new Uint8Array(readFileSync(join('demo/files', file))), file);
    expect(report.parts.some((part) => part.odd)).toBe(false);
  });

  test('every kind of cell (ISO/IEC 29500-1, 18.18.11), with shared texts of one and of several runs', () => {
    const shared = `<sst xmlns="${MAIN}" count="4"><si><t>Hask</t></si><si><t xml:space="preserve"> a &amp; b_x000D_\n</t></si><si><r><rPr><b/></rPr><t>Ul</t></r><r><t xml:space="preserve">lin &lt;</t></r><rPh sb="0" eb="1"><t>not read</t></rPh></si>\n<si><t>港</t><phoneticPr fontId="1"/></si><si><t/></si><si><t>Hask</t></si></sst>`;
    const report = sameBothWays(
      bookOf(
        sheetOf(
          `<row r="1" spans="1:9"><c r="A1" t="s"><v>0</v></c><c r="B1" t="s"><v>1</v></c><c r="C1" t="s"><v>2</v></c><c r="D1" t="s"><v>3</v></c><c r="E1" t="s"><v>4</v></c><c r="F1" t="s"><v>5</v></c></row>
           <row r="3" hidden="1"><c r="A3"><v>1204.5</v></c><c r="B3" s="1"><v>45000</v></c><c r="C3" s="2"><v>1.75</v></c><c r="D3" s="3"><v>45000.5</v></c><c r="E3" s="4"><v>1204.5</v></c><c r="F3" s="5"><v>7</v></c><c r="G3" s="1"><v>60</v></c><c r="H3" s="6"><v>3</v></c></row>
           <row r="4"><c r="A4" t="b"><v>1</v></c><c r="B4" t="b"><v>0</v></c><c r="C4" t="e"><v>#DIV/0!</v></c><c r="D4" t="str"><f>A1&amp;"x"</f><v>Haskx &quot;</v></c><c r="E4" t="inlineStr"><is><t>in place</t></is></c><c r="F4" t="inlineStr"><is><r><t>in </t></r><r><t>runs</t></r></is></c></row>
           <row r="5"><c r="A5"><f>1+1</f></c><c r="B5" t="str"><f>""</f><v></v></c><c r="C5"><f t="shared" si="0"/><v>3</v></c><c r="D5" s="4"/><c r="E5"><v>1e-7</v></c><c r="F5"><v>0.30000000000000004</v></c><c r="G5" t="n"><v> 12 </v></c></row>`,
          '<mergeCells count="1"><mergeCell ref="A1:B1"/></mergeCells>',
        ),
        shared,
      ),
    );
    expect(report.parts[0]!.odd).toBeUndefined();
    expect(report.parts[0]).toMatchObject({ rows: 5, emptyFormulas: 2, hiddenRows: [2], hiddenColumns: [1] });
    expect(cells(report)).toEqual([
      ['Hask', ' a & b\r\n', 'Ullin <', '港', null, 'Hask', null, null],
      [null, null, null, null, null, null, null, null],
      ['1204.5', '2023-03-15', '1.75', '2023-03-15T12:00', '1204.5', '7', '2/29/00', '3'],
      ['yes', 'no', '#DIV/0!', 'Haskx "', 'in place', 'in runs', null, null],
      [null, null, '3', null, '1e-7', '0.30000000000000004', '12', null],
    ]);
    const shown = (column: number) => displayedText(report.parts[0]!, 2, column);
    expect([1, 2, 4, 5, 7].map(shown)).toEqual(['3/15/23', '42:00:00', '1,204.5 t', '', '$3.00']);
  });

  test('rows and cells that do not say where they stand follow the one before', () => {
    const report = sameBothWays(
      bookOf(
        sheetOf(
          '<row><c><v>1</v></c><c><v>2</v></c></row><row r="4"><c r="C4"><v>3</v></c><c><v>4</v></c></row><row><c><v>5</v></c></row>',
        ),
      ),
    );
    expect(cells(report)).toEqual([
      ['1', '2', null, null],
      [null, null, null, null],
      [null, null, null, null],
      [null, null, '3', '4'],
      ['5', null, null, null],
    ]);
  });

  test('tags with a prefix, other quotes, white space between them, attributes nobody asks for', () => {
    const report = sameBothWays(
      bookOf(
        `<x:worksheet xmlns:x='${MAIN}'><x:sheetData>\n <x:row r='1' customHeight='1' ht="12">\r\n\t<x:c r='A1' cm="1" s='4' ><x:v>1.5</x:v></x:c> <x:c r='B1' t='inlineStr'><x:is><x:t>b</x:t></x:is></x:c>\n</x:row> </x:sheetData></x:worksheet>`,
      ),
    );
    expect(report.parts[0]!.odd).toBeUndefined();
    expect(cells(report)).toEqual([['1.5', 'b']]);
  });

  test('law: whatever a library writes, both read the same of it', () => {
    const cell = fc.oneof(
      fc.constant(null),
      fc.boolean(),
      fc.double({ noNaN: true, noDefaultInfinity: true }).map((value) => value + 0),
      fc.string({ unit: fc.constantFrom('a', 'é', '&', '<', '"', ' ', '_x0041_', '\n', '港', ']]>') }),
      fc.date({ min: new Date(Date.UTC(1950, 0, 1)), max: new Date(Date.UTC(2100, 0, 1)), noInvalidDate: true }),
    );
    const rows = fc.array(fc.array(cell, { minLength: 1, maxLength: 6 }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(rows, fc.boolean(), (given, bookSST) => {
        const book = utils.book_new();
        utils.book_append_sheet(book, utils.aoa_to_sheet(given, { dateNF: 'yyyy-mm-dd hh:mm:ss' }), 'One');
        const report = sameBothWays(new Uint8Array(write(book, { type: 'array', bookType: 'xlsx', bookSST })));
        expect(report.parts[0]!.odd).toBeUndefined();
      }),
      { numRuns: 60 },
    );
  });
});

test('two sheets that stand in one file have the same cells each', () => {
  const rows = '<row r="1"><c r="A1"><v>12</v></c><c r="B1" t="inlineStr"><is><t>Ullin</t></is></c></row>';
  const sheets = ['Spring', 'Summer'].map((name, k) => `<sheet name="${name}" sheetId="${k + 1}" r:id="rId1"/>`);
  const report = readWorkbook(bookOf(sheetOf(rows), undefined, sheets.join('')), 'twice.xlsx');
  expect(report.parts.map(({ name, columns }) => [name, ...columns.map((column) => cellText(column, 0))])).toEqual([
    ['Spring', '12', 'Ullin'],
    ['Summer', '12', 'Ullin'],
  ]);
});

describe('sheets that the scanner does not understand are read by the library, and that is reported', () => {
  const row = '<row r="1"><c r="A1"><v>1</v></c></row>';
  const utf16 = (text: string) => {
    const bytes = new Uint8Array(2 + 2 * text.length).fill(0);
    bytes.set([0xff, 0xfe]);
    for (let k = 0; k < text.length; k++) bytes[2 + 2 * k] = text.charCodeAt(k);
    return bytes;
  };
  test.each<[string, string]>([
    ['a comment between rows', sheetOf(`${row}<!-- printed -->`)],
    ['a comment before the rows', `<!-- <sheetData> -->${sheetOf(row)}`],
    ['a text in its own brackets', sheetOf('<row r="1"><c r="A1" t="str"><v><![CDATA[a<b]]></v></c></row>')],
    ['a day written out', sheetOf('<row r="1"><c r="A1" t="d" s="1"><v>2023-03-15</v></c></row>')],
    [
      'what later versions may add to a cell',
      sheetOf('<row r="1"><c r="A1"><v>1</v><extLst><ext/></extLst></c></row>'),
    ],
    ['what is no number', sheetOf('<row r="1"><c r="A1"><v>1</v></c><c r="B1"><v>1&#50;</v></c></row>')],
  ])('%s', (_, sheet) => {
    const source = { name: 'a.xlsx', bytes: bookOf(sheet) };
    const report = sameBothWays(source.bytes);
    expect(report.parts[0]!.odd).toBe(true);
    const { notices } = readSheets.read(source, readSheets.params.parse({ source: 's' }), {
      progress: () => undefined,
      name: 't',
      other: () => ({ name: '', table: { rows: 0, fields: [] } }),
    });
    expect(notices.map((notice) => notice.text).join()).toContain('the slower of two ways');
  });

  test('another encoding', () => {
    const report = readWorkbook(bookOf(utf16(sheetOf(row))), 'a.xlsx');
    expect(report.parts[0]!.odd).toBe(true);
  });

  test('a sheet that ends in the middle of a cell gives what was there before, or is refused; it never hangs', () => {
    const whole = sheetOf(`${row}<row r="2"><c r="A2" t="inlineStr"><is><t>two</t></is></c></row>`);
    for (let end = 60; end < whole.length; end++) {
      const bytes = bookOf(whole.slice(0, end));
      try {
        expect(readWorkbook(bytes, 'a.xlsx').parts.length).toBe(1);
      } catch (error) {
        expect(error).toBeInstanceOf(ReadFailure);
      }
    }
  });

  test('a cell far outside is refused before there is room made for it', () => {
    const far = sheetOf('<row r="1"><c r="A1"><v>1</v></c></row><row r="1048576"><c r="XFD1048576"><v>1</v></c></row>');
    expect(() => readWorkbook(bookOf(far), 'a.xlsx')).toThrow('reaches over 1,048,576 rows');
    const row = sheetOf('<row r="999999999"><c r="A999999999"><v>1</v></c></row>');
    expect(() => readWorkbook(bookOf(row), 'a.xlsx')).toThrow('cells together');
  });

  test('a reading that is not wanted any more ends inside of a sheet', () => {
    const rows = Array.from({ length: 9000 }, (_, r) => `<row r="${r + 1}"><c r="A${r + 1}"><v>${r}</v></c></row>`);
    const bytes = bookOf(sheetOf(rows.join('')));
    const seen: number[] = [];
    readWorkbook(bytes, 'a.xlsx', undefined, (done) => seen.push(done));
    expect(seen.length).toBeGreaterThanOrEqual(2);
    expect(seen[0]).toBeLessThan(0.6);
    expect(seen.toSorted((a, b) => a - b)).toEqual(seen);
    const stop = () => {
      throw new Error('stop');
    };
    expect(() => readWorkbook(bytes, 'a.xlsx', undefined, stop)).toThrow('stop');
  });
});
