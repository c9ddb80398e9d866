import { zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { cellText } from '../values/cell-text.ts';
import { guessReading } from './catalogue.ts';
import { displayedText } from './report.ts';
import { readWorkbook } from './workbook.ts';

const NAMES = ['office', 'table', 'text', 'style', 'draw', 'calcext', 'dc']
  .map((prefix) => `xmlns:${prefix}="urn:oasis:names:tc:opendocument:xmlns:${prefix}:1.0"`)
  .join(' ');

// Elements and attributes as OASIS ODF 1.3, part 3, has them (9.1, 19.385 and what it names).
const STYLES = `<office:automatic-styles><style:style style:name="ta2" style:family="table">
  <style:table-properties table:display="false"/></style:style></office:automatic-styles>`;
const cell = (text: string, given = 'office:value-type="string"', more = '') =>
  `<table:table-cell ${given}>${more}<text:p>${text}</text:p></table:table-cell>`;
const row = (cells: string, given = '') => `<table:table-row ${given}>${cells}</table:table-row>`;

const SHEET = `<table:table table:name="Hask">
  <table:shapes><draw:custom-shape><text:p>a box over the cells</text:p></draw:custom-shape></table:shapes>
  <table:table-column/><table:table-column table:visibility="collapse"/><table:table-column table:number-columns-repeated="1022"/>
  ${row(`${cell('Returns', 'office:value-type="string" table:number-columns-spanned="2" table:number-rows-spanned="1"')}<table:covered-table-cell/>`)}
  ${row(
    cell(
      'Foot  <text:s text:c="2"/>all',
      'office:value-type="string"',
      '<office:annotation><dc:creator>Isla</dc:creator><text:p>counted</text:p><text:p>twice</text:p></office:annotation>',
    ) +
      cell('1,204.50', 'office:value-type="float" office:value="1204.5"') +
      cell('02.06.31', 'office:value-type="date" office:date-value="2031-06-02"'),
  )}
  ${row(
    cell('06:10', 'office:value-type="time" office:time-value="PT06H10M00S"') +
      cell('30:00', 'office:value-type="time" office:time-value="PT30H00M00S"') +
      cell('12%', 'office:value-type="percentage" office:value="0.12"') +
      '<table:table-cell table:formula="of:=1+1"/>',
    'table:visibility="filter"',
  )}
  ${row(
    cell('WAHR', 'office:value-type="boolean" office:boolean-value="true"') +
      cell('#N/A', 'table:formula="of:=NA()" office:value-type="string" calcext:value-type="error"') +
      `<table:table-cell><draw:frame><draw:text-box><text:p>over a cell</text:p></draw:text-box></draw:frame></table:table-cell>`,
  )}
  ${row(cell('again', 'office:value-type="string" table:number-columns-repeated="2"'), 'table:number-rows-repeated="2"')}
  ${row('<table:table-cell table:number-columns-repeated="1024"/>', 'table:number-rows-repeated="1048570"')}
</table:table>`;
const BODY = `<office:body><office:spreadsheet>
  <table:tracked-changes><table:deletion><table:table-cell><text:p>deleted</text:p></table:table-cell></table:deletion></table:tracked-changes>
  ${SHEET}<table:table table:name="Ullin" table:style-name="ta2">${row(cell('1'))}</table:table>
</office:spreadsheet></office:body>`;
const FLAT = `<?xml version="1.0"?><office:document ${NAMES} office:mimetype="application/vnd.oasis.opendocument.spreadsheet">${STYLES}${BODY}</office:document>`;
const encode = (text: string) => new TextEncoder().encode(text);
const PACKED = zipSync({
  mimetype: encode('application/vnd.oasis.opendocument.spreadsheet'),
  'content.xml': encode(
    `<?xml version="1.0"?><office:document-content ${NAMES}>${STYLES}${BODY}</office:document-content>`,
  ),
});

describe.each([
  ['flat', encode(FLAT)],
  ['packed', PACKED],
])('OpenDocument sheets, %s', (_, bytes) => {
  const [hask, ullin] = readWorkbook(bytes, 'returns').parts;
  const text = (r: number, c: number) => cellText(hask!.columns[c]!, r);

  test('is taken for a workbook', () => {
    expect(guessReading('s', { name: 'returns', bytes })).toMatchObject({
      kind: 'read-sheets',
      params: { sheets: { by: 'names', names: ['Hask'] } },
    });
  });

  test('cells as they are stored, spaces, repeats and merges', () => {
    expect([hask!.rows, hask!.columns.length]).toEqual([6, 3]);
    expect([text(0, 0), text(0, 1)]).toEqual(['Returns', null]);
    expect(hask!.merges).toEqual([{ row: 0, column: 0, rows: 1, columns: 2 }]);
    expect([text(1, 0), text(1, 1), text(1, 2)]).toEqual(['Foot   all', '1204.5', '2031-06-02']);
    expect([text(2, 0), text(2, 2)]).toEqual(['06:10', '0.12']);
    expect([text(3, 0), text(3, 1)]).toEqual(['yes', '#N/A']);
    expect([text(4, 1), text(5, 0)]).toEqual(['again', 'again']);
    expect(displayedText(hask!, 1, 1)).toBe('1,204.50');
  });

  test('a duration of more than a day is no time of day: it is kept in days, and shown as it was', () => {
    expect([text(2, 1), displayedText(hask!, 2, 1)]).toEqual(['1.25', '30:00']);
  });

  test('what is hidden, comments and formulas without a value are known; shapes and deleted cells are no cells', () => {
    expect([hask!.hidden, ullin!.hidden]).toEqual([false, true]);
    expect([hask!.hiddenRows, hask!.hiddenColumns]).toEqual([[2], [1]]);
    expect(hask!.comments).toEqual([{ row: 1, column: 0, text: 'counted\ntwice', author: 'Isla' }]);
    expect(hask!.emptyFormulas).toBe(1);
    const all = hask!.columns.flatMap((column) => Array.from({ length: hask!.rows }, (_, r) => cellText(column, r)));
    expect(all.join(' ')).not.toMatch(/box|over a cell|deleted/);
  });
});

test('a locked one and one that repeats cells without end say so', () => {
  const locked = zipSync({
    mimetype: encode('application/vnd.oasis.opendocument.spreadsheet'),
    'content.xml': encode('nonsense'),
    'META-INF/manifest.xml': encode('<manifest:encryption-data/>'),
  });
  expect(() => readWorkbook(locked, 'a.ods')).toThrow(/protected by a password/);
  const endless = row(
    cell('x', 'office:value-type="string" table:number-columns-repeated="16384"'),
    'table:number-rows-repeated="1048576"',
  );
  const flat = FLAT.replace(SHEET, `<table:table table:name="A">${endless}</table:table>`);
  expect(() => readWorkbook(encode(flat), 'a.fods')).toThrow(/repeats cells/);
});
