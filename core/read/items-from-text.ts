import { cellText } from '../values/cell-text.ts';
import { guessDialect } from './delimited/dialect.ts';
import { readDelimited } from './delimited/read-delimited.ts';

/**
 * Rows of a small table given as text (copied cells, or a delimited file) as objects with these keys, in the order of
 * its columns. Rows with fewer filled cells than keys are left out, and so is a first row that reads like the keys.
 */
export function itemsFromText(text: string, keys: readonly string[]): Record<string, string>[] {
  const bytes = new TextEncoder().encode(text);
  if (bytes.length === 0) return [];
  const delimiter = text.includes('\t') ? '\t' : guessDialect(text).delimiter;
  const params = readDelimited.params.parse({ source: 'pasted', delimiter });
  const { table } = readDelimited.read({ name: 'pasted text', bytes }, params, {
    progress: () => undefined,
    name: '',
    other: () => ({ name: '', table: { rows: 0, fields: [] } }),
  });
  const items: Record<string, string>[] = [];
  for (let row = 0; row < table.rows; row++) {
    const cells = keys.map((_, c) => {
      const field = table.fields[c];
      return field === undefined ? null : cellText(field.column, row);
    });
    if (cells.some((cell) => cell === null)) continue;
    if (row === 0 && cells.every((cell, c) => cell!.trim().toLowerCase() === keys[c]!.toLowerCase())) continue;
    items.push(Object.fromEntries(keys.map((key, c) => [key, cells[c]!.trim()])));
  }
  return items;
}
