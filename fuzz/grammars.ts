/** Inputs of each format built from its grammar, with whatever the format allows and a little that it does not. */

import { FUNCTIONS } from '../core/index.ts';
import { edgeNumber, oddPiece } from './mutate.ts';
import type { Random } from './random.ts';

const PORTS = ['Hask', 'Ullin', 'Tarve', 'Orrin Sound', 'Côté', 'Ålvik', ''];
const NAMES = ['Port', 'Sailing', 'Foot', 'Cars', '2031', 'Q1', 'Jan', '', 'Foot', '__proto__', 'Île'];

function value(random: Random): string {
  switch (random.below(9)) {
    case 0:
      return edgeNumber(random);
    case 1:
      return oddPiece(random);
    case 2:
      return `${random.below(28) + 1}/${random.below(12) + 1}/2031`;
    case 3:
      return `${random.below(24)}:${random.below(60)}`;
    case 4:
      return `${random.below(10_000) / 100} £`;
    case 5:
      return '';
    default:
      return random.chance(0.5) ? String(random.below(5000)) : random.pick(PORTS);
  }
}

export function delimited(random: Random): string {
  const [delimiter, quote] = [random.pick([',', ';', '\t', '|', '~', ' ', '::']), random.pick(['"', "'"])];
  const end = random.pick(['\n', '\r\n', '\r']);
  const width = random.below(12) + 1;
  const cell = () => {
    const text = value(random);
    return random.chance(0.2) ? `${quote}${text}${random.chance(0.9) ? quote : ''}` : text;
  };
  const line = (count: number) => Array.from({ length: count }, cell).join(delimiter);
  const lines = Array.from({ length: random.below(60) }, () => line(random.chance(0.95) ? width : random.below(20)));
  if (random.chance(0.02)) lines.push(line(random.pick([500, 16_384, 16_400])));
  return [...random.times(3, () => `# ${value(random)}`), ...lines].join(end);
}

export function fixedWidth(random: Random): string {
  const widths = Array.from({ length: random.below(8) + 1 }, () => random.below(14) + 1);
  const lines = Array.from({ length: random.below(80) }, () => {
    if (random.chance(0.05)) return '-'.repeat(random.below(80));
    if (random.chance(0.05)) return `\fPage ${random.below(9)}   Skerrow Ferries`;
    if (random.chance(0.02)) return ' '.repeat(random.pick([10, 1000, 100_000]));
    const cut = (text: string, width: number) => (random.chance(0.5) ? text.padEnd(width) : text.padStart(width));
    return widths.map((width) => cut(value(random).slice(0, width), width)).join(random.chance(0.9) ? ' ' : '');
  });
  return lines.join('\n');
}

export function log(random: Random): string {
  const level = () => random.pick(['INFO', 'WARN', 'ERROR', '']);
  const line = random.pick([
    () =>
      `2031-01-0${random.below(9) + 1} 07:${random.below(60)} ${level()} gate=${value(random)} car=${value(random)}`,
    () =>
      `10.0.0.${random.below(256)} - - [04/Jan/2031:07:10:00 +0000] "GET /${value(random)} HTTP/1.1" ${random.below(600)} ${random.below(9999)}`,
    () => `<${random.below(200)}>1 2031-01-04T07:10:00Z gate ${value(random)} - - ${value(random)}`,
    () => `[${value(random)}] (${value(random)}) ${value(random)}: ${value(random)}`,
  ]);
  const spaced = (text: string) =>
    random.chance(0.02) ? text.replace(' ', ' '.repeat(random.pick([10, 10_000, 100_000]))) : text;
  return Array.from({ length: random.below(80) }, () => spaced(random.chance(0.95) ? line() : value(random))).join(
    '\n',
  );
}

export function blocks(random: Random): string {
  const pair = () => `${random.pick(NAMES)}${random.pick([':', ' = ', '\t', ' .... ', ':  '])}${value(random)}`;
  const block = () => Array.from({ length: random.below(9) }, pair).join('\n');
  return Array.from({ length: random.below(20) }, block).join(random.pick(['\n\n', '\n---\n', '\n\n\n', '\n']));
}

export function json(random: Random, depth = 0): string {
  const key = () => JSON.stringify(random.pick(NAMES));
  const kind = random.below(depth > 5 ? 4 : 7);
  if (depth === 0 && random.chance(0.02)) return `${'['.repeat(random.pick([10, 400, 600, 100_000]))}`;
  switch (depth === 0 ? 4 + random.below(3) : kind) {
    case 0:
      return edgeNumber(random) || '0';
    case 1:
      return random.pick(['true', 'false', 'null']);
    case 2:
    case 3:
      return JSON.stringify(value(random));
    case 4:
    case 5:
      return `[${random.times(depth === 0 ? 40 : 6, () => json(random, depth + 1)).join(',')}]`;
    default:
      return `{${random.times(6, () => `${key()}: ${json(random, depth + 1)}`).join(', ')}}`;
  }
}

/** Lists and maps by their indentation, some of them broken. */
export function yaml(random: Random, depth = 0): string {
  const indent = '  '.repeat(depth);
  const leaf = () =>
    random.pick([value(random), edgeNumber(random) || '7', `"${value(random)}"`, '[a, 2]', '~', '|', '&a x', '*a']);
  const inner = () => (depth < 4 && random.chance(0.3) ? `\n${yaml(random, depth + 1)}` : ` ${leaf()}`);
  const line = () => (random.chance(0.4) ? `${indent}-${inner()}` : `${indent}${random.pick(NAMES)}:${inner()}`);
  return random.times(depth === 0 ? 20 : 5, line).join('\n');
}

/** A message with parts in parts. */
export function mail(random: Random): string {
  const fields = [
    'From: mara@example.com',
    'Subject: =?UTF-8?Q?J=C3=BCne?=',
    'Date: Mon, 02 Jun 2031 07:10:30 +0000',
    'MIME-Version: 1.0',
  ];
  const part = (depth: number): string => {
    const boundary = `b${depth}`;
    if (depth < 3 && random.chance(0.5))
      return `Content-Type: multipart/mixed; boundary=${boundary}\r\n\r\n${random.times(4, () => `--${boundary}\r\n${part(depth + 1)}`).join('\r\n')}\r\n--${boundary}--`;
    const text = random.chance(0.5) ? html(random) : delimited(random);
    const type = random.pick(['text/html', 'text/csv', 'text/plain', 'application/octet-stream']);
    const name = random.chance(0.6) ? `\r\nContent-Disposition: attachment; filename="${value(random)}.csv"` : '';
    const packed = random.chance(0.3);
    const body = packed ? Buffer.from(text).toString('base64') : text;
    return `Content-Type: ${type}${name}${packed ? '\r\nContent-Transfer-Encoding: base64' : ''}\r\n\r\n${body}`;
  };
  return `${fields.join('\r\n')}\r\n${part(0)}\r\n`;
}

export function jsonLines(random: Random): string {
  return random.times(60, () => json(random, random.chance(0.9) ? 3 : 0)).join(random.pick(['\n', '\r\n', '\n\n']));
}

export function xml(random: Random): string {
  const name = () =>
    random.pick(['voyage', 'ship', 'booking', 'a:b', 'Île', 'x', random.chance(0.01) ? '__proto__' : 'toString']);
  const escaped = (text: string) =>
    // biome-ignore lint/suspicious/noControlCharactersInRegex: XML forbids them
    random.chance(0.9998) ? text.replace(/[<&"\0-\x1f\ud800-\udfff]/g, ' ') : text;
  const element = (depth: number): string => {
    const own = name();
    const attributes = [...new Set(random.times(3, name))].map((key) => ` ${key}="${escaped(value(random))}"`).join('');
    if (random.chance(0.1)) return `<${own}${attributes}/>`;
    const inside =
      depth > 4 || random.chance(0.3) ? escaped(value(random)) : random.times(8, () => element(depth + 1)).join('');
    return `<${own}${attributes}>${inside}</${random.chance(0.9998) ? own : name()}>`;
  };
  const deep = random.chance(0.02) ? '<x>'.repeat(random.pick([100, 600, 50_000])) : '';
  return `${random.chance(0.5) ? `<?xml version="1.0" encoding="${random.pick(['utf-8', 'iso-8859-1', 'UTF-8', random.chance(0.1) ? 'odd' : 'utf-8'])}"?>` : ''}${deep}<all>${random.times(30, () => element(0)).join('\n')}</all>`;
}

export function html(random: Random): string {
  const span = (name: string) => (random.chance(0.1) ? ` ${name}=${edgeNumber(random) || 2}` : '');
  const cell = (): string =>
    `<td${span('colspan')}${span('rowspan')}>${random.chance(0.02) ? table() : value(random)}${random.chance(0.5) ? '</td>' : ''}`;
  const row = () => `<tr>${random.times(9, cell).join('')}`;
  const table = (): string =>
    `<table>${random.chance(0.2) ? '<caption>Fares' : ''}${random.times(20, row).join('\n')}</table>`;
  const deep = random.chance(0.02) ? '<table><tr><td>'.repeat(random.pick([10, 1000, 30_000])) : '';
  return `<!doctype html><html><body>${deep}${random.times(4, table).join('<h2>Ports</h2>')}</body>`;
}

/** SQL expressions, most of them whole. */
export function expression(random: Random, depth = 0): string {
  const inner = () => expression(random, depth + 1);
  const leaf = () =>
    random.pick([
      'Port',
      '"Foot"',
      'Cars',
      `'${value(random).replaceAll("'", "''")}'`,
      edgeNumber(random) || '7',
      'null',
      'true',
      "date '2031-02-28'",
    ]);
  if (depth > 4) return leaf();
  const one = random.pick([
    leaf,
    () => `${inner()} ${random.pick(['+', '-', '*', '/', '%', '||', '=', '<>', '<', 'and', 'or'])} ${inner()}`,
    () => `${random.pick(FUNCTIONS).name}(${random.times(4, inner).join(', ')})`,
    () => `case when ${inner()} then ${inner()} else ${inner()} end`,
    () =>
      `cast(${inner()} as ${random.pick(['decimal(12, 2)', 'varchar', 'date', 'integer', 'odd', 'decimal(99999999999'])})`,
    () => `${inner()} ${random.pick(['like', 'not like'])} '${'%a'.repeat(random.pick([1, 3, 40]))}'`,
    () => `${inner()} in (${random.times(5, inner).join(', ')})`,
    () => `${inner()} between ${inner()} and ${inner()}`,
    () => `(${inner()})`,
    () => `not ${inner()}`,
    () => `${'('.repeat(random.pick([1, 50, 3000]))}1`,
  ]);
  return one();
}

/** Regular expressions, also those that try the same again and again. */
export function pattern(random: Random, depth = 0): string {
  const inner = () => pattern(random, depth + 1);
  const repeat = () => random.pick(['*', '+', '?', '{2,}', '{3}', '{1,999}', '*?', '+?', '']);
  if (depth > 4) return random.pick(['a', '.', '\\d', '\\w', '[ab]', '[^a]', '\\s', '😀', '\\p{L}']);
  return random.pick([
    () => `${inner()}${inner()}`,
    () => `(${random.pick(['', '?:', `?<n${random.below(3)}>`, '?=', '?!', '?<='])}${inner()})${repeat()}`,
    () => `${inner()}|${inner()}`,
    () => `^${inner()}$`,
    () => `\\b${inner()}`,
    () => `(${inner()})\\1`,
    () => oddPiece(random),
    () => random.pick(['a', 'b', '\\d', '.', ' ']) + repeat(),
  ])();
}

/** Tables with pipes (GFM 4.10) between other text, some with rows that are too long or too short. */
export function markdown(random: Random): string {
  const width = random.below(6) + 1;
  const row = (count: number) =>
    `| ${Array.from({ length: count }, () => value(random).replaceAll('|', random.chance(0.5) ? '\\|' : '|')).join(' | ')} |`;
  const rule = `|${Array.from({ length: width }, () => random.pick(['---', ':--', '--:', ':-:', '-'])).join('|')}|`;
  const table = () => [
    row(width),
    random.chance(0.95) ? rule : '',
    ...random.times(20, () => row(random.chance(0.9) ? width : random.below(12))),
  ];
  return [`# ${value(random)}`, '', ...table(), '', value(random), ...(random.chance(0.3) ? table() : [])].join('\n');
}
