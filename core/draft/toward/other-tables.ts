/** Columns that another file has for the rows of a table, by the key that both share. */
import type { Proposal } from '../../findings/finding.ts';
import type { Table } from '../../table/table.ts';
import { type PlainColumn, plainAt, plainColumn } from './goal.ts';
import type { OtherTable } from './state.ts';

/** A column of another table, by row of this one. */
export interface Brought {
  at(row: number): string;
  step: Proposal;
}

/** Share of the texts here that the other table must know. */
const MIN_KNOWN = 0.5;
const MAX_KEYS = 6;

interface Key {
  left: readonly number[];
  right: readonly number[];
  known: number;
}

/** Keys under which each row here meets at most one row there, those that know most rows first. */
function keysTo(table: Table, other: Table): Key[] {
  const here = table.fields.map(({ column }) => plainColumn(column));
  const there = other.fields.map(({ column }) => plainColumn(column));
  const knownShare = (a: PlainColumn, b: PlainColumn) => {
    const texts = [...a.distinct].filter((text) => text !== '');
    return texts.length === 0 ? 0 : texts.filter((text) => b.distinct.has(text)).length / texts.length;
  };
  const pairs = here.flatMap((a, left) =>
    there.flatMap((b, right) => {
      const known = knownShare(a, b);
      return known < MIN_KNOWN || a.distinct.size < 2 ? [] : [{ left, right, known }];
    }),
  );
  const isUnique = (columns: readonly number[]) =>
    new Set(Array.from({ length: other.rows }, (_, r) => columns.map((k) => plainAt(there[k]!, r)).join('\u0001')))
      .size === other.rows;
  const single = pairs.filter(({ right }) => isUnique([right]));
  const double = pairs.flatMap((a, n) =>
    pairs
      .slice(n + 1)
      .flatMap((b) =>
        a.left === b.left ||
        a.right === b.right ||
        single.includes(a) ||
        single.includes(b) ||
        !isUnique([a.right, b.right])
          ? []
          : [{ left: [a.left, b.left], right: [a.right, b.right], known: Math.min(a.known, b.known) }],
      ),
  );
  return [...single.map(({ left, right, known }) => ({ left: [left], right: [right], known })), ...double]
    .sort((a, b) => b.known - a.known)
    .slice(0, MAX_KEYS);
}

/** Columns of the other tables that hold some texts, for the rows of a table. */
export function brought(table: Table, others: readonly OtherTable[], wanted: ReadonlySet<string>): Brought[] {
  return others.flatMap(({ id, name, table: other }) => {
    const holding = other.fields.flatMap((field, k) => {
      const { distinct } = plainColumn(field.column);
      for (const text of wanted) if (text !== '' && !distinct.has(text)) return [];
      return [k];
    });
    if (holding.length === 0) return [];
    return keysTo(table, other).flatMap(({ left, right }) => {
      const here = left.map((k) => plainColumn(table.fields[k]!.column));
      const there = right.map((k) => plainColumn(other.fields[k]!.column));
      const rows = new Map<string, number>();
      for (let r = 0; r < other.rows; r++) rows.set(there.map((column) => plainAt(column, r)).join('\u0001'), r);
      return holding
        .filter((k) => !right.includes(k))
        .map((k): Brought => {
          const column = plainColumn(other.fields[k]!.column);
          return {
            at(row) {
              const met = rows.get(here.map((one) => plainAt(one, row)).join('\u0001'));
              return met === undefined ? '' : plainAt(column, met);
            },
            step: {
              kind: 'look-up',
              params: {
                table: id,
                keys: left.map((l, n) => ({ left: table.fields[l]!.name, right: other.fields[right[n]!]!.name })),
                columns: [other.fields[k]!.name],
              },
              why: `${other.fields[k]!.name} stands in ${name}`,
            },
          };
        });
    });
  });
}

/** Look-ups in one table by the same keys are one step. */
export function withLookUpsJoined(steps: readonly Proposal[]): Proposal[] {
  const joined: Proposal[] = [];
  for (const step of steps) {
    const last = joined.at(-1);
    const key = ({ kind, params }: Proposal) => JSON.stringify([kind, params['table'], params['keys']]);
    if (step.kind === 'look-up' && last !== undefined && key(last) === key(step)) {
      const columns = [...(last.params['columns'] as string[]), ...(step.params['columns'] as string[])];
      joined[joined.length - 1] = { ...last, params: { ...last.params, columns }, why: `${last.why}; ${step.why}` };
    } else joined.push(step);
  }
  return joined;
}
