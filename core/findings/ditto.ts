import { CellKind, type ColumnProfile, textAt } from '../glance/table-profile.ts';
import { counted } from '../values/counted.ts';
import type { Detector } from './finding.ts';

/** Signs and words for 'as above' (common practice). */
const DITTO = /^(?:["″〃„”“]|''|``|´´|»|ditto|dito|dto\.?|idem|id\.|do\.)$/iu;

/** Cells that say that they hold what stands above them. */
export const ditto: Detector = {
  name: 'ditto',
  find({ profile, within }) {
    const found = new Map<ColumnProfile, Set<string>>();
    let cells = 0;
    for (const column of profile.columns) {
      if (column.counts[CellKind.text] === 0) continue;
      let hasValue = false;
      const signs = new Set<string>();
      for (let r = 0; r < profile.rows; r++) {
        const text = textAt(column, r);
        if (text === '') continue;
        const isDitto = DITTO.test(text);
        if (isDitto && !hasValue) break;
        if (isDitto) signs.add(text);
        if (isDitto) cells++;
        hasValue = true;
      }
      if (signs.size > 0) found.set(column, signs);
    }
    if (found.size === 0) return [];
    const columns = { by: 'names', names: [...found.keys()].map((column) => column.name) };
    const signs = [...new Set([...found.values()].flatMap((own) => [...own]))];
    const why = `${counted(cells, 'cell')} with ${signs.join(' ')} for what stands above`;
    return [
      {
        steps: [
          { kind: 'blank-texts', params: { columns, texts: signs, exact: true }, why },
          {
            kind: 'fill',
            params: { columns, direction: 'down', ...(within === undefined ? {} : { within }) },
            why,
          },
        ],
        weight: 1.4,
      },
    ];
  },
};
