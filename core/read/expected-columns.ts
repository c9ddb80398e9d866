/** Columns that depend on what a report holds, and are wanted in the months without them too. */

import { z } from 'zod';
import { blank, option, type Phrase } from '../kinds/sentence.ts';
import { blankColumn } from '../table/gather.ts';
import type { Field } from '../table/table.ts';
import { few } from '../values/counted.ts';
import type { ReadResult } from './read-kind.ts';

export const EXPECTS = z
  .array(z.string().min(1))
  .default([])
  .describe('Columns that the table has even where the report has none of them: blank then');

export function expectsPhrase(expects: readonly string[]): Phrase {
  return option(
    expects.length === 0,
    ', always with ',
    blank('expects', expects.join(', ') || 'no other columns', {
      as: 'lines',
      label: 'Columns that are wanted even where the report has none',
      hint: 'Comments, or fields that are only sometimes there: blank in the months without',
    }),
  );
}

/** The reading with the columns that are expected of it. */
export function withExpected(result: ReadResult, expects: readonly string[]): ReadResult {
  const names = new Set(result.table.fields.map((field) => field.name));
  const missing = [...new Set(expects)].filter((name) => !names.has(name));
  if (missing.length === 0) return result;
  const { table, places } = result;
  const added = missing.map(
    (name): Field => ({
      name,
      nameOrigin: table.fields.some((field) => field.nameOrigin === 'position') ? 'beside' : 'named',
      column: blankColumn(table.rows),
    }),
  );
  const nowhere = (columns: Int32Array) => Int32Array.from([...columns, ...missing.map(() => -1)]);
  return {
    ...result,
    table: { ...table, fields: [...table.fields, ...added] },
    places: {
      ...places,
      columns: nowhere(places.columns),
      ...(places.ofPart === undefined
        ? {}
        : { ofPart: places.ofPart.map((of) => (of === undefined ? undefined : nowhere(of))) }),
    },
    notices: [...result.notices, { severity: 'info', text: `not in this report, and blank: ${few(missing)}` }],
  };
}
