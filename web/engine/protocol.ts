/** What crosses between the page and the worker: plain data, windows of rows only. */
import type { ColumnType, JobStep, Mark, Merge, Role, SourceFormat, Standing, StepStop } from '../../core/index.ts';

export interface NoticeView {
  tone: 'told' | 'look';
  text: string;
  column?: string;
  /** Rows it speaks of: how many, and the first of them in the table after the step. */
  rows?: { of: 'before' | 'after'; count: number; first: number };
}

export interface ColumnBrief {
  name: string;
  type: ColumnType;
  standing: Standing;
}

export interface StepView {
  rows: number;
  columns: readonly ColumnBrief[];
  notices: readonly NoticeView[];
  piles: readonly { name: string; mark: Mark; rows: number; columns: number }[];
}

export interface MethodView {
  steps: readonly StepView[];
  stop?: StepStop;
  /** Raw rows by where they are after the last step that ran. */
  fates: readonly { mark: Mark; pile?: string; rows: number }[];
  unreadable: number;
  milliseconds: number;
}

export interface ColumnView extends ColumnBrief {
  /** Different texts, for text columns. */
  distinct?: number;
  /** Kinds of cell in a column as received. */
  mixture?: readonly string[];
  /** Share of filled cells in each of a few stretches down the column, 0 to 1. */
  strip: readonly number[];
  unreadable: number;
  /** Longest text in the first rows. */
  characters: number;
}

/** What a cell is, for how it looks. */
export type CellKind = 'blank' | 'text' | 'empty' | 'counted' | 'unreadable';

export interface CellView {
  text: string;
  kind: CellKind;
}

export interface RowView {
  cells: readonly CellView[];
  mark?: Mark;
}

/** A line of a text as it stands, with the stretches that its cells are. */
export interface LineView {
  text: string;
  spans: readonly { from: number; to: number; column: number }[];
  fits: boolean;
  mark?: Mark;
}

/** What a text holds as a whole, for its ruler. */
export interface TextView {
  /** Characters of the longest line. */
  width: number;
  /** Share of the lines that fit which have something at each character, 0 to 1. */
  profile: readonly number[];
  misfits: number;
  /** The first lines that do not fit. */
  examples: readonly string[];
}

export interface PartView {
  name: string;
  rows: number;
  columns: readonly { letters: string; characters: number; counted: boolean }[];
  merges: readonly Merge[];
  comments: readonly { row: number; column: number; text: string; author: string }[];
  hidden: boolean;
  hiddenRows: readonly number[];
  hiddenColumns: readonly number[];
  /** Its rows are lines of text that stand as they came. */
  lines: boolean;
}

export interface ReportView {
  format: 'workbook' | 'text';
  parts: readonly PartView[];
}

export interface ReportAddress {
  part: number;
  row: number;
  column: number;
}

export interface TracedToReport extends ReportAddress {
  role: Role;
  /** 'Hask!D8', or the sheet's name. */
  place: string;
  /** In the report of another table. */
  elsewhere?: boolean;
}

export interface TracedToTable {
  row: number;
  column: number;
  role: Role;
}

export interface Traced<T> {
  cells: readonly T[];
  /** May be more than are sent. */
  total: number;
}

export interface SourceView {
  format: SourceFormat;
  sha256: string;
}

export interface Suggestion {
  step: Omit<JobStep, 'id'>;
}

/** A run that a newer one has overtaken. */
export const OVERTAKEN = 'overtaken';

/** Under this id the table of a tried step is at hand. */
export const PREVIEW = '(preview)';

/** What is selected on a table. */
export type Selection = { columns: readonly string[] } | { row: number; column: number; stretch?: [number, number] };

/** Where a row of the report is, and what it could be marked as. */
export type RowOffers =
  | { at: 'nowhere' }
  | { at: 'aside'; step: number; pile: string; mark: Mark }
  | { at: 'here'; offers: readonly RowOffer[] };

export interface RowOffer {
  /** The rule in words. */
  text: string;
  count: number;
  kind: string;
  params: Record<string, unknown>;
  /** Rows of the report that follow it, the first of them. */
  rows: readonly { part: number; row: number }[];
}
