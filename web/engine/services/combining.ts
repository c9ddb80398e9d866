import {
  type Determined,
  determinedBy,
  type FullTable,
  guessKeys,
  type JoinLook,
  lineUp,
  lookAtJoin,
  type MatchKeys,
  type MethodRun,
  runChecks,
  type Table,
  tallyOf,
} from '../../../core/index.ts';
import type { LinedUpTables, Place, TableState } from '../protocol.ts';
import { type EngineState, QUIET } from '../state.ts';

/** What is asked before several tables are put together. */
export class Combining {
  constructor(private readonly state: EngineState) {}

  /** Columns of the other table and the keys by which the two likely meet. */
  joinGuess(place: Place, other: string): { columns: readonly string[]; here: readonly string[]; keys: MatchKeys } {
    const [left, right] = [this.tableAt(place), this.endOf(place.tables, other)];
    const names = (table: Table | undefined) => table?.fields.map((field) => field.name) ?? [];
    return {
      here: names(left),
      columns: names(right),
      keys: left === undefined || right === undefined ? [] : guessKeys(left, right),
    };
  }

  joinLook(place: Place, other: string, asked: { keys: MatchKeys; forgiving: boolean }): JoinLook | undefined {
    const [left, right] = [this.tableAt(place), this.endOf(place.tables, other)];
    return left === undefined || right === undefined ? undefined : lookAtJoin(left, right, asked);
  }

  linedUp(place: Place, others: readonly string[]): LinedUpTables {
    const here = this.tableAt(place);
    return {
      here: here?.fields.map((field) => field.name) ?? [],
      there: others.map((id) => {
        const table = this.endOf(place.tables, id);
        return { id, columns: here === undefined || table === undefined ? [] : lineUp(here, table) };
      }),
    };
  }

  determined(place: Place, key: readonly string[]): Determined[] {
    const table = this.tableAt(place);
    return table === undefined || key.length === 0 ? [] : determinedBy(table, key);
  }

  /** How every table of a job stands. Tables that other tables need are run once. */
  states(tables: readonly FullTable[], lastRows: Readonly<Record<string, number>>): TableState[] {
    return tables.map((table): TableState => {
      const { id, steps } = table;
      const run = this.state.runner.runTable(tables, id, QUIET);
      this.state.runs.set(id, run);
      const last = run.steps.at(-1);
      return {
        id,
        rows: last?.table.rows ?? 0,
        columns: last?.table.fields.length ?? 0,
        steps: steps.length,
        looks: run.steps.reduce(
          (sum, step) => sum + step.notices.filter((one) => one.severity === 'warning').length,
          0,
        ),
        ...(run.steps[0]?.reading === undefined ? {} : { read: run.steps[0].table.rows }),
        ...checksOf(table, run, tables, lastRows[id]),
        stop: run.stop,
      };
    });
  }

  private tableAt({ tables, tableId, at, before = [] }: Place): Table | undefined {
    const table = tables.find((one) => one.id === tableId);
    if (table === undefined) return undefined;
    const steps = [...table.steps.slice(0, at + 1), ...before.map((step, k) => ({ ...step, id: `before-${k}` }))];
    const run = this.state.runner.runTable(
      tables.map((one) => (one.id === tableId ? { ...one, steps } : one)),
      tableId,
      QUIET,
    );
    return run.stop === undefined ? run.steps.at(-1)?.table : undefined;
  }

  private endOf(tables: readonly FullTable[], id: string): Table | undefined {
    const run = this.state.runner.runTable(tables, id, QUIET);
    return run.stop === undefined ? run.steps.at(-1)?.table : undefined;
  }
}

/** The checks of a table; its totals are added up only where a check asks for them. */
function checksOf(
  table: FullTable,
  run: MethodRun,
  tables: readonly FullTable[],
  lastRows: number | undefined,
): Pick<TableState, 'checks'> {
  const checks = table.checks ?? [];
  const end = run.stop === undefined ? run.steps.at(-1)?.table : undefined;
  if (checks.length === 0 || end === undefined) return {};
  const nameOf = (id: string) => tables.find((one) => one.id === id)?.name ?? id;
  const totals = checks.some((check) => check.kind === 'totals')
    ? tallyOf(run, table, nameOf).ledger
    : { agrees: 0, disagrees: 0, cannotTell: 0, leftOut: 0 };
  const failed = runChecks(end, checks, { totals, lastRows }).filter((one) => !one.ok).length;
  return { checks: { all: checks.length, failed } };
}
