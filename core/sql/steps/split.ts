/** Texts in pieces. */
import { splitToColumns } from '../../steps/split/split-to-columns.ts';
import { splitToRows } from '../../steps/split/split-to-rows.ts';
import {
  asTheyAre,
  fieldOf,
  ORDER,
  refuseNames,
  type Selected,
  type StepTranslator,
  selectFrom,
  UnsupportedInSql,
} from '../translate.ts';

export const splittingToColumns: StepTranslator = (saying, given) => {
  const { dialect, from, to } = saying;
  const { column, cut, into, keep } = splitToColumns.params.parse(given);
  const delimiter = onlyDelimiter(cut);
  if (dialect.pieces === undefined) throw new UnsupportedInSql('the standard cuts no text into pieces');
  const cell = dialect.id(fieldOf(from.table, column, 'text').name);
  const { at, from: rest, split } = dialect.pieces;
  const pieces = split(cell, delimiter);
  const own = into.flatMap((name, k): Selected[] => {
    if (name.trim() === '') return [];
    const piece = k === into.length - 1 ? rest(pieces, k + 1, delimiter) : at(pieces, k + 1);
    return [{ sql: `nullif(${dialect.trim(piece)}, '')`, name }];
  });
  const named = new Set(from.table.fields.map((field) => field.name).filter((name) => keep || name !== column));
  let next = 0;
  const columns = to.fields.map(
    ({ name }): Selected => (named.has(name) ? { sql: dialect.id(name), name } : { sql: own[next++]!.sql, name }),
  );
  if (next !== own.length) throw new UnsupportedInSql('a new column takes the name of another');
  return selectFrom(saying, columns);
};

function onlyDelimiter(cut: { by: string; delimiters: readonly string[]; which: string; trim: boolean }): string {
  const [delimiter, ...others] = cut.delimiters.filter((one) => one !== '');
  if (cut.by !== 'delimiter' || cut.which !== 'every' || !cut.trim || others.length > 0 || delimiter === undefined)
    throw new UnsupportedInSql('only texts cut at every place of one delimiter are said');
  return delimiter;
}

export const splittingToRows: StepTranslator = (saying, given) => {
  const { dialect, from } = saying;
  const { columns: names, cut, numbering } = splitToRows.params.parse(given);
  const delimiter = onlyDelimiter(cut);
  const [name, ...others] = names;
  if (others.length > 0 || (numbering !== null && numbering !== ''))
    throw new UnsupportedInSql('one column alone goes down so');
  if (dialect.pieces === undefined) throw new UnsupportedInSql('the standard cuts no text into pieces');
  const cell = dialect.id(fieldOf(from.table, name!, 'text').name);
  refuseNames(from.table, ['piece', 'place', 'pieces']);
  const columns = asTheyAre(from.table, dialect).map((one) =>
    one.name === name ? { ...one, sql: `nullif(${dialect.trim('piece')}, '')` } : one,
  );
  return selectFrom(saying, columns, {
    order: `row_number() over (order by ${dialect.id(ORDER)}, place)`,
    behind: [dialect.pieces.each(cell, delimiter)],
  });
};
