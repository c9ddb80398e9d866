import { saysSum } from '../glance/hint-words.ts';
import { Seen } from '../glance/sight.ts';
import { findSumColumns } from '../rows/sums.ts';
import { bodyOf } from './body.ts';
import type { Detector } from './finding.ts';

/** Columns that sum others of the same row: quarters, totals of the year, totals beside a cross table. */
export const sumColumns: Detector = {
  name: 'sum-columns',
  find(hand) {
    const body = bodyOf(hand);
    const rows = body.rowsOf('data');
    const all = body.figures;
    if (all.length < 3 || rows.length === 0) return [];
    const found = findSumColumns(
      all.map((column) => column.values),
      rows,
    );
    const sums = new Set(found.map(({ column }) => column));
    // Beside sums that are proven, a column of the same name is one too.
    const named = all.flatMap((column, k) =>
      !sums.has(k) && saysSum(lastTier(column.name)) && (found.length > 0 || column.counts[Seen.figure]! > 0)
        ? [k]
        : [],
    );
    const going = [...sums, ...named].sort((a, b) => a - b);
    if (going.length === 0 || going.length > all.length - 1) return [];
    const names = going.map((k) => all[k]!.name);
    const fit = found.reduce((sum, one) => sum + one.fit, 0);
    const of = found.reduce((sum, one) => sum + one.figures, 0);
    const example = found[0];
    return [
      {
        steps: [
          {
            kind: 'set-aside-columns',
            params: {
              columns: columnsBy(names, all.map((column) => column.name).concat(body.keys.map((k) => k.name))),
              pile: 'totals',
            },
            why:
              example === undefined
                ? `${names.join(', ')}: called a total`
                : `${names.slice(0, 4).join(', ')}${names.length > 4 ? ' and others' : ''}: the ${example.kind} of ${example.of.length} columns, as ${example.of
                    .slice(0, 3)
                    .map((k) => all[k]!.name)
                    .join(' + ')}${example.of.length > 3 ? ' …' : ''}, in ${fit} of ${of} rows`,
          },
        ],
        weight: found.length === 0 ? 0.3 : 2,
        ...(named.length > 0
          ? { doubt: `${all[named[0]!]!.name} is called a total, but nothing adds up to it` }
          : found.some((one) => one.of.length === 2 && !saysSum(lastTier(all[one.column]!.name)))
            ? { doubt: 'a column that sums two others may be a measure of its own' }
            : {}),
        explained: { fit, of },
        sums: found
          .filter(({ kind }) => kind === 'sum')
          .map(({ column, of }) => ({ name: all[column]!.name, of: of.map((k) => all[k]!.name) })),
      },
    ];
  },
};

const lastTier = (name: string) => name.split(' / ').find(saysSum) ?? name;

/** Columns by what their names have in common, so that next month's are found too; by name where that is all. */
export function columnsBy(names: readonly string[], all: readonly string[]): Record<string, unknown> {
  const others = all.filter((name) => !names.includes(name)).map((name) => name.toLowerCase());
  const lower = names.map((name) => name.toLowerCase());
  if (names.length > 1) {
    const front = common(lower);
    const word = front.replace(/[\d\s]+$/, '');
    if (word.length >= 3 && others.every((name) => !name.startsWith(word)))
      return { by: 'starts', text: names[0]!.slice(0, word.length) };
    const back = [...common(lower.map((name) => [...name].reverse().join('')))].reverse().join('').trim();
    if (back.length >= 3 && others.every((name) => !name.endsWith(back)))
      return { by: 'ends', text: names[0]!.slice(names[0]!.length - back.length) };
  }
  return { by: 'names', names: [...names] };
}

function common(names: readonly string[]): string {
  let front = names[0]!;
  for (const name of names) while (!name.startsWith(front)) front = front.slice(0, -1);
  return front;
}
