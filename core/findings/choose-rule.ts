import { saysTotal, totalWordIn } from '../glance/hint-words.ts';
import { CellKind, type ColumnProfile, type TableProfile, textAt } from '../glance/table-profile.ts';
import { type PlainRule, ruleMask } from '../rules/rules.ts';

/**
 * Rules that pick rows by what they say or which of their cells are filled, so that the rules hold next month: a small
 * cover of the wanted rows by rules that none of the others follow.
 *
 * @param wanted rows to pick
 * @param others rows that no rule may pick; rows in neither list do not matter
 * @param extra rules to try beside those made of what the rows say, the best last
 * @returns undefined where no rules were found
 */
export function chooseRules(
  profile: TableProfile,
  wanted: readonly number[],
  others: readonly number[],
  extra: readonly PlainRule[] = [],
): PlainRule[] | undefined {
  const left = new Set(wanted);
  const chosen: PlainRule[] = [];
  const candidates = [
    ...textRules(profile, wanted),
    ...stateRules(profile, wanted),
    ...extra.map((rule) => ({ rule, worth: 0.5 })),
  ];
  const tried = candidates.flatMap(({ rule, worth }) => {
    const mask = ruleMask(rule, profile.table);
    if (others.some((r) => mask[r] === 1)) return [];
    return [{ rule, worth, rows: wanted.filter((r) => mask[r] === 1) }];
  });
  while (left.size > 0) {
    let best: (typeof tried)[number] | undefined;
    let most = 0;
    for (const one of tried) {
      const gain = one.rows.filter((r) => left.has(r)).length;
      if (gain === 0) continue;
      const worth = gain + Math.min(gain, wanted.length) * 0.2 * one.worth + one.worth * 0.1;
      if (worth > most) [best, most] = [one, worth];
    }
    if (best === undefined || chosen.length >= 6) return undefined;
    chosen.push(best.rule);
    for (const r of best.rows) left.delete(r);
  }
  return chosen;
}

interface Candidate {
  rule: PlainRule;
  /** What speaks for the rule beside the rows it picks. */
  worth: number;
}

const MAX_TEXTS = 60;

function textRules(profile: TableProfile, wanted: readonly number[]): Candidate[] {
  const found: Candidate[] = [];
  for (const column of profile.columns) {
    if (column.counts[CellKind.text] === 0) continue;
    const texts = new Map<string, number>();
    for (const r of wanted) {
      if (column.kinds[r] !== CellKind.text && column.kinds[r] !== CellKind.missing) continue;
      const text = textAt(column, r);
      if (text !== '' && text.length <= 80) texts.set(text, (texts.get(text) ?? 0) + 1);
    }
    if (texts.size === 0) continue;
    const seen = new Set<string>();
    const add = (test: 'starts' | 'ends' | 'equals' | 'contains', text: string, worth: number) => {
      const key = `${test}/${text.toLowerCase()}`;
      if (text === '' || seen.has(key)) return;
      seen.add(key);
      found.push({ rule: { test, column: column.name, text }, worth });
    };
    for (const text of [...texts.keys()].slice(0, MAX_TEXTS)) {
      const words = text.split(/\s+/);
      const [first, last] = [words[0]!, words.at(-1)!];
      const telling = totalWordIn(text);
      const hint = telling === undefined ? 0 : 2;
      if (telling !== undefined) {
        if (text.toLowerCase().startsWith(telling.toLowerCase())) add('starts', telling, 3);
        else add('ends', text.slice(text.toLowerCase().lastIndexOf(telling.toLowerCase())), 3);
      }
      if (words.length > 1 && /\p{L}/u.test(first)) add('starts', `${first} `, hint);
      if (words.length > 1 && /\p{L}/u.test(last)) add('ends', ` ${last}`, hint);
      add('equals', text, telling === undefined ? 0.5 : 2.5);
    }
  }
  return found;
}

/** Which cells are filled, where all of the rows agree on it. */
function stateRules(profile: TableProfile, wanted: readonly number[]): Candidate[] {
  const blankIn = (column: ColumnProfile, r: number) =>
    column.kinds[r] === CellKind.blank || column.kinds[r] === CellKind.rule;
  const found: Candidate[] = [];
  const blank = profile.columns.filter((column) => wanted.every((r) => column.kinds[r] === CellKind.blank));
  const filled = profile.columns.filter((column) => wanted.every((r) => !blankIn(column, r)));
  // Of the blank cells one is enough to tell; the one that data fill most.
  const telling = blank
    .filter((column) => column.counts[CellKind.blank]! < profile.rows * 0.7)
    .sort((a, b) => a.counts[CellKind.blank]! - b.counts[CellKind.blank]!);
  for (const column of telling.slice(0, 3))
    found.push({ rule: { test: 'blank', columns: { by: 'names', names: [column.name] } }, worth: 1 });
  if (
    blank.length + filled.length === profile.columns.length &&
    filled.length > 0 &&
    filled.length <= profile.columns.length / 2
  )
    found.push({ rule: { test: 'only', columns: filled.map((column) => column.name) }, worth: 1 });
  return found;
}

/** Whether a cell of the row says that it is a total. */
export function rowSaysTotal(profile: TableProfile, row: number): boolean {
  return profile.columns.some(
    (column) =>
      column.kinds[row] === CellKind.text && saysTotal(textAt(column, row)) && textAt(column, row).length <= 60,
  );
}
