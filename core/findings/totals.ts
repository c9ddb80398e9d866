import { CellKind, type ColumnProfile, textAt } from '../glance/table-profile.ts';
import { groupNames, wordsOf } from '../glance/total-names.ts';
import { findSums, type SumRow } from '../rows/sums.ts';
import type { PlainRule } from '../rules/rules.ts';
import { isPositioned, uniqueName } from '../table/table.ts';
import { usedTexts } from '../values/cell-text.ts';
import { counted } from '../values/counted.ts';
import { groupedBy } from '../values/grouped-by.ts';
import { type Body, bodyOf } from './body.ts';
import { chooseRules, rowSaysTotal } from './choose-rule.ts';
import type { Detector, DetectorInput, Finding } from './finding.ts';

/** Rows that sum others up, told by what their figures add up to; words are only a hint. */
export const totals: Detector = {
  name: 'totals',
  beforeHeader: true,
  find(input) {
    const body = bodyOf(input);
    if (body.figures.length === 0) return [];
    const { hints, below } = sumsBelow(body);
    const above = sumsOf(body, hints, true);
    const best = explained(above) > explained(below) ? above : below;
    const findings: Finding[] = [];
    // Where a reading names the columns, rows are items, and a word in one is a value.
    const wordsDo = isPositioned(input.raw);
    const arithmetic = told(body, best, hints, wordsDo);
    const finding = asFinding(input, body, arithmetic, best);
    if (finding !== undefined)
      findings.push(
        ...(best === above
          ? [withLabels(body, arithmetic, finding, input.within)]
          : [...namedBelow(input, body, best, finding), finding]),
      );
    return findings;
  },
};

interface Sums {
  /** 1: words in the row say that it is a sum. */
  hints: Uint8Array;
  below: readonly SumRow[];
}

const known = new WeakMap<Body, Sums>();

/** Rows that sum those above them. */
export function sumsBelow(body: Body): Sums {
  const before = known.get(body);
  if (before !== undefined) return before;
  const hints = new Uint8Array(body.profile.rows);
  for (let r = 0; r < hints.length; r++) if (body.roles[r] === 'data' && rowSaysTotal(body.profile, r)) hints[r] = 1;
  const found = { hints, below: sumsOf(body, hints, false) };
  known.set(body, found);
  return found;
}

function sumsOf(body: Body, hints: Uint8Array, above: boolean): SumRow[] {
  return findSums({
    columns: body.figures.map((column) => masked(body, column)),
    rows: body.profile.rows,
    starts: body.starts,
    hints,
    above,
  });
}

/** Figures of rows that may be data or totals. */
function masked(body: Body, column: ColumnProfile): Float64Array {
  if (body.roles.every((role) => role === 'data')) return column.values;
  return column.values.map((value, r) => (body.roles[r] === 'data' ? value : Number.NaN));
}

const explained = (sums: readonly SumRow[]) => sums.reduce((sum, one) => sum + one.fit, 0);

/**
 * Rows that are totals: those that add up and have something to tell them from data (a word, a blank key, the end of a
 * sheet), and those that only say so, with their keys blank.
 */
function told(body: Body, sums: readonly SumRow[], hints: Uint8Array, wordsDo: boolean): number[] {
  const { profile } = body;
  const keyed = body.keys.filter((column) => column.counts[CellKind.blank]! < profile.rows * 0.6);
  const blankKeys = (r: number) => keyed.filter((column) => column.kinds[r] === CellKind.blank).length;
  const usual = median(body.rowsOf('data').map(blankKeys));
  const bySum = sums.filter(({ row, fit, figures, kind, of }) => {
    // A word in a row with all of its keys may be a value like any other: there the figures must agree.
    if (hints[row] === 1)
      return blankKeys(row) > usual || keyed.length <= 1 || (fit >= figures * 0.6 && of.length >= 2);
    if (kind === 'mean') return false;
    const ends = body.starts.includes(row + 1) || row === profile.rows - 1 || nextIsNoData(body, row);
    const strong = fit >= 3 && fit === figures && of.length >= 3;
    return blankKeys(row) > usual || (ends && (strong || of.length >= 3)) || (strong && fit >= 4);
  });
  const rows = new Set(bySum.map((one) => one.row));
  // Rows with the same keys left blank as most of those that add up are sums too, if only of one row.
  const pattern = (r: number) => keyed.map((column) => (column.kinds[r] === CellKind.blank ? '0' : '1')).join('');
  const patterns = [...groupedBy(body.rowsOf('data'), pattern)].map(([blank, all]) => ({
    blank,
    all,
    proven: all.filter((r) => rows.has(r)).length,
  }));
  for (const { blank, all, proven } of patterns) {
    if (!blank.includes('0') || proven < 2 || proven < all.length * 0.5 || all.length > profile.rows * 0.5) continue;
    for (const r of all) rows.add(r);
  }
  // A text of a key that stands on rows which all add up, and on no other, names their sums: 'All ships'.
  const added = new Map(sums.map((one) => [one.row, one]));
  for (const column of body.keys) {
    const own = groupedBy(body.rowsOf('data'), (r) => textAt(column, r));
    for (const [text, all] of own) {
      if (text === '' || all.length < 2 || all.length > profile.rows * 0.4) continue;
      const found = all.flatMap((r) => added.get(r) ?? []);
      // Shares that are rounded miss their sum, figures beside them do not.
      const isWhole = found.length === all.length;
      const fits = ({ fit, figures }: SumRow) => fit === figures || (isWhole && fit >= 1 && fit >= figures * 0.5);
      const isSum = found.length >= all.length - 1 && found.every((one) => fits(one) && one.kind === 'sum');
      if (isSum && found.filter((one) => one.of.length >= 2).length >= 2) for (const r of all) rows.add(r);
    }
  }
  // Words alone, where the other keys are blank or the row is one among totals that add up.
  for (let r = 0; wordsDo && r < profile.rows; r++) {
    if (hints[r] !== 1 || rows.has(r)) continue;
    if (blankKeys(r) > usual || keyed.length <= 1 || bySum.some((one) => blankKeys(one.row) === blankKeys(r)))
      rows.add(r);
  }
  return [...rows].sort((a, b) => a - b);
}

function nextIsNoData(body: Body, row: number): boolean {
  const next = body.roles[row + 1];
  return next !== 'data';
}

function median(values: number[]): number {
  values.sort((a, b) => a - b);
  return values[Math.floor(values.length / 2)] ?? 0;
}

function asFinding(
  { isSample, within }: DetectorInput,
  body: Body,
  rows: readonly number[],
  sums: readonly SumRow[],
): Finding | undefined {
  if (rows.length === 0) return undefined;
  const { profile } = body;
  const wanted = new Set(rows);
  const others = body.roles.flatMap((role, r) => (!wanted.has(r) && (role === 'data' || role === 'lone') ? [r] : []));
  const addsUp: PlainRule = {
    test: 'adds-up',
    columns: { by: 'names', names: body.figures.map((column) => column.name) },
    ...(within === undefined ? {} : { within }),
  };
  const rules = chooseRules(profile, rows, others, [addsUp]);
  if (rules === undefined) return undefined;
  const fitting = sums.filter((one) => wanted.has(one.row));
  const fit = fitting.reduce((sum, one) => sum + one.fit, 0);
  // In a sample what a sum has lost says nothing: the whole report proves it.
  const added = new Set(fitting.map((one) => one.row));
  const told = isSample ? rows.filter((r) => added.has(r)) : rows;
  const of = told.reduce(
    (sum, r) => sum + body.figures.filter((column) => column.kinds[r] === CellKind.figure).length,
    0,
  );
  const levels = new Set(fitting.map((one) => one.level)).size;
  const column = body.keys.find((one) => one.kinds[rows[0]!] === CellKind.text);
  const example = column === undefined ? '' : `, as ${textAt(column, rows[0]!)}`;
  return {
    steps: [
      {
        kind: 'set-aside',
        params: { pile: 'totals', rules },
        why:
          fit === 0
            ? `${counted(rows.length, 'row')} called a total${example}, but nothing adds up to them`
            : `${counted(rows.length, 'row')}, each the sum of rows ${levels > 1 ? `or of sums before it, on ${levels} levels` : 'before it'}: ${fit} of ${of} figures${example}`,
      },
    ],
    weight: fit === 0 ? 0.5 : 1.5 + Math.min(2, fit / 10),
    ...(fit < of ? { doubt: { code: 'totals-off' as const, off: of - fit, of } } : {}),
    explained: { fit, of },
  };
}

/** What speaks for names that stand in the rows of sums alone. */
const NAMED_BELOW = 0.4;

/** Sums below their rows that each name a group, where no row of the group says it: 'Total North' under its ports. */
function namedBelow(input: DetectorInput, body: Body, sums: readonly SumRow[], finding: Finding): Finding[] {
  const { profile } = body;
  const rule = (finding.steps[0]!.params as { rules: PlainRule[] }).rules;
  const inner = sums.filter(({ row, level, of }) => level === 1 && body.roles[row] === 'data' && of.length > 0);
  if (rule.length !== 1 || inner.length < 2 || body.rowsOf('lone').length > 0) return [];
  const column = body.keys.find(({ kinds }) => inner.every(({ row }) => kinds[row] === CellKind.text));
  if (column === undefined) return [];
  const texts = inner.map(({ row }) => textAt(column, row));
  const names = groupNames(texts);
  // Where a row of the group says the name too, it is known.
  const elsewhere = profile.table.fields.flatMap((field) =>
    [...usedTexts(field.column)].map((text) => ({ text: text.toLowerCase(), isOwn: field.name === column.name })),
  );
  // The totals themselves hold it too, in their own column.
  const isKnown = (name: string) =>
    elsewhere.some(({ text, isOwn }) => (isOwn ? text === name.toLowerCase() : text.includes(name.toLowerCase())));
  if (names === undefined || names.filter(isKnown).length > 1) return [];
  const taken = new Set(profile.table.fields.map(({ name }) => name));
  const into = uniqueName('Group', taken);
  const example = `'${texts[0]}'`;
  return [
    {
      ...finding,
      steps: [
        {
          kind: 'carry',
          params: {
            from: column.name,
            rule: rule[0],
            into,
            up: true,
            ...(input.within === undefined ? {} : { within: input.within }),
          },
          why: `${finding.steps[0]!.why}; only they name their group, for example ${example}`,
        },
        {
          kind: 'replace',
          params: {
            columns: { by: 'names', names: [into] },
            find: wordsOf(texts[0]!, names[0]!),
            with: '',
            how: 'pattern',
            exact: true,
          },
          why: `the name of the group stands beside the word for a total, as in ${example}`,
        },
      ],
      weight: finding.weight + NAMED_BELOW,
      gives: 'groups named by their totals',
    },
  ];
}

/** Totals that stand above their rows are their labels too: what they say is carried or filled down before they go. */
function withLabels(body: Body, rows: readonly number[], finding: Finding, within: string | undefined): Finding {
  const { profile } = body;
  const wanted = new Set(rows);
  const data = body.rowsOf('data').filter((r) => !wanted.has(r));
  const labelled = body.keys.filter(
    (column) =>
      rows.some((r) => column.kinds[r] === CellKind.text) && data.every((r) => column.kinds[r] === CellKind.blank),
  );
  if (labelled.length === 0 || data.length === 0) return finding;
  const names = labelled.map((column) => column.name);
  const groups = profile.rows - data.length;
  return {
    ...finding,
    steps: [
      {
        kind: 'fill',
        params: {
          columns: { by: 'names', names },
          direction: 'down',
          ...(within === undefined ? {} : { within }),
        },
        why: `${names.join(', ')}: appears only in the ${counted(groups, 'row')} of sums above each group`,
      },
      ...finding.steps,
    ],
  };
}
