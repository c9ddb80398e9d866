/** Files of the kinds that are easily taken for something else, made by this script. */
import { Random } from '../demo/random.ts';
import type { CorpusFile } from './corpus-file.ts';

const PORTS = ['Hask', 'Ullin', 'Brannoch', 'Tarve'] as const;
const REMARKS = [
  'fog until noon',
  'calm',
  'barrier stuck, called the fitter',
  'late by some minutes',
  'two piers',
] as const;
const encode = (lines: readonly string[]) => new TextEncoder().encode(`${lines.join('\n')}\n`);
const two = (n: number) => String(n).padStart(2, '0');
const many = <T>(count: number, make: (k: number) => T) => Array.from({ length: count }, (_, k) => make(k));
const SEEDS = [1, 2, 3, 4, 5, 6];

/** A file for each seed. */
function each(name: string, seed: number, make: (random: Random) => { lines: string[]; expect: CorpusFile['expect'] }) {
  return SEEDS.map((n): CorpusFile => {
    const { lines, expect } = make(new Random(seed * 100 + n));
    return { name: `${name} ${n}`, bytes: encode(lines), expect };
  });
}

export function hardDelimited(): CorpusFile[] {
  const read = 'read-delimited';
  const rows = (random: Random) =>
    many(random.whole(4, 30), (k) => [
      `Q${100 + k}`,
      random.pick(PORTS),
      String(random.whole(0, 400)),
      (random.whole(0, 40_000) / 100).toFixed(2),
      random.pick(REMARKS),
    ]);
  const head = ['Ref', 'Port', 'Foot', 'Fare', 'Remark'];
  const types = { Ref: 'text', Port: 'text', Foot: 'whole', Fare: 'number', Remark: 'text' };
  const quoted = (cells: readonly string[], sign = '"') => cells.map((cell) => `${sign}${cell}${sign}`);
  return [
    ...each('tabs between short and long cells', 11, (random) => ({
      lines: [head, ...rows(random)].map((row) => row.join('\t')),
      expect: { kind: read, delimiter: '\t', header: { row: 0, tiers: 1 }, types },
    })),
    ...each('every cell in quotes, an odd number of columns', 12, (random) => ({
      lines: [head, ...rows(random)].map((row) => quoted(row).join(',')),
      expect: { kind: read, delimiter: ',', header: { row: 0, tiers: 1 }, types },
    })),
    ...each('sparse sheet with quoted cells', 13, (random) => {
      const delimiter = random.pick([',', ';', '|']);
      const sparse = rows(random).map((row) => row.flatMap((cell, c) => (c === 1 ? [`"${cell}"`, '', ''] : [cell])));
      const body = sparse.map((row) => row.map((cell) => (/[,;|]/.test(cell) ? `"${cell}"` : cell)).join(delimiter));
      return {
        lines: ['"All quays"', '', ''].map((cell) => [cell, ...many(6, () => '')].join(delimiter)).concat(body),
        expect: { kind: read, delimiter },
      };
    }),
    ...each('comments in front, the names behind the last', 14, (random) => ({
      lines: [
        '# made by the gate',
        '# on the quay; all figures',
        `# ${head.join(';')}`,
        ...rows(random).map((row) => row.join(';')),
      ],
      expect: { kind: read, delimiter: ';', comment: '#', header: { row: 0, tiers: 1 }, types },
    })),
    ...each('comments between the rows', 15, (random) => ({
      lines: [
        head.slice(0, 4).join(','),
        ...rows(random).flatMap((row, k) => (k % 5 === 4 ? ['# a pause'] : [row.slice(0, 4).join(',')])),
      ],
      expect: { kind: read, delimiter: ',' },
    })),
    ...each('quotes over several lines', 16, (random) => ({
      lines: [head.join(','), ...rows(random).map((row) => [...row.slice(0, 4), `"${row[4]},\nand\nmore"`].join(','))],
      expect: { kind: read, delimiter: ',', header: { row: 0, tiers: 1 }, types },
    })),
    ...each('single quotes', 17, (random) => ({
      lines: [head, ...rows(random)].map((row) => quoted(row, "'").join(';')),
      expect: { kind: read, delimiter: ';', types },
    })),
    ...each('runs of spaces', 18, (random) => ({
      lines: [head.slice(0, 4), ...rows(random).map((row) => row.slice(0, 4))].map((row) =>
        row.join(' '.repeat(random.whole(1, 3))),
      ),
      expect: { kind: read, delimiter: ' ', runs: true },
    })),
    ...each('a table drawn with bars and rules', 19, (random) => {
      const body = [head, ...rows(random)].map((row) => row.slice(0, 4));
      const widths = body[0]!.map((_, c) => Math.max(...body.map((row) => row[c]!.length)));
      const rule = `+${widths.map((width) => '-'.repeat(width + 2)).join('+')}+`;
      const lines = body.map((row) => `| ${row.map((cell, c) => cell.padEnd(widths[c]!)).join(' | ')} |`);
      return {
        lines: [rule, lines[0]!, rule, ...lines.slice(1), rule],
        expect: { kind: read, delimiter: '|', comment: '+-' },
      };
    }),
  ];
}

export function hardFixed(): CorpusFile[] {
  const kind = 'read-fixed-width';
  const line = (cells: readonly [string, number][]) =>
    cells
      .map(([text, width]) => (width < 0 ? text.padStart(-width) : text.padEnd(width)))
      .join('')
      .trimEnd();
  return [
    ...each('two columns, one cut', 31, (random) => ({
      lines: many(12, (k) =>
        line([
          [random.pick(['Hask Harbour', 'Ullin', 'Brannoch East Pier', 'Tarve Point']), 20],
          [String(random.whole(1, 900) + k), -6],
        ]),
      ),
      expect: { kind, cuts: [[18, 24]] },
    })),
    ...each('codes with zeros in front, a space apart', 32, (random) => ({
      lines: many(14, (k) =>
        line([
          [random.pick(['Quay North', 'Pier', 'Quay']), 12],
          [`00${k % 9} `, 4],
          [String(random.whole(100, 999)), 3],
          [String(random.whole(1, 99)), -5],
        ]),
      ),
      expect: {
        kind,
        cuts: [
          [10, 12],
          [15, 16],
          [19, 22],
        ],
      },
    })),
    ...each('a rule states the columns, blanks among them', 33, (random) => ({
      lines: [
        line([
          ['Name', 16],
          ['Foot', -5],
          ['Cars', -6],
          ['', 1],
          ['Remark', 12],
        ]),
        `${'-'.repeat(15)} ${'-'.repeat(5)} ${'-'.repeat(5)} ${'-'.repeat(12)}`,
        ...many(12, () =>
          line([
            [random.pick(['Hask Harbour', 'Ullin', 'Tarve']), 16],
            [random.next() < 0.2 ? '' : String(random.whole(1, 999)), -5],
            [random.next() < 0.3 ? '' : String(random.whole(1, 99)), -6],
            ['', 1],
            [random.pick(['all well', 'late', 'no cars']), 12],
          ]),
        ),
      ],
      expect: {
        kind,
        cuts: [
          [15, 18],
          [21, 24],
          [27, 28],
        ],
      },
    })),
    ...each('a long text at the end', 34, (random) => ({
      lines: many(14, (k) =>
        line([
          [`00${k}`.slice(-3), 6],
          [random.pick(PORTS), 10],
          [
            many(random.whole(3, 9), () =>
              random.pick(['fog', 'barrier', 'stuck', 'called', 'the', 'fitter', 'no', 'remarks']),
            ).join(' '),
            10,
          ],
        ]),
      ),
      expect: {
        kind,
        cuts: [
          [3, 6],
          [14, 16],
        ],
      },
    })),
    ...each('decimal commas under page heads', 35, (random) => ({
      lines: many(3, (page) => [
        `SKERROW FERRIES${' '.repeat(30)}PAGE ${page + 1}`,
        '',
        line([
          ['PORT', 12],
          ['FREIGHT', -12],
          ['DUES', -12],
        ]),
        ...many(9, () =>
          line([
            [random.pick(PORTS), 12],
            [`${random.whole(1, 9)}.${random.whole(100, 999)},${random.whole(0, 9)}`, -12],
            [`${random.whole(0, 99)},${two(random.whole(0, 99))}-`, -12],
          ]),
        ),
      ]).flat(),
      expect: {
        kind,
        cuts: [
          [8, 18],
          [24, 31],
        ],
      },
    })),
  ];
}

export function logs(): CorpusFile[] {
  const kind = 'read-pattern';
  const at = (k: number) => `06:${two(k % 60)}:07`;
  const levels = ['INFO', 'WARN', 'ERROR'] as const;
  const says = [
    'barrier up',
    'no answer: trying again in 5 s',
    'ticket 12 refused (too late)',
    'barrier down',
  ] as const;
  const log = (name: string, seed: number, pieces: readonly string[], line: (k: number, random: Random) => string) =>
    each(name, seed, (random) => ({
      lines: many(random.whole(3, 40), (k) => line(k, random)),
      expect: { kind, pieces },
    }));
  return [
    ...log(
      'syslog',
      51,
      ['Time', 'Host', 'Process', 'Pid', 'Message'],
      (k, r) => `Jun ${String(1 + (k % 28)).padStart(2)} ${at(k)} hask gate[${r.whole(2, 9999)}]: ${r.pick(says)}`,
    ),
    ...log(
      'syslog without process numbers',
      52,
      ['Time', 'Host', 'Process', 'Message'],
      (k, r) => `Jun ${two(1 + (k % 28))} ${at(k)} hask gate: ${r.pick(says)}`,
    ),
    ...log(
      'ISO times and levels',
      53,
      ['Time', 'Level', 'Message'],
      (k, r) => `2031-06-02T${at(k)}.123Z ${r.pick(levels)} ${r.pick(says)}`,
    ),
    ...log(
      'levels in brackets',
      54,
      ['Time', 'Level', 'Message'],
      (k, r) => `[2031-06-02 ${at(k)}] [${r.pick(levels).toLowerCase()}] ${r.pick(says)}`,
    ),
    ...log(
      'levels first',
      55,
      ['Level', 'Time', 'Message'],
      (k, r) => `${r.pick(levels)} 2031-06-02 ${at(k)},123 ${r.pick(says)}`,
    ),
    // The combined log format, from the documentation of the Apache server.
    ...log(
      'web server, combined',
      56,
      ['Host', 'Ident', 'User', 'Time', 'Request', 'Status', 'Size', 'Referer', 'Agent'],
      (k, r) =>
        `10.0.0.${r.whole(1, 99)} - ${r.pick(['-', 'isla'])} [02/Jun/2031:${at(k)} +0000] "GET /quay/${k} HTTP/1.1" 200 ${r.whole(20, 9000)} "-" "Browser/5.0 (Sea; rv:1)"`,
    ),
    ...log(
      'web server, errors',
      57,
      ['Time', 'Level', 'Client', 'Message'],
      (k, r) =>
        `[Mon Jun 02 ${at(k)} 2031] [${r.pick(['error', 'warn'])}] [client 10.0.0.${r.whole(1, 9)}] ${r.pick(says)}`,
    ),
    ...log(
      'names and values',
      58,
      ['ts', 'level', 'msg', 'gate'],
      (k, r) =>
        `ts=2031-06-02T${at(k)}Z level=${r.pick(levels).toLowerCase()} msg="${r.pick(says)}" gate=${r.whole(1, 4)}`,
    ),
    ...log('day first', 59, ['Time', 'Message'], (k, r) => `02.06.2031 ${at(k)} ${r.pick(says)}`),
  ];
}

export function hardHeaders(): CorpusFile[] {
  const table = (
    name: string,
    seed: number,
    header: { row: number; tiers: number },
    rows: (random: Random) => string[][],
  ) =>
    each(name, seed, (random) => ({
      lines: rows(random).map((row) => row.join(';')),
      expect: { kind: 'read-delimited', delimiter: ';', header },
    }));
  const data = (random: Random, columns: number, rows = random.whole(4, 20)) =>
    many(rows, () => [random.pick(PORTS), ...many(columns, () => String(random.whole(1, 900)))]);
  return [
    ...table('rows without figures under the header', 71, { row: 2, tiers: 1 }, (random) => [
      ['Returns of the quays', '', '', ''],
      ['', '', '', ''],
      ['Quay', 'Foot', 'Cars', 'Vans'],
      ['Hask', 'n/a', '-', ''],
      ['Ullin', '..', '', '-'],
      ...data(random, 3),
    ]),
    ...table('a rule under the header', 72, { row: 0, tiers: 1 }, (random) => [
      ['Quay', 'Foot', 'Cars', 'Vans'],
      ['--------', '----', '----', '----'],
      ...data(random, 3),
    ]),
    ...table('a lone note above', 73, { row: 2, tiers: 1 }, (random) => [
      ['Returns', '', '', ''],
      ['', '', '', 'unaudited'],
      ['Quay', 'Foot', 'Cars', 'Vans'],
      ...data(random, 3),
    ]),
    ...table('a dated title', 74, { row: 1, tiers: 1 }, (random) => [
      ['Returns', '02.06.2031', '', ''],
      ['Quay', 'Foot', 'Cars', 'Vans'],
      ...data(random, 3),
    ]),
    ...table('seasons over two measures', 75, { row: 1, tiers: 2 }, (random) => [
      ['Returns', '', '', '', ''],
      ['', '2029/30', '', '2030/31', ''],
      ['Quay', 'Foot', 'Cars', 'Foot', 'Cars'],
      ...data(random, 4),
    ]),
    ...table('years across', 76, { row: 1, tiers: 1 }, (random) => [
      ['Foot passengers', '', '', ''],
      ['Quay', '2029', '2030', '2031'],
      ...data(random, 3),
    ]),
  ];
}
