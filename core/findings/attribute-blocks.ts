import { CellKind, type ColumnProfile, textAt } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { counted, few } from '../values/counted.ts';
import type { Detector, Proposal } from './finding.ts';

/** Names and values in two columns, a block of them for each record, without a column that tells records apart. */
export const attributeBlocks: Detector = {
  name: 'attribute-blocks',
  beforeHeader: true,
  find(input) {
    const { profile } = input;
    const used = profile.columns.filter((column) => column.counts[CellKind.blank]! < profile.rows);
    if (used.length !== 2 || !isPositioned(profile.table)) return [];
    const [names, values] = used as [ColumnProfile, ColumnProfile];
    const rows: number[] = [];
    for (let r = 0; r < profile.rows; r++) if (textAt(names, r) !== '' && textAt(values, r) !== '') rows.push(r);
    const blocks = blocksOf(names, rows);
    if (blocks === undefined) return [];
    const first = textAt(names, rows[0]!);
    const leads = blocks.map((block) => textAt(values, block[0]!));
    if (new Set(leads).size < leads.length || !isMixed(names, values, rows)) return [];
    const lone = profile.rows > rows.length;
    const steps: Proposal[] = [
      ...(lone
        ? [
            {
              kind: 'keep-rows',
              params: { rules: [{ test: 'filled', columns: { by: 'names', names: [names.name, values.name] } }] },
              why: 'rows of a name and a value',
            },
          ]
        : []),
      {
        kind: 'carry',
        params: { from: values.name, rule: { test: 'equals', column: names.name, text: first }, into: first },
        why: `${counted(blocks.length, 'block')} of names and values, each beginning with ${first}`,
      },
      {
        kind: 'pivot',
        params: {
          rows: { by: 'names', names: [first] },
          names: [names.name],
          values: [{ column: values.name, by: 'only' }],
        },
        why: `${few([...new Set(rows.map((r) => textAt(names, r)))])}: fields of each record`,
      },
    ];
    return [{ steps, weight: 4, doubt: { code: 'blocks-by-first-name', name: first }, gives: 'a row for each block' }];
  },
};

/** Rows from one first name to the next; undefined where they do not say mostly the same names, each once. */
function blocksOf(names: ColumnProfile, rows: readonly number[]): number[][] | undefined {
  if (rows.length < 6) return undefined;
  const first = textAt(names, rows[0]!);
  const blocks: number[][] = [];
  for (const r of rows) {
    if (textAt(names, r) === first) blocks.push([]);
    blocks.at(-1)!.push(r);
  }
  const all = new Set(rows.map((r) => textAt(names, r)));
  if (blocks.length < 2 || all.size < 2 || all.size > 40) return undefined;
  const even = blocks.every((block) => {
    const own = new Set(block.map((r) => textAt(names, r)));
    return own.size === block.length && own.size >= all.size * 0.5;
  });
  return even ? blocks : undefined;
}

/** Values are of several kinds, as those of one column are not. */
function isMixed(names: ColumnProfile, values: ColumnProfile, rows: readonly number[]): boolean {
  const kinds = new Set(rows.map((r) => values.kinds[r]));
  kinds.delete(CellKind.missing);
  return kinds.size >= 2 && names.counts[CellKind.figure] === 0;
}
