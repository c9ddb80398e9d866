import { z } from 'zod';
import { columnName } from '../kinds/param-marks.ts';
import { columnText, type RuleKind, ruleSchema, viewMask } from './rule-kind.ts';

const schema = ruleSchema('one-of', { column: columnName(), texts: z.array(z.string()) });

export const oneOf = {
  schema,
  title: 'is one of',
  start: (column, text) => ({ column, texts: text === '' ? [] : [text] }),
  fields: [{ param: 'texts', edit: { as: 'lines', label: 'One of, one a line' } }],
  text: ({ column, texts }) => `${columnText(column)} is ${texts.join(' or ') || '…'}`,
  mask(rule, table) {
    const wanted = new Set(rule.texts.map((text) => text.trim()));
    return viewMask(table, rule.column, (text) => wanted.has(text.trim()));
  },
} satisfies RuleKind<z.infer<typeof schema>>;
