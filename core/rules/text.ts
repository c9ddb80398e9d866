import { z } from 'zod';
import { compilePattern } from '../kinds/column-set.ts';
import { columnName } from '../kinds/param-marks.ts';
import { needColumn } from '../kinds/step.ts';
import { spansOf } from '../table/spanned-column.ts';
import { isAscii } from '../table/spans.ts';
import type { Table } from '../table/table.ts';
import { rowsReading } from '../values/cell-text.ts';
import { columnText, type RuleKind, ruleSchema, viewMask } from './rule-kind.ts';

interface Asked {
  column: string;
  text: string;
  exact?: boolean | undefined;
}

/** A test on the text of one cell. */
function textKind<T extends string>(
  test: T,
  title: string,
  words: string,
  mask: (asked: Asked, table: Table) => Uint8Array,
  about = 'Text to compare with',
) {
  const schema = ruleSchema(test, {
    column: columnName(),
    text: z.string().describe(about),
    exact: z.boolean().optional().describe('Case and outer spaces matter'),
  });
  return {
    schema,
    title,
    start: (column, text) => ({ column, text }),
    fields: [{ param: 'text', edit: { as: 'text', label: 'Text', optional: true, blank: '' } }],
    text: ({ column, text }) => `${columnText(column)} ${words} ${text || '…'}`,
    mask,
  } satisfies RuleKind<z.infer<typeof schema>>;
}

/** Compared as it reads; case and outer spaces only where that is asked. */
function compared(holds: (text: string, wanted: string) => boolean) {
  return ({ column, text, exact }: Asked, table: Table) => {
    const plain = (one: string) => (exact ? one : one.trim().toLowerCase());
    const wanted = plain(text);
    return viewMask(table, column, (one) => holds(plain(one), wanted));
  };
}

/** Many cells of a report are still bytes: those are compared without a text for each. */
function sameText({ column, text }: Asked, table: Table): Uint8Array {
  const wanted = text.trim().toLowerCase();
  const test = (one: string) => one.trim().toLowerCase() === wanted;
  const cells = table.fields[needColumn(table, column)]!.column;
  const spans = cells.type === 'text' && isAscii(wanted) ? spansOf(cells) : undefined;
  return spans === undefined ? viewMask(table, column, test) : spans.rowsLike(wanted, test);
}

export const equals = textKind('equals', 'is', 'is', (asked, table) =>
  asked.exact ? rowsReading(table.fields[needColumn(table, asked.column)]!.column, asked.text) : sameText(asked, table),
);
export const starts = textKind(
  'starts',
  'starts with',
  'starts with',
  compared((text, wanted) => text.startsWith(wanted)),
);
export const ends = textKind(
  'ends',
  'ends with',
  'ends with',
  compared((text, wanted) => text.endsWith(wanted)),
);
export const contains = textKind(
  'contains',
  'contains',
  'contains',
  compared((text, wanted) => text.includes(wanted)),
);
export const matches = textKind(
  'matches',
  'matches a pattern',
  'matches',
  ({ column, text, exact }, table) => {
    const pattern = compilePattern(text, !exact);
    return viewMask(table, column, (one) => pattern.test(one));
  },
  'ECMAScript regular expression',
);
