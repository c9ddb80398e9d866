import type { Mark } from '../kinds/step.ts';
import { cellsAtPlace, placeOfCell } from '../read/places.ts';
import type { Places } from '../read/report.ts';
import {
  type CellAddress,
  leadingRows,
  NAME,
  type Origin,
  type Role,
  traceBack,
  traceForward,
} from '../table/origin.ts';
import { type MethodRun, type StepRun, walkedSteps } from './run.ts';

/** A cell of a report; row NAME stands for the part's own name. */
export interface ReportCell extends CellAddress {
  source: string;
  part: number;
  role: Role;
}

export interface TidyCell extends CellAddress {
  role: Role;
}

/** The first role on the way that is not plainly a value tells what the source is to the cell. */
function through(before: Role, next: Role): Role {
  return before === 'value' ? next : before;
}

/** The reports' cells that a cell of the table after the given step came from, through other tables too. */
export function cellsOfReport(run: MethodRun, stepIndex: number, cell: CellAddress): ReportCell[] {
  return backwards(run, stepIndex, [{ ...cell, role: 'value' }]);
}

function backwards(run: MethodRun, stepIndex: number, from: readonly TidyCell[]): ReportCell[] {
  const found: ReportCell[] = [];
  let cells = from;
  for (const { run: step } of walkedSteps(run, stepIndex).reverse()) {
    const { origin, others, reading } = step;
    if (reading !== undefined)
      return [...found, ...cells.flatMap((one) => placeOf(reading.places, reading.source, one))];
    const here: TidyCell[] = [];
    const there: TidyCell[][] = others.map(() => []);
    for (const one of cells) {
      for (const { row, column, input, role } of traceBack(origin, one)) {
        const next = { row, column, role: through(one.role, role) };
        if (input === 0) here.push(next);
        else there[input - 1]!.push(next);
      }
    }
    others.forEach((other, n) => {
      if (there[n]!.length > 0) found.push(...backwards(other.run, other.step, unique(there[n]!)));
    });
    cells = unique(here);
  }
  return found;
}

function placeOf(places: Places, source: string, cell: TidyCell): ReportCell[] {
  // Names given by position stand nowhere in the report.
  if (cell.row === NAME) return [];
  const place = placeOfCell(places, cell.row, cell.column);
  if (place === undefined) return [];
  return [{ source, ...place, role: place.row === NAME ? 'label' : cell.role }];
}

/** Cells of the table after the given step that came from a cell of a report, through other tables too. */
export function cellsOfTable(run: MethodRun, stepIndex: number, cell: Omit<ReportCell, 'role'>): TidyCell[] {
  let cells: TidyCell[] = [];
  for (const { run: step } of walkedSteps(run, stepIndex)) {
    const { origin, table, others, reading } = step;
    if (reading !== undefined) {
      cells =
        reading.source === cell.source
          ? cellsAtPlace(reading.places, cell).map((one) => ({ ...one, role: 'value' as const }))
          : [];
      continue;
    }
    const inputs = [cells, ...others.map((other) => cellsOfTable(other.run, other.step, cell))];
    const found: TidyCell[] = [];
    inputs.forEach((own, input) => {
      for (const [[column, role], rows] of grouped(own)) {
        for (const one of traceForward(origin, { column, rows, input }, table.rows)) {
          found.push({ row: one.row, column: one.column, role: through(role, one.role) });
        }
      }
    });
    cells = unique(found);
  }
  return cells;
}

function grouped(cells: readonly TidyCell[]): [[number, Role], number[]][] {
  const groups = new Map<string, [[number, Role], number[]]>();
  for (const { row, column, role } of cells) {
    const key = `${column}:${role}`;
    const group = groups.get(key) ?? [[column, role], []];
    group[1].push(row);
    groups.set(key, group);
  }
  return [...groups.values()];
}

function unique(cells: readonly TidyCell[]): TidyCell[] {
  const seen = new Set<string>();
  return cells.filter(({ row, column }) => {
    const key = `${row}:${column}`;
    return !seen.has(key) && seen.add(key) !== undefined;
  });
}

/** Where one row of the raw table ended up. */
export interface RowFate {
  mark: Mark;
  /** The step that set it aside, or the last step. */
  step: number;
  pile?: string;
}

/** Where every raw row is after a step. */
export class RowFates {
  /**
   * @param pile index into piles for each raw row, or -1 where it is in the table
   * @param piles in the order in which rows came onto them
   */
  constructor(
    readonly pile: Int16Array,
    readonly piles: readonly Required<RowFate>[],
    private readonly last: number,
  ) {}

  at(row: number): RowFate {
    return this.piles[this.pile[row]!] ?? { mark: 'data', step: this.last };
  }

  /** Rows on each pile, by name; rows in the table have none. */
  counts(): { mark: Mark; pile?: string; rows: number }[] {
    const { data, own } = pileCounts(this.pile, this.piles.length);
    const counts = new Map<string, { mark: Mark; pile?: string; rows: number }>();
    if (data > 0) counts.set('', { mark: 'data', rows: data });
    this.piles.forEach(({ mark, pile }, k) => {
      const entry = counts.get(pile) ?? { mark, pile, rows: 0 };
      entry.rows += own[k]!;
      counts.set(pile, entry);
    });
    return [...counts.values()].filter((one) => one.rows > 0);
  }
}

/** Kept with the piles, which are the same behind every step that sets no row aside. */
const keptCounts = new WeakMap<Int16Array, { data: number; own: Int32Array }>();

function pileCounts(pileOf: Int16Array, piles: number): { data: number; own: Int32Array } {
  let counts = keptCounts.get(pileOf);
  if (counts === undefined) {
    const own = new Int32Array(piles);
    let data = 0;
    // By index: an iterator makes an object for each row.
    for (let r = 0; r < pileOf.length; r++) {
      const pile = pileOf[r]!;
      if (pile < 0) data++;
      else own[pile]!++;
    }
    counts = { data, own };
    keptCounts.set(pileOf, counts);
  }
  return counts;
}

const keptFates = new WeakMap<MethodRun, Map<number, RowFates>>();

/**
 * The fate of every row of the raw table after the given step. Steps that make new rows (unpivot) do not lose any,
 * so a row is followed for as long as each row stems from one row.
 */
export function rowFates(run: MethodRun, stepIndex: number): RowFates {
  let kept = keptFates.get(run);
  if (kept === undefined) {
    kept = new Map();
    keptFates.set(run, kept);
  }
  let fates = kept.get(stepIndex);
  if (fates === undefined) {
    fates = followRows(run, stepIndex);
    kept.set(stepIndex, fates);
  }
  return fates;
}

function followRows(run: MethodRun, stepIndex: number): RowFates {
  const { pileOf, piles } = followed(run, stepIndex);
  return new RowFates(pileOf, piles, stepIndex);
}

interface Followed {
  pileOf: Int16Array;
  piles: readonly Required<RowFate>[];
  /** For each row of the table the raw row that it stems from; undefined where all are the same. */
  toRaw: Int32Array | undefined;
}

/** Kept with the origin of the step, which is one object for as long as the step's result is kept. */
const keptFollowed = new WeakMap<Origin, Followed>();

function followed(run: MethodRun, stepIndex: number): Followed {
  const first = run.steps[0];
  const start: Followed = {
    pileOf: new Int16Array(first?.reading === undefined ? 0 : first.table.rows),
    piles: [],
    toRaw: undefined,
  };
  start.pileOf.fill(-1);
  let last = start;
  if (first?.reading === undefined) return start;
  for (const { run: step, index } of walkedSteps(run, stepIndex).slice(1)) {
    const known = keptFollowed.get(step.origin);
    last = known ?? followStep(step, index, last);
    if (known === undefined) keptFollowed.set(step.origin, last);
  }
  return last;
}

function followStep(step: StepRun, k: number, before: Followed): Followed {
  const away = step.aside.filter((pile) => pile.rows.length > 0);
  const toRaw = throughStep(step, before.toRaw);
  if (away.length === 0) return { ...before, toRaw };
  const pileOf = before.pileOf.slice();
  const piles = [...before.piles];
  for (const { name, mark, rows } of away) {
    const pile = piles.push({ mark, step: k, pile: name }) - 1;
    // By index: an iterator makes an object for each row, of which there may be millions.
    for (let n = 0; n < rows.length; n++) {
      const row = rows[n]!;
      const raw = before.toRaw === undefined ? row : before.toRaw[row]!;
      if (raw >= 0) pileOf[raw] = pile;
    }
  }
  return { pileOf, piles, toRaw };
}

/** The first row of the table after a step that stems from a raw row, or -1. */
export function rowAfter(run: MethodRun, stepIndex: number, raw: number): number {
  const from = rawRows(run, stepIndex);
  return from === undefined ? raw : from.indexOf(raw);
}

const MAX_REPORT_ROWS = 2000;

/** Rows of the report that rows of the table after a step stem from. */
export function reportRowsOf(run: MethodRun, stepIndex: number, rows: Int32Array): { part: number; row: number }[] {
  const places = run.steps[0]?.reading?.places;
  if (places === undefined) return [];
  const from = rawRows(run, stepIndex);
  const found: { part: number; row: number }[] = [];
  for (const row of rows.subarray(0, MAX_REPORT_ROWS)) {
    const raw = from === undefined ? row : from[row]!;
    if (raw < 0) continue;
    for (let k = 0; k < (places.height?.[raw] ?? 1); k++)
      found.push({ part: places.part[raw]!, row: places.row[raw]! + k });
  }
  return found;
}

/** For each row of the table after a step the raw row that it stems from, or undefined where all are the same. */
export function rawRows(run: MethodRun, stepIndex: number): Int32Array | undefined {
  if (run.steps[0]?.reading !== undefined) return followed(run, stepIndex).toRaw;
  let toRaw: Int32Array | undefined;
  for (const { run: step } of walkedSteps(run, stepIndex).slice(1)) toRaw = throughStep(step, toRaw);
  return toRaw;
}

function throughStep(step: StepRun, before: Int32Array | undefined): Int32Array | undefined {
  const from = leadingRows(step.origin, step.table.rows);
  if (from === undefined || before === undefined) return from ?? before;
  return from.map((row) => (row < 0 ? row : before[row]!));
}
