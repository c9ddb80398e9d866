import { CellKind, textAt } from '../glance/table-profile.ts';
import { counted } from '../values/counted.ts';
import type { Detector } from './finding.ts';

/** No-break, doubled and invisible spaces in texts, and blanks round them, which make equal things differ. */
const STRAY = /[\u00a0\u2007\u202f\u00ad\u200b-\u200d\u2060\ufeff]|\S\s{2,}\S|^\s|\s$/u;

export const spacing: Detector = {
  name: 'spacing',
  find(input) {
    let cells = 0;
    const columns = input.profile.columns.filter((column) => {
      if (column.counts[CellKind.text] === 0) return false;
      const stray = column.texts.map((text) => STRAY.test(text));
      if (!stray.includes(true)) return false;
      let own = 0;
      for (let r = 0; r < column.codes.length; r++)
        if (column.kinds[r] === CellKind.text && stray[column.codes[r]!] && textAt(column, r) !== '') own++;
      cells += own;
      return own > 0;
    });
    if (columns.length === 0) return [];
    return [
      {
        steps: [
          {
            kind: 'clean-text',
            params: { columns: { by: 'names', names: columns.map((column) => column.name) } },
            why: `${counted(cells, 'cell')} with extra, no-break or invisible spaces`,
          },
        ],
        weight: 0.3,
      },
    ];
  },
};
