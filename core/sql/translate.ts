import { type ColumnSet, chosenColumns } from '../kinds/column-set.ts';
import type { StepRun } from '../run/run.ts';
import { countUnreadable } from '../table/column.ts';
import type { Field, Table } from '../table/table.ts';
import type { Dialect, SqlType } from './dialect.ts';

/** Why a step cannot be translated to a dialect, as the end of a sentence that names it. */
export class UnsupportedInSql extends Error {
  override name = 'UnsupportedInSql';
}

/** A table that a script has made, by the name of its query, with the columns that it had in this run. */
export interface Relation {
  name: string;
  table: Table;
}

/** A step that is to be said, with what it read and gave in this run. */
export interface TranslationInput {
  dialect: Dialect;
  /** The query before it. */
  from: Relation;
  /** What it gave. */
  to: Table;
  run: StepRun;
  /** A later step asks which typed cells are filled: then whatever cannot be read stops the script. */
  isStrict: boolean;
  /** The query of another table of the job. @throws UnsupportedInSql where it has none */
  other(tableId: string): Relation;
}

/** The column that holds the order of the rows. */
export const ORDER = '#';

/** What SQL keeps a field as. */
export function sqlType({ column }: Field): SqlType {
  return column.type === 'received' ? 'text' : column.type;
}

/** A field by its name, of one of these types. @throws UnsupportedInSql */
export function fieldOf(table: Table, name: string, ...types: readonly SqlType[]): Field {
  const field = table.fields.find((one) => one.name === name);
  if (field === undefined) throw new UnsupportedInSql(`it names the column ${name}, which is not there`);
  if (types.length > 0 && !types.includes(sqlType(field)))
    throw new UnsupportedInSql(`${name} is ${sqlType(field)}, and how it reads as text is not said`);
  return field;
}

let hasAsked = false;

/** Translates a step, and says whether it asked for typed columns in which each cell could be read. */
export function watched<T>(translate: () => T): { made: T; hasAsked: boolean } {
  hasAsked = false;
  const made = translate();
  return { made, hasAsked };
}

/** Cells that could not be read are null in SQL: where they would count as filled, nothing is said. @throws UnsupportedInSql */
export function needReadable(field: Field): Field {
  if (sqlType(field) !== 'text') hasAsked = true;
  if (countUnreadable(field.column) > 0) throw new UnsupportedInSql(`${field.name} holds cells that could not be read`);
  return field;
}

/** The fields of chosen columns, none with cells that could not be read. @throws UnsupportedInSql */
export function readableFields(set: ColumnSet, table: Table): Field[] {
  return chosenColumns(set, table).map((k) => needReadable(table.fields[k]!));
}

/** The names of fields, as a list. */
export function idsOf(fields: readonly Field[], { id }: Dialect): string {
  return fields.map((field) => id(field.name)).join(', ');
}

/** 1 in each row in which a column is not what it was in the row before, else 0; without a column always 0. */
export function turnSql(table: Table, within: string | undefined, dialect: Dialect): string {
  if (within === undefined || within === '') return '0';
  const column = dialect.id(fieldOf(table, within).name);
  return `case when ${column} is distinct from lag(${column}) over (order by ${dialect.id(ORDER)}) then 1 else 0 end`;
}

/** @throws UnsupportedInSql where a column has a name that the query needs for itself */
export function refuseNames(table: Table, names: readonly string[]): void {
  const taken = table.fields.find((field) => names.includes(field.name.toLowerCase()));
  if (taken !== undefined) throw new UnsupportedInSql(`a column is called ${taken.name}`);
}

/** One column of a query. */
export interface Selected {
  sql: string;
  name: string;
}

/** Two names that are one to a dialect, in words. */
export function twinNames(columns: readonly { name: string }[], { foldsNames }: Dialect): string | undefined {
  const known = new Map<string, string>();
  for (const { name } of foldsNames ? columns : []) {
    const other = known.get(name.toLowerCase());
    if (other !== undefined) return `${other} and ${name}`;
    known.set(name.toLowerCase(), name);
  }
  return undefined;
}

/** The first name that is longer than the dialect keeps, which would be cut. */
export function longName(columns: readonly { name: string }[], { maxNameBytes }: Dialect): string | undefined {
  if (maxNameBytes === undefined) return undefined;
  return columns.find(({ name }) => new TextEncoder().encode(name).length > maxNameBytes)?.name;
}

/** A query over the one before: its columns under the names that the step gave them. */
export function selectFrom(
  { dialect, from }: Pick<TranslationInput, 'dialect' | 'from'>,
  columns: readonly Selected[],
  more: { order?: string; source?: string; behind?: readonly string[] } = {},
): string {
  const twins = twinNames(columns, dialect);
  if (twins !== undefined)
    throw new UnsupportedInSql(`${twins} differ by case alone, which ${dialect.title} does not tell apart`);
  const long = longName(columns, dialect);
  if (long !== undefined)
    throw new UnsupportedInSql(
      `the name ${long} is longer than the ${dialect.maxNameBytes} bytes that ${dialect.title} keeps`,
    );
  const order = dialect.id(ORDER);
  const lines = [
    more.order === undefined ? order : `${more.order} as ${order}`,
    ...columns.map(({ sql, name }) => (sql === dialect.id(name) ? sql : `${sql} as ${dialect.id(name)}`)),
  ];
  return [
    'select',
    lines.map((line) => `    ${line}`).join(',\n'),
    `from ${more.source ?? dialect.id(from.name)}`,
    ...(more.behind ?? []),
  ].join('\n');
}

/** The columns of a table as they are. */
export function asTheyAre({ fields }: Table, { id }: Dialect): Selected[] {
  return fields.map(({ name }) => ({ sql: id(name), name }));
}

/** Says a kind of step with its params as a query. @throws UnsupportedInSql */
export type StepTranslator = (saying: TranslationInput, params: unknown) => string;
