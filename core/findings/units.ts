import { CellKind, type ColumnProfile, textAt } from '../glance/table-profile.ts';
import { counted } from '../values/counted.ts';
import { NumberForm, readNumber } from '../values/number-text.ts';
import { escapeRegExp } from '../values/text.ts';
import type { Detector, Proposal } from './finding.ts';

/** A figure and the unit behind it: letters, or a sign such as those of degrees and per mille. */
const WITH_UNIT = /^(?<figure>[-+−]?\d[\d.,'\u00a0\u202f ]*?)\s?(?<unit>\p{L}{1,5}[²³]?\.?|°[CF]?|‰)$/u;

/** Share of the cells that must have the unit. */
const MOSTLY = 0.9;
/** Cells that a unit is seen in at least. */
const MIN_CELLS = 3;

/** Units written into each cell behind the figure: they go into the name of the column. */
export const units: Detector = {
  name: 'units',
  find({ profile }) {
    const form = NumberForm.parse({ decimal: profile.decimal });
    const taken = new Set(profile.table.fields.map(({ name }) => name));
    const steps = profile.columns.flatMap((column): Proposal[] => {
      const unit = unitOf(column, profile.rows, form);
      if (unit === undefined) return [];
      const name = `${column.name} (${unit.text})`;
      const replace: Proposal = {
        kind: 'replace',
        params: {
          columns: { by: 'names', names: [column.name] },
          find: `(?<=\\d)\\s?${escapeRegExp(unit.text)}\\s*$`,
          with: '',
          how: 'pattern',
          exact: true,
        },
        why: `${counted(unit.cells, 'value')} in ${column.name} ${unit.cells === 1 ? 'ends' : 'end'} in ${unit.text}`,
      };
      // The unit is kept: a figure without it says less.
      return taken.has(name) || column.name.toLowerCase().includes(unit.text.toLowerCase())
        ? [replace]
        : [
            replace,
            {
              kind: 'rename',
              params: { names: [{ from: column.name, to: name }] },
              why: `${unit.text} is the unit of its numbers`,
            },
          ];
    });
    return steps.length === 0 ? [] : [{ steps, weight: 1 }];
  },
};

/** The one unit of a column, where nearly every cell has it and none has another. */
function unitOf(column: ColumnProfile, rows: number, form: NumberForm): { text: string; cells: number } | undefined {
  if (column.counts[CellKind.text]! < MIN_CELLS) return undefined;
  const found = new Set<string>();
  let [cells, filled] = [0, 0];
  for (let r = 0; r < rows; r++) {
    const kind = column.kinds[r];
    if (kind === CellKind.blank || kind === CellKind.missing) continue;
    filled++;
    const { figure, unit } = WITH_UNIT.exec(textAt(column, r))?.groups ?? {};
    if (figure === undefined || unit === undefined) {
      if (kind !== CellKind.figure) return undefined;
      continue;
    }
    // A figure with zeros in front or one that cannot be read is a code.
    if (/^0\d/.test(figure) || Number.isNaN(readNumber(figure.trim(), form).value)) return undefined;
    cells++;
    found.add(unit);
    if (found.size > 1) return undefined;
  }
  const [text] = found;
  // Codes such as 12A have their letter right behind the figure, in capitals.
  return text === undefined || cells < filled * MOSTLY || /^\p{Lu}$/u.test(text) ? undefined : { text, cells };
}
