/** What became of every cell, worked out backwards from a table to the reports behind it. */

import type { Mark } from '../kinds/step.ts';
import type { MethodRun, StepRun } from '../run/run.ts';
import { walkedSteps } from '../run/run.ts';
import { Marks, markRest, met, REASON_SHIFT } from './cell-marks.ts';
import { spread } from './spread-marks.ts';

/** Why a cell is not in the table. */
export interface Loss {
  /** Table and step (from 0) at which it was lost. */
  table: string;
  step: number;
  /** The step's own id. */
  id: string;
  kind: string;
  pile?: string;
  mark?: Mark;
}

/** The raw tables of all readings behind a table, with what became of their cells. */
export interface ReadMarks {
  /** The run whose first step is the reading, and the step up to which it is used. */
  run: MethodRun;
  upTo: number;
  source: string;
  marks: Marks;
  /** What the table's values that came from each cell of a column add up to, NaN where there is none. */
  amounts(column: number): Float64Array | undefined;
  /** Rows that the reading itself set aside, with the number of the loss they are. */
  aside: { part: number; rows: Int32Array; mark: number }[];
}

export interface TableMarks {
  readings: ReadMarks[];
  losses: readonly Loss[];
}

/** Cells tell by one byte what became of them; losses leave room for the other ways. */
const MAX_LOSSES = 240;

/**
 * Marks of every raw cell behind the last table of a run, through other tables too.
 *
 * @param name of the run's table, for losses
 * @param progress told from 0 to 1; may throw to give up
 */
export function marksOf(run: MethodRun, name: string, progress: (done: number) => void = () => undefined): TableMarks {
  const walk = walked(run, name, progress, false);
  // What cells add up to is worked out where a total asks for it: most large reports have none.
  let counted: Walk | undefined;
  const readings = [...walk.readings].map(([key, read]) => ({
    ...read,
    amounts: (column: number) => {
      counted ??= walked(run, name, progress, true);
      return counted.readings.get(key)?.marks.amounts(column);
    },
  }));
  return { readings, losses: walk.losses };
}

function walked(run: MethodRun, name: string, progress: (done: number) => void, counting: boolean): Walk {
  const walk = new Walk(progress, counting);
  const last = run.steps.length - 1;
  if (last >= 0) walk.back(run, last, Marks.ofEnd(run.steps[last]!.table, counting), name);
  return walk;
}

class Walk {
  readonly readings = new Map<string, Omit<ReadMarks, 'amounts'>>();
  readonly losses: Loss[] = [];
  private readonly known = new Map<string, number>();

  private done = 0;
  private readonly check = () => this.progress(this.done);

  constructor(
    private readonly progress: (done: number) => void,
    private readonly counting: boolean,
  ) {}

  back(run: MethodRun, stepIndex: number, end: Marks, name: string): void {
    let marks = end;
    const steps = walkedSteps(run, stepIndex);
    for (let k = steps.length - 1; k >= 0; k--) {
      const { run: step, index } = steps[k]!;
      this.done = 1 - k / steps.length;
      this.check();
      if (step.reading !== undefined) {
        this.keep(run, stepIndex, step, marks, name);
        return;
      }
      const before = steps[k - 1]?.run.table ?? { rows: 0, fields: [] };
      const own = new Marks(before, this.counting);
      const others = step.others.map((other) => new Marks(other.run.steps[other.step]!.table, this.counting));
      spread(step.origin, marks, [own, ...others], this.check);
      this.lose(own, step, index, name);
      step.others.forEach((other, n) => {
        this.lose(others[n]!, { ...step, aside: [] }, index, name);
        this.back(other.run, other.step, others[n]!, other.tableId);
      });
      marks = own;
    }
  }

  private keep(run: MethodRun, upTo: number, step: StepRun, marks: Marks, table: string): void {
    const { source } = step.reading!;
    const key = `${source}/${JSON.stringify(step.step.params)}`;
    const known = this.readings.get(key);
    if (known === undefined) {
      const aside = step.reading!.aside.map(({ part, rows, name, mark }) => ({
        part,
        rows,
        mark: this.loss({ table, step: 0, id: step.step.id, kind: step.step.kind, pile: name, mark }) << REASON_SHIFT,
      }));
      this.readings.set(key, { run, upTo, source, marks, aside });
      return;
    }
    // The same report behind a table in two ways.
    known.marks.names.forEach((mark, c) => {
      const [cells, other] = [known.marks.own(c), marks.cells(c)!];
      for (let r = 0; r < cells.length; r++) cells[r] = met(cells[r]!, other[r]!);
      known.marks.names[c] = met(mark, marks.names[c]!);
      const amounts = marks.amounts(c);
      if (known.marks.amounts(c) === undefined && amounts !== undefined) known.marks.lend(c, cells, amounts);
    });
  }

  /** What no output cell came from was lost here: on a pile, or dropped. */
  private lose(marks: Marks, step: StepRun, index: number, table: string): void {
    const { kind, id } = step.step;
    for (const pile of step.aside) {
      const mark = this.loss({ table, step: index, id, kind, pile: pile.name, mark: pile.mark }) << REASON_SHIFT;
      if (pile.columns === undefined)
        marks.writeOpen((cells) => {
          for (const row of pile.rows) if (cells[row] === 0) cells[row] = mark;
        });
      for (const c of pile.columns ?? []) {
        if (!marks.isWhole(c)) markRest(marks.own(c), () => mark);
        if (marks.names[c] === 0) marks.names[c] = mark;
      }
    }
    let dropped = 0;
    const lost = () => {
      dropped ||= this.loss({ table, step: index, id, kind }) << REASON_SHIFT;
      return dropped;
    };
    marks.writeOpen((cells) => {
      this.check();
      markRest(cells, lost);
    });
    marks.names.forEach((mark, c) => {
      if (mark === 0) marks.names[c] = lost();
    });
  }

  /** Number of a loss, from 1 on. */
  private loss(loss: Loss): number {
    const key = JSON.stringify(loss);
    let number = this.known.get(key);
    if (number === undefined) {
      number = Math.min(MAX_LOSSES, this.losses.length + 1);
      if (number > this.losses.length) this.losses.push(loss);
      this.known.set(key, number);
    }
    return number;
  }
}
