import { namesRemarks } from '../glance/hint-words.ts';
import { CellKind, type ColumnProfile, distinctTexts, lookAtText, type TableProfile } from '../glance/table-profile.ts';
import { NumberForm } from '../values/number-text.ts';
import { bodyOf } from './body.ts';
import type { Detector, DetectorInput, Proposal } from './finding.ts';

/** Signs between the items of a list in a cell, the plainest first. */
const SIGNS = ['\n', '; ', ';', ' | ', '|', ' / ', ' + ', ' & ', ', ', ',', '/'];
/** Blanks divide items that are no words: times, and codes of letters and digits. */
const BLANKS = ['  ', ' '];
const TIME_OR_CODE = /^(?:\d{1,2}[:.]\d\d|\p{Lu}{1,3}-?\d{1,4})$/u;

/** Lists packed into cells, alone or several in step, and the sums that the report put beside them. */
export const packedLists: Detector = {
  name: 'packed-lists',
  find(input) {
    const { profile } = input;
    if (profile.rows < 2 || input.done.includes('split-to-rows')) return [];
    const lists = profile.columns.flatMap((column) => listOf(profile, column) ?? []);
    if (lists.length === 0) return [];
    const groups: List[][] = [];
    for (const list of lists) {
      const group = groups.find(([first]) => inStep(first!, list));
      if (group === undefined) groups.push([list]);
      else group.push(list);
    }
    const best = groups.sort((a, b) => b.length - a.length || b[0]!.share - a[0]!.share)[0]!;
    const inner = best.length === 1 ? innerOf(best[0]!) : undefined;
    if (best.length === 1 && inner === undefined && !isSureAlone(profile, best[0]!)) return [];
    const names = best.map(({ column }) => column.name);
    const signs = [...new Set(best.map(({ sign }) => sign))];
    const delimiters = signs.length === 1 ? [signs[0]!.trim() || signs[0]!] : signs;
    const shown =
      delimiters[0] === '\n' ? 'line breaks' : delimiters[0]!.trim() === '' ? 'blanks' : `'${delimiters[0]}'`;
    const steps: Proposal[] = [...sumsBeside(input, best)];
    steps.push({
      kind: 'split-to-rows',
      params: {
        columns: names,
        cut: { by: 'delimiter', delimiters, which: 'every', positions: [], trim: true },
        numbering: null,
      },
      why: `${names.join(', ')}: lists${names.length > 1 ? ' of the same length' : ''} in ${Math.round(best[0]!.share * 100)}% of the cells, separated by ${shown}`,
    });
    if (inner !== undefined)
      steps.push({
        kind: 'split-to-columns',
        params: {
          column: names[0],
          cut: { by: 'delimiter', delimiters: [inner.sign], which: 'every', positions: [], trim: true },
          into: piecesNamed(names[0]!, inner),
          keep: false,
        },
        why: `each item in ${names[0]} contains ${inner.count} values separated by '${inner.sign}'`,
      });
    return [
      {
        steps,
        weight: best.length > 1 ? 2.5 : 1.2,
        ...(best.length > 1 ? {} : { doubt: { code: 'may-be-no-list' as const, column: names[0]! } }),
      },
    ];
  },
};

/** Different lists that are looked at. */
const MAX_LISTS = 300;
/** Items of a cell, on average, beyond which it is text and no list. */
const MAX_ITEMS = 40;

interface List {
  column: ColumnProfile;
  sign: string;
  /** Items in each row, 0 where the cell is blank. */
  lengths: Int32Array;
  share: number;
}

function listOf(profile: TableProfile, column: ColumnProfile): List | undefined {
  if (
    column.counts[CellKind.text]! + column.counts[CellKind.figure]! === 0 ||
    column.counts[CellKind.date]! > column.counts[CellKind.text]!
  )
    return undefined;
  const filled = profile.rows - column.counts[CellKind.blank]!;
  // JSON in cells is no list of plain items.
  if (column.texts.some((text) => /^\s*[[{]/.test(text))) return undefined;
  if (column.counts[CellKind.text]! < filled * 0.3) return undefined;
  for (const sign of [...SIGNS, ...BLANKS]) {
    if (sign.trim() === '' && sign !== '\n' && !areTimesOrCodes(column, sign)) continue;
    // Commas that each part thousands of a number divide nothing: 'Hask (1,203)'.
    if (sign === ',' && column.texts.every((text) => !text.includes(',') || onlyThousands(text))) continue;
    const counts = column.texts.map((text) => (text.includes(sign) ? text.split(sign).length : 1));
    const lengths = new Int32Array(profile.rows);
    let several = 0;
    for (let r = 0; r < profile.rows; r++) {
      const code = column.codes[r]!;
      lengths[r] = code < 0 ? 0 : counts[code]!;
      if (lengths[r]! > 1) several++;
    }
    const share = several / Math.max(1, filled);
    const items = lengths.reduce((sum, length) => sum + length, 0);
    if (share >= 0.4 && items <= filled * MAX_ITEMS) return { column, sign, lengths, share };
  }
  return undefined;
}

const areTimesOrCodes = (column: ColumnProfile, sign: string) =>
  distinctTexts(column, MAX_LISTS).every((text) => text.split(sign).every((item) => TIME_OR_CODE.test(item)));

const onlyThousands = (text: string) =>
  /\p{L}/u.test(text) && !text.replace(/\d{1,3}(?:,\d{3})+(?!\d)/g, '').includes(',');

function inStep(a: List, b: List): boolean {
  let [same, all] = [0, 0];
  for (let r = 0; r < a.lengths.length; r++) {
    if (a.lengths[r] === 0 && b.lengths[r] === 0) continue;
    all++;
    if (a.lengths[r] === b.lengths[r]) same++;
  }
  return all > 0 && same >= all * 0.97 && new Set(a.lengths).size > 1;
}

/** A sign that parts each item of a list into as many things. */
function innerOf({ column, sign }: List): { sign: string; count: number } | undefined {
  const items = column.texts.slice(0, 300).flatMap((text) => (text.includes(sign) ? text.split(sign) : []));
  // Nothing parts a time.
  if (items.length < 4 || items.every((item) => TIME_OR_CODE.test(item.trim()))) return undefined;
  for (const inner of ['|', ':', '=', '/', ',']) {
    if (sign.trim() === inner) continue;
    const count = items[0]!.split(inner).length;
    if (count >= 2 && items.every((item) => item.split(inner).length === count)) return { sign: inner, count };
  }
  return undefined;
}

/** Names of the things in an item, by the column's own name where it says them: 'Records (ref|name)'. */
function piecesNamed(name: string, { sign, count }: { sign: string; count: number }): string[] {
  const said = /[([]([^()[\]]+)[)\]]/.exec(name)?.[1]?.split(sign) ?? name.split(sign);
  return Array.from({ length: count }, (_, k) => (said.length === count ? said[k]!.trim() : `${name} ${k + 1}`));
}

/** A word, a name or a code, or a figure with its unit. */
const ITEM = /^[\p{L}\p{N}'"][\p{L}\p{N}\p{M} .'"&()+:=-]*[\p{L}\p{N}.)'"%€]$|^[\p{L}\p{N}]$/u;
/** Share of the items that must be such. */
const MIN_WORDS = 0.9;

/** A list that stands alone must vary in length and say the same items again and again. */
function isSureAlone(profile: TableProfile, { column, sign, lengths }: List): boolean {
  if (sign.trim() === ',' && namesRemarks(column.name)) return false;
  if (BLANKS.includes(sign)) return new Set(lengths).size > 1;
  if (new Set(lengths).size < 3) return false;
  const items = new Map<string, number>();
  let [all, words] = [0, 0];
  let longest = 0;
  for (let r = 0; r < profile.rows; r++) {
    const code = column.codes[r]!;
    if (code < 0) continue;
    for (const item of column.texts[code]!.split(sign)) {
      const plain = item.trim();
      longest = Math.max(longest, plain.length);
      items.set(plain, (items.get(plain) ?? 0) + 1);
      all++;
      if (ITEM.test(plain)) words++;
    }
  }
  // Paths, formats and values of errors are no items.
  if (words < all * MIN_WORDS) return false;
  const limit = sign.trim() === ',' ? 0.4 : 0.75;
  return longest <= 60 && all >= 4 && items.size <= all * limit;
}

/** Columns that only sum the items of a list of figures. */
function sumsBeside(input: DetectorInput, lists: readonly List[]): Proposal[] {
  const { profile } = input;
  const form = NumberForm.parse({ decimal: profile.decimal });
  const forms = [form, NumberForm.parse({ decimal: profile.decimal === '.' ? ',' : '.' })];
  const going: string[] = [];
  let rows = 0;
  for (const column of bodyOf(input).figures) {
    for (const list of lists) {
      if (list.column === column) continue;
      for (const one of forms) {
        let [fit, all] = [0, 0];
        for (let r = 0; r < Math.min(profile.rows, 300); r++) {
          const code = list.column.codes[r]!;
          if (code < 0 || column.kinds[r] !== CellKind.figure) continue;
          const items = list.column.texts[code]!.split(list.sign).map((item) => lookAtText(item, one).value);
          if (items.some(Number.isNaN)) continue;
          all++;
          if (Math.abs(items.reduce((sum, item) => sum + item, 0) - column.values[r]!) < 1e-6) fit++;
        }
        if (all < 3 || fit < all * 0.95) continue;
        if (!going.includes(column.name)) going.push(column.name);
        rows = fit;
      }
    }
  }
  if (going.length === 0) return [];
  return [
    {
      kind: 'set-aside-columns',
      params: { columns: { by: 'names', names: going }, pile: 'totals' },
      why: `${going.join(', ')}: the sum of the list next to it, in ${rows} rows`,
    },
  ];
}
