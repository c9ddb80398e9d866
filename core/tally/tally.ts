import type { Coverage } from '../document/coverage.ts';
import type { MethodRun } from '../run/run.ts';
import { type CellFates, cellFates } from './cells.ts';
import { marksOf, type TableMarks } from './marks.ts';
import { type Ledger, ledgerOf, type Said } from './totals.ts';
import { TotalsSheet } from './totals-sheet.ts';
import { hasNoTotals, isNothingLost } from './unlost.ts';

/** The proof that a table is its report: where every cell went, and the report's own totals. */
export interface Tally {
  /** Worked out when it is asked for: of a large report it takes longer than the table itself. */
  readonly cells: CellFates;
  readonly ledger: Ledger;
  /** Every filled cell of the reports is accounted for. */
  readonly isAccounted: boolean;
}

const NO_TOTALS: Ledger = { agrees: 0, disagrees: 0, cannotTell: 0, leftOut: 0, entries: [] };

const kept = new WeakMap<object, Map<string, RunTally>>();

/**
 * The tally of a finished run. It is kept for as long as the last step's result is, so that it is worked out once.
 *
 * @param nameOf what tables are called
 * @param progress told from 0 to 1; may throw to give up
 */
export function tallyOf(
  run: MethodRun,
  table: { id: string; coverage?: readonly Coverage[] | undefined; accepts?: readonly string[] | undefined },
  nameOf: (tableId: string) => string = (id) => id,
  progress: (done: number) => void = () => undefined,
): Tally {
  const last = run.steps.at(-1);
  if (last === undefined)
    return { cells: { fates: [], parts: [], filled: 0, accounted: 0 }, ledger: NO_TOTALS, isAccounted: true };
  const own = kept.get(last.origin) ?? new Map<string, RunTally>();
  kept.set(last.origin, own);
  const { id, coverage, accepts } = table;
  const said = { ...(coverage?.length ? { coverage } : {}), ...(accepts?.length ? { accepts } : {}) };
  const key = `${id}/${run.steps.length}/${JSON.stringify(said)}`;
  let tally = own.get(key);
  if (tally === undefined) {
    const name = (one: string) => (one === id ? undefined : nameOf(one));
    tally = new RunTally(run, id, said, name, progress);
    own.set(key, tally);
  }
  // What is still to be worked out tells whoever asked last.
  tally.progress = progress;
  return tally;
}

class RunTally implements Tally {
  readonly ledger: Ledger;
  private marks: TableMarks | undefined;
  private fates: CellFates | undefined;

  constructor(
    private readonly run: MethodRun,
    private readonly id: string,
    said: Said,
    private readonly nameOf: (tableId: string) => string | undefined,
    public progress: (done: number) => void,
  ) {
    this.ledger = hasNoTotals(run) ? NO_TOTALS : this.ledgerOf(said);
  }

  get cells(): CellFates {
    const { readings, losses } = this.allMarks();
    this.fates ??= cellFates(readings, losses, this.nameOf, (done) => this.progress(0.5 + done * 0.3));
    return this.fates;
  }

  get isAccounted(): boolean {
    return (this.fates === undefined && isNothingLost(this.run)) || this.cells.accounted === this.cells.filled;
  }

  private allMarks(): TableMarks {
    this.marks ??= marksOf(this.run, this.id, (done) => this.progress(done * 0.5));
    return this.marks;
  }

  private ledgerOf(said: Said): Ledger {
    const { readings, losses } = this.allMarks();
    const sheets = readings.map((read) => new TotalsSheet(read, losses));
    return ledgerOf(sheets, said, (done) => this.progress(0.8 + done * 0.2));
  }
}
