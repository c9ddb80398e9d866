import { z } from 'zod';
import { columnName, standsFor } from '../../kinds/param-marks.ts';
import { type Blank, blank, choiceBlank } from '../../kinds/sentence.ts';
import { needColumn } from '../../kinds/step.ts';
import { type Codes, type KeyForm, pairCodes, sharedCodes } from '../../rows/keys.ts';
import type { Column } from '../../table/column.ts';
import { groupMembers, type Members } from '../../table/grouped-rows.ts';
import type { Table } from '../../table/table.ts';
import { textView } from '../../values/cell-text.ts';

/** Columns that have to agree, here and there. */
export const MatchKeys = z.array(z.object({ left: columnName(), right: standsFor('other column', z.string()) })).min(1);
export type MatchKeys = z.infer<typeof MatchKeys>;

export function matchKeysBlank(keys: MatchKeys): Blank {
  const text = keys.map(({ left, right }) => (left === right ? `${left} agrees` : `${left} is its ${right}`));
  return blank('keys', text.join(' and '), {
    as: 'items',
    label: 'Keys',
    fresh: { left: '', right: '' },
    fields: [
      { key: 'left', edit: { as: 'column', label: 'Column here' } },
      { key: 'right', edit: { as: 'text', label: 'Column there' } },
    ],
  });
}

/** Whether keys agree only where they read the same. */
export function comparedBlank(forgiving: boolean): Blank {
  return choiceBlank('forgiving', forgiving, 'How keys are compared', [
    [false, 'compared exactly'],
    [true, 'ignoring blanks, case and accents'],
  ]);
}

/** Columns of the keys on either side, and which rows meet. @throws StepFailure when a column is gone */
export function matchTables(here: Table, there: Table, params: KeyForm & { keys: MatchKeys }) {
  const left = params.keys.map((key) => needColumn(here, key.left));
  const right = params.keys.map((key) => needColumn(there, key.right));
  const matching = matchRows(
    left.map((k) => here.fields[k]!.column),
    right.map((k) => there.fields[k]!.column),
    [here.rows, there.rows],
    params,
  );
  return { left, right, matching };
}

const MAX_KEYS = 20;

/** The different keys of some rows as they read, the first of them. */
export function keyTexts(table: Table, columns: readonly number[], rows: Int32Array): string[] {
  const views = columns.map((k) => textView(table.fields[k]!.column));
  const keys = new Set<string>();
  for (const row of rows) {
    keys.add(views.map(({ codes, texts }) => (codes[row]! < 0 ? 'blank' : texts[codes[row]!]!)).join(' · '));
    if (keys.size > MAX_KEYS) break;
  }
  return [...keys];
}

export interface Matching {
  /** For each left row its key's number, or -1 where the key meets nothing or is blank. */
  left: Int32Array;
  /** The right rows of each key, ascending. */
  right: Members;
  unmatchedLeft: Int32Array;
  unmatchedRight: Int32Array;
  /** Left rows whose key meets more than one right row. */
  multiplied: Int32Array;
}

/**
 * Which rows meet by their keys. A blank in any part of a key meets nothing, as SQL has it.
 *
 * @param left key columns of the left table, and right those of the right, in the same order
 */
export function matchRows(
  left: readonly Column[],
  right: readonly Column[],
  rows: [number, number],
  form: KeyForm,
): Matching {
  const [n, m] = rows;
  let both: Codes | undefined;
  left.forEach((column, k) => {
    const [a, b] = sharedCodes(column, right[k]!, form);
    const codes = new Int32Array(n + m);
    codes.set(a.codes);
    codes.set(b.codes, n);
    const next: Codes = { codes, count: a.count };
    both = both === undefined ? next : keepBlank(pairCodes(both, next), both, next);
  });
  const { codes, count } = both!;
  const members = groupMembers(codes.subarray(n), count);
  const own = codes.slice(0, n);
  const met = new Uint8Array(count);
  const unmatchedLeft: number[] = [];
  const multiplied: number[] = [];
  for (let r = 0; r < n; r++) {
    const code = own[r]!;
    const size = code < 0 ? 0 : members.starts[code + 1]! - members.starts[code]!;
    if (size === 0) {
      own[r] = -1;
      unmatchedLeft.push(r);
    } else {
      met[code] = 1;
      if (size > 1) multiplied.push(r);
    }
  }
  const unmatchedRight: number[] = [];
  for (let r = 0; r < m; r++) {
    const code = codes[n + r]!;
    if (code < 0 || met[code] === 0) unmatchedRight.push(r);
  }
  return {
    left: own,
    right: members,
    unmatchedLeft: Int32Array.from(unmatchedLeft),
    unmatchedRight: Int32Array.from(unmatchedRight),
    multiplied: Int32Array.from(multiplied),
  };
}

function keepBlank(paired: Codes, a: Codes, b: Codes): Codes {
  const { codes } = paired;
  for (let r = 0; r < codes.length; r++) if (a.codes[r]! < 0 || b.codes[r]! < 0) codes[r] = -1;
  return paired;
}
