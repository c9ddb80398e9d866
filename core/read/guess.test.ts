import { describe, expect, test } from 'vitest';
import { cellText } from '../values/cell-text.ts';
import { guessReading, READINGS } from './catalogue.ts';
import { guessDialect } from './delimited/dialect.ts';
import { guessTemplates } from './log-forms.ts';
import type { ReadResult } from './read-kind.ts';

const quiet = {
  progress: () => undefined,
  name: 'table',
  other: () => ({ name: '', table: { rows: 0, fields: [] } }),
};

/** Reads a text as it is guessed. */
function taken(
  text: string,
  name = 'a.txt',
): { kind: string; params: Record<string, unknown>; rows: (string | null)[][] } & ReadResult {
  const source = { name, bytes: new TextEncoder().encode(text) };
  const guess = guessReading('s', source);
  const kind = READINGS.get(guess.kind)!;
  const result = kind.read(source, kind.params.parse(guess.params), quiet);
  const { table } = result;
  const rows = Array.from({ length: table.rows }, (_, r) => table.fields.map((field) => cellText(field.column, r)));
  return { kind: guess.kind, params: guess.params, rows, ...result };
}

describe('delimited text', () => {
  test('tabs divide before they are looked at as gaps', () => {
    const found = taken('Port\tFoot\tCars\nHask\t12\t3\nBrannoch\t103\t\n');
    expect(found.params).toMatchObject({ delimiter: '\t', runs: false });
    expect(found.rows[2]).toEqual(['Brannoch', '103', null]);
  });

  test('sparse cells in quotes do not make a doubled comma the delimiter', () => {
    const found = taken('"Hask",,,,"remark"\n,,,,\n1,"North Quay",,"2 piers",\n2,"South Quay",,"1 pier",\n');
    expect(found.params['delimiter']).toBe(',');
    expect(found.rows[0]).toHaveLength(5);
  });

  test('cells all in quotes with commas inside', () => {
    const rows = ['"a,b","c","d,e"', '"1,5","2","3,5"', '"4,5","5","6,5"'];
    expect(guessDialect(rows.join('\n'))).toMatchObject({ delimiter: ',', width: 3 });
  });

  test('a quoted cell that goes over several lines', () => {
    const text = '"a","long\nremark\nhere","c"\n"b","short","d"\n"e","two\nlines","f"\n';
    expect(guessDialect(text)).toMatchObject({ delimiter: ',', width: 3, even: 1 });
    expect(taken(text).rows[0]).toEqual(['a', 'long\nremark\nhere', 'c']);
  });

  test('a single quote where cells stand in it, and not where it is an apostrophe', () => {
    expect(taken("'Port','Remark'\n'Hask','fog, then sun'\n'Ullin','calm'\n").rows[1]).toEqual([
      'Hask',
      'fog, then sun',
    ]);
    expect(guessDialect("Port,Name\nHask,O'Brae\nUllin,D'Arn\n").quote).toBe('"');
  });

  test('comments stand on a pile and in the report, and the names behind the sign are kept', () => {
    const text = '# made by the gate\n# Port;Foot;Cars\nHask;12;3\n# fog\nUllin;7;1\n';
    const found = taken(text);
    expect(found.params).toMatchObject({ delimiter: ';', comment: '#', commentedHeader: true });
    expect(found.rows).toEqual([
      ['Port', 'Foot', 'Cars'],
      ['Hask', '12', '3'],
      ['Ullin', '7', '1'],
    ]);
    expect(found.aside).toEqual([{ part: 0, name: 'comments', mark: 'note', rows: Int32Array.of(0, 3) }]);
    expect(found.report.parts[0]!.rows).toBe(5);
    expect([...found.places.row]).toEqual([1, 2, 4]);
  });

  test('a header that begins with a number sign is no comment', () => {
    expect(guessDialect('#,Port,Foot\n1,Hask,12\n2,Ullin,7\n').comment).toBe(null);
  });

  test('runs of spaces divide where they give every line as many cells', () => {
    expect(taken('x y z\n 0   0    0\n 1  12  144\n').params).toMatchObject({ delimiter: ' ', runs: true });
  });

  test('a table drawn with bars and rules', () => {
    const found = taken('+------+----+\n| Port | n  |\n+------+----+\n| Hask | 12 |\n| Ull  | 7  |\n+------+----+\n');
    expect(found.params).toMatchObject({ delimiter: '|', comment: '+-' });
    expect(found.rows).toHaveLength(3);
  });

  test('the decimal commas of a print-out are no delimiter', () => {
    const line = (name: string, a: string, b: string) => `${name.padEnd(18)}${a.padStart(9)}${b.padStart(10)}`;
    const lines = [
      line('Hask', '1.204,5', '12,40-'),
      line('Ullin Quay', '98,1', '7,25'),
      line('Tarve', '2,0', '103,00'),
    ];
    const found = taken([line('Port', 'Freight', 'Dues'), ...lines].join('\n'));
    expect(found.kind).toBe('read-fixed-width');
    expect(found.rows[2]).toEqual(['Ullin Quay', '98,1', '7,25']);
  });
});

describe('fixed columns', () => {
  test('a rule states the cuts, blank cells and all', () => {
    const text =
      'Name          Foot Remark\n------------- ---- ----------\nHask Harbour    12 all well\nUllin            7\n';
    expect(taken(text).params['cuts']).toEqual([14, 19]);
  });

  test('a long last text is one column; one gap is enough', () => {
    const text =
      'Hask     barrier stuck for most of the day\nUllin    no remarks\nBrannoch three lorries refused at noon\nTarve    late\n';
    expect(taken(text).rows[2]).toEqual(['Brannoch', 'three lorries refused at noon']);
  });

  test('codes with zeros in front and counts are two columns, not one number', () => {
    const text = 'Quay North 001 307   2\nQuay East  002 111   5\nPier       003 220  12\nQuay       004 501   1\n';
    expect(taken(text).rows[0]!.slice(-3)).toEqual(['001', '307', '2']);
  });
});

describe('logs', () => {
  const log = (lines: string[]) => taken(`${lines.join('\n')}\n`);

  test('syslog (RFC 3164), with and without a process number', () => {
    const found = log([
      "Oct 11 22:14:15 mymachine su[12]: 'su root' failed for lonvick on /dev/pts/8",
      'Oct 11 22:14:16 mymachine su[13]: gone',
      'Oct  1 22:14:16 mymachine kernel: eth0 up',
    ]);
    expect(found.kind).toBe('read-pattern');
    expect(found.rows[0]!.slice(0, 5)).toEqual([
      'Oct 11 22:14:15',
      'mymachine',
      'su',
      '12',
      "'su root' failed for lonvick on /dev/pts/8",
    ]);
    expect(found.rows[2]!.slice(0, 2)).toEqual(['Oct  1 22:14:16', 'mymachine']);
    expect(found.notices.some((notice) => notice.severity === 'warning')).toBe(false);
  });

  test('times in front, levels, threads and names (common practice)', () => {
    const found = log([
      '2031-06-02T06:01:07.123Z INFO [main] gate.Reader: barrier up',
      '2031-06-02T06:02:07.777Z ERROR [worker-2] gate.Writer: no answer, trying again',
      '    at gate.Writer.send(Writer.java:12)',
      '2031-06-02T06:03:07.123Z INFO [main] gate.Reader: barrier up',
    ]);
    expect(found.rows[1]).toEqual([
      '2031-06-02T06:02:07.777Z',
      'ERROR',
      'worker-2',
      'gate.Writer',
      'no answer, trying again',
      null,
    ]);
    expect(found.rows[2]!.at(-1)).toBe('    at gate.Writer.send(Writer.java:12)');
  });

  test('pairs of names and values', () => {
    const found = log([
      'ts=2031-06-02T06:01:07Z level=info msg="barrier up" gate=1',
      'ts=2031-06-02T06:02:07Z level=warn msg="barrier slow, again" gate=2',
    ]);
    expect(found.rows[1]).toEqual(['2031-06-02T06:02:07Z', 'warn', 'barrier slow, again', '2', null]);
  });

  // From the documentation of the Apache server.
  test('errors of a web server', () => {
    expect(
      guessTemplates([
        '[Wed Oct 11 14:32:52 2000] [error] [client 127.0.0.1] client denied by server configuration: /export/home',
        '[Fri Sep 09 10:42:29.902022 2011] [core:error] [client 72.15.99.187] File does not exist: /favicon.ico',
      ]),
    ).toEqual(['[{Time:time}] [{Level:word}] [client {Client}] {Message}']);
  });

  test('a print-out whose rows begin with a time stands in columns all the same', () => {
    const found = log([
      'SKERROW FERRIES       WEIGHBRIDGE        PAGE 1',
      '2031-06-02 06:10   Hask      AB 12   12.40',
      '2031-06-02 06:25   Hask      CD 34    7.80',
      '2031-06-02 07:10   Ullin     EF 95   31.25',
      '2031-06-02 07:55   Tarve     GH 77    2.00',
    ]);
    expect(found.kind).toBe('read-fixed-width');
  });

  test('long runs of spaces end at once', () => {
    const text = `1 ${' '.repeat(40_000)}x\n`.repeat(3);
    expect(() => taken(text)).not.toThrow();
  });
});

describe('columns that touch', () => {
  test('a sign takes the place of the blank between two numbers (fixed fields, as Fortran formats write them)', () => {
    const line = (k: number) =>
      `${String(k).padStart(4)}${(-100.5 - k).toFixed(2).padStart(7)}${(k * 3.25).toFixed(2).padStart(8)}`;
    const { kind, rows } = taken(Array.from({ length: 40 }, (_, k) => `${line(k + 1)}\n`).join(''));
    expect(kind).toBe('read-fixed-width');
    expect(rows.map((row) => row.map((cell) => Number(cell)))).toEqual(
      Array.from({ length: 40 }, (_, k) => [k + 1, -101.5 - k, (k + 1) * 3.25]),
    );
  });

  test('ranges, dates and codes with hyphens are one cell', () => {
    const { rows } = taken(
      Array.from({ length: 20 }, (_, k) => `2031-01-${10 + k}   A-${k}   ${k}-${k + 5}\n`).join(''),
    );
    expect(rows[0]).toEqual(['2031-01-10', 'A-0', '0-5']);
  });
});

describe('texts that describe themselves in front, and texts that only look nested', () => {
  const many = (line: (k: number) => string, count = 12) => Array.from({ length: count }, (_, k) => line(k)).join('\n');

  test('a comment of several lines, whose words divide nothing (common practice)', () => {
    const { kind, params, rows, notices } = taken(
      `/* counted at the quay, in two parts;\n   source: the harbour office */\n<2031 Q1>\nfoot   cars   dues\n${many((k) => `${10 + k}     ${20 + k}   ${k}.5\n${10 + k}     ${20 + k}   ${k}.5\n${10 + k}     ${20 + k}   ${k}.5`)}`,
    );
    expect({ kind, comment: params['comment'] }).toEqual({ kind: 'read-delimited', comment: '/*' });
    expect(rows.slice(1, 3)).toEqual([
      ['foot', 'cars', 'dues'],
      ['10', '20', '0.5'],
    ]);
    expect(notices?.map(({ text }) => text)).toContain('2 comment lines set aside');
  });

  test('a comment that nothing ends is one line', () => {
    const source = { name: 'a.txt', bytes: new TextEncoder().encode('/* Port,Foot\nHask,1\nVarra,2\n') };
    const kind = READINGS.get('read-delimited')!;
    const { table } = kind.read(source, kind.params.parse({ source: 's', comment: '/*' }), quiet);
    expect(table.rows).toBe(2);
  });

  test('YAML front matter before delimited text (csvy.org)', () => {
    const front = '---\nname: quays\nfields:\n  - name: Port\n  - name: Foot\n---\n';
    const { kind, rows } = taken(`${front}Port;Foot\n${many((k) => `Hask;${k}`)}`, 'quays.csvy');
    expect(kind).toBe('read-delimited');
    expect(rows.slice(-2)).toEqual([
      ['Hask', '10'],
      ['Hask', '11'],
    ]);
  });

  test('records of names and values with blank lines between, as package lists have them (Debian policy 5.1)', () => {
    const { kind, rows } = taken(
      many((k) => `Package: pkg${k}\nVersion: 1.${k}\nDescription: a package\n with more of it\n - item\n`, 6),
    );
    expect(kind).toBe('read-blocks');
    expect(rows.length).toBe(6);
    expect(rows[1]!.slice(0, 2)).toEqual(['pkg1', '1.1']);
  });

  test('a spreadsheet of another program that borrows the namespace of OpenDocument is read as XML', () => {
    const cells = many((k) => `<g:Cell Row="${k}" Col="0">Hask</g:Cell>`);
    const text = `<?xml version="1.0"?><g:Workbook xmlns:g="http://www.gnumeric.org/v10.dtd" xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"><g:Sheets><g:Sheet><g:Cells>${cells}</g:Cells></g:Sheet></g:Sheets></g:Workbook>`;
    expect(taken(text, 'a.gnumeric').kind).toBe('read-nested');
  });

  test('a directive among comments is no header (Unicode character database, @missing)', () => {
    const { params } = taken(`# EastAsianWidth\n# @missing: 0000..10FFFF; N\n${many((k) => `00${k + 10};N`)}`);
    expect(params).toMatchObject({ comment: '#', commentedHeader: false });
  });

  test('a tab inside quotes', () => {
    const { rows } = taken(`Port\tNote\tFoot\n${many((k) => `Hask\t"a\tb ${k}"\t${k}`)}`);
    expect(rows[1]).toEqual(['Hask', 'a\tb 0', '0']);
  });

  test('right-aligned names over narrower figures are not cut in two', () => {
    const line = (k: number) =>
      `${['root', 'daemon'][k % 2]!.padEnd(8)} ${String(k * 731).padStart(5)} ${(k / 7).toFixed(1).padStart(4)} ${(k / 3).toFixed(1).padStart(4)} ${String(k * 5501).padStart(6)} cmd -n ${k}`;
    const { kind, rows } = taken(`USER       PID %CPU %MEM    VSZ COMMAND\n${many(line, 16)}`);
    expect(kind).toBe('read-fixed-width');
    expect(rows[0]).toEqual(['USER', 'PID', '%CPU', '%MEM', 'VSZ', 'COMMAND']);
  });

  test('bars that only the header has, over a rule with crosses (as psql prints without borders)', () => {
    const line = (k: number) =>
      ` ${['Hask', 'Brannoch'][k % 2]!.padEnd(10)} ${'Gannet'.padEnd(8)} ${String(k * 37).padStart(6)}`;
    const { rows } = taken(` Port      | Ship    |   Foot\n-----------+---------+-------\n${many(line)}`);
    expect(rows[0]).toEqual(['Port', 'Ship', 'Foot']);
    expect(rows[3]).toEqual(['Brannoch', 'Gannet', '37']);
  });

  test('a rule states columns that single spaces divide', () => {
    const { rows } = taken(`name type size\n==== ==== ====\n${many((k) => `a ${k % 10}  file ${1000 + k}`)}`);
    expect(rows[2]).toEqual(['a 0', 'file', '1000']);
  });

  test.each([
    [
      'a time in brackets, in seconds since 1970',
      (k: number) => `[${1_404_045_123 + k}] SERVICE ALERT: host${k % 3};Ping`,
      '1404045123',
    ],
    [
      'a short month with an accent',
      (k: number) => `Déc ${String(k + 1).padStart(2)} 07:50:12 quai portail[${k}]: passage ${k}`,
      'Déc  1 07:50:12',
    ],
    [
      'month and day without a year',
      (k: number) => `08-${String(k + 1).padStart(2, '0')} 07:56 gate opened for ${k}`,
      '08-01 07:56',
    ],
    [
      'a name in front of the time',
      (k: number) => `gate${k % 2} 2025-06-24 14:36:${k + 10}: lane ${k} is free`,
      '2025-06-24 14:36:10',
    ],
  ])('logs: %s', (_, line, time) => {
    const { kind, rows } = taken(many(line));
    expect(kind).toBe('read-pattern');
    expect(rows[0]).toContain(time);
  });
});
