import { CellKind, type ColumnProfile, distinctTexts, type TableProfile, textAt } from '../glance/table-profile.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import type { Detector, Proposal } from './finding.ts';
import { keeping, takingApart, templateOf } from './templates.ts';

/** Lines of one form that make a list, and columns beside them, such as that of their bullets. */
const MIN_LINES = 5;
const MAX_COLUMNS = 3;

/** A list in a text without a header: lines of one form, with other lines only above and below. */
export const formedLines: Detector = {
  name: 'formed-lines',
  find({ profile, raw }) {
    if (!isPositioned(raw) || profile.columns.length > MAX_COLUMNS) return [];
    for (const column of profile.columns) {
      const [from, to] = longestRun(profile, column);
      if (to - from < MIN_LINES) continue;
      const texts = Array.from({ length: to - from }, (_, k) => textAt(column, from + k));
      const found = templateOf([...new Set(texts)], column.name, MIN_LINES);
      if (found === undefined) continue;
      const others = profile.filled.filter((filled, r) => filled > 0 && (r < from || r >= to)).length;
      const beside = profile.columns.filter((one) => one !== column);
      if (others > texts.length || beside.some((one) => !isBullet(one, from, to))) continue;
      const steps: Proposal[] = [
        ...(others > 0 ? [keeping(column, { ...found, others })] : []),
        ...takingApart(column, found),
      ];
      if (beside.length > 0)
        steps.push({
          kind: 'drop-columns',
          params: { columns: { by: 'names', names: beside.map(({ name }) => name) } },
          why: 'signs in front of the lines',
        });
      return [
        {
          steps,
          weight: 3,
          doubt: { code: 'texts-of-one-form' },
          gives: `${counted(texts.length, 'line')} of one form`,
        },
      ];
    }
    return [];
  },
};

/** Rows of the longest stretch without a gap in which the column has a text: from the first up to behind the last. */
function longestRun(profile: TableProfile, column: ColumnProfile): [number, number] {
  let best: [number, number] = [0, 0];
  let from = 0;
  for (let r = 0; r <= profile.rows; r++) {
    if (r < profile.rows && column.kinds[r] === CellKind.text) continue;
    if (r - from > best[1] - best[0]) best = [from, r];
    from = r + 1;
  }
  return best;
}

/** Within the rows the column holds one sign alone, or nothing. */
function isBullet(column: ColumnProfile, from: number, to: number): boolean {
  const texts = new Set<string>();
  for (let r = from; r < to; r++) texts.add(textAt(column, r));
  const [text = ''] = texts;
  return texts.size === 1 && text.length <= 2 && !/[\p{L}\p{N}]/u.test(text) && distinctTexts(column, 9).length < 9;
}
