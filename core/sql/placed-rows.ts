/** Conditions on where a row stands: the query before, with columns that say it for each row. */
import type { Rule } from '../rules/rules.ts';
import { ruleSql } from './conditions.ts';
import { ORDER, refuseNames, type TranslationInput, turnSql } from './translate.ts';

type Placed = Extract<Rule, { test: 'above-first' | 'below-last' }>;

/** Collects conditions that need windows, and the query that they are asked of. */
export class PlacedRows {
  private readonly found: { edge: string; anchor: string; turn: string }[] = [];

  constructor(private readonly saying: TranslationInput) {}

  /** The condition of a rule, over a column that source() brings. @throws UnsupportedInSql */
  condition(rule: Placed): string {
    const { dialect, from } = this.saying;
    const k = this.found.length;
    const anchor = `coalesce(${ruleSql(rule.row, from.table, dialect)}, false)`;
    refuseNames(from.table, [`turn_${k}`, `run_${k}`, `edge_${k}`]);
    const turn = turnSql(from.table, rule.within, dialect);
    this.found.push({ edge: rule.test === 'above-first' ? 'min' : 'max', anchor, turn });
    return `${dialect.id(ORDER)} ${rule.test === 'above-first' ? '<' : '>'} edge_${k}`;
  }

  /** What is selected from: the query before, with the first or last marked row of each run beside its rows. */
  source(): string {
    const { dialect, from } = this.saying;
    const [order, name] = [dialect.id(ORDER), dialect.id(from.name)];
    if (this.found.length === 0) return name;
    const turns = this.found.map(({ turn }, k) => `${turn} as turn_${k}`);
    const runs = this.found.map((_, k) => `sum(turn_${k}) over (order by ${order}) as run_${k}`);
    const edges = this.found.map(
      ({ edge, anchor }, k) =>
        `${edge}(case when ${anchor} then ${order} end) over (partition by run_${k}) as edge_${k}`,
    );
    const list = (items: readonly string[], indent: string) => items.map((item) => `,\n${indent}${item}`).join('');
    return [
      '(',
      `    select *${list(edges, '        ')}`,
      '    from (',
      `        select *${list(runs, '            ')}`,
      '        from (',
      `            select *${list(turns, '                ')}`,
      `            from ${name}`,
      '        ) as turns',
      '    ) as runs',
      ') as placed',
    ].join('\n');
  }
}
