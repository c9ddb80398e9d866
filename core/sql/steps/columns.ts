/** Columns under other names, in another order, or fewer. */
import { type Selected, type StepTranslator, selectFrom, UnsupportedInSql } from '../translate.ts';

/** Columns under other names, in another order, or fewer: told by where each came from. */
export const ofColumns: StepTranslator = (saying) => {
  const { dialect, from, to, run } = saying;
  const columns = to.fields.map(({ name }, k): Selected => {
    const [cell, ...others] = run.origin[k]!.cells;
    if (cell === undefined || others.length > 0 || typeof cell.column !== 'number' || cell.rows.kind !== 'same')
      throw new UnsupportedInSql(`${name} is made of more than one column`);
    return { sql: dialect.id(from.table.fields[cell.column]!.name), name };
  });
  return selectFrom(saying, columns);
};
