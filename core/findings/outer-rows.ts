import { CellKind, type ColumnProfile, textAt } from '../glance/table-profile.ts';
import { nameOfLine } from '../steps/shape/fold-rows.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import type { Detector, Proposal } from './finding.ts';
import { mostInARow } from './remarks-below.ts';

const MAX_HEADING = 50;
/** Share of lines that begin with a space where they go on with the entry above. Common practice of logs. */
const CONTINUED = 0.9;

/**
 * Rows of nested or blocked text that are no records: outer items without inner ones, and blocks that only say what the
 * blocks below belong to.
 */
export const outerRows: Detector = {
  name: 'outer-rows',
  beforeHeader: true,
  find(input) {
    const { profile } = input;
    if (isPositioned(input.raw) || profile.rows < 3) return [];
    const filled = (column: ColumnProfile, r: number) => column.kinds[r] !== CellKind.blank;
    // A field that nearly every record fills; where it is blank there is none.
    const lead = profile.columns
      .map((column) => ({ column, blank: column.counts[CellKind.blank]! }))
      .filter(({ blank }) => blank > 0 && blank <= profile.rows * 0.4)
      .sort((a, b) => a.blank - b.blank);
    for (const { column } of lead) {
      const rows: number[] = [];
      for (let r = 0; r < profile.rows; r++) if (!filled(column, r)) rows.push(r);
      const inner = profile.columns.filter((one) => rows.every((r) => !filled(one, r)));
      const outer = profile.columns.filter((one) => rows.some((r) => filled(one, r)));
      if (inner.length < 2 || inner.length < profile.columns.length * 0.4) continue;
      const childless = rows.every((r) => input.childless.has(r));
      const own = new Set(rows);
      // Fields that only such rows have belong to the records below.
      const theirs = outer.filter(
        (one) => profile.rows - one.counts[CellKind.blank]! === rows.filter((r) => filled(one, r)).length,
      );
      const labels = theirs.filter(
        (one) =>
          one.counts[CellKind.text]! + one.counts[CellKind.date]! > 0 &&
          rows.filter((r) => filled(one, r)).every((r) => r + 1 < profile.rows),
      );
      const carried = labels.filter(
        (one) => one.index < column.index && rows.some((r) => filled(one, r) && !own.has(r + 1)),
      );
      // Else blanks are blanks: only what is said once, or outside of every template, tells.
      const apart = outer.length === 1 && outer[0] === profile.columns.at(-1);
      if (!childless && carried.length === 0 && !apart) continue;
      const steps: Proposal[] = [];
      if (carried.length > 0)
        steps.push({
          kind: 'fill',
          params: { columns: { by: 'names', names: carried.map((one) => one.name) }, direction: 'down' },
          why: `${carried.map((one) => one.name).join(', ')}: appears once, above its records`,
        });
      steps.push({
        kind: 'set-aside',
        params: {
          pile: carried.length > 0 ? 'labels' : 'without items',
          ...(carried.length > 0 ? {} : { mark: 'other' }),
          rules: [{ test: 'blank', columns: { by: 'names', names: [column.name] } }],
        },
        why: `${counted(rows.length, 'row')} without ${inner
          .slice(0, 3)
          .map((one) => one.name)
          .join(', ')}: no separate records`,
      });
      const spare = theirs.filter((one) => !carried.includes(one));
      if (spare.length > 0 && carried.length > 0)
        steps.push({
          kind: 'drop-columns',
          params: { columns: { by: 'names', names: spare.map((one) => one.name) } },
          why: 'empty in every record',
        });
      // Lines between the blocks, of which several come before blocks: headings of what follows.
      const [heading] = outer;
      const texts = new Set(
        rows.filter((r) => r + 1 < profile.rows && !own.has(r + 1)).map((r) => textAt(heading!, r)),
      );
      const isHeadings =
        apart && texts.size > 1 && [...texts].every((text) => text.length <= MAX_HEADING && !/\d.*\d/.test(text));
      const goingOn =
        apart && areContinued(heading!, rows)
          ? joined(column, profile.columns[heading!.index - 1]!, heading!, rows)
          : [];
      if (goingOn.length > 0)
        return [
          {
            steps: goingOn,
            weight: 1.6,
            doubt: { code: 'lines-above-or-below' },
            gives: 'indented lines joined to the record above',
          },
          { steps, weight: 0.8, doubt: { code: 'sparse-rows' }, gives: 'indented lines left out' },
        ];
      if (isHeadings)
        return [
          {
            steps: [
              {
                kind: 'carry',
                params: {
                  from: heading!.name,
                  rule: { test: 'blank', columns: { by: 'names', names: [column.name] } },
                  into: 'Heading',
                },
                why: `${counted(texts.size, 'line')} between the blocks, each above some of them, for example ${[...texts][0]}`,
              },
              {
                kind: 'drop-columns',
                params: { columns: { by: 'names', names: [heading!.name] } },
                why: 'empty in every record',
              },
            ],
            weight: 1.4,
            doubt: { code: 'lines-as-headings' },
          },
          { steps, weight: 0.8, doubt: { code: 'sparse-rows' } },
        ];
      return [
        { steps, weight: 0.8, doubt: { code: 'sparse-rows' } },
        { steps: [], weight: 0, doubt: { code: 'sparse-rows' } },
      ];
    }
    return [];
  },
};

/** Lines that stand in go on with what the entry above says. */
function areContinued(column: ColumnProfile, rows: readonly number[]): boolean {
  const standIn = rows.filter((r) => /^\s/u.test(column.texts[column.codes[r]!] ?? '')).length;
  return rows[0]! > 0 && standIn >= rows.length * CONTINUED;
}

/** The lines below an entry behind its own text, in one column. */
function joined(lead: ColumnProfile, text: ColumnProfile, line: ColumnProfile, rows: readonly number[]): Proposal[] {
  const most = mostInARow(line.codes.keys(), new Set(rows));
  const names = Array.from({ length: most }, (_, k) => nameOfLine(line.name, k + 1));
  return [
    {
      kind: 'clean-text',
      params: { columns: { by: 'names', names: [line.name] } },
      why: 'spaces in front tell where a line belongs, and are no part of it',
    },
    {
      kind: 'fold-rows',
      params: { first: { test: 'filled', columns: { by: 'names', names: [lead.name] } } },
      why: `${counted(rows.length, 'line')} that begin with a space go on with the entry above`,
    },
    {
      kind: 'join-text',
      params: {
        columns: { by: 'names', names: [text.name, ...names] },
        with: ' ',
        into: text.name,
        keep: false,
      },
      why: `they go on with what ${text.name} says`,
    },
  ];
}
