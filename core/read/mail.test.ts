/** Messages by the examples of RFC 2046, 2047 and 2231, and files packed with gzip (RFC 1952). */
import { gzipSync as gzip } from 'node:zlib';
import { describe, expect, test } from 'vitest';
import { Runner } from '../run/run.ts';
import { quiet } from '../test-support.ts';
import { cellText } from '../values/cell-text.ts';
import { bundleFiles } from './archive.ts';
import { guessReading } from './catalogue.ts';
import { openSource } from './open-source.ts';
import { filesOf } from './read-files.ts';
import { sniff } from './sniff.ts';

const encode = (text: string) => new TextEncoder().encode(text);
const crlf = (lines: readonly string[]) => encode(`${lines.join('\r\n')}\r\n`);
const base64 = (text: string) => Buffer.from(text).toString('base64');

async function rowsOf(bytes: Uint8Array, name: string) {
  await openSource(bytes, name);
  const runner = new Runner();
  runner.setSource('s', { name, bytes });
  const { kind, params } = guessReading('s', runner.source('s')!);
  const run = runner.run([{ id: '1', kind, params }], quiet);
  expect(run.stop).toBeUndefined();
  const { table } = run.steps[0]!;
  const rows = Array.from({ length: table.rows }, (_, r) => table.fields.map(({ column }) => cellText(column, r)));
  return { kind, rows, run };
}

async function namesIn(bytes: Uint8Array, name = 'a.eml') {
  await openSource(bytes, name);
  return filesOf({ name, bytes }).map((file) => file.name);
}

const HEAD = [
  'From: Mara Tolm <mara@example.com>',
  'To: reports@example.com',
  'Subject: =?ISO-8859-1?Q?Z=E4hlung?= of June',
  'Date: Mon, 02 Jun 2031 07:10:30 +0000',
  'MIME-Version: 1.0',
];
const CSV = 'Sailing,Foot\r\n07:10,5\r\n07:40,9\r\n';

/** Bytes by iconv of the GNU C library. */
const PORTS: readonly (readonly [charset: string, text: string, bytes: string])[] = [
  ['windows-1250', 'Łódź', 'a3f3649f'],
  ['koi8-r', 'Причал', 'f0d2c9dec1cc'],
  ['shift_jis', '港', '8d60'],
  ['iso-8859-2', 'Łódź', 'a3f364bc'],
  ['cp850', 'Øresund ½', '9d726573756e6420ab'],
  ['IBM437', 'Straße', '53747261e165'],
  ['macintosh', 'Malmö', '4d616c6d9a'],
];

describe('mail', () => {
  test.each(PORTS)('an attachment and a body in %s', async (charset, port, hex) => {
    const cell = Buffer.from(hex, 'hex').toString('latin1');
    const message = (type: string, disposition: string) => [
      ...HEAD,
      `Content-Type: ${type}; charset=${charset}`,
      'Content-Transfer-Encoding: 8bit',
      ...(disposition === '' ? [] : [`Content-Disposition: ${disposition}`]),
      '',
      `Port,Foot`,
      `${cell},5`,
      `${cell},7`,
    ];
    const bytes = (lines: readonly string[]) => new Uint8Array(Buffer.from(`${lines.join('\r\n')}\r\n`, 'latin1'));
    const attached = bytes(message('application/vnd.ms-excel', 'attachment; filename=foot.csv'));
    expect((await rowsOf(attached, 'a.eml')).rows[1]!.slice(-2)).toEqual([port, '5']);
    const body = bytes(message('text/plain', ''));
    expect((await rowsOf(body, 'b.eml')).rows[1]!.slice(-2)).toEqual([port, '5']);
  });

  test('what is attached is read; a picture in a signature is not', async () => {
    const bytes = crlf([
      ...HEAD,
      'Content-Type: multipart/mixed; boundary="outer"',
      '',
      'This is a multi-part message in MIME format.',
      '--outer',
      'Content-Type: multipart/alternative; boundary=inner',
      '',
      '--inner',
      'Content-Type: text/plain; charset=utf-8',
      '',
      'The counts of June.',
      '--inner',
      'Content-Type: text/html; charset=utf-8',
      '',
      '<p>The counts of June.</p>',
      '--inner--',
      '--outer',
      'Content-Type: image/png; name=quay.png',
      'Content-Transfer-Encoding: base64',
      'Content-Disposition: inline; filename=quay.png',
      '',
      'iVBORw0KGgo=',
      '--outer',
      'Content-Type: text/csv; charset=utf-8; name="foot.csv"',
      'Content-Transfer-Encoding: base64',
      'Content-Disposition: attachment; filename="foot.csv"',
      '',
      base64(CSV),
      '--outer--',
    ]);
    expect(sniff(bytes, 'a.eml')).toBe('files');
    expect(await namesIn(bytes)).toEqual(['foot.csv']);
    const { rows, kind } = await rowsOf(bytes, 'a.eml');
    expect(kind).toBe('read-files');
    expect(rows).toEqual([
      ['foot.csv', 'Sailing', 'Foot'],
      ['foot.csv', '07:10', '5'],
      ['foot.csv', '07:40', '9'],
    ]);
  });

  test('names of files in pieces and in other encodings (RFC 2231, 2047), in messages within messages', async () => {
    const part = (name: readonly string[]) => [
      '--b',
      'Content-Type: text/csv',
      'Content-Disposition: attachment;',
      ...name.map((piece) => ` ${piece}`),
      '',
      'a,b',
      '1,2',
    ];
    const bytes = crlf([
      ...HEAD,
      'Content-Type: multipart/mixed; boundary=b',
      '',
      ...part(["filename*0*=UTF-8''Z%C3%A4hlung;", 'filename*1=" of June";', 'filename*2=".csv"']),
      ...part(['filename="=?UTF-8?B?TGlzdGUuY3N2?="']),
      ...part(['filename="../../Liste.csv"']),
      '--b--',
    ]);
    expect(await namesIn(bytes)).toEqual(['Zählung of June.csv', 'Liste.csv', '.._.._Liste.csv']);
  });

  test('a table in the text of the message, in its own encoding', async () => {
    const latin = Buffer.from(
      [
        ...HEAD,
        'Content-Type: text/html; charset=iso-8859-1',
        'Content-Transfer-Encoding: quoted-printable',
        '',
        '<meta charset=3Diso-8859-1><h2>Z=E4hlung</h2><table><tr><td>Quai</td><td>Foot</td></tr>=',
        '<tr><td>=D8re</td><td>5</td></tr></table>',
      ].join('\r\n'),
      'latin1',
    );
    const { rows } = await rowsOf(new Uint8Array(latin), 'a.eml');
    expect(rows.map((row) => row.slice(1))).toEqual([
      ['Quai', 'Foot'],
      ['Øre', '5'],
    ]);
  });

  test('a message with nothing but words is its text', async () => {
    expect(await namesIn(crlf([...HEAD, '', 'Hask;5', 'Ullin;9']))).toEqual(['message.txt']);
    const { rows } = await rowsOf(crlf([...HEAD, '', 'Hask;5', 'Ullin;9']), 'a.eml');
    expect(rows.at(-1)!.slice(-2)).toEqual(['Ullin', '9']);
  });

  test('a message in an archive, and one that holds nothing', async () => {
    const mail = crlf([...HEAD, '', 'Hask;5', 'Ullin;9']);
    const both = bundleFiles([
      { name: 'june.eml', bytes: mail },
      { name: 'july.eml', bytes: crlf([...HEAD, '', 'Hask;7', 'Ullin;8']) },
    ]);
    const { run } = await rowsOf(both, 'mails.zip');
    expect(run.steps[0]!.table.rows).toBe(4);
    const empty = crlf([...HEAD, '', '']);
    await openSource(empty, 'a.eml');
    expect(() => guessReading('s', { name: 'a.eml', bytes: empty })).toThrow(/nothing attached and no text/);
  });

  test('texts that only look like one are texts', () => {
    for (const text of [
      'From: Hask\nTo: Ullin\nFoot: 5\n\nFrom: Ullin\nTo: Hask\nFoot: 6\n',
      'Name: a\nDate: 2031-06-02\n\nName: b\n',
      'date,from,to\n1,2,3\n',
      'Subject: x\nnothing more\n',
    ])
      expect(sniff(encode(text), 'a.txt')).toBe('text');
  });
});

describe('gzip', () => {
  test('a packed report is the report', async () => {
    const { kind, rows } = await rowsOf(new Uint8Array(gzip(CSV)), 'foot.csv.gz');
    expect(kind).toBe('read-delimited');
    expect(rows).toEqual([
      ['Sailing', 'Foot'],
      ['07:10', '5'],
      ['07:40', '9'],
    ]);
  });

  test('several members behind each other are one text, and packed files in an archive are what they hold', async () => {
    const two = Buffer.concat([gzip('Hask,5\nUllin,'), gzip('9\nTarve,3\n')]);
    expect((await rowsOf(new Uint8Array(two), 'a.csv.gz')).rows).toEqual([
      ['Hask', '5'],
      ['Ullin', '9'],
      ['Tarve', '3'],
    ]);
    const files = ['june', 'july'].map((name) => ({ name: `${name}.csv.gz`, bytes: new Uint8Array(gzip(CSV)) }));
    const { run } = await rowsOf(bundleFiles(files), 'all.zip');
    expect(run.steps[0]!.reading!.report.parts.map((part) => part.name)).toEqual(['july.csv', 'june.csv']);
  });

  test('damaged, cut off, packed twice, or far too large: refused', () => {
    const packed = new Uint8Array(gzip(CSV));
    for (const bytes of [packed.slice(0, packed.length - 5), packed.map((byte, k) => (k === 24 ? byte ^ 255 : byte))])
      expect(() => sniff(bytes, 'a.csv.gz')).toThrow(/packed with gzip, and damaged or cut off/);
    expect(() => sniff(new Uint8Array(gzip(packed)), 'a.gz')).toThrow(/packed with gzip twice/);
    expect(() => sniff(new Uint8Array(gzip(Buffer.alloc(400_000_000))), 'a.gz')).toThrow(/would unpack to/);
  });
});
