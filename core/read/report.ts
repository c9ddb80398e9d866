import type { Column } from '../table/column.ts';
import { cellText } from '../values/cell-text.ts';
import type { KeptNumbers } from './kept-numbers.ts';
import type { Print } from './print.ts';

export interface Merge {
  row: number;
  column: number;
  rows: number;
  columns: number;
}

export interface Comment {
  row: number;
  column: number;
  text: string;
  author: string;
}

export interface CellStyle {
  bold: boolean;
  italic: boolean;
  /** It has a fill. */
  filled: boolean;
  borderAbove: boolean;
  borderBelow: boolean;
  /** Steps by which its text stands in. */
  indent: number;
  /** As the workbook writes it, where it is not one of those built in. */
  numberFormat: string | undefined;
}

/** Styles of the cells of one sheet: by column, for each row an index into styles or -1. */
export interface SheetStyles {
  styles: readonly CellStyle[];
  columns: readonly Int16Array[];
}

/** One grid of a report as received: a sheet of a workbook, or all of a text. Rows and columns count from 0. */
export interface ReportPart {
  name: string;
  rows: number;
  columns: readonly Column[];
  /** Names that columns have by themselves; others are named by letters. */
  names?: readonly string[];
  /** Displayed text where it differs from how the stored value reads; one for each column, if any differs. */
  displayed: readonly (DisplayedColumn | undefined)[];
  merges: readonly Merge[];
  comments: readonly Comment[];
  hidden: boolean;
  /** Formulas that have no stored value, or an empty text for one. */
  emptyFormulas?: number;
  /** Cells that hold 0 beside a formula, by cellKey: they may never have been calculated. */
  zeroFormulas?: ReadonlySet<number>;
  /** Numbers of more digits than a number keeps, which are kept as text. */
  keptNumbers?: KeptNumbers;
  /** Its cells are written in a form that only the slower of the two readers knows. */
  odd?: true;
  /** The file names the sheet but does not hold it. */
  missing?: true;
  /** Rows and columns that the report hides, ascending. */
  hiddenRows?: readonly number[];
  hiddenColumns?: readonly number[];
  /** Line of the file, from 0, on which each row begins; for text alone. */
  lines?: Int32Array;
  /** How its cells look, worked out when it is asked for; for workbooks of Office Open XML alone. */
  styles?: () => SheetStyles | undefined;
  /** Where its lines stand on printed pages. */
  print?: Print;
  /** Text as it stands, a line for each row, where the columns are cut from it. */
  text?: readonly string[];
}

export interface DisplayedColumn {
  /** What a cell shows; undefined where the stored value reads the same. */
  text(row: number): string | undefined;
}

/** One number for the place of a cell on its sheet. */
export function cellKey(row: number, column: number): number {
  return row * 16_384 + column;
}

/** A source as it came, before any reading chooses from it. */
export interface Report {
  format: 'workbook' | 'text';
  parts: readonly ReportPart[];
}

/** The cell as the report shows it; null for blank. */
export function displayedText(part: ReportPart, row: number, column: number): string | null {
  const shown = part.displayed[column]?.text(row);
  if (shown !== undefined) return shown;
  const cells = part.columns[column];
  return cells === undefined || row >= part.rows ? null : cellText(cells, row);
}

/**
 * Where the cells of a raw table stand in its report. Row r stands in part `part[r]` from `row[r]` on; column c in the
 * part's column `columns[c]`, or PART_NAME where it holds the part's name.
 */
export interface Places {
  part: Int32Array;
  row: Int32Array;
  columns: Int32Array;
  /** By part, where parts have their columns in another order; -1 where a part has no such column. */
  ofPart?: readonly (Int32Array | undefined)[];
  /** By column, where the cells of one row stand in several rows of the report; -1 where a cell stands nowhere. */
  cellRows?: readonly (Int32Array | undefined)[];
  /** Rows of the report that each row was made from, where that is not one. */
  height?: Int32Array;
}

export const PART_NAME = -2;
