import { saysNote, saysTotal } from '../glance/hint-words.ts';
import { textAt } from '../glance/table-profile.ts';
import { runStarts } from '../rules/placed.ts';
import { lineNames, linesToColumns } from '../steps/fill/lines-to-columns.ts';
import { ALONE } from '../steps/try-steps.ts';
import { isBlank } from '../table/column.ts';
import { isPositioned } from '../table/table.ts';
import { cellText, usedTexts } from '../values/cell-text.ts';
import { counted } from '../values/counted.ts';
import type { Detector, DetectorInput } from './finding.ts';

/** Lines such as 'Depot: Hask' above tables, where what they say differs within the file. */
export const lines: Detector = {
  name: 'lines',
  draftOnly: true,
  find(input) {
    const { profile } = input;
    if (!isPositioned(profile.table)) return [];
    const within = input.within === undefined ? {} : { within: input.within };
    const ofSheets = input.within === undefined ? [] : sheetNames(input);
    const named = [...new Set([...lineNames(profile.table, profile.rows), ...ofSheets])].filter(
      (name) => !saysNote(name) && !saysTotal(name),
    );
    if (named.length === 0) return [];
    const { table } = linesToColumns.run(profile.table, { names: named, ...within }, ALONE);
    // What differs among the lines alone says nothing of the rows below them.
    const shown = table.fields.filter((field) => field.nameOrigin !== 'beside');
    const onRows = Array.from({ length: table.rows }, (_, r) => r).filter(
      (r) => shown.filter(({ column }) => !isBlank(column, r)).length >= 2,
    );
    const names = named.filter((name) => {
      const field = table.fields.find((one) => one.nameOrigin === 'beside' && one.name.startsWith(name));
      if (field === undefined) return false;
      const values = new Set(onRows.flatMap((r) => cellText(field.column, r) ?? []));
      if (values.size < 2 || [...values].some((value) => value.length > 50)) return false;
      // A title that only names its sheet says nothing more.
      const sheets = table.fields.find((one) => one.name === input.within);
      if (sheets === undefined) return true;
      const titles = new Set([...usedTexts(sheets.column)].map((title) => title.toLowerCase()));
      const wordsOf = (value: string) => value.toLowerCase().split(/[^\p{L}\p{M}\p{N}]+/u);
      return ![...values].every(
        (value) => titles.has(value.toLowerCase()) || wordsOf(value).some((word) => titles.has(word)),
      );
    });
    if (names.length === 0 || names.length > 12) return [];
    return [
      {
        steps: [
          {
            kind: 'lines-to-columns',
            params: { names, ...within },
            why: `${counted(names.length, 'line')} of name and value above the tables, with different values in each: ${names.join(', ')}`,
          },
        ],
        weight: 1.5,
      },
    ];
  },
};

/** Rows of a sheet among which lines about it stand. */
const MAX_HEAD = 12;

/** Names in front of lines of two cells, once above the table of each sheet. */
function sheetNames({ profile, within }: DetectorInput): string[] {
  const starts = runStarts(profile.table, within);
  if (starts.length < 3) return [];
  const sheets = starts.slice(0, -1).map((from, k) => {
    const names: string[] = [];
    for (let r = from; r < Math.min(from + MAX_HEAD, starts[k + 1]!) && profile.filled[r]! <= 2; r++) {
      const [name, value, ...more] = profile.columns.map((column) => textAt(column, r)).filter((text) => text !== '');
      if (name !== undefined && value !== undefined && more.length === 0 && /^\p{L}[^:\d]{0,29}$/u.test(name))
        names.push(name);
    }
    return names;
  });
  return sheets[0]!.filter((name) => sheets.every((names) => names.filter((one) => one === name).length === 1));
}
