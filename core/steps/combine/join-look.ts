import type { Context } from '../../kinds/step.ts';
import { columnCodes, forgivingText, groupRows } from '../../rows/keys.ts';
import type { Column } from '../../table/column.ts';
import type { Table } from '../../table/table.ts';
import { cellText, textView } from '../../values/cell-text.ts';
import { likeness } from '../../values/likeness.ts';
import { recode } from '../cells/recode.ts';
import { setTypes } from '../cells/set-types.ts';
import { type Matching, type MatchKeys, matchRows } from './match.ts';

/** What a join would do, told before it is kept. */
export interface JoinLook {
  left: JoinSide;
  right: JoinSide;
  /** Rows that would come out of a left, inner and full join. */
  out: { left: number; inner: number; full: number };
  /** Keys with several matches rows there, with the rows that carry them on either side; those with most first. */
  several: { key: string; here: number; there: number }[];
  severalKeys: number;
  fixes: JoinFix[];
}

export interface JoinSide {
  rows: number;
  matched: number;
  unmatched: number;
  /** Keys without a match, with the rows that carry them and what is nearly the same on the other side. */
  keys: { key: string; rows: number; near?: string }[];
  differentKeys: number;
}

/** Something that would make more rows match. */
export interface JoinFix {
  label: string;
  /** Rows here that would match then. */
  matched: number;
  /** Rows that would come out of a left join then. */
  out: number;
  /** What changes: how keys are compared, which they are, or a step on this table before the join. */
  forgiving?: boolean;
  keys?: MatchKeys;
  step?: { kind: string; params: Record<string, unknown> };
}

interface Asked {
  keys: MatchKeys;
  forgiving: boolean;
}

const MAX_LISTED = 40;
/** Keys up to which near matches are searched for: each is compared with each on the other side. */
const MAX_NEAR = 400;
const NEAR = 0.6;
const QUIET: Context = {
  progress: () => undefined,
  name: '',
  other: () => {
    throw new Error('no other table');
  },
};

/**
 * What a join over these keys would do. Keys that name no column are left out.
 */
export function lookAtJoin(left: Table, right: Table, asked: Asked): JoinLook {
  const sides = columnsOf(left, right, asked.keys);
  const matching = matchRows(sides.left, sides.right, [left.rows, right.rows], asked);
  const unmatched = {
    left: keysOf(sides.left, matching.unmatchedLeft),
    right: keysOf(sides.right, matching.unmatchedRight),
  };
  const near = nearKeys(unmatched.left, unmatched.right, left, right, sides);
  const side = (table: Table, rows: Int32Array, keys: Map<string, number>, like: Map<string, string>): JoinSide => ({
    rows: table.rows,
    matched: table.rows - rows.length,
    unmatched: rows.length,
    keys: [...keys].slice(0, MAX_LISTED).map(([key, count]) => ({ key, rows: count, near: like.get(key) })),
    differentKeys: keys.size,
  });
  const { several, severalKeys } = severalOf(sides.left, matching);
  const inner = innerRows(matching);
  return {
    left: side(left, matching.unmatchedLeft, unmatched.left, near.left),
    right: side(right, matching.unmatchedRight, unmatched.right, near.right),
    out: {
      left: inner + matching.unmatchedLeft.length,
      inner,
      full: inner + matching.unmatchedLeft.length + matching.unmatchedRight.length,
    },
    several,
    severalKeys,
    fixes: fixesOf(left, right, asked, matching),
  };
}

function columnsOf(left: Table, right: Table, keys: MatchKeys): { left: Column[]; right: Column[] } {
  const found: { left: Column[]; right: Column[] } = { left: [], right: [] };
  for (const key of keys) {
    const [a, b] = [columnOf(left, key.left), columnOf(right, key.right)];
    if (a === undefined || b === undefined) continue;
    found.left.push(a);
    found.right.push(b);
  }
  return found.left.length > 0 ? found : { left: [emptyColumn(left.rows)], right: [emptyColumn(right.rows)] };
}

function columnOf(table: Table, name: string): Column | undefined {
  return table.fields.find((field) => field.name === name)?.column;
}

function emptyColumn(rows: number): Column {
  return { type: 'number', values: new Float64Array(rows).fill(Number.NaN) };
}

/** Different keys of these rows with how many rows carry each. */
function keysOf(columns: readonly Column[], rows: Int32Array): Map<string, number> {
  const counts = new Map<string, number>();
  const views = columns.map(textView);
  for (const row of rows) {
    const key = views.map(({ codes, texts }) => (codes[row]! < 0 ? 'blank' : texts[codes[row]!]!)).join(' · ');
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return new Map([...counts].sort((a, b) => b[1] - a[1]));
}

/** For keys without a match, what is most alike on the other side: unmatched keys there first, then any. */
function nearKeys(
  left: ReadonlyMap<string, number>,
  right: ReadonlyMap<string, number>,
  leftTable: Table,
  rightTable: Table,
  sides: { left: Column[]; right: Column[] },
): { left: Map<string, string>; right: Map<string, string> } {
  const all = (columns: readonly Column[], table: Table) => {
    const groups = groupRows(columns, table.rows);
    return groups.first.length > MAX_NEAR ? [] : [...keysOf(columns, groups.first).keys()];
  };
  const find = (keys: ReadonlyMap<string, number>, candidates: readonly string[]) =>
    mostNear([...keys.keys()].slice(0, MAX_LISTED), candidates);
  const limited = (keys: ReadonlyMap<string, number>) => [...keys.keys()].slice(0, MAX_NEAR);
  return {
    left: find(left, right.size > 0 ? limited(right) : all(sides.right, rightTable)),
    right: find(right, left.size > 0 ? limited(left) : all(sides.left, leftTable)),
  };
}

function innerRows(matching: Matching): number {
  let rows = 0;
  for (const code of matching.left)
    if (code >= 0) rows += matching.right.starts[code + 1]! - matching.right.starts[code]!;
  return rows;
}

function severalOf(left: readonly Column[], matching: Matching) {
  const here = new Map<number, { row: number; rows: number }>();
  for (const row of matching.multiplied) {
    const code = matching.left[row]!;
    const known = here.get(code);
    if (known === undefined) here.set(code, { row, rows: 1 });
    else known.rows++;
  }
  const several = [...here].map(([code, { row, rows }]) => ({
    key: left.map((column) => cellText(column, row) ?? 'blank').join(' · '),
    here: rows,
    there: matching.right.starts[code + 1]! - matching.right.starts[code]!,
  }));
  several.sort((a, b) => b.here * b.there - a.here * a.there);
  return { several: several.slice(0, MAX_LISTED), severalKeys: here.size };
}

function fixesOf(left: Table, right: Table, asked: Asked, matching: Matching): JoinFix[] {
  const matched = left.rows - matching.unmatchedLeft.length;
  const tried = (change: Partial<JoinFix> & { label: string }, table = left): JoinFix => {
    const keys = change.keys ?? asked.keys;
    const sides = columnsOf(table, right, keys);
    const found = matchRows(sides.left, sides.right, [table.rows, right.rows], {
      forgiving: change.forgiving ?? asked.forgiving,
    });
    return {
      ...change,
      matched: table.rows - found.unmatchedLeft.length,
      out: innerRows(found) + found.unmatchedLeft.length,
    };
  };
  const found: JoinFix[] = [];
  if (!asked.forgiving) found.push(tried({ label: 'ignoring blanks, case and accents', forgiving: true }));
  const guess = guessKeys(left, right);
  if (guess.length > 0 && keyText(guess) !== keyText(asked.keys))
    found.push(tried({ label: `Join where ${keyText(guess)}`, keys: guess }));
  for (const fix of [...typedAlike(left, right, asked.keys), ...crosswalksOf(left, right, asked.keys)])
    found.push(tried(fix, fix.table));
  const inner = left.rows - matching.unmatchedLeft.length;
  const narrower = narrowerKeys(left, right, asked, matching, tried);
  return [
    ...found.filter((fix) => fix.matched > matched).sort((a, b) => b.matched - a.matched || a.out - b.out),
    ...(inner > 0 ? narrower : []),
  ].map(({ label, matched: rows, out, forgiving, keys, step }) => ({
    label,
    matched: rows,
    out,
    forgiving,
    keys,
    step,
  }));
}

function keyText(keys: MatchKeys): string {
  return keys.map(({ left, right }) => (left === right ? `${left} agrees` : `${left} is its ${right}`)).join(' and ');
}

type StepFix = { label: string; step: NonNullable<JoinFix['step']>; table: Table };

/** A key that is text here and counted there reads alike once it has the same type. */
function typedAlike(left: Table, right: Table, keys: MatchKeys): StepFix[] {
  return keys.flatMap((key): StepFix[] => {
    const [a, b] = [columnOf(left, key.left), columnOf(right, key.right)];
    if (a === undefined || b === undefined || a.type === b.type) return [];
    if (b.type === 'received' || (a.type !== 'text' && a.type !== 'received' && b.type !== 'text')) return [];
    const params = setTypes.params.parse({ types: [{ columns: { by: 'names', names: [key.left] }, type: b.type }] });
    const table = attempt(() => setTypes.run(left, params, QUIET).table);
    if (table === undefined) return [];
    return [
      {
        label: `Set the type of ${key.left} to ${b.type} as there`,
        step: { kind: 'set-types', params: params as Record<string, unknown> },
        table,
      },
    ];
  });
}

/** For each key the values here that are not there, as a crosswalk to what is most like them there. */
function crosswalksOf(left: Table, right: Table, keys: MatchKeys): StepFix[] {
  return keys.flatMap((key): StepFix[] => {
    const [a, b] = [columnOf(left, key.left), columnOf(right, key.right)];
    if (a === undefined || b === undefined) return [];
    const [here, there] = [keysOf([a], groupRows([a], left.rows).first), keysOf([b], groupRows([b], right.rows).first)];
    if (here.size > MAX_NEAR || there.size > MAX_NEAR) return [];
    const lost = [...here.keys()].filter((value) => !there.has(value) && value !== 'blank');
    const free = [...there.keys()].filter((value) => !here.has(value) && value !== 'blank');
    const near = mostNear(lost, free);
    if (near.size === 0) return [];
    const params = recode.params.parse({
      column: key.left,
      crosswalk: [...near].map(([from, to]) => ({ from, to })),
      unmatched: 'keep',
      into: null,
    });
    const table = attempt(() => recode.run(left, params, QUIET).table);
    if (table === undefined) return [];
    const [first] = near;
    return [
      {
        label: `Crosswalk of ${near.size === 1 ? `${first![0]} to ${first![1]}` : `${near.size} near matches`} of ${key.left}`,
        step: { kind: 'recode', params: params as Record<string, unknown> },
        table,
      },
    ];
  });
}

/** For each text the candidate most like it, if any is near. */
function mostNear(texts: readonly string[], candidates: readonly string[]): Map<string, string> {
  const found = new Map<string, string>();
  for (const text of texts) {
    let best = NEAR;
    for (const one of candidates) {
      const score = likeness(text, one);
      if (score > best) {
        best = score;
        found.set(text, one);
      }
    }
  }
  return found;
}

function attempt<T>(make: () => T): T | undefined {
  try {
    return make();
  } catch {
    return undefined;
  }
}

/** One more pair of columns under which rows here meet fewer there, where some meet several. */
function narrowerKeys(
  left: Table,
  right: Table,
  asked: Asked,
  matching: Matching,
  tried: (change: Partial<JoinFix> & { label: string }) => JoinFix,
): JoinFix[] {
  if (matching.multiplied.length === 0) return [];
  const out = innerRows(matching) + matching.unmatchedLeft.length;
  return keyPairs(left, right)
    .filter((pair) => asked.keys.every((key) => key.left !== pair.left && key.right !== pair.right))
    .slice(0, 4)
    .map((pair) => {
      const keys = [...asked.keys, { left: pair.left, right: pair.right }];
      return tried({ label: `Join where also ${keyText([pair])}`, keys });
    })
    .filter((fix) => fix.out < out && fix.matched >= left.rows - matching.unmatchedLeft.length);
}

interface Pair {
  left: string;
  right: string;
  /** Share of the different values here that stand there too. */
  met: number;
  score: number;
}

const MAX_VALUES = 5000;
const MIN_MET = 0.3;

/** Pairs of columns whose values meet, the likeliest key first. */
function keyPairs(left: Table, right: Table): Pair[] {
  const there = right.fields.map((field) => ({ field, values: valuesOf(field.column) }));
  return left.fields
    .flatMap((field) => {
      const values = valuesOf(field.column);
      if (values.size === 0) return [];
      return there.map(({ field: other, values: others }): Pair => {
        let both = 0;
        for (const value of values) if (others.has(value)) both++;
        const met = both / Math.min(values.size, Math.max(1, others.size));
        const named = likeness(field.name, other.name);
        // Small numbers meet by chance: as keys they need their names.
        const chance = isMeasure(field.column) && isMeasure(other.column) && named < 0.8 ? 0.6 : 0;
        const decides = others.size / Math.max(1, right.rows);
        return { left: field.name, right: other.name, met, score: met + 0.5 * named + 0.4 * decides - chance };
      });
    })
    .filter((pair) => pair.met >= MIN_MET)
    .sort((a, b) => b.score - a.score);
}

function valuesOf(column: Column): ReadonlySet<string> {
  const { texts } = textView(column);
  const used = new Set<string>();
  const { codes } = columnCodes(column);
  const stride = Math.max(1, Math.floor(codes.length / MAX_VALUES));
  const view = textView(column);
  for (let r = 0; r < codes.length; r += stride) {
    const code = view.codes[r]!;
    if (code >= 0) used.add(forgivingText(texts[code]!));
  }
  return used;
}

function isMeasure(column: Column): boolean {
  return column.type === 'number' || column.type === 'whole';
}

const MIN_GUESS = 0.75;
const MAX_KEYS = 4;

/**
 * The keys by which two tables most likely meet: pairs of columns with values in common, more of them while rows of the
 * other table are not told apart. Empty when nothing meets.
 */
export function guessKeys(left: Table, right: Table): MatchKeys {
  const pairs = keyPairs(left, right).filter((pair) => pair.score >= MIN_GUESS);
  const keys: MatchKeys = [];
  let apart = 0;
  for (const pair of pairs) {
    if (keys.some((key) => key.left === pair.left || key.right === pair.right)) continue;
    const columns = [...keys, pair].map((key) => columnOf(right, key.right)!);
    const groups = groupRows(columns, right.rows).count;
    if (keys.length > 0 && groups <= apart) continue;
    keys.push({ left: pair.left, right: pair.right });
    apart = groups;
    if (apart === right.rows || keys.length === MAX_KEYS) break;
  }
  return keys;
}
