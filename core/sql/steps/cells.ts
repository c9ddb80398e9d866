/** What cells become. */
import { chosenColumns } from '../../kinds/column-set.ts';
import { expression } from '../../steps/cells/expression.ts';
import { recode } from '../../steps/cells/recode.ts';
import { replace } from '../../steps/cells/replace.ts';
import { setTypes } from '../../steps/cells/set-types.ts';
import type { Table } from '../../table/table.ts';
import { foldedFor } from '../case-folding.ts';
import { expressionSql } from '../expressions.ts';
import {
  asTheyAre,
  fieldOf,
  needReadable,
  refuseNames,
  type Selected,
  type StepTranslator,
  selectFrom,
  sqlType,
  UnsupportedInSql,
} from '../translate.ts';
import { typedSql } from '../types-sql.ts';

export const typing: StepTranslator = (saying, given) => {
  const { dialect, from } = saying;
  const { types } = setTypes.params.parse(given);
  const columns = asTheyAre(from.table, dialect);
  const typed = new Set<number>();
  const trimmed: string[] = [];
  for (const form of types)
    for (const k of chosenColumns(form.columns, from.table)) {
      const field = from.table.fields[k]!;
      if (typed.has(k)) throw new UnsupportedInSql(`${field.name} is given two types`);
      typed.add(k);
      const text = `${field.name} as text`;
      refuseNames(from.table, [text.toLowerCase()]);
      if (saying.isStrict && form.type !== 'text') needReadable(saying.to.fields[k]!);
      columns[k] = { ...columns[k]!, sql: typedSql(field, form, dialect.id(text), saying) };
      if (sqlType(field) === 'text' && form.type !== 'text')
        trimmed.push(`        ${dialect.trim(dialect.id(field.name))} as ${dialect.id(text)}`);
    }
  if (trimmed.length === 0) return selectFrom(saying, columns);
  const source = `(\n    select *,\n${trimmed.join(',\n')}\n    from ${dialect.id(from.name)}\n) as texts`;
  return selectFrom(saying, columns, { source });
};

export const computing: StepTranslator = (saying, given) => {
  const { into, text } = expression.params.parse(given);
  const { dialect, from } = saying;
  const { sql } = expressionSql(text, from.table, dialect);
  return selectFrom(saying, putIn(asTheyAre(from.table, dialect), saying.to, into, sql));
};

/** A column in place of one of its name, or where the step put it. */
export function putIn(columns: Selected[], to: Table, name: string, sql: string): Selected[] {
  const at = columns.findIndex((one) => one.name === name);
  if (at >= 0) return columns.with(at, { sql, name });
  return columns.toSpliced(
    to.fields.findIndex((field) => field.name === name),
    0,
    { sql, name },
  );
}

export const recoding: StepTranslator = (saying, given) => {
  const { dialect, from } = saying;
  const { column, crosswalk, unmatched, exact, into } = recode.params.parse(given);
  if (unmatched === 'list') throw new UnsupportedInSql('texts without a meaning are to stand out as unreadable');
  const cell = dialect.id(fieldOf(from.table, column, 'text').name);
  const meanings = new Map(crosswalk.map((one) => [exact ? one.from.trim() : one.from.trim().toLowerCase(), one.to]));
  const code = exact ? dialect.trim(cell) : foldedFor(dialect.trim(cell), [...meanings.keys()], dialect);
  const whens = [...meanings].map(
    ([text, to]) => `\n        when ${dialect.text(text)} then ${to === '' ? 'null' : dialect.text(to)}`,
  );
  const sql =
    whens.length === 0
      ? cell
      : `case ${code}${whens.join('')}\n        else ${unmatched === 'keep' ? cell : 'null'}\n    end`;
  const columns = asTheyAre(from.table, dialect);
  const name = into === null || into === '' ? column : into;
  return selectFrom(saying, putIn(columns, saying.to, name, sql));
};

export const replacing: StepTranslator = (saying, given) => {
  const { dialect, from } = saying;
  const params = replace.params.parse(given);
  if (params.how !== 'part' || !params.exact)
    throw new UnsupportedInSql('only a part of a text, case and all, is replaced so');
  const columns = asTheyAre(from.table, dialect);
  for (const k of chosenColumns(params.columns, from.table)) {
    const cell = dialect.id(fieldOf(from.table, columns[k]!.name, 'text').name);
    columns[k] = {
      ...columns[k]!,
      sql: `nullif(replace(${cell}, ${dialect.text(params.find)}, ${dialect.text(params.with)}), '')`,
    };
  }
  return selectFrom(saying, columns);
};
