/** Tables in Markdown by the examples of GFM 4.10; YAML by the examples of YAML 1.2.2, chapter 2; INI by common practice. */
import { describe, expect, test } from 'vitest';
import { quiet } from '../test-support.ts';
import { cellText } from '../values/cell-text.ts';
import { guessReading, READINGS } from './catalogue.ts';
import { readMarkdown } from './markdown.ts';
import { readYaml } from './nested-text.ts';
import { sniff } from './sniff.ts';

const encode = (text: string) => new TextEncoder().encode(text);

function read(text: string, name: string, given: object = {}) {
  const source = { name, bytes: encode(text) };
  const { kind, params } = guessReading('s', source);
  const found = READINGS.get(kind)!;
  const result = found.read(source, found.params.parse({ ...params, ...given }), quiet as never);
  const { fields } = result.table;
  const rows = Array.from({ length: result.table.rows }, (_, r) => fields.map(({ column }) => cellText(column, r)));
  return { kind, rows, names: fields.map((field) => field.name), report: result.report };
}

describe('Markdown', () => {
  test('signs that nothing closes do not make it slow', () => {
    for (const text of ['['.repeat(200_000), '**a '.repeat(50_000), `# ${' '.repeat(50_000)}x`]) {
      const { parts } = readMarkdown(encode(`${text}\n\n| Port |\n|---|\n| ${text.slice(0, 100_000)} |\n`), 'a.md');
      expect(parts[0]!.rows).toBe(2);
    }
  });

  test('tables with or without bars at the ends, cells with bars and marks, too many and too few cells', () => {
    const text = [
      '# Skerrow Ferries',
      'What they carried.',
      '## Hask',
      '| Sailing | Foot |',
      '| :--- | ---: |',
      '| 07:10 | **5** |',
      '| 07:40 \\| late | `9` |',
      '',
      '## Ullin',
      'Sailing | Foot',
      '--- | ---',
      '08:10 | [7](https://example.com)',
      '08:40',
      '> no more of it',
    ].join('\n');
    const { kind, rows, report } = read(text, 'counts.md');
    expect(kind).toBe('read-sheets');
    expect(report.parts.map((part) => part.name)).toEqual(['Hask', 'Ullin']);
    expect(rows).toEqual([
      ['Hask', 'Sailing', 'Foot'],
      ['Hask', '07:10', '5'],
      ['Hask', '07:40 | late', '9'],
      ['Ullin', 'Sailing', 'Foot'],
      ['Ullin', '08:10', '7'],
      ['Ullin', '08:40', null],
    ]);
  });

  test('bars without a line of dashes are no table; neither is a text of bars without a heading', () => {
    expect(sniff(encode('# a\n\nx | y\n1 | 2\n'), 'a.md')).toBe('text');
    expect(sniff(encode('x|y\n---|---\n1|2\n'), 'a.txt')).toBe('text');
  });
});

describe('YAML', () => {
  test('a text with thousands of faults is refused by the first of them', () => {
    expect(() => readYaml(`- a: 1\n${"'x' y\n".repeat(20_000)}`, 'a.yaml')).toThrow(/\(line 2, character \d+\)/);
  });

  test('a list of maps with lists in them; numbers that would lose something stay as written', () => {
    const text = `# Sailings of June
- day: 2031-06-02
  code: 007
  fare: 12.50
  bookings:
    - ref: B1
      foot: 3
    - ref: B2
      foot: 0
- day: 2031-06-03
  code: 12
  bookings: []
`;
    const { kind, rows, names } = read(text, 'sailings.txt', { rows: '$[*].bookings[*]' });
    expect(kind).toBe('read-nested');
    expect(names).toEqual(['day', 'code', 'fare', 'ref', 'foot']);
    expect(rows).toEqual([
      ['2031-06-02', '007', '12.50', 'B1', '3'],
      ['2031-06-02', '007', '12.50', 'B2', '0'],
      ['2031-06-03', '12', null, null, null],
    ]);
  });

  test('merge keys take over the fields of an anchor (YAML 1.1 type repository, merge)', () => {
    const text = '- &base\n  port: Hask\n  foot: 5\n- <<: *base\n  foot: 7\n';
    expect(read(text, 'a.yaml').rows).toEqual([
      ['Hask', '5'],
      ['Hask', '7'],
    ]);
  });

  test('anchors, folded texts, several documents (YAML 1.2.2, 2.7, 2.10, 2.16)', () => {
    const { rows, names } = read(
      '---\nhr:\n  - &SS Sammy Sosa\nrbi:\n  - *SS\n---\nname: >-\n  Mark McGwire\n  was here\n',
      'a.yaml',
      { rows: '$[*]' },
    );
    expect(names).toEqual(['hr', 'rbi', 'name']);
    expect(rows).toEqual([
      ['Sammy Sosa', 'Sammy Sosa', null],
      [null, null, 'Mark McGwire was here'],
    ]);
  });

  test('what is broken says where; what repeats itself without end is refused', () => {
    expect(() => read('a: [1, 2\nb: 3\n', 'a.yaml')).toThrow(/a\.yaml is not valid YAML \(line \d/);
    const bomb = ['a: &a [x,x,x,x,x,x,x,x,x]']
      .concat([...'bcdefghi'].map((name, k) => `${name}: &${name} [${`*${'abcdefgh'[k]},`.repeat(9)}]`))
      .join('\n');
    expect(() => read(bomb, 'a.yaml')).toThrow(/cannot be read as YAML/);
  });
});

describe('INI', () => {
  test('a record for each section, its comments left out', () => {
    const text =
      '; quays\n[Hask]\nberths = 3\nharbour master=Orrin\n\n[Ullin]\nberths=2 # one is closed\nship=Gannet\nship="Little Tern"\n';
    const { kind, rows, names } = read(text, 'quays.ini');
    expect(kind).toBe('read-nested');
    expect(names).toEqual(['section', 'berths', 'harbour master', 'ship']);
    expect(rows).toEqual([
      ['Hask', '3', 'Orrin', null],
      ['Ullin', '2 # one is closed', null, 'Gannet; Little Tern'],
    ]);
  });

  test('names that objects inherit are names like any', () => {
    const { rows, names } = read('[Hask]\nconstructor=Orrin\ntoString=yes\n__proto__=x\n', 'quays.ini');
    expect(names).toEqual(['section', 'constructor', 'toString', '__proto__']);
    expect(rows).toEqual([['Hask', 'Orrin', 'yes', 'x']]);
  });

  test('a log with brackets is none', () => {
    const text = Array.from({ length: 20 }, (_, k) => `[2031-06-02 07:${10 + k}] gate=3 foot=${k}`).join('\n');
    expect(read(text, 'gate.log').kind).not.toBe('read-nested');
  });
});
