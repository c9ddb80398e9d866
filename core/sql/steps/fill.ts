/** What cells take from others of their column. */
import { chosenColumns } from '../../kinds/column-set.ts';
import { Rule } from '../../rules/rules.ts';
import { carry } from '../../steps/fill/carry.ts';
import { fill } from '../../steps/fill/fill.ts';
import { ruleSql } from '../conditions.ts';
import {
  asTheyAre,
  fieldOf,
  needReadable,
  ORDER,
  refuseNames,
  type Selected,
  type StepTranslator,
  selectFrom,
  type TranslationInput,
  turnSql,
  UnsupportedInSql,
} from '../translate.ts';

/**
 * The query before with the number of each stretch in which a column stays the same, as "run": its own query, since
 * windows do not stand in windows.
 */
export function inRuns({ dialect, from }: TranslationInput, within: string | undefined, more: string): string {
  const [order, name] = [dialect.id(ORDER), dialect.id(from.name)];
  if (within === undefined || within === '') return `(select *, 0 as run${more} from ${name}) as runs`;
  return [
    '(',
    `    select *, sum(turn) over (order by ${order}) as run${more}`,
    '    from (',
    `        select *, ${turnSql(from.table, within, dialect)} as turn`,
    `        from ${name}`,
    '    ) as turns',
    ') as runs',
  ].join('\n');
}

/** A query inside another, indented but for its first line. */
export function nested(sql: string, steps: number): string {
  return sql.replaceAll('\n', `\n${'    '.repeat(steps)}`);
}

export const filling: StepTranslator = (saying, given) => {
  const { dialect, from } = saying;
  const params = fill.params.parse(given);
  if (params.direction === 'across') throw new UnsupportedInSql('it fills from the column before');
  const order = `${dialect.id(ORDER)}${params.direction === 'up' ? ' desc' : ''}`;
  const chosen = chosenColumns(params.columns, from.table);
  for (const k of chosen) needReadable(from.table.fields[k]!);
  refuseNames(from.table, ['run', 'turn', ...chosen.map((k) => `filled ${k}`)]);
  const counts = chosen
    .map(
      (k) =>
        `,\n        count(${dialect.id(from.table.fields[k]!.name)}) over (partition by run order by ${order}) as ${dialect.id(`filled ${k}`)}`,
    )
    .join('');
  const columns = asTheyAre(from.table, dialect);
  for (const k of chosen)
    columns[k] = {
      ...columns[k]!,
      sql: `first_value(${columns[k]!.sql}) over (partition by run, ${dialect.id(`filled ${k}`)} order by ${order})`,
    };
  const source = `(\n    select *${counts}\n    from ${nested(inRuns(saying, params.within, ''), 1)}\n) as counted`;
  return selectFrom(saying, columns, { source });
};

export const carrying: StepTranslator = (saying, given) => {
  const { dialect, from, to } = saying;
  const params = carry.params.parse(given);
  if ((params.outer ?? []).length > 0) throw new UnsupportedInSql('it carries labels of several levels');
  if ((params.also ?? []).length > 0) throw new UnsupportedInSql('it carries several cells of a label row');
  const cell = dialect.id(needReadable(fieldOf(from.table, params.from)).name);
  const isLabel = `coalesce(${ruleSql(Rule.parse(params.rule), from.table, dialect)}, false)`;
  refuseNames(from.table, ['run', 'turn', 'label', 'labels']);
  const order = `${dialect.id(ORDER)}${params.up === true ? ' desc' : ''}`;
  const source = [
    '(',
    `    select *, first_value(case when label = 1 then ${cell} end) over (partition by run, labels order by ${order}) as carried`,
    '    from (',
    `        select *, sum(label) over (partition by run order by ${order}) as labels`,
    `        from ${nested(inRuns(saying, params.within, `,\n        case when ${isLabel} then 1 else 0 end as label`), 2)}`,
    '    ) as labelled',
    ') as carried',
  ].join('\n');
  const known = new Set(from.table.fields.map((field) => field.name));
  const columns = to.fields.map(
    ({ name }): Selected => ({ sql: known.has(name) ? dialect.id(name) : 'carried', name }),
  );
  return selectFrom(saying, columns, { source, behind: ['where label = 0'] });
};
