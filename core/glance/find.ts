import type { Column } from '../table/column.ts';
import { textView } from '../values/cell-text.ts';

export interface Found {
  row: number;
  column: number;
}

/**
 * Cells that hold a text, row by row, whatever its case.
 *
 * @param most cells that are listed; the count goes on
 */
export function findText(columns: readonly Column[], text: string, most: number): { cells: Found[]; total: number } {
  const wanted = text.toLowerCase();
  if (wanted === '') return { cells: [], total: 0 };
  const views = columns.map((column) => {
    const { codes, texts } = textView(column);
    const hit = Uint8Array.from(texts, (one) => (one.toLowerCase().includes(wanted) ? 1 : 0));
    return { codes, hit, any: hit.includes(1) };
  });
  const cells: Found[] = [];
  let total = 0;
  const rows = views[0]?.codes.length ?? 0;
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < views.length; column++) {
      const { codes, hit, any } = views[column]!;
      const code = any ? (codes[row] ?? -1) : -1;
      if (code < 0 || hit[code] === 0) continue;
      total++;
      if (cells.length < most) cells.push({ row, column });
    }
  }
  return { cells, total };
}
