import {
  Cancelled,
  type Check,
  type CheckResult,
  type Fate,
  type FullTable,
  type Job,
  offeredChecks,
  placeText,
  proofPage,
  runChecks,
  type Tally,
  type TotalEntry,
  tallyOf,
} from '../../core/index.ts';
import { Combining } from './combining.ts';
import { OVERTAKEN } from './protocol.ts';

/** Entries of the ledger that are sent at once. */
const MOST_SENT_ENTRIES = 1000;

export interface TallyPart {
  source: string;
  part: number;
  name: string;
  rows: number;
  columns: number;
}

export interface PlacedEntry extends TotalEntry {
  at: string;
}

/** What the page shows of a tally. */
export interface TallyView {
  filled: number;
  accounted: number;
  fates: readonly Fate[];
  parts: readonly TallyPart[];
  totals: { agrees: number; disagrees: number; cannotTell: number; leftOut: number };
  entries: readonly PlacedEntry[];
  checks: readonly CheckResult[];
  offers: readonly { check: Omit<Check, 'id'>; text: string }[];
}

/** What is asked of a tally: the table as it was last run, and the last run but this one. */
export interface TallyAsked {
  tables: readonly FullTable[];
  tableId: string;
  lastRows: number | undefined;
  /** Checks that could be added are looked for too. */
  offers: boolean;
}

/** The proof that a table is its report. */
export class TallyDesk extends Combining {
  protected wanted: Int32Array | undefined;
  private tallies = new Map<string, Tally>();

  override begin(): void {
    super.begin();
    this.tallies.clear();
  }

  /** @throws Error OVERTAKEN when a newer run wants the worker */
  tally(asked: TallyAsked, turn: number, onProgress: (done: number) => void): TallyView | undefined {
    const { tables, tableId } = asked;
    const table = tables.find((one) => one.id === tableId);
    if (table === undefined) return undefined;
    let told = 0;
    const progress = (done: number) => {
      if (this.wanted !== undefined && Atomics.load(this.wanted, 0) > turn) throw new Cancelled(OVERTAKEN);
      if (performance.now() - told < 100) return;
      told = performance.now();
      onProgress(done);
    };
    const run = this.runner.runTable(tables, tableId, { progress });
    this.runs.set(tableId, run);
    const nameOf = (id: string) => tables.find((one) => one.id === id)?.name ?? id;
    const tally = tallyOf(run, table, nameOf, progress);
    this.tallies.set(tableId, tally);
    const last = run.steps.at(-1);
    const { ledger, cells } = tally;
    const { agrees, disagrees, cannotTell, leftOut } = ledger;
    const totals = { agrees, disagrees, cannotTell, leftOut };
    const context = { totals, lastRows: asked.lastRows };
    const checks = table.checks ?? [];
    return {
      filled: cells.filled,
      accounted: cells.accounted,
      fates: cells.fates,
      parts: cells.parts.map(({ source, part, name, rows, columns }) => ({ source, part, name, rows, columns })),
      totals,
      entries: ledger.entries
        .slice(0, MOST_SENT_ENTRIES)
        .map((entry) => ({ ...entry, at: placeText(run, entry.place) })),
      checks: last === undefined || run.stop !== undefined ? [] : runChecks(last.table, checks, context),
      offers:
        !asked.offers || last === undefined || run.stop !== undefined ? [] : offeredChecks(last.table, context, checks),
    };
  }

  /** Numbers of the fates of a part's cells, row by row. */
  tallyCells(tableId: string, part: number): Uint8Array {
    return this.tallies.get(tableId)?.cells.parts[part]?.cells ?? new Uint8Array();
  }

  /** The proof as a page of its own. */
  proof(job: Job, asked: TallyAsked, at: string): string | undefined {
    const table = asked.tables.find((one) => one.id === asked.tableId);
    const own = job.tables.find((one) => one.id === asked.tableId);
    if (table === undefined || own === undefined) return undefined;
    const run = this.runner.runTable(asked.tables, asked.tableId, { progress: () => undefined });
    const tally = tallyOf(run, table, (id) => job.tables.find((one) => one.id === id)?.name ?? id);
    const last = run.steps.at(-1);
    const checks =
      last === undefined
        ? []
        : runChecks(last.table, table.checks ?? [], { totals: tally.ledger, lastRows: asked.lastRows });
    return proofPage({ job, table: own, run, tally, checks, at });
  }
}
