/** JSON (RFC 8259), newline-delimited JSON and XML out of bytes. */

import { counted, few, type Notice } from '../steps/step.ts';
import { decoderOf } from '../values/decoder.ts';
import type { Json } from '../values/json.ts';
import { brokenNotices, declaredInXml, decodeSource } from './encoding.ts';
import { ReadFailure } from './read-failure.ts';
import type { Source } from './read-kind.ts';
import { readXml } from './xml-source.ts';

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
  if (text.trim() === '') throw new ReadFailure(source.name, `${source.name} holds nothing but blanks.`);
  refuseDepth(text, source.name);
  const { text: exact, kept } = withLongNumbers(text);
  if (kept > 0)
    notices.push({ tone: 'look', text: `${counted(kept, 'number')} of more than 15 digits kept as text, every digit` });
  const whole = tryParse(exact);
  if (whole.value !== undefined) return { root: whole.value, notices };
  const lines = exact.split('\n');
  const first = lines.findIndex((line) => line.trim() !== '');
  if (tryParse(lines[first]!).value === undefined || lines.length === 1)
    throw new ReadFailure(source.name, `${source.name} is no whole JSON: ${whole.trouble}.`);
  const read = jsonLines(source, lines, badLines);
  return { root: read.root, notices: [...notices, ...read.notices] };
}

function jsonLines(source: Source, lines: readonly string[], badLines: 'stop' | 'skip'): NestedSource {
  const items: Json[] = [];
  const bad: number[] = [];
  lines.forEach((line, k) => {
    if (line.trim() === '') return;
    const { value, trouble } = tryParse(line);
    if (value !== undefined) items.push(value);
    else if (badLines === 'skip') bad.push(k + 1);
    else
      throw new ReadFailure(
        source.name,
        `Line ${k + 1} of ${source.name} is no JSON: ${trouble}. Mend it, or choose to leave such lines out.`,
      );
  });
  const notices: Notice[] =
    bad.length === 0
      ? []
      : [
          {
            tone: 'look',
            text: `${counted(bad.length, 'line')} left out as no JSON: ${few(bad.map((line) => `line ${line}`))}`,
          },
        ];
  return { root: items, notices };
}

/**
 * Whole numbers past 2^53 put in quotes, so that no digit is lost (RFC 8259, 6: software may keep them as doubles).
 * @returns the text itself where there are none
 */
function withLongNumbers(text: string): { text: string; kept: number } {
  if (!/\d{16}/.test(text)) return { text, kept: 0 };
  let out = '';
  let from = 0;
  let kept = 0;
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
    if (!/^-?\d{16,}$/.test(number) || Number.isSafeInteger(Number(number))) continue;
    out += `${text.slice(from, start)}"${number}"`;
    from = k + 1;
    kept++;
  }
  return { text: out + text.slice(from), kept };
}

/** Lists and objects inside each other beyond this are no report, and would overrun the stack. */
const DEEPEST = 500;

function refuseDepth(text: string, file: string): void {
  let depth = 0;
  let quoted = false;
  for (let k = 0; k < text.length; k++) {
    const code = text.charCodeAt(k);
    if (quoted) {
      if (code === 92) k++;
      else if (code === 34) quoted = false;
    } else if (code === 34) quoted = true;
    else if (code === 91 || code === 123) {
      depth++;
      if (depth > DEEPEST)
        throw new ReadFailure(
          file,
          `${file} is nested more than ${DEEPEST} levels deep from character ${(k + 1).toLocaleString('en-GB')} on; no report is. Ask for it in another form.`,
        );
    } else if (code === 93 || code === 125) depth = Math.max(0, depth - 1);
  }
}

function tryParse(text: string): { value?: Json; trouble?: string } {
  try {
    return { value: JSON.parse(text) as Json };
  } catch (error) {
    if (error instanceof RangeError) return { trouble: 'it is nested too deeply' };
    return { trouble: (error as Error).message.replace(/^JSON\.parse: /, '') };
  }
}
