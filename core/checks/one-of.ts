import { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { blank, columnBlank } from '../kinds/sentence.ts';
import { textView, usedTexts } from '../values/cell-text.ts';
import { few } from '../values/counted.ts';
import { type CheckKind, checkSchema, columnOf, failing } from './check-kind.ts';

const schema = checkSchema('one-of', { column: columnName(), values: z.array(z.string()) });

/** More different values than this are no list. */
export const FEW_VALUES = 12;

export const oneOf = {
  schema,
  sentence: ({ column, values }) => [
    columnBlank('column', column, 'Column'),
    ' is one of ',
    blank('values', few(values, 6), { as: 'lines', label: 'Values, one a line' }),
  ],
  run(table, { column, values }) {
    const { codes, texts } = textView(columnOf(table, column));
    const known = new Set(values);
    const bad = texts.map((text) => !known.has(text));
    const found = failing(table, column, (r) => codes[r]! >= 0 && bad[codes[r]!]!, 'other');
    const others = [...new Set(found.rows.map((r) => texts[codes[r]!]!))];
    return { ...found, found: found.ok ? `${values.length} values` : `${found.found}: ${few(others)}` };
  },
  offers: (table) =>
    table.fields.flatMap(({ name, column }) => {
      if (column.type !== 'text') return [];
      const used = usedTexts(column);
      const isList = used.size > 0 && used.size <= FEW_VALUES && table.rows > used.size * 2;
      return isList ? [{ column: name, values: [...used] }] : [];
    }),
} satisfies CheckKind<z.infer<typeof schema>>;
