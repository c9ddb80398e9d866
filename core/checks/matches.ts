import { z } from 'zod';
import { compilePattern } from '../kinds/column-set.ts';
import { columnName } from '../kinds/param-marks.ts';
import { blank, columnBlank } from '../kinds/sentence.ts';
import { textView, usedTexts } from '../values/cell-text.ts';
import { type CheckKind, checkSchema, columnOf, failing } from './check-kind.ts';
import { FEW_VALUES } from './one-of.ts';

const schema = checkSchema('matches', {
  column: columnName(),
  pattern: z.string().describe('ECMAScript regular expression for the whole text'),
});

export const matches = {
  schema,
  toFillIn: { title: 'A column matches a pattern', start: (column) => ({ column, pattern: '.*' }) },
  sentence: ({ column, pattern }) => [
    columnBlank('column', column, 'Column'),
    ' matches ',
    blank('pattern', pattern, { as: 'text', label: 'Pattern' }),
  ],
  run(table, { column, pattern }) {
    const { codes, texts } = textView(columnOf(table, column));
    const whole = compilePattern(`^(?:${pattern})$`);
    const bad = texts.map((text) => !whole.test(text));
    return failing(table, column, (r) => codes[r]! >= 0 && bad[codes[r]!]!, 'otherwise');
  },
  offers: (table) =>
    table.fields.flatMap(({ name, column }) => {
      const used = column.type === 'text' ? usedTexts(column) : new Set<string>();
      const pattern = used.size > FEW_VALUES ? commonShape([...used]) : undefined;
      return pattern === undefined ? [] : [{ column: name, pattern }];
    }),
} satisfies CheckKind<z.infer<typeof schema>>;

/** The shape that all texts share as a pattern: letters and digits in the same places. */
function commonShape(texts: readonly string[]): string | undefined {
  if (texts.length < 5) return undefined;
  const shape = (text: string) =>
    text
      .replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&')
      .replace(/\p{Lu}/gu, '\u0001')
      .replace(/\d/g, '\u0002');
  const first = shape(texts[0]!);
  if (!first.includes('\u0002') || texts.some((text) => shape(text) !== first)) return undefined;
  const runs = (mark: string, pattern: string) => (text: string) =>
    text.replace(new RegExp(`${mark}+`, 'g'), (run) => (run.length === 1 ? pattern : `${pattern}{${run.length}}`));
  return runs('\u0002', '\\d')(runs('\u0001', '\\p{Lu}')(first));
}
