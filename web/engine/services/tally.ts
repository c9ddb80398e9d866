import { type Job, offeredChecks, placeText, proofPage, runChecks, type Tally, tallyOf } from '../../../core/index.ts';
import type { TallyAsked, TallyView } from '../protocol.ts';
import { type EngineState, QUIET } from '../state.ts';

/** Entries of the ledger that are sent at once. */
const MAX_SENT_ENTRIES = 1000;
const PROGRESS_EVERY_MS = 100;

/** The proof that a table is its report. */
export class Tallies {
  private readonly tallies = new Map<string, Tally>();

  constructor(private readonly state: EngineState) {
    state.whenBegun(() => this.tallies.clear());
  }

  /** @throws Cancelled when a newer run wants the worker, Preempted when anything else is asked of it */
  work(asked: TallyAsked, turn: number, onProgress: (done: number) => void): TallyView | undefined {
    const { tables, tableId } = asked;
    const table = tables.find((one) => one.id === tableId);
    if (table === undefined) return undefined;
    const progress = this.state.watch(turn, onProgress, { everyMs: PROGRESS_EVERY_MS, yields: true });
    const run = this.state.runner.runTable(tables, tableId, { progress });
    this.state.runs.set(tableId, run);
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
        .slice(0, MAX_SENT_ENTRIES)
        .map((entry) => ({ ...entry, at: placeText(run, entry.place) })),
      checks: last === undefined || run.stop !== undefined ? [] : runChecks(last.table, checks, context),
      offers:
        !asked.offers || last === undefined || run.stop !== undefined ? [] : offeredChecks(last.table, context, checks),
    };
  }

  /** Numbers of the fates of a part's cells, row by row. */
  cells(tableId: string, part: number): Uint8Array {
    return this.tallies.get(tableId)?.cells.parts[part]?.cells ?? new Uint8Array();
  }

  /** The proof as its own page. */
  proof(job: Job, asked: TallyAsked, at: string): string | undefined {
    const table = asked.tables.find((one) => one.id === asked.tableId);
    const own = job.tables.find((one) => one.id === asked.tableId);
    if (table === undefined || own === undefined) return undefined;
    const run = this.state.runner.runTable(asked.tables, asked.tableId, QUIET);
    const tally = tallyOf(run, table, (id) => job.tables.find((one) => one.id === id)?.name ?? id);
    const last = run.steps.at(-1);
    const checks =
      last === undefined
        ? []
        : runChecks(last.table, table.checks ?? [], { totals: tally.ledger, lastRows: asked.lastRows });
    return proofPage({ job, table: own, run, tally, checks, at });
  }
}
