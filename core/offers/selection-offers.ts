import { shown } from '../kinds/sentence.ts';
import { templateOfPieces } from '../read/line-pieces.ts';
import { cutText } from '../steps/split/cutting.ts';
import { type Column, columnLength, hasValue } from '../table/column.ts';
import type { Field, Table } from '../table/table.ts';
import { cellText, sampleTexts } from '../values/cell-text.ts';
import { type Offer, only } from './offer.ts';

const SAMPLE = 2000;
/** A split into more columns than these is a split into rows. */
const MAX_PIECES = 24;

/** What can be done with columns. Steps whose blanks depend on the data leave their params to the step's own guess. */
export function columnOffers(table: Table, names: readonly string[]): Offer[] {
  const fields = names.flatMap((name) => table.fields.find((field) => field.name === name) ?? []);
  if (fields.length === 0) return [];
  const guess = (kind: string, label: string): Offer => ({ label, kind, params: {} });
  const [first] = fields;
  const alone = fields.length === 1;
  const textual = fields.some((field) => field.column.type === 'text' || field.column.type === 'received');
  const counted = fields.some((field) => field.column.type === 'number' || field.column.type === 'whole');
  const offers: Offer[] = [];
  // Columns named by years, months or quarters are values that stand in the header.
  const periods = !alone && names.every((name) => PERIOD.test(name));
  const drop: Offer = { label: 'Drop', kind: 'drop-columns', params: { columns: only(...names) } };
  const delimiter = alone && textual ? commonDelimiter(first!.column) : undefined;
  if (periods) offers.push(guess('unpivot', 'Unpivot'));
  if (delimiter !== undefined) offers.push(...splitOffers(first!, delimiter));
  offers.push(guess('set-types', 'Set type'), guess('rename', 'Rename'), drop);
  if (!periods) offers.push(guess('unpivot', 'Unpivot'));
  if (fields.some((field) => hasBlanks(field.column)))
    offers.push({ label: 'Fill down', kind: 'fill', params: { columns: only(...names), direction: 'down' } });
  if (alone) offers.push(guess('carry', 'Carry down'));
  offers.push({ label: 'Keep only', kind: 'keep-columns', params: { columns: only(...names) } });
  for (const pile of ['totals', 'notes', 'blanks'])
    offers.push({
      label: `Set aside as ${pile}`,
      kind: 'set-aside-columns',
      params: { pile, columns: only(...names) },
    });
  if (table.fields.at(-1) !== fields.at(-1))
    offers.push({
      label: 'Move to the end',
      kind: 'move-columns',
      params: { columns: only(...names), to: 'last', column: '' },
    });
  offers.push({
    label: 'Sort',
    kind: 'sort',
    params: { keys: names.map((column) => ({ column, descending: false })), order: 'natural' },
  });
  if (textual) offers.push(guess('clean-text', 'Clean'), guess('replace', 'Replace'));
  if (counted) offers.push(guess('round', 'Round'));
  if (alone && (first!.column.type === 'date' || first!.column.type === 'datetime'))
    offers.push(guess('date-parts', 'Date parts'));
  offers.push(guess('group', 'Group by'), guess('recode', 'Recode'));
  if (names.length <= 2)
    offers.push({ label: 'Count', kind: 'count', params: { columns: [...names], share: 'whole' } });
  return offers;
}

const PERIOD = /\b(?:19|20)\d\d\b|^Q[1-4]\b|^(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)/i;

/** What can be done with one cell. */
export function cellOffers(table: Table, row: number, column: string): Offer[] {
  const field = table.fields.find((one) => one.name === column);
  if (field === undefined || row >= table.rows) return [];
  const text = cellText(field.column, row);
  if (text === null) {
    const blanks = only(column);
    return [
      { label: 'Fill down', kind: 'fill', params: { columns: blanks, direction: 'down' } },
      { label: 'Fill up', kind: 'fill', params: { columns: blanks, direction: 'up' } },
      { label: 'Fill with 0', kind: 'fill-blanks', params: { columns: blanks, with: '0' } },
      {
        label: `Set aside rows where ${column} is blank`,
        kind: 'set-aside',
        params: { pile: 'others', rules: [{ test: 'blank', columns: blanks }] },
      },
      {
        label: 'Close gaps',
        kind: 'close-gaps',
        params: { columns: { by: 'all' }, direction: 'left', rules: [{ test: 'blank', columns: blanks }] },
      },
    ];
  }
  const equals = { test: 'equals', column, text, exact: true };
  const offers: Offer[] = [
    { label: 'Keep rows like this', kind: 'keep-rows', params: { rules: [equals] } },
    { label: 'Set aside', kind: 'set-aside', params: { pile: 'others', rules: [equals] } },
    {
      label: 'Replace',
      kind: 'replace',
      params: { columns: only(column), find: text, with: '', how: 'whole', exact: true },
    },
    { label: 'Means blank', kind: 'blank-texts', params: { columns: only(column), texts: [text] } },
    {
      label: 'Recode',
      kind: 'recode',
      params: { column, crosswalk: [{ from: text, to: '' }], unmatched: 'keep', into: null },
    },
  ];
  const delimiter = commonDelimiter(field.column);
  if (delimiter !== undefined && text.includes(delimiter)) offers.splice(2, 0, ...splitOffers(field, delimiter));
  const within = table.fields.find((one) => one.nameOrigin === 'beside')?.name;
  const positional = table.fields.some((one) => one.nameOrigin === 'position');
  if (positional) {
    offers.unshift({
      label: 'Header from this row',
      kind: 'header-from-rows',
      params: {
        rows: 1,
        at: equals,
        join: ' / ',
        fillAcross: true,
        above: true,
        repeats: true,
        ...(within === undefined ? {} : { within }),
      },
    });
  }
  return offers;
}

/** What can be done with a stretch of text in a cell. */
export function stretchOffers(table: Table, row: number, column: string, from: number, to: number): Offer[] {
  const field = table.fields.find((one) => one.name === column);
  const text = field === undefined ? null : cellText(field.column, row);
  if (field === undefined || text === null || from >= to) return [];
  const stretch = text.slice(from, to);
  if (!/[\p{L}\p{N}]/u.test(stretch)) {
    return [
      ...splitOffers(field, stretch),
      {
        label: `Take out '${stretch}'`,
        kind: 'replace',
        params: { columns: only(column), find: stretch, with: '', how: 'part', exact: true },
      },
    ];
  }
  const sample = sampleTexts(field.column, SAMPLE);
  const piece = { from, to, name: pieceName(column, table) };
  const template = templateOfPieces(text, [piece], sample);
  const contains = { test: 'contains', column, text: stretch, exact: true };
  const offers: Offer[] = [
    {
      label: `Extract by ${template}`,
      kind: 'extract',
      params: { column, by: 'template', template },
    },
    {
      label: from === 0 ? `First ${to} characters` : `Characters ${from + 1} to ${to}`,
      kind: 'extract',
      params: { column, by: 'position', end: 'start', skip: from, take: to - from, into: piece.name },
    },
  ];
  if (to === text.length && from > 0) {
    offers.push({
      label: `Last ${to - from} characters`,
      kind: 'extract',
      params: { column, by: 'position', end: 'end', skip: 0, take: to - from, into: piece.name },
    });
  }
  offers.push(
    { label: `Keep rows with '${stretch}'`, kind: 'keep-rows', params: { rules: [contains] } },
    { label: `Set aside rows with '${stretch}'`, kind: 'set-aside', params: { pile: 'others', rules: [contains] } },
    {
      label: `Replace '${stretch}'`,
      kind: 'replace',
      params: { columns: only(column), find: stretch, with: '', how: 'part', exact: true },
    },
  );
  return offers;
}

function splitOffers(field: Field, delimiter: string): Offer[] {
  const cut = { by: 'delimiter' as const, delimiters: [delimiter], which: 'every' as const, positions: [], trim: true };
  const counts = sampleTexts(field.column, SAMPLE).map((text) => cutText(text, cut).length);
  const most = counts.reduce((a, b) => Math.max(a, b), 1);
  const sign = shown(delimiter);
  const offers: Offer[] = [];
  if (most > 1 && most <= MAX_PIECES) {
    offers.push({
      label: `Split at ${sign} into ${most} columns`,
      kind: 'split-to-columns',
      params: {
        column: field.name,
        cut,
        into: Array.from({ length: most }, (_, k) => `${field.name} ${k + 1}`),
        keep: false,
      },
    });
  }
  offers.push({
    label: `Split at ${sign} into rows`,
    kind: 'split-to-rows',
    params: { columns: [field.name], cut, numbering: null },
  });
  // Uneven lists want rows, even pieces want columns.
  return new Set(counts).size > 2 ? offers.reverse() : offers;
}

/** A sign that divides most cells of a column, if there is one. */
function commonDelimiter(column: Column): string | undefined {
  const texts = sampleTexts(column, SAMPLE);
  return [' | ', '|', '; ', ';', ' / ', '/', ', ', ' - ', ',', '\t'].find(
    (sign) => texts.length > 0 && texts.filter((text) => text.includes(sign)).length >= texts.length * 0.6,
  );
}

function hasBlanks(column: Column): boolean {
  const n = columnLength(column);
  const stride = Math.max(1, Math.floor(n / SAMPLE));
  for (let r = 0; r < n; r += stride) if (!hasValue(column, r)) return true;
  return false;
}

function pieceName(column: string, table: Table): string {
  const taken = new Set(table.fields.map((field) => field.name));
  const wanted = `${column} piece`;
  let name = wanted;
  for (let n = 2; taken.has(name); n++) name = `${wanted} ${n}`;
  return name;
}
