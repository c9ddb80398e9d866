import { CellKind, textAt } from '../glance/table-profile.ts';
import { counted } from '../values/counted.ts';
import type { Detector } from './finding.ts';

const DOTS = '\\s*(?:\\.{3,}|(?:\\s\\.){3,}|·{3,}|_{4,})$';
const LEADER = new RegExp(`\\S${DOTS}`);

/** Dots behind a text that lead the eye to the next column of a print-out. */
export const leaders: Detector = {
  name: 'leaders',
  find({ profile }) {
    let cells = 0;
    const columns = profile.columns.filter((column) => {
      if (column.counts[CellKind.text] === 0) return false;
      let own = 0;
      for (let r = 0; r < profile.rows; r++) if (LEADER.test(textAt(column, r))) own++;
      // A text that breaks off has dots behind it once in a while.
      if (own < Math.max(2, column.counts[CellKind.text]! * 0.3)) return false;
      cells += own;
      return true;
    });
    if (columns.length === 0) return [];
    return [
      {
        steps: [
          {
            kind: 'replace',
            params: {
              columns: { by: 'names', names: columns.map(({ name }) => name) },
              find: DOTS,
              with: '',
              how: 'pattern',
              exact: true,
            },
            why: `${counted(cells, 'text')} with leader dots`,
          },
        ],
        weight: 0.8,
      },
    ];
  },
};
