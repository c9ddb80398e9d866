import { describe, expect, test } from 'vitest';
import { guessReading, READINGS, type ReadResult } from '../index.ts';
import { cellsOf, namesOf, quiet } from '../test-support.ts';

const encode = (text: string) => new TextEncoder().encode(text);
const read = (text: string | Uint8Array, params: object = {}): ReadResult => {
  const source = { name: 'a.html', bytes: typeof text === 'string' ? encode(text) : text };
  const guess = guessReading('s', source);
  const kind = READINGS.get(guess.kind)!;
  return kind.read(source, kind.params.parse({ ...guess.params, ...params }), quiet);
};

describe('tables of web pages', () => {
  // The HTML standard's table model (4.9.12): cells that span go on into the rows and columns beside and below.
  const spanned = `<!doctype html><h2>Fares</h2><table>
    <tr><th rowspan=2>Route<th colspan=2>Fare
    <tr><th>Foot<th>Car
    <tr><td rowspan=2>Hask &amp; Ullin<td>4.20<td>18
    <tr><td>5.10<td>19<br>20
  </table>`;

  test('spans are merges, and cells below stand where the spans leave room', () => {
    const result = read(spanned);
    expect(result.report.parts[0]).toMatchObject({
      name: 'Fares',
      merges: [
        { row: 0, column: 0, rows: 2, columns: 1 },
        { row: 0, column: 1, rows: 1, columns: 2 },
        { row: 2, column: 0, rows: 2, columns: 1 },
      ],
    });
    expect(cellsOf(result.table)).toEqual([
      ['Route', 'Fare', null],
      [null, 'Foot', 'Car'],
      ['Hask & Ullin', '4.20', '18'],
      [null, '5.10', '19 20'],
    ]);
    expect(cellsOf(read(spanned, { merged: 'all' }).table)[3]).toEqual(['Hask & Ullin', '5.10', '19 20']);
  });

  test('each table is a sheet, named by its caption; tables inside cells stand for themselves', () => {
    const result = read(
      '<html><table><caption>Hask</caption><tr><td>a<td><table><tr><td>inner</table></table><table><tr><td>b</table>',
    );
    expect(result.report.parts.map((part) => part.name)).toEqual(['Table 1', 'Hask', 'Table 3']);
    expect(namesOf(result.table)[0]).toBe('Sheet');
  });

  test('a page under a workbook name is read by its content; one without a table says so', () => {
    expect(guessReading('s', { name: 'report.xls', bytes: encode('<table><tr><td>1</table>') }).kind).toBe(
      'read-sheets',
    );
    expect(() => read('<html><body><p>Loading …</p></body></html>')).toThrow(/a web page without a table/);
  });

  test('the encoding that the page declares is taken', () => {
    const page = Uint8Array.of(...encode('<html><meta charset="windows-1252"><table><tr><td>Caf'), 0xe9);
    expect(cellsOf(read(page).table)).toEqual([['Café']]);
  });

  test('scripts are not read as text, and a span without end is bounded', () => {
    const result = read('<table><tr><td rowspan=99999999>a<script>b</script><td colspan=0>c<tr><td>d</table>');
    expect(cellsOf(result.table)).toEqual([
      ['a', 'c'],
      [null, 'd'],
    ]);
  });
});

describe('XML', () => {
  const sailings = `<?xml version="1.0"?>
    <voyages port="Hask">
      <voyage code="HU-0710"><ship>Orrin</ship><booking ref="B1">2</booking><booking ref="B2">1</booking></voyage>
      <voyage code="HT-0955"><ship>Tolm &amp; Co</ship><booking ref="B&#51;">4</booking></voyage>
    </voyages>`;

  test('elements that repeat anywhere are lists everywhere; attributes and text are fields', () => {
    const result = read(sailings, { rows: '$.voyages.voyage[*].booking[*]' });
    expect(namesOf(result.table)).toEqual(['voyages.port', 'code', 'ship', 'ref', 'text']);
    expect(cellsOf(result.table)).toEqual([
      ['Hask', 'HU-0710', 'Orrin', 'B1', '2'],
      ['Hask', 'HU-0710', 'Orrin', 'B2', '1'],
      ['Hask', 'HT-0955', 'Tolm & Co', 'B3', '4'],
    ]);
  });

  test('in the encoding that the file declares (XML 1.0, 4.3.3), and told where it is none that the bytes can be', () => {
    const text = '<?xml version="1.0" encoding="iso-8859-5"?><a><b>XX</b><b>2</b></a>';
    const bytes = (declared: string) => {
      const all = encode(text.replace('iso-8859-5', declared));
      all.set([0xb4, 0xdd], all.indexOf(0x58));
      return { name: 'a.xml', bytes: all };
    };
    const own = (declared: string) => READINGS.get('read-nested')!.read(bytes(declared), nested, quiet);
    const nested = READINGS.get('read-nested')!.params.parse({ source: 's', rows: '$.a.b[*]' });
    expect(cellsOf(own('iso-8859-5').table)[0]).toEqual(['Дн']);
    expect(own('iso-8859-5').notices).toEqual([]);
    expect(cellsOf(own('UTF-8').table)[0]).toEqual(['´Ý']);
    expect(own('UTF-8').notices.map((notice) => notice.text)[0]).toMatch(/invalid UTF-8 at byte 45/);
    expect(() => own('nothing-known')).toThrow(/There is no encoding nothing-known/);
  });

  test('entities outside the file are never fetched', () => {
    const external = '<!DOCTYPE a [\n<!ENTITY e SYSTEM "file:///etc/passwd">]><a><b>&e;</b></a>';
    expect(() => read(external)).toThrow(/an entity outside of itself \(line 2\)/);
    const parameter = '<!DOCTYPE a [<!ENTITY % p PUBLIC "x" "http://skerrow.example/p.dtd"> %p;]><a/>';
    expect(() => read(parameter)).toThrow(/never fetched/);
  });

  test('entities inside entities do not grow without end', () => {
    const levels = Array.from({ length: 12 }, (_, k) => `<!ENTITY e${k + 1} "${`&e${k};`.repeat(10)}">`).join('');
    const text = `<!DOCTYPE a [<!ENTITY e0 "lol">${levels}]><a><b>&e12;</b><b>x</b></a>`;
    let length = 0;
    try {
      length = JSON.stringify(cellsOf(read(text).table)).length;
    } catch (error) {
      length = (error as Error).message.length;
    }
    expect(length).toBeLessThan(100_000);
  });

  test('text that is not well formed is reported with its line', () => {
    expect(() => read('<a>\n<b>1</b>\n<c></a>')).toThrow(/line 3, character \d+: Expected closing tag 'c'/);
  });
});
