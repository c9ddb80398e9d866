import { CellKind, profileTable, textAt } from '../glance/table-profile.ts';
import type { Table } from '../table/table.ts';
import type { Reason } from './reason.ts';
import type { Remark } from './review/remark.ts';

/** A cell of the finished table that a remark speaks of. */
export interface DoubtPlace {
  row: number;
  column: number;
}

/** Where a person looks for what a remark says: its first cell in its column; undefined where it names no column. */
export function placeOfRemark(remark: Remark, table: Table): DoubtPlace | undefined {
  if (!('column' in remark)) return undefined;
  const column = table.fields.findIndex(({ name }) => name === remark.column);
  if (column < 0) return undefined;
  const field = table.fields[column]!;
  const [view] = profileTable({ rows: table.rows, fields: [{ ...field, nameOrigin: 'named' }] }).columns;
  const isMeant = (r: number) => {
    if (remark.code === 'gaps-in-keys' || remark.code === 'unlabelled-rows') return view!.kinds[r] === CellKind.blank;
    if (remark.code === 'reads-as') return view!.kinds[r] === CellKind.text;
    return 'text' in remark && textAt(view!, r) === remark.text;
  };
  let row = 0;
  while (row < table.rows && !isMeant(row)) row++;
  return { row: row < table.rows ? row : 0, column };
}

/** Where the reason of a draft leads to, where it speaks of a column. */
export function placeOfReason(reason: Reason, table: Table): DoubtPlace | undefined {
  if (reason.code === 'remark') return placeOfRemark(reason.remark, table);
  const named = reason.code === 'doubt' ? reason.doubt : reason;
  if (!('column' in named)) return undefined;
  const column = table.fields.findIndex(({ name }) => name === named.column);
  return column < 0 || table.rows === 0 ? undefined : { row: 0, column };
}
