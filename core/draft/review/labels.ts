/** Labels that were carried onto rows, and names that became values. */

import { highestMark } from '../../findings/answers.ts';
import { matrixColumns } from '../../findings/body.ts';
import type { SumOf } from '../../findings/finding.ts';
import { TIER_JOIN } from '../../findings/header-steps.ts';
import { saysTotal } from '../../glance/hint-words.ts';
import { nameKinds } from '../../glance/period-names.ts';
import { CellKind, profileTable, textAt } from '../../glance/table-profile.ts';
import { nameIn } from '../../glance/total-names.ts';
import type { StepRun } from '../../run/run.ts';
import { takeRows } from '../../table/gather.ts';
import type { Table } from '../../table/table.ts';
import { rowNumbers } from '../../table/vectors.ts';
import { cellText, usedTexts } from '../../values/cell-text.ts';
import type { Remark, Reviewer, ReviewInput } from './remark.ts';

/** Rows that are looked at. */
const MAX_ROWS = 20_000;

const headOf = (table: Table) => (table.rows <= MAX_ROWS ? table : takeRows(table, rowNumbers(MAX_ROWS)));

/** Columns of labels that stood in their own rows, as the finished table has them. */
function carriedColumns({ run, profile }: ReviewInput) {
  const names = new Set(
    run.steps.flatMap(({ step: { kind, params } }) => {
      if (kind === 'carry') return [String(params['into']), ...((params['outer'] as string[] | undefined) ?? [])];
      return kind === 'levels' ? (params['into'] as string[]) : [];
    }),
  );
  // Those that tell of rows stand beside them, and a profile leaves them out.
  return profile.table.fields.flatMap(({ name, column }) => {
    if (!names.has(name)) return [];
    const [view] = profileTable({ rows: profile.rows, fields: [{ name, nameOrigin: 'named', column }] }).columns;
    return [{ name, column, view: view! }];
  });
}

export const unlabelledRows: Reviewer = {
  code: 'unlabelled-rows',
  look: (input) =>
    carriedColumns(input).flatMap(({ name, view }): Remark[] => {
      let rows = 0;
      while (rows < input.profile.rows && view.kinds[rows] === CellKind.blank) rows++;
      return rows > 0 ? [{ code: 'unlabelled-rows', column: name, rows }] : [];
    }),
};

export const labelPerRow: Reviewer = {
  code: 'label-per-row',
  look: (input) =>
    carriedColumns(input).flatMap(({ name, view }): Remark[] => {
      const seen = input.profile.rows;
      const runs = Array.from({ length: seen }, (_, r) => r).filter(
        (r) => r === 0 || textAt(view, r) !== textAt(view, r - 1),
      );
      return runs.length > seen * 0.7 && seen > 2 ? [{ code: 'label-per-row', column: name }] : [];
    }),
};

export const totalInLabels: Reviewer = {
  code: 'total-in-labels',
  look: (input) =>
    carriedColumns(input).flatMap(({ name, column }): Remark[] => {
      const [text, ...others] = [...usedTexts(column)].filter(saysTotal);
      return text === undefined ? [] : [{ code: 'total-in-labels', column: name, text, labels: 1 + others.length }];
    }),
};

/** The tables on both sides of the steps of a kind. */
function stepsOf({ run }: ReviewInput, kind: string): { step: StepRun; before: StepRun }[] {
  return run.steps.flatMap((step, k) =>
    k > 0 && step.step.kind === kind ? [{ step, before: run.steps[k - 1]! }] : [],
  );
}

export const labelWithMore: Reviewer = {
  code: 'label-with-more',
  look: (input) =>
    stepsOf(input, 'carry').flatMap(({ step, before }): Remark[] => {
      // The names of sums stand beside their figures.
      if (step.step.params['up'] === true) return [];
      // Rows that numbering or a separate column tells are no labels by place.
      const { rule } = step.step.params as { rule: { test: string; column?: string } };
      if (rule.column !== undefined && rule.column !== step.step.params['from']) return [];
      const own = step.aside.flatMap((pile) => [...pile.rows]).slice(0, MAX_ROWS);
      const profile = profileTable(takeRows(before.table, Int32Array.from(own)));
      const rows = [...own.keys()];
      const carried = 1 + ((step.step.params['also'] as unknown[] | undefined)?.length ?? 0);
      const more = rows.find((r) => profile.filled[r]! > carried);
      if (more === undefined) return [];
      const text = profile.columns.map((column) => textAt(column, more)).find((cell) => cell !== '') ?? '';
      return [{ code: 'label-with-more', column: String(step.step.params['into']), text }];
    }),
};

/** Lone texts above rows are labels by their place alone; totals that name them prove it. */
export const labelsUnproven: Reviewer = {
  code: 'labels-unproven',
  look(input) {
    const totals = input.run.steps.flatMap((step, k) => {
      const before = input.run.steps[k - 1]?.table;
      if (before === undefined) return [];
      return step.aside
        .filter((pile) => pile.mark === 'total' && pile.columns === undefined)
        .flatMap((pile) =>
          [...pile.rows.slice(0, MAX_ROWS)].map((r) =>
            before.fields
              .filter((field) => field.nameOrigin !== 'beside')
              .map(({ column }) => cellText(column, r) ?? '')
              .join(' ')
              .toLowerCase(),
          ),
        );
    });
    return carriedColumns(input).flatMap(({ name, view }): Remark[] => {
      const labels = new Set(Array.from({ length: input.profile.rows }, (_, r) => textAt(view, r).toLowerCase()));
      labels.delete('');
      // A total for each label, whether it names it or not, shows where each block ends.
      const named = [...labels].filter((label) => totals.some((text) => text.includes(label))).length;
      const isProven = labels.size > 1 && (named >= labels.size * 0.9 || totals.length >= labels.size);
      return isProven ? [] : [{ code: 'labels-unproven', column: name }];
    });
  },
};

/** Different names in totals that show groups, and the share of them that no cell says. */
const MIN_GROUPS = 2;
const UNSAID = 0.7;
/** Share of totals with a name that are not called as others are. */
const OWN_NAMES = 0.3;
const MAX_GROUPS = 200;

export const groupsInTotals: Reviewer = {
  code: 'groups-in-totals',
  look(input) {
    const said = new Set<string>();
    for (const { column } of input.table.fields)
      if (column.type !== 'number') for (const text of usedTexts(column)) said.add(text.trim().toLowerCase());
    const names = new Map<string, string>();
    let named = 0;
    input.run.steps.forEach((step, k) => {
      const before = input.run.steps[k - 1]?.table;
      for (const pile of before === undefined ? [] : step.aside) {
        if (pile.mark !== 'total' || pile.columns !== undefined) continue;
        for (const { column } of before!.fields)
          for (const row of pile.rows.slice(0, MAX_ROWS)) {
            const text = cellText(column, row) ?? '';
            const name = saysTotal(text) ? nameIn(text) : '';
            if (name === '' || names.size >= MAX_GROUPS) continue;
            names.set(name.toLowerCase(), text);
            named++;
          }
      }
    });
    const unsaid = [...names].filter(([name]) => ![...said].some((text) => text.includes(name)));
    // 'Route total' below each route names none of them.
    const isOwn = names.size >= named * OWN_NAMES;
    return isOwn && unsaid.length >= MIN_GROUPS && unsaid.length >= names.size * UNSAID
      ? [{ code: 'groups-in-totals', text: unsaid[0]![1], names: unsaid.length }]
      : [];
  },
};

/**
 * A column that is called a total sums over these names: then they are classes of one measure. What is planned and how
 * far it was missed also add up, to what was done.
 */
function areSummed(names: readonly string[], sums: readonly SumOf[]): boolean {
  return sums.some(({ name: sum, of }) => {
    if (!sum.split(TIER_JOIN).some(saysTotal)) return false;
    const parts = of.map((name) => name.split(TIER_JOIN));
    const values = (parts[0] ?? []).map((_, t) => new Set(parts.map((own) => own[t])));
    // It sums over one tier alone, or over all of a grid, and over all of these names.
    const over = values.filter((own) => own.size > 1);
    const isGrid = of.length === over.reduce((product, own) => product * own.size, 1);
    return names.length > 1 && isGrid && over.some((own) => names.every((name) => own.has(name)));
  });
}

/** Answers that show a scale. */
const MIN_ON_SCALE = 20;

export const measuresAsRows: Reviewer = {
  code: 'measures-as-rows',
  look: (input) =>
    stepsOf(input, 'unpivot').flatMap(({ step, before }): Remark[] => {
      const had = new Set(before.table.fields.map((field) => field.name));
      const brought = step.table.fields.flatMap((field) => {
        if (had.has(field.name)) return [];
        const view = profileTable(headOf({ rows: step.table.rows, fields: [{ ...field, nameOrigin: 'named' }] }))
          .columns[0]!;
        const names = new Set(Array.from({ length: Math.min(step.table.rows, 2000) }, (_, r) => textAt(view, r)));
        names.delete('');
        return [{ name: field.name, view, names: [...names] }];
      });
      const periods = (names: readonly string[]) => nameKinds(names).filter((kind) => kind !== undefined).length;
      const tiers = brought.filter(
        ({ view, names }) => view.counts[CellKind.text]! > 0 || periods(names) > names.length * 0.8,
      );
      // Names that also stand in a key are places or the like, each in a pair with another.
      const inPairs = new Set(matrixColumns(profileTable(headOf(before.table))).map((column) => column.name));
      // Answers on one scale are no measures.
      const isScale = brought.some(({ view: { values } }) => !Number.isNaN(highestMark(values, MIN_ON_SCALE)));
      return tiers.flatMap(({ name, view, names }): Remark[] =>
        isScale ||
        inPairs.size > 0 ||
        areSummed(names, input.sums) ||
        view.counts[CellKind.figure]! > 0 ||
        view.counts[CellKind.text] === 0 ||
        periods(names) >= names.length * 0.8
          ? []
          : [{ code: 'measures-as-rows', column: name, names: names.slice(0, 6), tiers: tiers.length }],
      );
    }),
};
