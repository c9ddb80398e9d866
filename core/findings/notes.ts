import { CellKind } from '../glance/table-profile.ts';
import type { PlainRule, Rule } from '../rules/rules.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import { bodyOf } from './body.ts';
import { chooseRules } from './choose-rule.ts';
import type { Detector } from './finding.ts';

/** Remarks, sources and legends: below the last row of data in each sheet, or between. */
export const notes: Detector = {
  name: 'notes',
  find(input) {
    const body = bodyOf(input);
    const { profile } = body;
    const wanted = body.rowsOf('note');
    if (wanted.length === 0 || !isPositioned(input.raw)) return [];
    const others = body.roles.flatMap((role, r) => (role === 'note' || role === 'blank' ? [] : [r]));
    // A column that the last row of each sheet fills, and no note.
    const anchor = [...body.figures, ...body.keys].find(
      (column) =>
        wanted.every((r) => column.kinds[r] === CellKind.blank || column.kinds[r] === CellKind.rule) &&
        others.some((r) => column.kinds[r] !== CellKind.blank),
    );
    const rules: Rule[] = [];
    let left: number[] = wanted;
    if (anchor !== undefined) {
      const row: PlainRule = { test: 'filled', columns: { by: 'names', names: [anchor.name] } };
      const within = input.within === undefined ? {} : { within: input.within };
      const behind = (r: number) => {
        const to = body.starts.find((start) => start > r) ?? profile.rows;
        for (let k = r; k < to; k++) if (anchor.kinds[k] !== CellKind.blank && !isRule(anchor.kinds[k]!)) return false;
        return true;
      };
      const below = wanted.filter(behind);
      if (below.length > 0 && others.filter(behind).every((r) => body.roles[r] === 'rule')) {
        rules.push({ test: 'below-last', row, ...within });
        left = wanted.filter((r) => !behind(r));
      }
    }
    if (left.length > 0) {
      const chosen = chooseRules(profile, left, others);
      if (chosen !== undefined) rules.push(...chosen);
    }
    if (rules.length === 0) return [];
    return [
      {
        steps: [
          {
            kind: 'set-aside',
            params: { pile: 'notes', rules },
            why: `${counted(wanted.length, 'line')} of text ${left.length === 0 ? 'below the last row of figures' : 'without figures'}`,
          },
        ],
        weight: 1,
      },
    ];
  },
};

const isRule = (kind: number) => kind === CellKind.rule;
