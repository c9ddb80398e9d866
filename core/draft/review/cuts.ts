/** Texts that the edge of a column cuts in two. */

import { textAt } from '../../glance/table-profile.ts';
import type { Remark, Reviewer } from './remark.ts';

const CUT_READINGS = new Set(['read-fixed-width', 'read-pdf']);

export const cutTexts: Reviewer = {
  code: 'cut-texts',
  look({ run, profile }) {
    if (!CUT_READINGS.has(run.steps[0]!.step.kind)) return [];
    const told: Remark[] = [];
    const lines = run.steps[0]!.reading?.report.parts[0]?.text;
    const cuts = (run.steps[0]!.step.params['cuts'] as number[] | undefined) ?? [];
    const columns = profile.columns;
    for (let k = 0; k + 1 < columns.length; k++) {
      for (let r = 0; r < profile.rows; r++) {
        const [left, right] = [textAt(columns[k]!, r), textAt(columns[k + 1]!, r)];
        if (!/\p{L}$/u.test(left) || !/^\p{Ll}/u.test(right)) continue;
        // Only where the line itself has no space between the two.
        const isCut = lines?.some(
          (line) => line.includes(left + right) && cuts.some((cut) => line.slice(0, cut).endsWith(left)),
        );
        if (isCut === true) {
          told.push({ code: 'cut-texts', column: columns[k]!.name, next: columns[k + 1]!.name, text: left + right });
          break;
        }
      }
    }
    return told;
  },
};
