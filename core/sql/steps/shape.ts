/** Columns as rows, and rows as groups. */
import { chosenColumns } from '../../kinds/column-set.ts';
import { group } from '../../steps/shape/group.ts';
import { namingRows, pivot } from '../../steps/shape/pivot.ts';
import { planNames, unpivot } from '../../steps/shape/unpivot.ts';
import type { Field } from '../../table/table.ts';
import { cellText } from '../../values/cell-text.ts';
import type { SqlType } from '../dialect.ts';
import { expressionSql } from '../expressions.ts';
import {
  fieldOf,
  idsOf,
  needReadable,
  ORDER,
  readableFields,
  refuseNames,
  type Selected,
  type StepTranslator,
  selectFrom,
  sqlType,
  type TranslationInput,
  UnsupportedInSql,
} from '../translate.ts';

export const unpivoting: StepTranslator = (saying, given) => {
  const { dialect, from, to } = saying;
  const params = unpivot.params.parse(given);
  const going = chosenColumns(params.columns, from.table);
  const goes = new Set(going);
  const staying = from.table.fields.filter((_, k) => !goes.has(k));
  const { groups, names, values } = planNames(from.table, going, params);
  const fields = to.fields.slice(staying.length + names.length);
  const cells = (columns: readonly number[]) =>
    columns.map((k, v) =>
      k < 0 ? `cast(null as ${dialect.types[sqlType(fields[v]!)]})` : castTo(from.table.fields[k]!, fields[v]!, saying),
    );
  const rows = groups.map(({ texts, columns }, g) => [
    String(g),
    ...texts.map((text) => (text === null ? 'null' : dialect.text(text))),
    ...cells(columns),
  ]);
  const inner = ['place', ...names.map((_, k) => `name_${k}`), ...values.map((_, k) => `value_${k}`)];
  refuseNames(from.table, [...inner, 'names']);
  const columns = to.fields.map(({ name }, k): Selected => {
    const before = staying[k];
    return { sql: before === undefined ? inner[k - staying.length + 1]! : dialect.id(before.name), name };
  });
  const some = values.map((_, k) => `value_${k} is not null`).join(' or ');
  return selectFrom(saying, columns, {
    order: `row_number() over (order by ${dialect.id(ORDER)}, place)`,
    behind: [dialect.eachOf(rows, inner), ...(params.blanks === 'drop' ? [`where ${some}`] : [])],
  });
};

/** A cell as the type of a column that it goes into. */
export function castTo(field: Field, into: Field, { dialect }: TranslationInput): string {
  const [from, to] = [sqlType(field), sqlType(into)];
  if (from === to) return dialect.id(field.name);
  if (from === 'whole' && to === 'number') return `cast(${dialect.id(field.name)} as ${dialect.types.number})`;
  throw new UnsupportedInSql(`${field.name} is ${from} and goes into ${into.name}, which is ${to}`);
}

export const grouping: StepTranslator = (saying, given) => {
  const { dialect, from, to } = saying;
  const { by, measures } = group.params.parse(given);
  const keys = readableFields(by, from.table);
  if (keys.length === 0) throw new UnsupportedInSql('it makes one group of all rows');
  const order = dialect.id(ORDER);
  const columns = [
    ...keys.map((field, k): Selected => ({ sql: dialect.id(field.name), name: to.fields[k]!.name })),
    ...measures.map((one, m): Selected => {
      const where =
        one.where === undefined || one.where.trim() === ''
          ? undefined
          : expressionSql(one.where, from.table, dialect).sql;
      const name = to.fields[keys.length + m]!.name;
      if (one.by === 'rows')
        return { sql: where === undefined ? 'count(*)' : `count(*) filter (where ${where})`, name };
      const field = fieldOf(from.table, one.column);
      return { sql: measureSql(one.by, field, where, saying, order), name };
    }),
  ];
  return selectFrom(saying, columns, {
    order: `min(${order})`,
    behind: [`group by ${idsOf(keys, dialect)}`],
  });
};

function measureSql(
  by: string,
  field: Field,
  where: string | undefined,
  { dialect, isStrict }: TranslationInput,
  order: string,
): string {
  const type: SqlType = sqlType(field);
  const cell = dialect.id(field.name);
  const value = where === undefined ? cell : `case when ${where} then ${cell} end`;
  if (field.column.type === 'received') throw new UnsupportedInSql(`${field.name} holds several kinds of cells`);
  switch (by) {
    case 'sum':
      if (type === 'whole') return `cast(sum(${value}) as ${dialect.types.whole})`;
      // Amounts are added as decimals, as they are here.
      if (type === 'number') return dialect.nearest(`sum(${dialect.decimal(value)})`);
      break;
    case 'mean':
      // A mean of whole numbers is rounded once by all of them.
      if (type === 'whole') return `avg(${value})`;
      if (type === 'number' && dialect.mean !== undefined) return dialect.mean(value);
      throw new UnsupportedInSql(`the mean of ${field.name} has other last digits in ${dialect.title}`);
    case 'median':
      if (type === 'whole' && dialect.median !== undefined)
        return dialect.median(`cast(${value} as ${dialect.types.number})`);
      throw new UnsupportedInSql(`the median of ${field.name} may have other last digits in ${dialect.title}`);
    case 'min':
    case 'max':
      if (type !== 'yesno') return `${by}(${type === 'text' ? dialect.plain(value) : value})`;
      break;
    case 'only':
      // Where several met, none stands: here they are a cell that could not be read.
      if (type !== 'yesno')
        return isStrict
          ? `case when count(${value}) > 1 then ${dialect.refuse(`${dialect.text(`several values of ${field.name}: `)} || cast(min(${value}) as ${dialect.types.text})`, type)} else min(${value}) end`
          : `case when count(${value}) = 1 then min(${value}) end`;
      break;
    case 'count':
      return `count(${value})`;
    case 'distinct':
      return `count(distinct ${value})`;
    case 'first':
    case 'last':
      if (dialect.picked !== undefined) return dialect.picked(value, order, by);
      break;
    case 'joined':
      if (type === 'text' && dialect.joined !== undefined) return dialect.joined(value, '; ', order);
      break;
  }
  throw new UnsupportedInSql(`${by} of ${field.name} is not said`);
}

export const pivoting: StepTranslator = (saying, given) => {
  const { dialect, from, to } = saying;
  const params = pivot.params.parse(given);
  if (params.empty !== null) throw new UnsupportedInSql('empty cells are filled');
  const names = params.names.map((name) => fieldOf(from.table, name, 'text'));
  const values = params.values.map(({ column }) => needReadable(fieldOf(from.table, column)));
  if (saying.isStrict) for (const field of to.fields) needReadable(field);
  const used = new Set([...names, ...values]);
  const rows =
    params.rows === null
      ? from.table.fields.filter((field) => !used.has(field)).map(needReadable)
      : readableFields(params.rows, from.table);
  if (rows.length === 0) throw new UnsupportedInSql('it makes one row of all');
  const conditions = namingRows(from.table, params).map((row) =>
    names
      .map(({ name, column }) => {
        const text = cellText(column, row);
        return `${dialect.id(name)} ${text === null ? 'is null' : `= ${dialect.text(text)}`}`;
      })
      .join(' and '),
  );
  const order = dialect.id(ORDER);
  const columns = [
    ...rows.map((field, k): Selected => ({ sql: dialect.id(field.name), name: to.fields[k]!.name })),
    ...conditions.flatMap((condition, c) =>
      values.map((field, v): Selected => {
        const name = to.fields[rows.length + c * values.length + v]!.name;
        return { sql: measureSql(params.values[v]!.by, field, condition, saying, order), name };
      }),
    ),
  ];
  const named = names.map(({ name }) => `coalesce(${dialect.id(name)}, 'blank')`).join(" || ' / ' || ");
  // A name that was not there when the script was made would lose its values.
  const known = `case when ${conditions.map((one) => (names.length > 1 ? `(${one})` : one)).join(' or ')} then true else ${dialect.refuse(named, 'yesno')} end`;
  return selectFrom(saying, columns, {
    order: `min(${order})`,
    behind: [`where ${known}`, `group by ${idsOf(rows, dialect)}`],
  });
};
