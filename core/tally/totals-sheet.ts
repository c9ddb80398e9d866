import { placeOfCell } from '../read/places.ts';
import { cellKey } from '../read/report.ts';
import { columnFates } from '../run/column-fates.ts';
import type { MethodRun } from '../run/run.ts';
import { rawRows, rowFates } from '../run/trace.ts';
import { inputColumn } from '../table/origin.ts';
import type { Table } from '../table/table.ts';
import { cellText } from '../values/cell-text.ts';
import { NumberForm } from '../values/number-text.ts';
import { type Figure, figureAt } from './figure.ts';
import type { Loss, ReadMarks } from './marks.ts';

export interface ReportPlace {
  source: string;
  part: number;
  row: number;
  column: number;
}

export type TotalKind = 'sum' | 'mean' | 'count' | 'min' | 'max';

const Role = { other: 0, data: 1, total: 2 } as const;

/** The figures of a column that were asked for, by row. */
interface ColumnFigures {
  /** 0 where none was asked for. */
  known: Uint8Array;
  /** NaN where there is no figure. */
  values: Float64Array;
  /** What the last digit counts; undefined where every figure stands exactly. */
  units: Float64Array | undefined;
}

/** One raw table as the totals see it. */
export class TotalsSheet {
  private readonly roles: Uint8Array;
  readonly form: NumberForm;
  /** Raw columns that hold totals of others, by what they are called. */
  readonly totalColumns: ReadonlyMap<number, { name: string; siblings: readonly { raw: number; name: string }[] }>;
  /** What each raw column was called after its header was found. */
  readonly names: readonly (string | undefined)[];
  private readonly raw: Table;
  /** Where sheets have their columns in another order, by part: for each column of the header step the raw one, or -1. */
  private readonly aligned: ReadonlyMap<number, Int32Array> | undefined;
  private readonly columnsOfHeader: number;
  /** By column: figures that were asked for. */
  private readonly figures: (ColumnFigures | undefined)[] = [];

  constructor(
    readonly read: ReadMarks,
    readonly losses: readonly Loss[],
  ) {
    const { run, upTo } = read;
    this.raw = run.steps[0]!.table;
    const fates = rowFates(run, upTo);
    // What was filtered out or put with the others was counted by the report all the same.
    const ofPile = fates.piles.map(({ mark }) =>
      mark === 'total' ? Role.total : mark === 'data' || mark === 'other' ? Role.data : Role.other,
    );
    this.roles = new Uint8Array(this.raw.rows);
    for (let row = 0; row < this.roles.length; row++) this.roles[row] = ofPile[fates.pile[row]!] ?? Role.data;
    this.form = NumberForm.parse({ decimal: decimalOf(run) });
    const header = run.steps.findIndex((step) => step.table.fields.some((field) => field.nameOrigin === 'named'));
    this.aligned = header > 0 && header <= upTo ? alignmentOf(run, header) : undefined;
    const base = this.aligned === undefined ? 0 : header;
    this.columnsOfHeader = run.steps[base]!.table.fields.length;
    this.totalColumns = totalColumnsOf(run, upTo, base);
    this.names =
      this.aligned !== undefined
        ? run.steps[header]!.table.fields.map((field) => field.name)
        : header < 0
          ? []
          : columnFates(run, Math.min(header, upTo)).map((fate) => fate.names[0]);
  }

  get rows(): number {
    return this.raw.rows;
  }

  isData(row: number): boolean {
    return this.roles[row] === Role.data;
  }

  isTotal(row: number): boolean {
    return this.roles[row] === Role.total;
  }

  partOf(row: number): number {
    return this.read.run.steps[0]!.reading!.places.part[row]!;
  }

  /** The raw column of a row that a column stands for; -1 where its sheet has no such column. */
  private rawColumn(row: number, column: number): number {
    return this.aligned === undefined ? column : (this.aligned.get(this.partOf(row))?.[column] ?? -1);
  }

  text(row: number, column: number): string | null {
    const raw = this.rawColumn(row, column);
    return raw < 0 ? null : cellText(this.raw.fields[raw]!.column, row);
  }

  /** What became of a cell, as the tally marks it; 0 where there is none. */
  markAt(row: number, column: number): number {
    return this.read.marks.cells(this.rawColumn(row, column))?.[row] ?? 0;
  }

  place(row: number, column: number): ReportPlace {
    const raw = this.rawColumn(row, column);
    const at = placeOfCell(this.read.run.steps[0]!.reading!.places, row, raw) ?? {
      part: this.partOf(row),
      row,
      column,
    };
    return { source: this.read.source, ...at };
  }

  /** Whether the workbook stores 0 beside a formula there. */
  isUncalculated(row: number, column: number): boolean {
    const { part, row: at, column: beside } = this.place(row, column);
    const own = this.read.run.steps[0]!.reading!.report.parts[part];
    return own?.zeroFormulas?.has(cellKey(at, beside)) ?? false;
  }

  /** Whether figures of a column that were asked for may be longer than they are shown. */
  hidesDigits(column: number): boolean {
    return this.figures[column]?.units !== undefined;
  }

  /** NaN where there is no figure. */
  valueAt(row: number, column: number): number {
    return this.foundAt(row, column).values[row]!;
  }

  /** What the last digit of a figure counts; 0 where it stands exactly or is none. */
  unitAt(row: number, column: number): number {
    return this.foundAt(row, column).units?.[row] ?? 0;
  }

  figure(row: number, column: number): Figure | undefined {
    const value = this.valueAt(row, column);
    return Number.isNaN(value) ? undefined : { value, unit: this.unitAt(row, column) };
  }

  /** The figures of a column, that of a row among them. */
  private foundAt(row: number, column: number): ColumnFigures {
    let kept = this.figures[column];
    if (kept === undefined) {
      kept = { known: new Uint8Array(this.rows), values: new Float64Array(this.rows), units: undefined };
      this.figures[column] = kept;
    }
    if (kept.known[row] === 0) {
      const found = this.findFigure(row, column);
      kept.known[row] = 1;
      kept.values[row] = found?.value ?? Number.NaN;
      if (found !== undefined && found.unit !== 0) {
        kept.units ??= new Float64Array(this.rows);
        kept.units[row] = found.unit;
      }
    }
    return kept;
  }

  private findFigure(row: number, column: number): Figure | undefined {
    const { report, places } = this.read.run.steps[0]!.reading!;
    const raw = this.rawColumn(row, column);
    if (raw < 0) return undefined;
    const at = placeOfCell(places, row, raw);
    const part = at === undefined ? undefined : report.parts[at.part];
    const field = this.raw.fields[raw]!;
    const found =
      field.nameOrigin === 'beside'
        ? undefined
        : figureAt(
            field.column,
            row,
            this.form,
            at === undefined || part === undefined || report.format === 'text'
              ? undefined
              : { part, row: at.row, column: at.column },
          );
    return found;
  }

  /** What the table's values that came from a cell add up to; NaN where none did. */
  amount(row: number, column: number): number {
    return this.amountsOf(row, column)?.[row] ?? Number.NaN;
  }

  private amountsOf(row: number, column: number): Float64Array | undefined {
    const raw = this.rawColumn(row, column);
    if (!this.amounts.has(raw)) this.amounts.set(raw, this.read.amounts(raw));
    return this.amounts.get(raw);
  }

  private readonly amounts = new Map<number, Float64Array | undefined>();

  get columnCount(): number {
    return this.columnsOfHeader;
  }
}

/** The decimal mark by which the method reads numbers. */
function decimalOf(run: MethodRun): '.' | ',' {
  for (const { step } of run.steps) {
    const types = step.params['types'] as { number?: { decimal?: '.' | ',' } }[] | undefined;
    for (const type of Array.isArray(types) ? types : [])
      if (type.number?.decimal !== undefined) return type.number.decimal;
  }
  return '.';
}

/**
 * By part, the raw column that each column of the table after a step came from, where the parts do not have them alike;
 * undefined where they do.
 */
function alignmentOf(run: MethodRun, header: number): ReadonlyMap<number, Int32Array> | undefined {
  const { origin, table } = run.steps[header]!;
  if (!origin.some((of) => of.cells.some(({ column }) => typeof column !== 'number'))) return undefined;
  const before = run.steps[header - 1]!.table.fields.length;
  // Steps before the header that move columns are rare, and then nothing is lined up.
  if (before !== run.steps[0]!.table.fields.length) return undefined;
  const { part } = run.steps[0]!.reading!.places;
  const raw = rawRows(run, header);
  const found = new Map<number, Int32Array>();
  for (let r = 0; r < table.rows; r++) {
    const own = part[raw?.[r] ?? r]!;
    if (found.has(own)) continue;
    const columns = origin.map((of) => inputColumn(of.cells[0]!.column, r));
    found.set(own, Int32Array.from(columns));
  }
  return found;
}

function totalColumnsOf(run: MethodRun, upTo: number, base: number): TotalsSheet['totalColumns'] {
  const found = new Map<number, { name: string; siblings: readonly { raw: number; name: string }[] }>();
  const fates = columnFates(run, upTo, base);
  fates.forEach((fate, raw) => {
    if (fate.mark !== 'total' || fate.step === undefined) return;
    const before = columnFates(run, fate.step - 1, base);
    const siblings = before.flatMap((one, other) =>
      one.names.length === 1 && fates[other]!.mark !== 'total' ? [{ raw: other, name: one.names[0]! }] : [],
    );
    found.set(raw, { name: fate.was ?? '', siblings });
  });
  return found;
}
