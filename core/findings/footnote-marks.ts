import { CellKind, type ColumnProfile, MARK } from '../glance/table-profile.ts';
import { counted } from '../values/counted.ts';
import { escapeRegExp } from '../values/text.ts';
import { bodyOf } from './body.ts';
import type { Detector } from './finding.ts';

/** Footnote marks behind figures. */
export const footnoteMarks: Detector = {
  name: 'marks',
  find(input) {
    const body = bodyOf(input);
    const found = new Set<string>();
    let cells = 0;
    const columns = body.figures.filter((column) => {
      const own = marksOf(column);
      for (const [mark, count] of own) {
        found.add(mark);
        cells += count;
      }
      return own.size > 0;
    });
    if (columns.length === 0) return [];
    const all = columns.length === body.figures.length && body.figures.length > 1;
    return [
      {
        steps: [
          {
            kind: 'replace',
            params: {
              columns:
                all && body.keys.length > 0
                  ? {
                      by: 'all-but',
                      names: body.keys.map((column) => column.name).concat(besideOf(input.profile.table)),
                    }
                  : { by: 'names', names: columns.map((column) => column.name) },
              find: `\\s?(?:${[...found].map(escapeRegExp).join('|')})$`,
              with: '',
              how: 'pattern',
              exact: true,
            },
            why: `${counted(cells, 'figure')} followed by a mark: ${[...found].join(' ')}`,
          },
        ],
        weight: 1,
      },
    ];
  },
};

function besideOf(table: { fields: readonly { name: string; nameOrigin: string }[] }): string[] {
  return table.fields.filter((field) => field.nameOrigin === 'beside').map((field) => field.name);
}

/** Marks behind the figures of a column, with how many cells have each. */
function marksOf(column: ColumnProfile): Map<string, number> {
  const marked = new Map<number, string>();
  column.texts.forEach((text, code) => {
    const plain = text.trim();
    const mark = MARK.exec(plain)?.[0].trim();
    // A letter that says how large a figure is, or a percentage, is no footnote.
    if (mark === undefined || !/\d/.test(plain) || /^[kKmM%]$/.test(mark)) return;
    if (mark === plain) return;
    marked.set(code, mark);
  });
  const found = new Map<string, number>();
  if (marked.size === 0) return found;
  for (let r = 0; r < column.codes.length; r++) {
    if (column.kinds[r] !== CellKind.figure) continue;
    const mark = marked.get(column.codes[r]!);
    if (mark !== undefined) found.set(mark, (found.get(mark) ?? 0) + 1);
  }
  return found;
}
