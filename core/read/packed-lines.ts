/** Lines that pack their values with several signs, under a line of names that are divided by tabs. */
import { compileTemplate } from '../values/template.ts';

/** Signs between packed values, with the spaces round them. */
const BETWEEN = / (?:[|/;–—-]|->) |; |\t/g;
/** Names that a line must have to be the header, and lines among which it stands. */
const MIN_NAMES = 3;
const MAX_HEAD = 30;
/** Lines that must be packed alike. */
const MIN_PACKED = 4;
/** Share of the lines with signs that the template must match: one that leaves rows out is worse than none. */
const MOSTLY = 0.98;

/** The template of packed lines, named by their header; undefined where the lines are not packed so. */
export function packedTemplate(lines: readonly string[]): string | undefined {
  const at = lines.slice(0, MAX_HEAD).findIndex((line) => line.split('\t').length >= MIN_NAMES);
  if (at < 0) return undefined;
  const names = lines[at]!.split('\t').map((name) => name.trim());
  if (names.some((name) => name === '' || /[{}:]/.test(name)) || new Set(names).size < names.length) return undefined;
  // Lines of totals say less than half of what others do.
  const isPacked = (line: string) => signsOf(line).length > (names.length - 1) / 2;
  const packed = lines.slice(at + 1).filter((line) => line !== lines[at] && isPacked(line));
  if (packed.length < MIN_PACKED || packed.some((line) => line.includes('\t'))) return undefined;
  const counts = new Map<string, number>();
  for (const line of packed) {
    const signs = signsOf(line);
    if (signs.length === names.length - 1) counts.set(signs.join('\n'), (counts.get(signs.join('\n')) ?? 0) + 1);
  }
  const [usual] = [...counts].sort(([, a], [, b]) => b - a);
  if (usual === undefined) return undefined;
  const signs = usual[0].split('\n');
  const template = names.map((name, k) => `{${name}}${signs[k] ?? ''}`).join('');
  const { test } = compileTemplate(template);
  return packed.filter((line) => test(line.trimEnd())).length >= packed.length * MOSTLY ? template : undefined;
}

const signsOf = (line: string): string[] => line.match(BETWEEN) ?? [];
