import type { Column } from '../table/column.ts';
import type { Table } from '../table/table.ts';
import { groupRows } from './keys.ts';

const MAX_KEY = 6;

/** The first few columns that tell every row apart, dates and words before figures. */
export function identifyingColumns(table: Table): string[] | undefined {
  if (table.rows < 2) return undefined;
  const rank = (column: Column) => (column.type === 'number' ? 2 : column.type === 'whole' ? 1 : 0);
  const fields = table.fields.filter((field) => rank(field.column) < 2).sort((a, b) => rank(a.column) - rank(b.column));
  const alone = fields.find((field) => groupRows([field.column], table.rows).count === table.rows);
  if (alone !== undefined) return [alone.name];
  const chosen: typeof fields = [];
  let apart = 1;
  for (const field of fields) {
    if (rank(field.column) > 0) break;
    const count = groupRows(
      [...chosen, field].map((one) => one.column),
      table.rows,
    ).count;
    if (count <= apart) continue;
    chosen.push(field);
    apart = count;
    if (apart === table.rows) return chosen.map((one) => one.name);
    if (chosen.length === MAX_KEY) break;
  }
  return undefined;
}
