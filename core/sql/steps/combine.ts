/** Tables beside and under each other, and columns beside each other. */
import { chosenColumns } from '../../kinds/column-set.ts';
import { append } from '../../steps/combine/append.ts';
import { join } from '../../steps/combine/join.ts';
import { variance } from '../../steps/combine/variance.ts';
import type { Field } from '../../table/table.ts';
import {
  asTheyAre,
  fieldOf,
  needReadable,
  ORDER,
  refuseNames,
  type Selected,
  type StepTranslator,
  selectFrom,
  sqlType,
  UnsupportedInSql,
} from '../translate.ts';
import { putIn } from './cells.ts';
import { castTo } from './shape.ts';

export const joining: StepTranslator = (saying, given) => {
  const { dialect, from, to } = saying;
  const { table, how, keys, forgiving, bring } = join.params.parse(given);
  if (forgiving) throw new UnsupportedInSql('keys are compared without blanks, case and accents');
  if (how === 'full') throw new UnsupportedInSql('rows of both tables are kept');
  const other = saying.other(table);
  const own = (field: string) => `here.${dialect.id(field)}`;
  const theirs = (field: string) => `there.${dialect.id(field)}`;
  const on = keys.map(({ left, right }) => {
    const [a, b] = [needReadable(fieldOf(from.table, left)), needReadable(fieldOf(other.table, right))];
    if (sqlType(a) !== sqlType(b) || a.column.type === 'received' || b.column.type === 'received')
      throw new UnsupportedInSql(`${left} and ${right} are not of one type`);
    return `${own(left)} = ${theirs(right)}`;
  });
  const right = new Set(keys.map((key) => key.right));
  const order = dialect.id(ORDER);
  if (how === 'unmatched') {
    const none = `where not exists (select 1 from ${dialect.id(other.name)} as there where ${on.join(' and ')})`;
    const columns = from.table.fields.map(({ name }): Selected => ({ sql: own(name), name }));
    return selectFrom(saying, columns, {
      order: `here.${order}`,
      source: `${dialect.id(from.name)} as here`,
      behind: [none],
    });
  }
  const brought = chosenColumns(bring, other.table)
    .map((k) => other.table.fields[k]!.name)
    .filter((name) => !right.has(name));
  const sources = [...from.table.fields.map(({ name }) => own(name)), ...brought.map(theirs)];
  const columns = to.fields.map(({ name }, k): Selected => ({ sql: sources[k]!, name }));
  return selectFrom(saying, columns, {
    order: `row_number() over (order by here.${order}, there.${order})`,
    source: `${dialect.id(from.name)} as here`,
    behind: [`${how === 'inner' ? 'join' : 'left join'} ${dialect.id(other.name)} as there on ${on.join(' and ')}`],
  });
};

export const appending: StepTranslator = (saying, given) => {
  const { dialect, from, to } = saying;
  const { tables, columns, nameColumn } = append.params.parse(given);
  if (nameColumn !== null && nameColumn !== '') throw new UnsupportedInSql("the tables' names go into a column");
  const all = [from, ...tables.map((id) => saying.other(id))];
  const order = dialect.id(ORDER);
  const parts = all.map((one, t) => {
    const renamed = columns.filter((column) => column.table === tables[t - 1]);
    const under = (field: Field) => renamed.find((column) => column.from === field.name)?.to ?? field.name;
    const cells = to.fields.map((into) => {
      const field = one.table.fields.find((each) => under(each) === into.name);
      const cell = field === undefined ? `cast(null as ${dialect.types[sqlType(into)]})` : castTo(field, into, saying);
      return `${cell} as ${dialect.id(into.name)}`;
    });
    return `    select ${t} as part, ${order}, ${cells.join(', ')} from ${dialect.id(one.name)}`;
  });
  refuseNames(to, ['part']);
  return selectFrom(saying, asTheyAre(to, dialect), {
    order: `row_number() over (order by part, ${order})`,
    source: `(\n${parts.join('\n    union all\n')}\n) as parts`,
  });
};

/** Leaves room for factors of five digits within the 38 that decimals have. */
const SHORTER = 'decimal(28, 10)';

export const comparing: StepTranslator = (saying, given) => {
  const { dialect, from, to } = saying;
  const params = variance.params.parse(given);
  const [actual, target] = [params.actual, params.target].map((name) => fieldOf(from.table, name, 'whole', 'number'));
  const cell = (field: Field) =>
    sqlType(field) === 'whole' ? dialect.id(field.name) : dialect.decimal(dialect.id(field.name));
  const difference = `${cell(actual!)} - ${cell(target!)}`;
  const isWhole = sqlType(actual!) === 'whole' && sqlType(target!) === 'whole';
  let columns = asTheyAre(from.table, dialect);
  columns = putIn(columns, to, params.into, isWhole ? difference : dialect.nearest(`(${difference})`));
  if (params.share === null) return selectFrom(saying, columns);
  refuseNames(from.table, ['apart', 'base']);
  // Counted in ten-thousandths by what is left over: a quotient of doubles may lie on the wrong side of a half.
  const [over, whole] = ['20000 * abs(apart) + base', '2 * base'];
  const share = `sign(apart) * round((${over} - ${dialect.remainder(over, whole)}) / (${whole})) / 10000`;
  return selectFrom(saying, putIn(columns, to, params.share, `cast(${share} as ${dialect.types.number})`), {
    source: `(
    select *, cast(${difference} as ${SHORTER}) as apart, cast(abs(nullif(${cell(target!)}, 0)) as ${SHORTER}) as base
    from ${dialect.id(from.name)}
) as compared`,
  });
};
