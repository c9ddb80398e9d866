/** JSON (RFC 8259), newline-delimited JSON, XML, YAML and INI out of bytes. */

import type { Notice } from '../kinds/step.ts';
import { decoderOf } from '../table/decoder.ts';
import { counted, few, grouped } from '../values/counted.ts';
import { isObject, type Json } from '../values/json.ts';
import { keepsDigits } from '../values/number-text.ts';
import { brokenNotices, declaredInXml, decodeSource } from './encoding.ts';
import { KeptNumbers } from './kept-numbers.ts';
import { isYaml, looksLikeIni, readIni, readYaml } from './nested-text.ts';
import { ReadFailure } from './read-failure.ts';
import type { Source } from './read-kind.ts';
import { readXml } from './xml-source.ts';

/** Characters that tell what a text is. */
const HEAD = 4096;

export interface NestedSource {
  /** For one value a line the list of them. */
  root: Json;
  notices: Notice[];
}

/**
 * @param badLines what becomes of lines of newline-delimited JSON that cannot be read
 * @throws ReadFailure that says where the text breaks off
 */
export function readJson(source: Source, badLines: 'stop' | 'skip'): NestedSource {
  const encoded = decodeSource(source.bytes, declaredInXml(source.bytes), source.name);
  const text = decoderOf(encoded.now).decode(encoded.bytes);
  const notices = brokenNotices(encoded);
  if (/^\s*</.test(text)) return { root: readXml(text, source.name), notices };
  if (looksLikeIni(text.slice(0, HEAD))) return { root: readIni(text), notices };
  if (isYaml(text.slice(0, HEAD), source.name)) return { root: readYaml(text, source.name), notices };
  if (text.trim() === '') throw new ReadFailure(source.name, `${source.name} is empty.`);
  const keys = countedKeys(text, source.name);
  const { text: exact, kept } = withExactNumbers(text);
  notices.push(...kept.notices());
  const whole = tryParse(exact);
  if (whole.value !== undefined)
    return { root: whole.value, notices: [...notices, ...repeatedKeys(text, whole.value, keys)] };
  const lines = exact.split('\n');
  const first = lines.findIndex((line) => line.trim() !== '');
  if (tryParse(lines[first]!).value === undefined || lines.length === 1)
    throw new ReadFailure(source.name, `${source.name} is not valid JSON: ${whole.trouble}.`);
  const read = jsonLines(source, lines, badLines);
  const inBad = read.bad.reduce((sum, line) => sum + countedKeys(lines[line - 1]!, source.name), 0);
  return {
    root: read.root,
    notices: [...notices, ...read.notices, ...repeatedKeys(text, read.root, keys - inBad)],
  };
}

function jsonLines(source: Source, lines: readonly string[], badLines: 'stop' | 'skip') {
  const items: Json[] = [];
  const bad: number[] = [];
  lines.forEach((line, k) => {
    if (line.trim() === '') return;
    const { value, trouble } = tryParse(line);
    if (value !== undefined) items.push(value);
    else if (badLines === 'skip') bad.push(k + 1);
    else throw badLine(source.name, k + 1, trouble);
  });
  return { root: items, notices: badNotices(bad), bad };
}

export function badNotices(bad: readonly number[]): Notice[] {
  if (bad.length === 0) return [];
  const lines = few(bad.map((line) => `line ${line}`));
  return [{ severity: 'warning', text: `${counted(bad.length, 'line')} left out as no JSON: ${lines}` }];
}

/** A line that is no JSON. */
export function badLine(file: string, line: number, trouble: string | undefined): ReadFailure {
  return new ReadFailure(
    file,
    `Line ${line} of ${file} is no JSON: ${trouble}. Correct it, or choose to leave such lines out.`,
  );
}

/**
 * Whole numbers past 2^53, and numbers that a double does not reach, put in quotes, so that no digit is lost (RFC 8259,
 * 6: software may keep them as doubles).
 * @returns the text itself where there are none
 */
export function withExactNumbers(text: string): { text: string; kept: KeptNumbers } {
  const kept = new KeptNumbers();
  if (!/\d[\d.]{15}|[eE][-+]?\d{3}/.test(text)) return { text, kept };
  let out = '';
  let from = 0;
  for (let k = 0; k < text.length; k++) {
    const code = text.charCodeAt(k);
    if (code === 34) {
      for (k++; k < text.length && text.charCodeAt(k) !== 34; k++) if (text.charCodeAt(k) === 92) k++;
      continue;
    }
    if (code !== 45 && (code < 48 || code > 57)) continue;
    const start = k;
    while (k < text.length && /[-+.\deE]/.test(text[k]!)) k++;
    const number = text.slice(start, k);
    k--;
    if (isExact(number)) continue;
    out += `${text.slice(from, start)}"${number}"`;
    from = k + 1;
    kept.add(number);
  }
  return { text: out + text.slice(from), kept };
}

export function isExact(number: string): boolean {
  if (!/[eE]/.test(number)) return keepsDigits(number);
  if (Number.isNaN(Number(number))) return true;
  return Number.isFinite(Number(number)) && (Number(number) !== 0 || !/[1-9]/.test(number.split(/[eE]/)[0]!));
}

/** Tells of names that stand twice in one object, where the last one counts (RFC 8259, 4). @param keys of the text */
function repeatedKeys(text: string, root: Json, keys: number): Notice[] {
  const repeated = keys - keysOf(root);
  return repeated <= 0 ? [] : repeatedNotices(repeated, firstRepeated(text));
}

export function repeatedNotices(
  repeated: number,
  { name, line }: { name?: string | undefined; line?: number | undefined },
): Notice[] {
  const first = name === undefined ? '' : `, the first is ${name} on line ${line}`;
  return [
    {
      severity: 'warning',
      text: `${counted(repeated, 'value')} dropped: repeated key, the last value is kept${first}`,
    },
  ];
}

export function keysOf(value: Json): number {
  let count = 0;
  if (Array.isArray(value)) for (const item of value) count += keysOf(item);
  else if (isObject(value)) {
    for (const key in value) {
      count++;
      const one = value[key]!;
      if (typeof one === 'object') count += keysOf(one);
    }
  }
  return count;
}

/** Walks the names of a text that is known to be JSON, line by line or whole. */
export function firstRepeated(text: string): { name?: string; line?: number } {
  const open: Set<string>[] = [];
  let line = 1;
  let last = '';
  for (const [token] of text.matchAll(/"(?:[^"\\]|\\.)*"|[{}:]|\n/g)) {
    if (token === '\n') line++;
    else if (token === '{') open.push(new Set());
    else if (token === '}') open.pop();
    else if (token === ':') {
      const name = String(tryParse(last).value ?? '');
      if (open.at(-1)?.has(name)) return { name, line };
      open.at(-1)?.add(name);
    } else last = token;
  }
  return {};
}

/** Lists and objects inside each other beyond this are no report, and would overrun the stack. */
const DEEPEST = 500;

/** Names of fields in a text, counted by the colons behind them. @throws ReadFailure when it is too deep */
export function countedKeys(text: string, file: string): number {
  let keys = 0;
  let depth = 0;
  let quoted = false;
  for (let k = 0; k < text.length; k++) {
    const code = text.charCodeAt(k);
    if (quoted) {
      if (code === 92) k++;
      else if (code === 34) quoted = false;
    } else if (code === 34) quoted = true;
    else if (code === 58) keys++;
    else if (code === 91 || code === 123) {
      depth++;
      if (depth > DEEPEST)
        throw new ReadFailure(
          file,
          `${file} is nested more than ${DEEPEST} levels deep from character ${grouped(k + 1)} on; no report is. Ask for it in another form.`,
        );
    } else if (code === 93 || code === 125) depth = Math.max(0, depth - 1);
  }
  return keys;
}

export function tryParse(text: string): { value?: Json; trouble?: string } {
  try {
    return { value: JSON.parse(text) as Json };
  } catch (error) {
    if (error instanceof RangeError) return { trouble: 'it is nested too deeply' };
    return { trouble: (error as Error).message.replace(/^JSON\.parse: /, '') };
  }
}
