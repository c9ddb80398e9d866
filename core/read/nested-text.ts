/** YAML (1.2) and INI files as nested values, the way JSON is read. */

import { LineCounter, parseAllDocuments, visit } from 'yaml';
import { grouped } from '../values/counted.ts';
import type { Json } from '../values/json.ts';
import { ReadFailure } from './read-failure.ts';
import { withoutFront } from './text-lines.ts';

/** Anchors may repeat what they stand for, over and over, up to a limit. */
const MAX_ALIASES = 1000;

/** By its name, where it is no JSON, or by its lines. @param head its first lines */
export function isYaml(head: string, file: string): boolean {
  if (/^\s*[[{]/.test(head)) return false;
  return (/\.ya?ml$/i.test(file) && head.trim() !== '') || looksLikeYaml(head);
}

/** Lines of a beginning that look like YAML of lists and maps, by what stands in front of them. */
function looksLikeYaml(head: string): boolean {
  const lines = head.split(/\r?\n/).filter((line) => line.trim() !== '' && !/^\s*#/.test(line));
  // One map has each of its names once: records with the same names one after the other are blocks of lines.
  const names = lines.flatMap((line) => /^([\p{L}_][^:]*):(?: |$)/u.exec(line)?.[1] ?? []);
  if (new Set(names).size < names.length && !lines.some((line) => /^---/.test(line))) return false;
  if (/^---\s*$/.test(lines[0] ?? '') && lines.length > 1) {
    const rest = withoutFront(lines);
    return (
      lines.slice(1, 20).some((line) => YAML_LINE.test(line)) &&
      rest.filter((line) => YAML_LINE.test(line)).length >= rest.length * 0.5
    );
  }
  const some = lines.slice(0, 60);
  const isAll = some.length > 2 && some.every((line) => YAML_LINE.test(line) || /^\s+\S/.test(line));
  // Lists of maps, or maps in maps: names and values alone are blocks of lines.
  return (
    isAll &&
    some.some((line) => /^\s*- \S/.test(line)) &&
    some.some((line) => /^[ -]*[\p{L}_][\w .-]*:(?: |$)/u.test(line))
  );
}

const YAML_LINE = /^[ ]*(?:- )*(?:- ?|["']?[\p{L}_][^:#{}[\],&*!|>%@`]*["']?:(?: .*)?)$|^[ ]*- \S/u;

/** @throws ReadFailure that says where it breaks off */
export function readYaml(text: string, file: string): Json {
  refuseBrackets(text, file);
  const lineCounter = new LineCounter();
  // The library's own words for places go through the text for each error, and damaged files have many.
  const documents = parseAllDocuments(text, { merge: true, prettyErrors: false, lineCounter });
  const list = Array.isArray(documents) ? documents : [];
  for (const document of list) {
    const [error] = document.errors;
    if (error === undefined) continue;
    const at = lineCounter.linePos(error.pos[0]);
    const what = error.message.split('\n')[0]!.replace(/[.:]$/, '');
    throw new ReadFailure(file, `${file} is not valid YAML (line ${at.line}, character ${at.col}): ${what}.`);
  }
  try {
    const values = list.map((document) => {
      visit(document, {
        Scalar: (_, node) => {
          // A number that would be written otherwise loses something: zeros in front, say.
          if (typeof node.value === 'number' && node.source !== undefined && String(node.value) !== node.source)
            node.value = node.source;
        },
      });
      return document.toJS({ maxAliasCount: MAX_ALIASES }) as Json;
    });
    return values.length === 1 ? values[0]! : values;
  } catch (error) {
    throw new ReadFailure(file, `${file} cannot be read as YAML: ${(error as Error).message.replace(/\.$/, '')}.`);
  }
}

/** Brackets in one line: the library takes the longer over each the more there are. */
const MAX_BRACKETS = 2000;

function refuseBrackets(text: string, file: string): void {
  const line = text
    .split('\n')
    .findIndex((one) => one.length > MAX_BRACKETS && (one.match(/[[{]/g)?.length ?? 0) > MAX_BRACKETS);
  if (line >= 0)
    throw new ReadFailure(
      file,
      `Line ${line + 1} of ${file} has more than ${grouped(MAX_BRACKETS)} brackets, which is more than is read as YAML. Save it as JSON, and give that.`,
    );
}

const SECTION = /^\s*\[\s*([^\][]+?)\s*\]\s*(?:[;#].*)?$/;
const SETTING = /^\s*([^=:[\];#\s][^=:]*?)\s*[=:]\s*(.*?)\s*$/;

/** Sections in brackets, with names and values under them. */
export function looksLikeIni(head: string): boolean {
  const lines = head.split(/\r?\n/).filter((line) => line.trim() !== '' && !/^\s*[;#]/.test(line));
  const sections = lines.filter((line) => SECTION.test(line)).length;
  const settings = lines.filter((line) => /=/.test(line) && SETTING.test(line)).length;
  return (
    SECTION.test(lines[0] ?? '') &&
    settings >= 1 &&
    sections + settings >= lines.length * 0.95 &&
    settings > sections * 0.5
  );
}

/** One record for each section, its name in the field `section`; values are texts. */
export function readIni(text: string): Json {
  // Maps, since any word may be a name: objects inherit some.
  const records: Map<string, Json>[] = [];
  for (const line of text.split(/\r?\n/)) {
    if (line.trim() === '' || /^\s*[;#]/.test(line)) continue;
    const section = SECTION.exec(line)?.[1];
    if (section !== undefined) {
      records.push(new Map([['section', section]]));
      continue;
    }
    if (records.length === 0) records.push(new Map());
    const [, name = line.trim(), value = ''] = SETTING.exec(line) ?? [];
    const record = records.at(-1)!;
    const text = value.replace(/^"(.*)"$/, '$1');
    const before = record.get(name);
    // A name that stands again makes a list.
    record.set(name, before === undefined ? text : [...(Array.isArray(before) ? before : [before]), text]);
  }
  return records.map((record) => Object.fromEntries(record));
}
