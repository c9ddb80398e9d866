import { CellKind, textAt } from '../glance/table-profile.ts';
import type { Rule } from '../rules/rules.ts';
import { counted } from '../values/counted.ts';
import { bodyOf, PAGE, rowPattern } from './body.ts';
import { chooseRules } from './choose-rule.ts';
import type { Detector, Proposal } from './finding.ts';
import { isUnitsRow } from './header.ts';

/** What a page needs and a table does not: blank rows, drawn lines, page heads, the row of units. */
export const pageFurniture: Detector = {
  name: 'furniture',
  beforeHeader: true,
  find(input) {
    const body = bodyOf(input);
    const { profile } = body;
    const steps: Proposal[] = [];
    const data = body.roles.flatMap((role, r) => (role === 'blank' || role === 'rule' || role === 'page' ? [] : [r]));
    const units: number[] = [];
    for (const from of body.starts) {
      let r = from;
      while (r < profile.rows && body.roles[r] === 'blank') r++;
      if (r < profile.rows && isUnitsRow(profile, r) && profile.filled[r]! >= 1 && body.roles[r] !== 'data')
        units.push(r);
    }
    if (units.length > 0) {
      const wanted = body.rowsOf('lone').filter((r) => units.includes(r) || isUnitsRow(profile, r));
      const rules = chooseRules(
        profile,
        wanted,
        data.filter((r) => !wanted.includes(r)),
      );
      const column = profile.columns.find((one) => one.kinds[wanted[0] ?? 0] === CellKind.text);
      if (rules !== undefined && column !== undefined && wanted.length > 0)
        steps.push({
          kind: 'set-aside',
          params: { pile: 'units', mark: 'note', rules },
          why: `${counted(wanted.length, 'row')} of units below the names, for example ${textAt(column, wanted[0]!)}`,
        });
    }
    const pages = body.rowsOf('page');
    if (pages.length > 0) {
      const rules = chooseRules(profile, pages, data);
      if (rules !== undefined)
        steps.push({
          kind: 'set-aside',
          params: { pile: 'page heads', mark: 'repeat', rules },
          why: `${counted(pages.length, 'line')} repeated on each page, except for their numbers`,
        });
    }
    const blanks: Rule[] = [];
    const why: string[] = [];
    if (body.roles.includes('blank')) {
      blanks.push({ test: 'empty' });
      why.push(counted(body.rowsOf('blank').length, 'blank row'));
    }
    const drawn = body.rowsOf('rule');
    if (drawn.length > 0) {
      const column = profile.columns.filter((one) => drawn.every((r) => one.kinds[r] === CellKind.rule))[0];
      const pattern: Rule[] =
        column === undefined
          ? profile.columns
              .filter((one) => drawn.some((r) => one.kinds[r] === CellKind.rule))
              .map((one) => drawnLine(one.name))
          : [drawnLine(column.name)];
      blanks.push(...pattern.slice(0, 4));
      why.push(counted(drawn.length, 'drawn line'));
    }
    if (blanks.length > 0)
      steps.push({ kind: 'set-aside', params: { pile: 'blanks', rules: blanks }, why: why.join(' and ') });
    const doubted = pages.some((r) => !PAGE.test(rowPattern(profile, r)) && !input.titles.has(rowPattern(profile, r)));
    return steps.length === 0
      ? []
      : [{ steps, weight: 1, ...(doubted ? { doubt: { code: 'repeated-lines' as const } } : {}) }];
  },
};

export function drawnLine(column: string): Rule {
  return { test: 'matches', column, text: '^[\\s=_~+|*.─═━·-]{3,}$' };
}
