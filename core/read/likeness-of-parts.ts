/** Whether sheets or files that are to stand one under the other have the same columns, by their headers as guessed. */

import type { Notice } from '../kinds/step.ts';
import { guessHead, type HeadGuess } from '../steps/header/guess-header.ts';
import { plainName } from '../steps/header/meet-by-name.ts';
import type { Column } from '../table/column.ts';
import { columnLetters } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { counted, few } from '../values/counted.ts';
import { monthsAmong } from '../values/month-names.ts';

export interface Stacked {
  name: string;
  rows: number;
  columns: readonly Column[];
}

/** Rows among which the header of another part may stand. */
const MAX_TOP = 12;

interface Head extends HeadGuess {
  plain: string[];
  rows: number;
  /** What the first rows say, cell by cell. */
  top: readonly string[][];
}

function headOf({ rows, columns }: Stacked): Head {
  const head = guessHead({
    rows,
    fields: columns.map((column, k) => ({ name: columnLetters(k), nameOrigin: 'position', column })),
  });
  const top = Array.from({ length: Math.min(rows, MAX_TOP) }, (_, r) =>
    columns.map((column) => plainName(cellText(column, r) ?? '')),
  );
  return { ...head, plain: head.names.map(plainName), rows, top };
}

/** The names of a header stand in a row of the other part, where so few rows are no header by themselves. */
function holdsHeader({ top }: Head, { plain }: Head): boolean {
  const names = plain.filter((name) => name !== '');
  return names.length >= 2 && top.some((row) => names.every((name) => row.includes(name)));
}

/** Names that both have, as a share of the shorter header. */
function shared(a: readonly string[], b: readonly string[]): number {
  const [own, other] = [new Set(a.filter((name) => name !== '')), new Set(b.filter((name) => name !== ''))];
  const both = [...own].filter((name) => other.has(name)).length;
  return both / Math.max(1, Math.min(own.size, other.size));
}

/** A name without the figures and the month in it. */
function withoutPeriod(name: string): string {
  const words = name.split(/[^\p{L}]+/u).filter((word) => word !== '' && !monthsAmong([word])[0]);
  return words.join(' ');
}

function isAlike(a: Head, b: Head): boolean {
  if (holdsHeader(a, b) || holdsHeader(b, a)) return true;
  if (shared(a.plain, b.plain) >= 0.5 || a.rows < 2 || b.rows < 2) return true;
  // Other names over the same kinds of columns: a sheet for each month, say.
  if (a.figured.length !== b.figured.length || !a.figured.includes(true)) return false;
  // Names that nothing joins are those of another table, whatever stands under them.
  const [own, other] = [a.plain.map(withoutPeriod), b.plain.map(withoutPeriod)];
  if (shared(own, other) === 0 && !(own.every((name) => name === '') || other.every((name) => name === '')))
    return false;
  return a.figured.filter((is, k) => is === b.figured[k]).length >= a.figured.length * 0.8;
}

/** Indexes of the parts that have the same kind of table as most of the cells have. */
export function alikeParts(parts: readonly Stacked[]): number[] {
  const heads = parts.map(headOf);
  const groups: number[][] = [];
  heads.forEach((head, k) => {
    const group = groups.find(([first]) => isAlike(heads[first!]!, head));
    if (group === undefined) groups.push([k]);
    else group.push(k);
  });
  const size = (group: readonly number[]) =>
    group.reduce((sum, k) => sum + parts[k]!.rows * parts[k]!.columns.length, 0);
  return groups.toSorted((a, b) => size(b) - size(a))[0] ?? [];
}

/**
 * What a later part has otherwise than the first: columns in another order, missing or more.
 * @param met columns meet by name later on, since the rows say which part they are of
 */
export function unlikeNotices(parts: readonly Stacked[], met: boolean): Notice[] {
  const filled = parts.filter((part) => part.rows > 0);
  const [first, ...others] = filled.map((part) => ({ part, head: headOf(part) }));
  if (first === undefined) return [];
  const told: Notice[] = [];
  const besides: string[] = [];
  for (const { part, head } of others) {
    const said = difference(first.head.plain, head.plain, head.names, first.head.names);
    if (said === undefined) continue;
    if (told.length === MAX_TOLD) {
      besides.push(part.name);
      continue;
    }
    const text = isAlike(first.head, head)
      ? `${part.name} has ${said} than ${first.part.name}${met ? '' : ', and columns are stacked by their place'}`
      : `${part.name} differs from ${first.part.name}: read it as a separate table`;
    told.push({ severity: 'warning', text });
  }
  if (besides.length > 0)
    told.push({
      severity: 'warning',
      text: `${counted(besides.length, 'other part')} not like ${first.part.name} either: ${few(besides)}`,
    });
  return told;
}

/** Parts that are reported one by one. */
const MAX_TOLD = 5;

function difference(
  first: readonly string[],
  other: readonly string[],
  names: readonly string[],
  firstNames: readonly string[],
): string | undefined {
  const [a, b] = [first.filter((name) => name !== ''), other.filter((name) => name !== '')];
  if (a.length === b.length && a.every((name, k) => name === b[k])) return undefined;
  const more = names.filter((_, k) => other[k] !== '' && !first.includes(other[k]!));
  const fewer = firstNames.filter((_, k) => first[k] !== '' && !other.includes(first[k]!));
  const pieces: string[] = [];
  if (fewer.length > 0) pieces.push(`no ${few(fewer)}`);
  if (more.length > 0) pieces.push(`also ${few(more)}`);
  return pieces.length === 0 ? 'its columns in another order' : `other columns (${pieces.join(', ')})`;
}
