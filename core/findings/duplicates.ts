import { groupRows } from '../rows/keys.ts';
import { counted } from '../values/counted.ts';
import type { Detector } from './finding.ts';

/** Cells beyond which duplicates are not looked for by themselves. */
const MAX_CELLS = 2_000_000;

/** Duplicate rows, the same in every column. */
export const duplicates: Detector = {
  name: 'duplicates',
  find({ profile: { table } }) {
    if (table.rows < 2 || table.rows * table.fields.length > MAX_CELLS) return [];
    const columns = table.fields.map((field) => field.column);
    const again = table.rows - groupRows(columns, table.rows).count;
    // Where most rows are duplicates, a column that distinguished them is gone.
    if (again === 0 || again > table.rows / 2) return [];
    return [
      {
        steps: [
          {
            kind: 'remove-duplicates',
            params: { columns: { by: 'all' }, keep: 'first' },
            why: `${counted(again, 'row')} ${again === 1 ? 'appears' : 'appear'} more than once, identical in every column`,
          },
        ],
        weight: 0.8,
      },
    ];
  },
};
