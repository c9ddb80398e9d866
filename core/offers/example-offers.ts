/** Steps that make a cell read as it should: a person typed over one, and the rest of the column follows. */
import { fittingPatterns, type PatternedType } from '../steps/cells/type-patterns.ts';
import { tableAfter } from '../steps/try-steps.ts';
import { takeRows } from '../table/gather.ts';
import type { Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { grouped } from '../values/counted.ts';
import { escapeRegExp } from '../values/text.ts';
import { type Offer, only } from './offer.ts';

/** Rows on which a step is tried. */
const MAX_ROWS = 4000;
const MAX_OFFERS = 5;
const SIGN = /[^\p{L}\p{N}]+/u;

interface Way extends Offer {
  /** The plainer of two that do the same stands first. */
  plainness: number;
}

/**
 * Steps after which a cell reads as it should, the likeliest first: those under which the other cells of the column look
 * like it too.
 *
 * @param wanted what the cell should read, blank for nothing
 */
export function exampleOffers(table: Table, row: number, column: string, wanted: string): Offer[] {
  const index = table.fields.findIndex((field) => field.name === column);
  if (index < 0 || row >= table.rows) return [];
  const text = cellText(table.fields[index]!.column, row);
  if ((text ?? '') === wanted) return [];
  const { sample, at } = sampleWith(table, row);
  const before = textsOf(sample, index);
  const tried = waysFor(table, column, text, wanted).flatMap((way) => {
    const after = tryOut(sample, index, column, way);
    if (after === undefined || (after[at] ?? '') !== wanted) return [];
    return [{ way, score: scoreOf(before, after, wanted), after }];
  });
  const seen = new Set<string>();
  return tried
    .sort((a, b) => b.score - a.score || b.way.plainness - a.way.plainness)
    .filter(({ way, after }) => {
      // Of several ways to the same column the plainest is enough; recoding one cell is another thing.
      const key = `${way.kind === 'replace'}${after.join('\u0001')}`;
      if (seen.has(key)) return false;
      seen.add(key);
      return true;
    })
    .slice(0, MAX_OFFERS)
    .map(({ way: { plainness: _, ...offer }, after }) => ({
      ...offer,
      outcome: outcomeOf(before, after, sample.rows < table.rows),
    }));
}

function waysFor(table: Table, column: string, text: string | null, wanted: string): Way[] {
  if (text === null) return forBlank(column, wanted);
  if (wanted === '')
    return [
      {
        label: `‘${text}’ means blank`,
        kind: 'blank-texts',
        params: { columns: only(column), texts: [text] },
        plainness: 5,
      },
    ];
  return [
    ...cleanings(column),
    ...typings(table, column),
    ...stretches(column, text, wanted),
    ...frames(column, text, wanted),
    ...parts(column, text, wanted),
  ];
}

/** A blank is filled from its neighbours, or everywhere alike. */
function forBlank(column: string, wanted: string): Way[] {
  const params = (direction: string) => ({ columns: only(column), direction });
  return [
    { label: 'Fill down', kind: 'fill', params: params('down'), plainness: 5 },
    { label: 'Fill up', kind: 'fill', params: params('up'), plainness: 4 },
    {
      label: `Fill blanks with ${wanted}`,
      kind: 'fill-blanks',
      params: { columns: only(column), with: wanted },
      plainness: 3,
    },
  ];
}

function cleanings(column: string): Way[] {
  const clean = (label: string, more: Record<string, unknown>, plainness: number): Way => ({
    label,
    kind: 'clean-text',
    params: { columns: only(column), ...more },
    plainness,
  });
  return [
    clean('Clean the spaces', {}, 9),
    clean('Capital at each word', { letters: 'title' }, 8),
    clean('Capital at the start', { letters: 'sentence' }, 8),
    clean('All capitals', { letters: 'upper' }, 8),
    clean('All small letters', { letters: 'lower' }, 8),
    clean('Only the digits', { leaveOut: ['letters', 'punctuation', 'blanks'] }, 6),
    clean('Without the digits', { leaveOut: ['digits'] }, 6),
    clean('Without letters', { leaveOut: ['letters'] }, 5),
    clean('Without punctuation', { leaveOut: ['punctuation'] }, 6),
    clean('Without blanks', { leaveOut: ['blanks'] }, 6),
  ];
}

/** What the cell reads as once it has a type: a date, a number. */
function typings(table: Table, column: string): Way[] {
  const types: Way[] = [];
  const add = (label: string, set: Record<string, unknown>) =>
    types.push({
      label,
      kind: 'set-types',
      params: { types: [{ columns: only(column), ...set }] },
      plainness: 7,
    });
  for (const type of ['date', 'datetime', 'time'] as const satisfies readonly PatternedType[])
    for (const { pattern } of fittingPatterns(table, [column], type).slice(0, 4))
      add(`Read as a ${type}, ${pattern}`, { type, patterns: [pattern] });
  for (const type of ['whole', 'number'] as const)
    for (const decimal of ['.', ','] as const)
      add(`Read as a ${type === 'whole' ? 'whole number' : 'number'}${decimal === ',' ? ', decimal comma' : ''}`, {
        type,
        number: { decimal, grouping: 'any' },
      });
  return types;
}

const inPlace = (column: string, label: string, find: string, put: string, plainness: number): Way => ({
  label,
  kind: 'replace',
  params: { columns: only(column), find, with: put, how: 'pattern', exact: true },
  plainness,
});

/** The wanted text stands in the cell: the text around it is left out. */
function stretches(column: string, text: string, wanted: string): Way[] {
  const ways: Way[] = [];
  for (let at = text.indexOf(wanted); at >= 0; at = text.indexOf(wanted, at + 1)) {
    const [left, right] = [text.slice(0, at), text.slice(at + wanted.length)];
    for (const begin of edges(left, 'left'))
      for (const end of edges(right, 'right')) {
        if (begin.said === '' && end.said === '') continue;
        const said = begin.said !== '' && end.said !== '' ? `${begin.said}, ${end.said}` : begin.said + end.said;
        ways.push(
          inPlace(
            column,
            `Only ${said}`,
            `^${begin.pattern}(.*?)${end.pattern}$`,
            '$1',
            begin.plainness + end.plainness,
          ),
        );
      }
    if (ways.length > 60) break;
  }
  // A run of digits or letters is known by what it is.
  for (const [name, pattern] of [
    ['number', '\\d+'],
    ['number', '\\d+[.,]\\d+'],
    ['word', '\\p{L}+'],
    ['code', '[\\p{L}\\p{N}]+'],
  ] as const) {
    const found = [...text.matchAll(new RegExp(pattern, 'gu'))].map(([one]) => one);
    const which = found.indexOf(wanted);
    if (which === 0) ways.push(inPlace(column, `Only the first ${name}`, `^.*?(${pattern}).*$`, '$1', 5));
    else if (which === found.length - 1 && which > 0)
      ways.push(inPlace(column, `Only the last ${name}`, `^.*?(${pattern})(?!.*?${pattern}).*$`, '$1', 4));
  }
  return ways;
}

interface Edge {
  pattern: string;
  said: string;
  plainness: number;
}

/** What stands left or right of the wanted text, as patterns that other cells may follow. */
function edges(rest: string, side: 'left' | 'right'): Edge[] {
  if (rest === '') return [{ pattern: '', said: '', plainness: 5 }];
  const found: Edge[] = [];
  const left = side === 'left';
  const sign = (left ? new RegExp(`${SIGN.source}$`, 'u') : new RegExp(`^${SIGN.source}`, 'u')).exec(rest)?.[0];
  if (sign !== undefined) {
    const own = escapeRegExp(sign);
    const once = rest.split(sign).length === 2;
    if (left) {
      if (once) found.push({ pattern: `.*?${own}`, said: `behind ‘${sign}’`, plainness: 4 });
      found.push({ pattern: `.*${own}`, said: `behind the last ‘${sign}’`, plainness: 3 });
    } else {
      found.push({ pattern: `${own}.*`, said: `before ‘${sign}’`, plainness: 4 });
    }
  }
  found.push({
    pattern: `.{${rest.length}}`,
    said: `${left ? 'behind the first' : 'before the last'} ${rest.length === 1 ? 'character' : `${rest.length} characters`}`,
    plainness: 2,
  });
  found.push({
    pattern: escapeRegExp(rest),
    said: `${left ? 'behind' : 'before'} ‘${rest}’`,
    plainness: 1,
  });
  return found;
}

/** Something is put before or behind. */
function frames(column: string, text: string, wanted: string): Way[] {
  const at = wanted.indexOf(text);
  if (at < 0 || text === '') return [];
  const [before, behind] = [wanted.slice(0, at), wanted.slice(at + text.length)];
  const safe = (one: string) => one.replaceAll('$', '$$$$');
  const said = [before === '' ? '' : `‘${before}’ before`, behind === '' ? '' : `‘${behind}’ behind`];
  return [
    inPlace(
      column,
      `Put ${said.filter((one) => one !== '').join(' and ')} each`,
      '^(.+)$',
      `${safe(before)}$1${safe(behind)}`,
      4,
    ),
  ];
}

/** A part of the text, or the whole cell, is said otherwise. */
function parts(column: string, text: string, wanted: string): Way[] {
  let front = 0;
  while (front < Math.min(text.length, wanted.length) && text[front] === wanted[front]) front++;
  let back = 0;
  while (
    back < Math.min(text.length, wanted.length) - front &&
    text[text.length - 1 - back] === wanted[wanted.length - 1 - back]
  )
    back++;
  const [was, is] = [text.slice(front, text.length - back), wanted.slice(front, wanted.length - back)];
  const ways: Way[] = [
    {
      label: `‘${text}’ becomes ‘${wanted}’ in whole cells`,
      kind: 'replace',
      params: { columns: only(column), find: text, with: wanted, how: 'whole', exact: true },
      plainness: 2,
    },
  ];
  if (was !== '' && was !== text)
    ways.push({
      label: is === '' ? `Take out ‘${was}’` : `‘${was}’ becomes ‘${is}’`,
      kind: 'replace',
      params: { columns: only(column), find: was, with: is, how: 'part', exact: true },
      plainness: 3,
    });
  return ways;
}

/** The column after a step; undefined where the step does not run or changes the rows. */
function tryOut(table: Table, index: number, column: string, way: Offer): (string | null)[] | undefined {
  const after = tableAfter(table, [way]);
  return after?.fields[index]?.name === column && after.rows === table.rows ? textsOf(after, index) : undefined;
}

function textsOf(table: Table, index: number): (string | null)[] {
  const { column } = table.fields[index]!;
  return Array.from({ length: table.rows }, (_, r) => cellText(column, r));
}

/** The first rows, and the one that was typed over. */
function sampleWith(table: Table, row: number): { sample: Table; at: number } {
  if (table.rows <= MAX_ROWS) return { sample: table, at: row };
  const from = Math.max(0, Math.min(table.rows - MAX_ROWS, row - MAX_ROWS / 2));
  const rows = Int32Array.from({ length: MAX_ROWS }, (_, k) => from + k);
  return { sample: takeRows(table, rows), at: row - from };
}

/** What a text looks like: letters, digits and signs by kind, runs as one. */
function shapeOf(text: string): string {
  return text
    .replace(/\p{Lu}/gu, 'A')
    .replace(/\p{Ll}/gu, 'a')
    .replace(/\p{N}/gu, '9')
    .replace(/(.)\1+/g, '$1');
}

/** Share of the filled cells that look like the wanted one afterwards; cells that are lost count against it. */
function scoreOf(before: readonly (string | null)[], after: readonly (string | null)[], wanted: string): number {
  const shape = shapeOf(wanted);
  let [filled, alike, lost] = [0, 0, 0];
  before.forEach((text, r) => {
    if (text === null && after[r] === null) return;
    filled++;
    if (after[r] === null) lost++;
    else if (shapeOf(after[r]!) === shape) alike++;
  });
  return filled === 0 ? 0 : Math.round((20 * (alike - 2 * lost)) / filled);
}

function outcomeOf(before: readonly (string | null)[], after: readonly (string | null)[], isSample: boolean): string {
  const filled = before.filter((text, r) => text !== null || after[r] !== null).length;
  const changed = before.filter((text, r) => text !== after[r]).length;
  const blank = before.filter((text, r) => text !== null && after[r] === null).length;
  const of = `${grouped(changed)} of ${grouped(filled)} cells${isSample ? ' looked at' : ''}`;
  return blank === 0 ? of : `${of}, ${grouped(blank)} become blank`;
}
