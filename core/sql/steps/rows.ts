/** Rows that stay, and their order. */
import type { Rule } from '../../rules/rules.ts';
import { FilterParams } from '../../steps/rows/filter.ts';
import { numberRows } from '../../steps/rows/number-rows.ts';
import { removeDuplicates } from '../../steps/rows/remove-duplicates.ts';
import { setAside } from '../../steps/rows/set-aside.ts';
import { showDuplicates } from '../../steps/rows/show-duplicates.ts';
import { sort } from '../../steps/rows/sort.ts';
import { rulesSql } from '../conditions.ts';
import { PlacedRows } from '../placed-rows.ts';
import {
  asTheyAre,
  fieldOf,
  idsOf,
  needReadable,
  ORDER,
  readableFields,
  refuseNames,
  type StepTranslator,
  selectFrom,
  sqlType,
  type TranslationInput,
  UnsupportedInSql,
} from '../translate.ts';
import { inRuns } from './fill.ts';

export const filtered =
  (keep: boolean): StepTranslator =>
  (saying, given) => {
    const { rules, match } = FilterParams.parse(given);
    return withRows(saying, rules, match, keep);
  };

export const settingAside: StepTranslator = (saying, given) =>
  withRows(saying, setAside.params.parse(given).rules, 'any', false);

/** The rows that follow rules, or those that do not. */
function withRows(saying: TranslationInput, rules: readonly Rule[], match: 'all' | 'any', keep: boolean): string {
  const { dialect, from } = saying;
  const placed = new PlacedRows(saying);
  const condition = rulesSql(rules, match, from.table, dialect, (rule) => placed.condition(rule));
  return selectFrom(saying, asTheyAre(from.table, dialect), {
    source: placed.source(),
    behind: [`where ${keep ? condition : `not ${condition}`}`],
  });
}

export const sorting: StepTranslator = (saying, given) => {
  const { dialect, from } = saying;
  const { keys, order } = sort.params.parse(given);
  const by = keys.map(({ column, descending }) => {
    const field = needReadable(fieldOf(from.table, column));
    const isText = sqlType(field) === 'text';
    if (isText && (order === 'natural' || field.column.type === 'received'))
      throw new UnsupportedInSql(`${column} is text, and in natural order 2 stands before 10`);
    const cell = dialect.id(field.name);
    return `${isText ? dialect.plain(cell) : cell}${descending ? ' desc' : ''} nulls last`;
  });
  return selectFrom(saying, asTheyAre(from.table, dialect), {
    order: `row_number() over (order by ${[...by, dialect.id(ORDER)].join(', ')})`,
  });
};

export const withoutDuplicates: StepTranslator = (saying, given) => {
  const { dialect, from } = saying;
  const { columns, keep } = removeDuplicates.params.parse(given);
  const chosen = readableFields(columns, from.table);
  refuseNames(from.table, ['same']);
  const by = chosen.length === 0 ? '' : `partition by ${idsOf(chosen, dialect)} `;
  const order = `${dialect.id(ORDER)}${keep === 'last' ? ' desc' : ''}`;
  return selectFrom(saying, asTheyAre(from.table, dialect), {
    source: `(select *, row_number() over (${by}order by ${order}) as same from ${dialect.id(from.name)}) as numbered`,
    behind: ['where same = 1'],
  });
};

export const showingDuplicates: StepTranslator = (saying, given) => {
  const { dialect, from, to } = saying;
  const { columns } = showDuplicates.params.parse(given);
  const chosen = readableFields(columns, from.table);
  if (chosen.length === 0) throw new UnsupportedInSql('no column is chosen');
  refuseNames(from.table, ['times']);
  return selectFrom(saying, [...asTheyAre(from.table, dialect), { sql: 'times', name: to.fields.at(-1)!.name }], {
    source: `(select *, count(*) over (partition by ${idsOf(chosen, dialect)}) as times from ${dialect.id(from.name)}) as counted`,
    behind: ['where times > 1'],
  });
};

export const numbering: StepTranslator = (saying, given) => {
  const { dialect, from, to } = saying;
  const { from: first, within } = numberRows.params.parse(given);
  refuseNames(from.table, ['run', 'turn']);
  const order = dialect.id(ORDER);
  const number = `row_number() over (partition by run order by ${order}) + ${first - 1}`;
  const columns = [{ sql: number, name: to.fields[0]!.name }, ...asTheyAre(from.table, dialect)];
  return selectFrom(saying, columns, { source: inRuns(saying, within, '') });
};
