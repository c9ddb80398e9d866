import type { Coverage } from '../document/coverage.ts';
import type { MethodRun } from '../run/run.ts';
import { type CellFates, cellFates } from './cells.ts';
import { marksOf } from './marks.ts';
import { type Ledger, ledgerOf } from './totals.ts';
import { TotalsSheet } from './totals-sheet.ts';

/** The proof that a table is its report: where every cell went, and the report's own totals. */
export interface Tally {
  cells: CellFates;
  ledger: Ledger;
}

const kept = new WeakMap<object, Map<string, Tally>>();

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
    return {
      cells: { fates: [], parts: [], filled: 0, accounted: 0 },
      ledger: { agrees: 0, disagrees: 0, cannotTell: 0, leftOut: 0, entries: [] },
    };
  const own = kept.get(last.origin) ?? new Map<string, Tally>();
  kept.set(last.origin, own);
  const { id, coverage, accepts } = table;
  const said = { ...(coverage?.length ? { coverage } : {}), ...(accepts?.length ? { accepts } : {}) };
  const key = `${id}/${run.steps.length}/${JSON.stringify(said)}`;
  let tally = own.get(key);
  if (tally === undefined) {
    const { readings, losses } = marksOf(run, id, (done) => progress(done * 0.5));
    const sheets = readings.map((read) => new TotalsSheet(read, losses));
    tally = {
      cells: cellFates(
        readings,
        losses,
        (one) => (one === id ? undefined : nameOf(one)),
        (done) => progress(0.5 + done * 0.3),
      ),
      ledger: ledgerOf(sheets, said, (done) => progress(0.8 + done * 0.2)),
    };
    own.set(key, tally);
  }
  return tally;
}
