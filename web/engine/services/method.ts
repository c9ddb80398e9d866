import {
  CATALOGUE,
  type Comparison,
  compareStep,
  type FormulaTrial,
  type FullTable,
  fittingPatterns,
  type JobStep,
  leaningOn,
  type PatternFit,
  type StepStop,
  seenFor,
  tryFormula,
} from '../../../core/index.ts';
import { type MethodView, PREVIEW, type StepView } from '../protocol.ts';
import { type EngineState, MAX_SENT } from '../state.ts';
import { methodView, stepView } from '../views.ts';
import { behindOf } from './behind.ts';

/** Running the method of a table, and what is asked about its steps. */
export class Method {
  constructor(private readonly state: EngineState) {}

  /** Runs a table of a job and keeps the run under the table's id. @throws Cancelled */
  run(tables: readonly FullTable[], tableId: string, turn: number, onProgress: (done: number) => void): MethodView {
    const started = performance.now();
    const run = this.state.runner.runTable(tables, tableId, { progress: this.state.watch(turn, onProgress) });
    this.state.runs.set(tableId, run);
    return methodView(run, performance.now() - started);
  }

  /** Disabled steps by their keys, each with the message to show instead. */
  disableSteps(steps: ReadonlyMap<string, string>): void {
    this.state.runner.disableSteps(steps);
  }

  /** A step tried behind another, without being kept. The table is then at hand under PREVIEW. @throws Cancelled */
  preview(tables: readonly FullTable[], tableId: string, at: number, step: JobStep, turn: number): StepView | StepStop {
    const tried = tables.map((one) =>
      one.id === tableId ? { ...one, steps: [...one.steps.slice(0, at + 1), step] } : one,
    );
    const run = this.state.runner.runTable(tried, tableId, { progress: this.state.watch(turn) });
    if (run.stop !== undefined) return run.stop;
    this.state.runs.set(PREVIEW, run);
    return stepView(run.steps.at(-1)!);
  }

  /** A step of this kind with params that suit the table after the given step. */
  suggest(tableId: string, step: number, kind: string, columns: readonly string[]): Omit<JobStep, 'id'> | undefined {
    // Where the method stops earlier, the last table that there is gives the guesses.
    const steps = this.state.runs.get(tableId)?.steps ?? [];
    const run = steps[Math.min(step, steps.length - 1)];
    const found = CATALOGUE.get(kind);
    if (run === undefined || found === undefined) return undefined;
    // Without a selection the data say which columns are meant, where they say anything.
    const seen =
      columns.length > 0 ? undefined : seenFor(run.table, behindOf(this.state.runs.get(tableId)!, step), kind);
    return { kind, params: seen ?? (found.start(run.table, columns) as Record<string, unknown>) };
  }

  /** Steps behind this one that name a column which it brought. */
  leaning(tableId: string, step: number): number[] {
    const run = this.state.runs.get(tableId);
    return run === undefined ? [] : leaningOn(run, step);
  }

  compare(tableId: string, step: number): Comparison | undefined {
    const run = this.state.runs.get(tableId);
    return run === undefined ? undefined : compareStep(run, step);
  }

  /** Rows that a notice of a step speaks of: the first of them, and the column if it names one. */
  noticed(tableId: string, step: number, notice: number): { rows: number[]; column: number } {
    const found = this.state.stepOf(tableId, step)?.notices[notice];
    if (found?.rows === undefined) return { rows: [], column: -1 };
    const table = this.state.tableOf(tableId, found.rows.of === 'after' ? step : step - 1)!;
    return {
      rows: [...found.rows.rows.subarray(0, MAX_SENT)],
      column: table.fields.findIndex((field) => field.name === found.column),
    };
  }

  /** Patterns that read every filled cell of the columns, and those that read some. */
  patternsFor(
    tableId: string,
    step: number,
    columns: readonly string[],
    type: 'date' | 'time' | 'datetime',
  ): PatternFit[] {
    const table = this.state.tableOf(tableId, step);
    return table === undefined ? [] : fittingPatterns(table, columns, type);
  }

  /** What an expression gives in the first rows, or where it goes wrong. */
  tryFormula(tableId: string, step: number, text: string): FormulaTrial {
    const table = this.state.tableOf(tableId, step);
    return table === undefined ? { first: [] } : tryFormula(table, text);
  }
}
