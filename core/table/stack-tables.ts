import { constantText } from './builder.ts';
import { blankColumn, stackColumns } from './gather.ts';
import { type Field, type Table, uniqueName } from './table.ts';

/**
 * Tables one under the other, columns by their names; what a table does not have is blank in its rows.
 *
 * @param own for each table the name that each of its columns stands under; '' leaves a column out
 * @returns the columns, and for each of them where it stands in every table (-1: nowhere)
 */
export function stackByName(
  tables: readonly Table[],
  own: readonly (readonly string[])[] = tables.map((table) => table.fields.map((field) => field.name)),
): { field: Field; at: number[] }[] {
  const names = [...new Set(own.flat())].filter((name) => name !== '');
  return names.map((name) => {
    const at = own.map((of) => of.indexOf(name));
    const first = at.findIndex((k) => k >= 0);
    const column = stackColumns(
      tables.map((table, t) => (at[t]! < 0 ? blankColumn(table.rows) : table.fields[at[t]!]!.column)),
    );
    return { field: { name, nameOrigin: tables[first]!.fields[at[first]!]!.nameOrigin, column }, at };
  });
}

/** Tables one under the other, with a first column that says which table a row is of. */
export function stackNamed(tables: readonly { name: string; table: Table }[], nameColumn: string): Table {
  const stacked = stackByName(tables.map((one) => one.table)).map((one) => one.field);
  const taken = new Set(stacked.map((field) => field.name));
  const column = stackColumns(tables.map(({ name, table }) => constantText(name, table.rows)));
  return {
    rows: tables.reduce((sum, one) => sum + one.table.rows, 0),
    fields: [{ name: uniqueName(nameColumn, taken), nameOrigin: 'beside', column }, ...stacked],
  };
}
