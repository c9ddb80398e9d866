/** Small files of many kinds with what a guess should find in them: made by this script, and out of open packages. */
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Random } from '../demo/random.ts';
import type { CorpusFile } from './corpus-file.ts';
import { hardDelimited, hardFixed, hardHeaders, logs } from './corpus-hard.ts';

const PORTS = ['Hask', 'Ullin', 'Brannoch', 'Tarve'] as const;
const NAMES = ['Tolm, Isla', 'Marr, Ewan', 'Côté, André', 'Brandt, Zoë'] as const;
// Words of unlike lengths, as names in reports are: where words end alike by chance, no guess can tell.
const HAULIERS = ['Orrin & Daughters', 'Brae Timber', 'Ness & Sons', 'North Quay Stores', 'Tolm'] as const;
const two = (n: number) => String(n).padStart(2, '0');

function rowsOf(random: Random, decimal: string): string[][] {
  return Array.from({ length: random.whole(8, 40) }, (_, k) => [
    `B${1000 + k}`,
    `${two(random.whole(1, 28))}.06.2031`,
    random.pick(PORTS),
    random.pick(NAMES),
    String(random.whole(0, 300)),
    `${random.whole(1, 999)}${decimal}${two(random.whole(0, 99))}`,
  ]);
}

const TYPES = { Ref: 'text', Date: 'date', Port: 'text', Name: 'text', Foot: 'whole', Fare: 'number' };
const HEADER = ['Ref', 'Date', 'Port', 'Name', 'Foot', 'Fare'];

function delimited(): CorpusFile[] {
  const files: CorpusFile[] = [];
  let seed = 1;
  for (const delimiter of [',', ';', '\t', '|', '~', '^', '||', '::']) {
    for (const decimal of delimiter === ',' ? ['.'] : ['.', ',']) {
      for (const titles of [0, 2]) {
        for (const ragged of [false, true]) {
          const random = new Random(seed++);
          const quote = (cell: string) =>
            cell.includes(delimiter) || cell.includes('"') ? `"${cell.replaceAll('"', '""')}"` : cell;
          const lines = rowsOf(random, decimal).map((row) => {
            const own = ragged && random.next() < 0.2 ? row.slice(0, -1) : row;
            return own.map(quote).join(delimiter);
          });
          const above = ['Skerrow Ferries', 'Bookings by quay'].slice(0, titles);
          files.push({
            name: `delimiter ${delimiter === '\t' ? 'tab' : delimiter}, decimal ${decimal}, ${titles} titles${ragged ? ', ragged' : ''}`,
            bytes: new TextEncoder().encode([...above, HEADER.join(delimiter), ...lines].join('\r\n')),
            expect: {
              kind: 'read-delimited',
              delimiter,
              encoding: 'utf-8',
              header: { row: titles, tiers: 1 },
              types: TYPES,
            },
          });
        }
      }
    }
  }
  return files;
}

function encoded(): CorpusFile[] {
  const random = new Random(500);
  const text = [HEADER, ...rowsOf(random, '.')].map((row) => row.map((cell) => `"${cell}"`).join(',')).join('\n');
  const utf16 = (little: boolean, mark: boolean) => {
    const units = mark ? `\ufeff${text}` : text;
    const bytes = new Uint8Array(units.length * 2);
    const view = new DataView(bytes.buffer);
    for (let k = 0; k < units.length; k++) view.setUint16(k * 2, units.charCodeAt(k), little);
    return bytes;
  };
  const latin = Uint8Array.from(text, (character) => character.charCodeAt(0));
  const forms: [string, string, Uint8Array][] = [
    ['UTF-8', 'utf-8', new TextEncoder().encode(text)],
    ['UTF-8 with a mark', 'utf-8', new TextEncoder().encode(`\ufeff${text}`)],
    ['UTF-16 little-endian with a mark', 'utf-16le', utf16(true, true)],
    ['UTF-16 big-endian with a mark', 'utf-16be', utf16(false, true)],
    ['UTF-16 little-endian', 'utf-16le', utf16(true, false)],
    ['UTF-16 big-endian', 'utf-16be', utf16(false, false)],
    ['Windows-1252', 'windows-1252', latin],
  ];
  return forms.map(([name, encoding, bytes]) => ({
    name: `encoding ${name}`,
    bytes,
    expect: { kind: 'read-delimited', delimiter: ',', encoding, header: { row: 0, tiers: 1 } },
  }));
}

/** Columns flush left and right at stops, with page heads across them. */
function fixed(): CorpusFile[] {
  const files: CorpusFile[] = [];
  for (let seed = 700; seed < 720; seed++) {
    const random = new Random(seed);
    const gap = random.whole(1, 4);
    const figuresRight = random.next() < 0.7;
    const rows = rowsOf(random, '.').map((row) => row.with(3, random.pick(HAULIERS)));
    const widths = HEADER.map((name, c) => Math.max(name.length, ...rows.map((row) => row[c]!.length)));
    const line = (cells: readonly string[]) =>
      cells
        .map((cell, c) => (figuresRight && c >= 4 ? cell.padStart(widths[c]!) : cell.padEnd(widths[c]!)))
        .join(' '.repeat(gap))
        .trimEnd();
    const head = random.next() < 0.5 ? ['SKERROW FERRIES   BOOKINGS BY QUAY AND DAY   PAGE 1', ''] : [];
    const cuts: [number, number][] = [];
    let at = 0;
    widths.slice(0, -1).forEach((width, c) => {
      at += width;
      // Anywhere in the gap, and at the first character of what follows.
      const slack =
        figuresRight && c + 1 >= 4 ? widths[c + 1]! - Math.max(...rows.map((row) => row[c + 1]!.length)) : 0;
      const short = widths[c]! - Math.max(HEADER[c]!.length, ...rows.map((row) => row[c]!.length));
      cuts.push([at - short, at + gap + slack]);
      at += gap;
    });
    files.push({
      name: `fixed columns ${gap} apart, figures ${figuresRight ? 'right' : 'left'}${head.length > 0 ? ', page head' : ''}`,
      bytes: new TextEncoder().encode([...head, line(HEADER), ...rows.map(line)].join('\n')),
      expect: { kind: 'read-fixed-width', cuts },
    });
  }
  return files;
}

function others(): CorpusFile[] {
  const encode = (text: string) => new TextEncoder().encode(text);
  const log = Array.from({ length: 30 }, (_, k) => `[2031-06-02 06:${two(k)}:07] Hask gate 1: barrier up`).join('\n');
  // The common log format of the NCSA server, from the documentation of the Apache server.
  const common = '127.0.0.1 - frank [10/Oct/2000:13:55:36 -0700] "GET /apache_pb.gif HTTP/1.0" 200 2326\n'.repeat(12);
  const blocks = Array.from({ length: 9 }, (_, k) => `Name: ${NAMES[k % 4]}\nRank: Mate\nJoined: 2030-0${k + 1}-01\n`);
  return [
    { name: 'log with bracketed times', bytes: encode(log), expect: { kind: 'read-pattern' } },
    { name: 'common log format', bytes: encode(common), expect: { kind: 'read-pattern' } },
    { name: 'blocks of lines', bytes: encode(blocks.join('\n')), expect: { kind: 'read-blocks' } },
    { name: 'JSON', bytes: encode('[{"a":1},{"a":2}]'), expect: { kind: 'read-nested' } },
    { name: 'NDJSON', bytes: encode('{"a":1}\n{"a":2}\n'), expect: { kind: 'read-nested' } },
    { name: 'XML', bytes: encode('<?xml version="1.0"?><a><b>1</b><b>2</b></a>'), expect: { kind: 'read-nested' } },
    { name: 'web page', bytes: encode('<html><table><tr><td>1</table></html>'), expect: { kind: 'read-sheets' } },
    {
      name: 'header of two rows under a title',
      bytes: encode('Returns,,,,\n,,,,\n,April,,May,\nSailing,Foot,Cars,Foot,Cars\n06:10,1,2,3,4\n07:25,5,6,7,8\n'),
      expect: { kind: 'read-delimited', delimiter: ',', header: { row: 2, tiers: 2 } },
    },
  ];
}

function fromPackages(): CorpusFile[] {
  const modules = join(dirname(fileURLToPath(import.meta.url)), '..', 'node_modules');
  const load = (folder: string, take: RegExp, expect: (file: string) => CorpusFile['expect']) =>
    readdirSync(join(modules, folder))
      .filter((file) => take.test(file))
      .map((file) => ({
        name: `${folder.split('/')[0]}: ${file}`,
        bytes: new Uint8Array(readFileSync(join(modules, folder, file)).subarray(0, 200_000)),
        expect: expect(file),
      }));
  return [
    ...load('csv-spectrum/csvs', /\.csv$/, () => ({
      kind: 'read-delimited',
      delimiter: ',',
      header: { row: 0, tiers: 1 },
    })),
    ...load('vega-datasets/data', /\.csv$/, () => ({
      kind: 'read-delimited',
      delimiter: ',',
      header: { row: 0, tiers: 1 },
    })),
    ...load('vega-datasets/data', /\.tsv$/, () => ({
      kind: 'read-delimited',
      delimiter: '\t',
      header: { row: 0, tiers: 1 },
    })),
  ];
}

export function makeCorpus(): CorpusFile[] {
  return [
    ...delimited(),
    ...encoded(),
    ...fixed(),
    ...others(),
    ...hardDelimited(),
    ...hardFixed(),
    ...logs(),
    ...hardHeaders(),
    ...fromPackages(),
  ];
}
