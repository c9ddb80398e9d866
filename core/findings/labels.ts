import { CellKind, type ColumnProfile, type TableProfile, textAt } from '../glance/table-profile.ts';
import type { PlainRule } from '../rules/rules.ts';
import { isPositioned } from '../table/table.ts';
import { counted } from '../values/counted.ts';
import { groupedBy } from '../values/grouped-by.ts';
import { type Body, bodyOf } from './body.ts';
import { chooseRules } from './choose-rule.ts';
import { continuedLabel } from './continued.ts';
import type { Doubt } from './doubt.ts';
import type { Detector, Finding } from './finding.ts';

/** Rows of one text above rows of data: labels of one or more levels. */
export const labels: Detector = {
  name: 'labels',
  find(input) {
    const body = bodyOf(input);
    const { profile } = body;
    const lone = body.rowsOf('lone');
    // Nested text and logs have no lines that stand alone: what is blank there is not said.
    if (lone.length === 0 || !isPositioned(input.raw)) return [];
    const [only] = lone;
    if (lone.length === 1 && body.figures.length > 0 && body.roles.slice(0, only).includes('data'))
      return aloneAmongRows(profile, body, only!);
    const byColumn = groupedBy(lone, (r) =>
      profile.columns.findIndex((column) => column.kinds[r] !== CellKind.blank && column.kinds[r] !== CellKind.rule),
    );
    const steps = [...byColumn]
      .filter(([k, rows]) => !saysOneThing(profile.columns[k]!, rows))
      .sort(([a], [b]) => a - b)
      .flatMap(([k, rows]) => {
        const column = profile.columns[k]!;
        const others = body.roles.flatMap((role, r) =>
          role === 'data' || (role === 'lone' && !rows.includes(r)) ? [r] : [],
        );
        const rules = chooseRules(profile, rows, others, [{ test: 'only', columns: [column.name] }]);
        const only: PlainRule | undefined =
          rules?.find((rule) => rule.test === 'only') ?? rules?.find((rule) => rule.test === 'blank');
        const rule = only ?? (rules?.length === 1 ? rules[0] : undefined) ?? { test: 'only', columns: [column.name] };
        const levels = levelsOf(rows, body.roles, column);
        const also = levels > 1 ? [] : besideOf(profile, rows, column);
        return [
          {
            kind: 'carry',
            params: {
              from: column.name,
              rule,
              into: levels > 1 ? 'Group' : byColumn.size > 1 ? `Group ${column.name}` : 'Group',
              ...(levels > 1 ? { outer: levels === 2 ? ['Section'] : ['Division', 'Section'] } : {}),
              ...(also.length === 0 ? {} : { also: also.map(({ name }) => ({ from: name, into: `Group ${name}` })) }),
              ...(input.within === undefined ? {} : { within: input.within }),
            },
            why: `${counted(rows.length, 'row')} with a single text above rows of data, for example ${textAt(column, rows[0]!)}${levels > 1 ? `, on ${levels} levels` : ''}`,
          },
        ];
      });
    const texts = lone.map((r) => profile.columns.map((column) => textAt(column, r)).find((text) => text !== '') ?? '');
    const doubt: Doubt | undefined =
      lone.length < 2
        ? { code: 'single-label', text: texts[0] ?? '' }
        : new Set(texts).size < texts.length
          ? { code: 'repeated-labels' }
          : texts.some((text) => text.length > 40)
            ? { code: 'long-labels' }
            : undefined;
    if (steps.length === 0) return [];
    return [{ steps, weight: 1.2, ...(doubt === undefined ? {} : { doubt }) }];
  },
};

/** Rows from which on the same text in all of them tells no groups apart: it is a name above other rows. */
const MIN_SAME = 3;

function saysOneThing(column: ColumnProfile, rows: readonly number[]): boolean {
  return rows.length >= MIN_SAME && new Set(rows.map((r) => textAt(column, r))).size === 1;
}

/** One row of one text with rows above it is a remark rather than a label, which those above would have too. */
function aloneAmongRows(profile: TableProfile, { roles }: Body, row: number): Finding[] {
  const others = roles.flatMap((role, r) => (role === 'data' ? [r] : []));
  const rules = chooseRules(profile, [row], others);
  if (rules === undefined) return [];
  const text = profile.columns.map((column) => textAt(column, row)).find((one) => one !== '') ?? '';
  return [
    {
      steps: [{ kind: 'set-aside', params: { pile: 'notes', rules }, why: `'${text}' is alone in its row` }],
      weight: 0.6,
      doubt: { code: 'lone-row', text },
    },
  ];
}

/** Other columns that nearly every label row fills, with different texts. */
function besideOf(profile: TableProfile, rows: readonly number[], label: ColumnProfile): ColumnProfile[] {
  return profile.columns.filter((column) => {
    if (column === label || rows.length < 2) return false;
    const texts = rows.map((r) => textAt(column, r)).filter((text) => text !== '');
    return texts.length >= rows.length * 0.9 && new Set(texts).size > 1;
  });
}

/** How many labels stand right under each other at most; one that goes on is no further level. */
function levelsOf(rows: readonly number[], roles: readonly string[], column: ColumnProfile): number {
  const set = new Set(rows);
  const count = roles.length;
  const texts = new Set(rows.map((r) => textAt(column, r)));
  // 'North (continued)' at the top of a page, with rows of North below it or none.
  const goesOn = (r: number) => texts.has(continuedLabel(textAt(column, r))?.label ?? '');
  let most = 1;
  for (const r of rows) {
    let [at, levels] = [r, 1];
    for (;;) {
      let next = at + 1;
      while (next < count && roles[next] === 'blank') next++;
      if (!set.has(next)) break;
      if (!goesOn(at) && !goesOn(next)) levels++;
      at = next;
    }
    most = Math.max(most, levels);
  }
  return Math.min(3, most);
}
