import { CellKind, distinctTexts, filledFrom, type TableProfile, textAt } from '../glance/table-profile.ts';
import { guessHeader } from '../steps/header/guess-header.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import type { Detector, DetectorInput, Finding } from './finding.ts';
import { headerRule } from './header-steps.ts';

/** Tables that stand side by side under headers of the same names. */
export const sideBySideTables: Detector = {
  name: 'beside',
  draftOnly: true,
  find(input) {
    const { profile } = input;
    if (!isPositioned(profile.table) || profile.rows < 2) return [];
    const guess = guessHeader(profile.table);
    const tops = [guess.row + guess.tiers - 1, guess.row];
    for (const row of tops) {
      const tables = tablesAt(profile, row);
      const at = headerRule(profile, row, input.within !== undefined);
      if (tables.length < 2 || at === undefined) continue;
      const names = tables[0]!.map((k) => textAt(profile.columns[k]!, row)).filter((name) => name !== '');
      const within = input.within === undefined ? {} : { within: input.within };
      const labels = labelsOverAll(profile, tables);
      const carried = labels.length === 0 ? [] : [carriedLabels(profile, tables, labels, within)];
      return [
        {
          steps: [
            ...carried,
            {
              kind: 'stack-beside',
              params: { at, ...within },
              why: `${tables.length} tables side by side, each with ${names.slice(0, 3).join(', ')}`,
            },
          ],
          weight: 2.5 + carried.length,
        },
      ];
    }
    return cards(input);
  },
};

/** Rows at the top in which cards may begin. */
const MAX_TOP = 12;

/** Blocks of a name and a value in each row, several beside each other with the same names. */
function cards({ profile, within }: DetectorInput): Finding[] {
  for (let r = 0; r < Math.min(profile.rows, MAX_TOP); r++) {
    const texts = profile.columns.map((column) => textAt(column, r));
    const [first] = texts.filter((text, k) => text !== '' && texts.indexOf(text, k + 1) > 0);
    if (first === undefined) continue;
    const fronts = texts.flatMap((text, k) => (text === first ? [k] : []));
    const namesAt = (k: number) => new Set(distinctTexts(profile.columns[k]!, MAX_NAMES + 1));
    const [names, ...others] = fronts.map(namesAt);
    // A title above the first card is no name of it.
    const known = others[0] ?? new Set<string>();
    const isNames = known.size >= 2 && known.size <= MAX_NAMES;
    const areSame = others.every((own) => own.size === known.size && [...own].every((name) => names!.has(name)));
    const haveValues = fronts.every(
      (k) => profile.columns[k + 1] !== undefined && !fronts.includes(k + 1) && texts[k + 1] !== '',
    );
    const areNames = fronts.every((k) => profile.columns[k]!.counts[CellKind.figure] === 0);
    const at = headerRule(profile, r, within !== undefined);
    if (!isNames || !areSame || !haveValues || !areNames || at === undefined) continue;
    return [
      {
        steps: [
          {
            kind: 'stack-beside',
            params: { at, ...(within === undefined ? {} : { within }) },
            why: `${fronts.length} blocks of names and values side by side, each beginning with ${first}`,
          },
        ],
        weight: 2.5,
      },
    ];
  }
  return [];
}

/** Names of the fields of a card at most. */
const MAX_NAMES = 30;

/** Rows of one text in the first column that stand over all of the tables: what follows each begins in every table. */
function labelsOverAll(profile: TableProfile, tables: readonly (readonly number[])[]): string[] {
  const column = profile.columns[tables[0]![0]!]!;
  const labels: string[] = [];
  let isBelow = false;
  for (let r = 0; r < profile.rows; r++) {
    if (profile.filled[r] !== 1 || column.kinds[r] !== CellKind.text) {
      isBelow ||= profile.filled[r]! > 1;
      continue;
    }
    const next = filledFrom(profile, r + 1);
    const isOver = tables.every(
      (table) => next < profile.rows && table.some((k) => profile.columns[k]!.kinds[next] === CellKind.text),
    );
    if (isOver) labels.push(textAt(column, r));
    // A remark between the rows is no label, and what else stands so may be none either.
    else if (isBelow && next < profile.rows) return [];
  }
  return labels.length >= 2 && new Set(labels).size === labels.length ? labels : [];
}

function carriedLabels(
  profile: TableProfile,
  tables: readonly (readonly number[])[],
  labels: readonly string[],
  within: { within?: string },
) {
  const { name } = profile.columns[tables[0]![0]!]!;
  return {
    kind: 'carry',
    params: { from: name, rule: { test: 'only', columns: [name] }, into: 'Group', ...within },
    why: `${counted(labels.length, 'row')} with a single text above tables that are side by side, for example ${labels[0]}`,
  };
}

/** Columns of each table: the header begins again with its first name, and says mostly the same. */
function tablesAt(profile: TableProfile, row: number): number[][] {
  const names = profile.columns.map((column) => textAt(column, row).toLowerCase());
  const first = names.find((name) => name !== '');
  if (first === undefined) return [];
  // What stands in front of the first name belongs to all of the names: these are tiers, and no tables.
  if (
    names.indexOf(first) > 0 &&
    profile.columns.slice(0, names.indexOf(first)).some((_, k) => !blankFrom(profile, k, row))
  )
    return [];
  const tables: number[][] = [];
  names.forEach((name, k) => {
    const column = profile.columns[k]!;
    if (name === '' && blankFrom(profile, k, row)) return;
    if (name === first && column.kinds[row] === CellKind.text) tables.push([]);
    tables.at(-1)?.push(k);
  });
  if (tables.length < 2) return [];
  const lead = tables[0]!.map((k) => names[k]);
  if (lead.length < 2) return [];
  // A column that no other table has and that this row does not name is a key of all of them, in the middle of tiers.
  const nameless = tables.map((table) => table.filter((k) => names[k] === '').length);
  if (new Set(nameless).size > 1) return [];
  const same = tables.every((table) => {
    const own = table.map((k) => names[k]);
    return own.filter((name) => lead.includes(name)).length >= Math.min(lead.length, own.length) * 0.8;
  });
  return same ? tables : [];
}

function blankFrom(profile: TableProfile, k: number, row: number): boolean {
  const { kinds } = profile.columns[k]!;
  for (let r = row; r < profile.rows; r++) if (kinds[r] !== CellKind.blank) return false;
  return true;
}
