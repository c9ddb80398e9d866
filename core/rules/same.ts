import { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { needColumn } from '../kinds/step.ts';
import type { Table } from '../table/table.ts';
import { flags } from '../table/vectors.ts';
import { textView } from '../values/cell-text.ts';
import { type RuleKind, ruleSchema } from './rule-kind.ts';

const schema = ruleSchema(
  'same',
  { cells: z.record(columnName(), z.string().nullable()) },
  'Cells read like those of an example',
);
const bare = ruleSchema('header', {}, 'Cells read like the names of their columns');

export const same = {
  schema,
  title: 'the row reads like an example',
  looksAround: true,
  start: () => ({ cells: {} }),
  fields: [{ param: 'cells', edit: { as: 'cells', label: 'Cells of the example' } }],
  text({ cells }) {
    const shown = Object.values(cells).filter((cell) => cell !== null);
    return `the row reads like ${shown.join(' · ') || 'a blank row'}`;
  },
  mask: ({ cells }, table) => sameMask(cells, table),
} satisfies RuleKind<z.infer<typeof schema>>;

export const header = {
  schema: bare,
  title: 'the row reads like the header',
  start: () => ({}),
  text: () => 'the row reads like the header',
  mask(_, table) {
    const named = table.fields.filter((field) => field.nameOrigin !== 'beside');
    return sameMask(Object.fromEntries(named.map((field) => [field.name, field.name])), table);
  },
} satisfies RuleKind<z.infer<typeof bare>>;

function sameMask(cells: Record<string, string | null>, table: Table): Uint8Array {
  const mask = new Uint8Array(table.rows).fill(1);
  for (const [name, cell] of Object.entries(cells)) {
    const { codes, texts } = textView(table.fields[needColumn(table, name)]!.column);
    const wanted = cell?.trim();
    const equal = flags(texts, (text) => text.trim() === wanted);
    for (let r = 0; r < mask.length; r++) {
      const code = codes[r]!;
      mask[r]! &= code < 0 ? (cell === null ? 1 : 0) : equal[code]!;
    }
  }
  return mask;
}
