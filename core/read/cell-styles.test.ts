import { utils, write } from '@e965/xlsx';
import { unzipSync, zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { guessReading, READINGS } from '../index.ts';
import { cellsOf, quiet } from '../test-support.ts';
import { sheetsReport } from './read-sheets.ts';

/** Two cells with their own styles, written as ISO/IEC 29500-1, 18.8 has them. */
function styled(): Uint8Array {
  const book = utils.book_new();
  utils.book_append_sheet(
    book,
    utils.aoa_to_sheet([
      ['Quay', 'Foot'],
      ['Hask', 12],
      ['gate 1', 5],
      [null, 7],
    ]),
    'Gates',
  );
  const entries = unzipSync(new Uint8Array(write(book, { type: 'array', bookType: 'xlsx' }) as ArrayBuffer));
  const text = (name: string) => new TextDecoder().decode(entries[name]);
  const put = (name: string, xml: string) => {
    entries[name] = new TextEncoder().encode(xml);
  };
  put(
    'xl/styles.xml',
    `<?xml version="1.0"?><styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">
    <numFmts count="1"><numFmt numFmtId="164" formatCode="#,##0 &quot;t&quot;"/></numFmts>
    <fonts count="2"><font><sz val="11"/></font><font><b/><i val="0"/></font></fonts>
    <fills count="3"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill><fill><patternFill patternType="solid"/></fill></fills>
    <borders count="2"><border><top/><bottom/></border><border><top/><bottom style="thin"/></border></borders>
    <cellStyleXfs count="1"><xf/></cellStyleXfs>
    <cellXfs count="3"><xf numFmtId="0" fontId="0" fillId="0" borderId="0"/>
    <xf numFmtId="164" fontId="1" fillId="2" borderId="1"/>
    <xf numFmtId="0" fontId="0" fillId="0" borderId="0"><alignment horizontal="left" indent="2"/></xf></cellXfs></styleSheet>`,
  );
  // The library writes another style index once the process has read other workbooks.
  put(
    'xl/worksheets/sheet1.xml',
    text('xl/worksheets/sheet1.xml')
      .replaceAll(/ s="\d+"/g, '')
      .replace('<c r="A1"', '<c r="A1" s="1"')
      .replace('<c r="A3"', '<c r="A3" s="2"'),
  );
  return zipSync(entries);
}

describe('styles of cells', () => {
  const source = () => ({ name: 'gates.xlsx', bytes: styled() });

  test('are exposed as vectors: an index into the styles for each cell', () => {
    const [part] = sheetsReport(source()).parts;
    const { styles, columns } = part!.styles!()!;
    expect(columns.map((codes) => [...codes])).toEqual([
      [1, -1, 2, -1],
      [-1, -1, -1, -1],
    ]);
    expect(styles[1]).toEqual({
      bold: true,
      italic: false,
      filled: true,
      borderAbove: false,
      borderBelow: true,
      indent: 0,
      numberFormat: '#,##0 "t"',
    });
    expect(styles[2]).toMatchObject({ bold: false, filled: false, indent: 2 });
  });

  test('indents are read as spaces where that is asked', () => {
    const kind = READINGS.get('read-sheets')!;
    const { params } = guessReading('s', source());
    const texts = (more: object) =>
      cellsOf(kind.read(source(), kind.params.parse({ ...params, ...more }), quiet).table).map(([cell]) => cell);
    expect(texts({})).toEqual(['Quay', 'Hask', 'gate 1', null]);
    expect(texts({ indents: 'spaces' })).toEqual(['Quay', 'Hask', '    gate 1', null]);
  });
});
