import { CellKind, textAt } from '../glance/table-profile.ts';
import { counted } from '../values/counted.ts';
import { bodyOf } from './body.ts';
import type { Detector } from './finding.ts';

/** Texts that stand where a value is missing. */
export const missing: Detector = {
  name: 'missing',
  find(input) {
    const body = bodyOf(input);
    const texts = new Set<string>();
    let cells = 0;
    const columns = input.profile.columns.filter((column) => {
      const count = column.counts[CellKind.missing]!;
      if (count === 0) return false;
      const figures = body.figures.includes(column) || column.counts[CellKind.figure]! > 0;
      if (!figures && count > (input.profile.rows - column.counts[CellKind.blank]!) * 0.6) return false;
      for (let r = 0; r < input.profile.rows; r++)
        if (column.kinds[r] === CellKind.missing) texts.add(textAt(column, r));
      cells += count;
      return true;
    });
    if (columns.length === 0) return [];
    // A text that means blank in some columns is a value in others.
    const blank = new Set([...texts].map((text) => text.toLowerCase()));
    const isValue = input.profile.columns.some(
      (column) =>
        !columns.includes(column) &&
        column.counts[CellKind.text]! > 0 &&
        column.kinds.some((kind, r) => kind === CellKind.text && blank.has(textAt(column, r).toLowerCase())),
    );
    return [
      {
        steps: [
          {
            kind: 'blank-texts',
            params: {
              columns:
                !isValue && columns.length >= 4 && columns.length >= body.figures.length
                  ? { by: 'all' }
                  : { by: 'names', names: columns.map((column) => column.name) },
              texts: [...texts],
              exact: false,
            },
            why: `${counted(cells, 'cell')} with ${[...texts]
              .slice(0, 4)
              .map((text) => `'${text}'`)
              .join(', ')} where others hold values`,
          },
        ],
        weight: 1,
      },
    ];
  },
};
