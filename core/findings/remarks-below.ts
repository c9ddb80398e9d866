import { CellKind, type ColumnProfile, isFilled, type TableProfile, textAt } from '../glance/table-profile.ts';
import type { PlainRule } from '../rules/rules.ts';
import { nameOfLine } from '../steps/shape/fold-rows.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import type { Detector, Proposal } from './finding.ts';

/** Lines below one record at most. */
const MAX_LINES = 4;

/**
 * Lines of one text below the records that they belong to: remarks, or words that found no room. Every record fills a
 * column that these lines leave blank, and the first stands below a record.
 */
export const remarksBelow: Detector = {
  name: 'remarks-below',
  find({ profile, raw, within }) {
    if (!isPositioned(raw) || profile.rows < 4) return [];
    const found = textColumn(profile);
    if (found === undefined) return [];
    const { lead, column, lines, notes } = found;
    const below = lines.map((r) => textAt(column, r));
    const names = Array.from({ length: found.most }, (_, k) => nameOfLine(column.name, k + 1));
    // Words that go on begin with a small letter, and stand where the record has its own.
    const small = below.filter((text) => /^\p{Ll}/u.test(text)).length;
    const goesOn =
      isOfWords(profile, found) ||
      (small >= lines.length * 0.7 &&
        (areFull(column, profile.rows, lines) || (small === lines.length && isBrokenOff(profile, found))));
    const joined = goesOn ? [column.name, ...names] : names;
    const taken = profile.table.fields.map(({ name }) => name);
    const into = goesOn ? column.name : taken.includes('Remark') ? `${column.name} below` : 'Remark';
    const why = `${counted(lines.length, 'line')} with one text below a record, as '${below[0]!.slice(0, 40)}'`;
    const text: PlainRule = { test: 'filled', columns: { by: 'names', names: [column.name] } };
    const notesBelow: Proposal = {
      kind: 'set-aside',
      params: { pile: 'notes', rules: [{ test: 'below-last', row: text }] },
      why: `${counted(notes, 'line')} below the last record`,
    };
    const steps: Proposal[] = [
      ...(notes > 0 ? [notesBelow] : []),
      { kind: 'fold-rows', params: { first: { test: 'filled', columns: { by: 'names', names: [lead.name] } } }, why },
      joined.length === 1
        ? { kind: 'rename', params: { names: [{ from: joined[0]!, to: into }] }, why: 'text of the lines' }
        : {
            kind: 'join-text',
            params: { columns: { by: 'names', names: joined }, with: ' ', into, keep: false },
            why: goesOn ? `they go on with what ${column.name} says` : 'the lines of a record are one text',
          },
    ];
    return within === undefined
      ? [
          {
            steps,
            weight: goesOn ? 2.6 : 1.6,
            doubt: { code: 'lines-above-or-below' },
            gives: 'lines joined to the record above',
          },
          { steps: [], weight: 0, gives: 'lines as separate rows' },
        ]
      : [];
  },
};

/** Share of the records whose text has several words. */
const MOSTLY_WORDS = 0.8;

/** Records say several words in the column, as entries of an account do: what stands below goes on with them. */
function isOfWords(profile: TableProfile, { column, lines }: Found): boolean {
  const below = new Set(lines);
  const texts = Array.from({ length: profile.rows }, (_, r) => (below.has(r) ? '' : textAt(column, r))).filter(
    (text) => text !== '',
  );
  const several = texts.filter((text) => /\p{L}\s+\S/u.test(text));
  return several.length >= texts.length * MOSTLY_WORDS && new Set(texts).size > texts.length / 2;
}

/** The lines stand below texts of several words that no other record has: those are not whole without them. */
function isBrokenOff(profile: TableProfile, { column, lines }: Found): boolean {
  const below = new Set(lines);
  const above = new Set(lines.filter((r) => !below.has(r - 1)).map((r) => textAt(column, r - 1)));
  for (const text of above) if (!/\S\s+\S/.test(text) || /[.!?]$/.test(text)) return false;
  for (let r = 0; r < profile.rows; r++)
    if (!below.has(r) && !below.has(r + 1) && above.has(textAt(column, r))) return false;
  return true;
}

/** Letters of a text that may have found no room in its cell. */
const MIN_FULL = 18;

/** The texts above the lines are long, and longer than others: they broke off. */
function areFull(column: ColumnProfile, rows: number, lines: readonly number[]): boolean {
  const own = new Set(lines);
  const [full, rest]: [number[], number[]] = [[], []];
  for (let r = 0; r < rows; r++) {
    if (own.has(r) || textAt(column, r) === '') continue;
    (own.has(r + 1) ? full : rest).push(textAt(column, r).length);
  }
  const mean = (lengths: readonly number[]) => lengths.reduce((sum, one) => sum + one, 0) / Math.max(1, lengths.length);
  return mean(full) >= MIN_FULL && mean(full) > mean(rest);
}

/** How many of the rows that are marked stand one behind the other at most. */
export function mostInARow(rows: Iterable<number>, marked: ReadonlySet<number>): number {
  let [most, count] = [0, 0];
  for (const r of rows) {
    count = marked.has(r) ? count + 1 : 0;
    most = Math.max(most, count);
  }
  return most;
}

interface Found {
  /** Filled by every record, and by no line below one. */
  lead: ColumnProfile;
  /** In which the lines have their text. */
  column: ColumnProfile;
  lines: number[];
  /** Lines below one record. */
  most: number;
  /** Lines below the table that are none of these. */
  notes: number;
}

function textColumn(profile: TableProfile): Found | undefined {
  const filled = Array.from({ length: profile.rows }, (_, r) => r).filter((r) => profile.filled[r]! > 0);
  const alone = filled.filter((r) => profile.filled[r] === 1 && profile.figures[r] === 0);
  if (alone.length < 2 || alone[0] === filled[0]) return undefined;
  const column = profile.columns.find((one) => isFilled(one, alone[0]!));
  if (column === undefined) return undefined;
  // What stands elsewhere behind the last record is a note below the table.
  const last = filled.findLast((r) => profile.filled[r]! > 1) ?? 0;
  const lines = alone.filter((r) => r < last || isFilled(column, r));
  // The number of a page has no letters.
  const isText = (r: number) => column.kinds[r] === CellKind.text && /\p{L}/u.test(textAt(column, r));
  if (lines.length < 2 || !lines.every(isText)) return undefined;
  const own = new Set(alone);
  const records = filled.filter((r) => !own.has(r));
  // Behind texts that all records have and that are not in front, a column of figures may lead just as well.
  const isInside = column.index > (profile.columns.find((one) => records.some((r) => isFilled(one, r)))?.index ?? 0);
  const isFull = isInside && records.every((r) => isFilled(column, r));
  const lead = profile.columns.find(
    (one) =>
      (one.index < column.index || isFull) &&
      one !== column &&
      records.every((r) => isFilled(one, r)) &&
      lines.every((r) => !isFilled(one, r)),
  );
  if (lead === undefined || records.length < 3) return undefined;
  const most = mostInARow(filled, own);
  // Labels name several rows each; lines that follow nearly every record are records of two rows.
  return most > MAX_LINES ? undefined : { lead, column, lines, most, notes: alone.length - lines.length };
}
