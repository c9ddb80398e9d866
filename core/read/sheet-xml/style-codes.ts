import type { CellSink } from './scan-cells.ts';

/** Which style each cell of a sheet has: -1 for none. */
export class StyleCodes implements CellSink {
  readonly columns: readonly Int16Array[];

  constructor(rows: number, columns: number) {
    this.columns = Array.from({ length: columns }, () => new Int16Array(rows).fill(-1));
  }

  put(row: number, column: number, style: number): void {
    const own = this.columns[column];
    if (own !== undefined && row < own.length && style >= 0) own[row] = style;
  }

  row(): void {}
  number(row: number, column: number, style: number): void {
    this.put(row, column, style);
  }
  shared(row: number, column: number, style: number): void {
    this.put(row, column, style);
  }
  text(row: number, column: number, style: number): void {
    this.put(row, column, style);
  }
  yesno(row: number, column: number, style: number): void {
    this.put(row, column, style);
  }
  error(row: number, column: number, style: number): void {
    this.put(row, column, style);
  }
  longNumber(row: number, column: number, style: number): void {
    this.put(row, column, style);
  }
  zeroFormula(): void {}
  empty(row: number, column: number, style: number): void {
    this.put(row, column, style);
  }
}
