import type { Column } from '../table/column.ts';
import { textView } from '../values/cell-text.ts';

/** The different texts of a text column, in the order in which they come; undefined for columns of other types. */
export function usedTexts(column: Column): string[] | undefined {
  if (column.type !== 'text') return undefined;
  const { codes, texts } = textView(column);
  const used = new Set<string>();
  for (const code of codes) if (code >= 0) used.add(texts[code]!);
  return [...used];
}
