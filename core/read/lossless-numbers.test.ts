/** Numbers with more digits than a number keeps, in workbooks that other programs write; and totals never calculated. */
import { utils, write } from '@e965/xlsx';
import { strToU8, zipSync } from 'fflate';
import { expect, test } from 'vitest';
import { draftsOf } from '../draft/draft.ts';
import { cellsOf, quiet } from '../test-support.ts';
import { guessReading, READINGS } from './catalogue.ts';
import { openSource } from './open-source.ts';

async function read(bytes: Uint8Array, name: string) {
  await openSource(bytes, name);
  const source = { name, bytes };
  const { kind, params } = guessReading('s', source);
  const found = READINGS.get(kind)!;
  return found.read(source, found.params.parse(params), quiet as never);
}

const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const REL = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';

/** The smallest workbook of ISO/IEC 29500 with these rows. */
function bookOf(rows: string): Uint8Array {
  return zipSync({
    '[Content_Types].xml': strToU8(
      `<Types xmlns="${PACKAGE}/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/></Types>`,
    ),
    '_rels/.rels': strToU8(
      `<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r" Type="${REL}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    ),
    'xl/workbook.xml': strToU8(
      `<workbook xmlns="${MAIN}" xmlns:r="${REL}"><sheets><sheet name="May" sheetId="1" r:id="r"/></sheets></workbook>`,
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      `<Relationships xmlns="${PACKAGE}/relationships"><Relationship Id="r" Type="${REL}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
    ),
    'xl/worksheets/sheet1.xml': strToU8(`<worksheet xmlns="${MAIN}"><sheetData>${rows}</sheetData></worksheet>`),
  });
}

const LONG = ['453957876362148612', '453957876362148613'];

test('whole numbers beyond 2^53 in a workbook keep each digit, and the notice names them', async () => {
  const rows = LONG.map(
    (id, r) => `<row r="${r + 1}"><c r="A${r + 1}"><v>${id}</v></c><c r="B${r + 1}"><v>5</v></c></row>`,
  );
  const { table, notices } = await read(bookOf(rows.join('')), 'ids.xlsx');
  expect(cellsOf(table).map((row) => row[0])).toEqual(LONG);
  expect(notices.map((one) => one.text)).toContain(
    `2 numbers kept as text, because a number would lose digits: ${LONG.join(', ')}`,
  );
});

test('the same in OpenDocument, in one flat file', async () => {
  const rows = LONG.map(
    (id) =>
      `<table:table-row><table:table-cell office:value-type="float" office:value="${id}"><text:p>${id}</text:p></table:table-cell></table:table-row>`,
  );
  const names = ['office', 'table', 'text'].map(
    (name) => `xmlns:${name}="urn:oasis:names:tc:opendocument:xmlns:${name}:1.0"`,
  );
  const bytes = strToU8(
    `<?xml version="1.0"?><office:document ${names.join(' ')} office:mimetype="application/vnd.oasis.opendocument.spreadsheet"><office:body><office:spreadsheet><table:table table:name="May">${rows.join('')}</table:table></office:spreadsheet></office:body></office:document>`,
  );
  const { table, notices } = await read(bytes, 'ids.fods');
  expect(cellsOf(table).map((row) => row[0])).toEqual(LONG);
  expect(notices.some((one) => one.text.includes(LONG[1]!))).toBe(true);
});

test('totals that a workbook stores as 0 beside a formula are not calculated', () => {
  const sheet = utils.aoa_to_sheet([
    ['Quay', 'Foot', 'Cars'],
    ['Hask', 12, 3],
    ['Ullin', 7, 4],
    ['Tarve', 9, 2],
    ['Total', { t: 'n', v: 0, f: 'SUM(B2:B4)' }, { t: 'n', v: 9, f: 'SUM(C2:C4)' }],
  ]);
  const book = utils.book_new();
  utils.book_append_sheet(book, sheet, 'May');
  const bytes = new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer);
  const [draft] = draftsOf('s', { name: 'may.xlsx', bytes }, { progress: () => undefined });
  const entries = draft!.tally!.ledger.entries.map(({ state, figure }) => [figure, state]);
  expect(entries).toEqual([
    [0, 'not calculated'],
    [9, 'agrees'],
  ]);
  expect(draft!.tally!.ledger.disagrees).toBe(0);
});

test('a workbook whose parts are named with backslashes', async () => {
  const { unzipSync } = await import('fflate');
  const parts = Object.entries(unzipSync(bookOf('<row r="1"><c r="A1"><v>7</v></c></row>')));
  const bytes = zipSync(Object.fromEntries(parts.map(([name, part]) => [name.replaceAll('/', '\\'), part])));
  expect(cellsOf((await read(bytes, 'backslash.xlsx')).table)).toEqual([['7']]);
});
