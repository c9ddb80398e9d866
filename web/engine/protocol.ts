/** What crosses between the page and the worker: plain data, windows of rows only. */
import type {
  CheckResult,
  ColumnType,
  DoubtPlace,
  Draft,
  Fate,
  FullTable,
  Job,
  JobStep,
  Likeness,
  LinedUp,
  Mark,
  Merge,
  NamedFile,
  NameOrigin,
  NewCheck,
  Role,
  SourceFormat,
  StepChange,
  StepStop,
  TablesCompared,
  TotalEntry,
} from '../../core/index.ts';

export interface NoticeView {
  severity: 'info' | 'warning';
  text: string;
  column?: string;
  /** Rows it speaks of: how many, and the first of them in the table after the step. */
  rows?: { of: 'before' | 'after'; count: number; first: number };
}

export interface ColumnBrief {
  name: string;
  type: ColumnType;
  nameOrigin: NameOrigin;
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

/** The pages of a print, in points. */
export interface PrintView {
  pages: readonly {
    number: number;
    width: number;
    height: number;
    /** The row that its first line is. */
    first: number;
  }[];
  /** Of most letters. */
  size: number;
  /** Share of the lines that have something at each point, 0 to 1. */
  profile: readonly number[];
}

/** A line of a printed page, in points from the page's upper left corner. */
export interface PrintLineView {
  baseline: number;
  /** Of its letters. */
  size: number;
  words: readonly { text: string; left: number; right: number; size: number; column: number }[];
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
  /** Its rows are lines of text as they came. */
  lines: boolean;
  /** Its rows are lines of printed pages. */
  printed: boolean;
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

/** Why something that was asked of the engine was not done. */
export type EngineTrouble =
  /** A newer run was wanted, or the worker was ended; nothing is wrong. */
  | 'overtaken'
  /** Something else was asked meanwhile, which goes first: it is to be asked again. */
  | 'preempted'
  /** A file cannot be read; the text says why and what to do. */
  | 'unreadable'
  /** A check, or what the format can hold, forbids the export. */
  | 'export-stopped'
  /** Nobody foresaw it. */
  | 'unexpected';

/** By the names of the core's own errors, which are all that crosses over with the text. */
const TROUBLES: Readonly<Record<string, EngineTrouble>> = {
  Cancelled: 'overtaken',
  Preempted: 'preempted',
  ReadFailure: 'unreadable',
  ExportStopped: 'export-stopped',
};

/** What the engine answers where it cannot do what it was asked. */
export class EngineError extends Error {
  override name = 'EngineError';
  constructor(
    readonly trouble: EngineTrouble,
    message: string,
  ) {
    super(message);
  }

  /** @param error as it came over the port */
  static of(error: unknown): EngineError {
    if (error instanceof EngineError) return error;
    if (!(error instanceof Error)) return new EngineError('unexpected', String(error));
    return new EngineError(TROUBLES[error.name] ?? 'unexpected', error.message);
  }
}

/** A run that a newer one has overtaken, or a worker that was ended: nobody waits for the answer any more. */
export function isOvertaken(error: unknown): boolean {
  return error instanceof EngineError && error.trouble === 'overtaken';
}

/** What the page shares with a worker while it works: places in one vector. */
export const Shared = {
  /** Number of the newest run; an older one stops when it sees a higher number. */
  wanted: 0,
  /** How many calls wait for an answer. */
  waiting: 1,
} as const;

/** Under this id the table of a tried step is available. */
export const PREVIEW = '(preview)';

export interface TableCell {
  row: number;
  column: number;
}

/** What is selected on a table; only one thing at a time. */
export type Selection =
  | { of: 'columns'; names: readonly string[] }
  | ({ of: 'cell' } & TableCell)
  | ({ of: 'stretch'; from: number; to: number; text: string } & TableCell)
  | { of: 'range'; from: TableCell; to: TableCell }
  /** A cell with what was typed over it: how it should read. */
  | ({ of: 'example'; wanted: string } & TableCell);

/** Where a row of the report is, and what it could be marked as. */
export type RowOffers =
  | { at: 'nowhere' }
  | { at: 'aside'; step: number; pile: string; mark: Mark }
  | { at: 'here'; offers: readonly RowOffer[] };

/** A row of a part of the report, or all rows from it to another. */
export interface ReportRows {
  part: number;
  row: number;
  to?: number | undefined;
}

export interface RowOffer {
  /** The rule in words. */
  text: string;
  count: number;
  /** As a rule one; several labels are carried one after the other. */
  steps: readonly PlainStep[];
  /** Rows of the report that follow it, the first of them. */
  rows: readonly { part: number; row: number }[];
}

/** Where the steps that are being put together stand: behind a step of a table, with more steps tried behind it. */
export interface Place {
  tables: readonly FullTable[];
  tableId: string;
  at: number;
  before?: readonly Omit<JobStep, 'id'>[];
}

export interface LinedUpTables {
  here: readonly string[];
  there: readonly { id: string; columns: readonly LinedUp[] }[];
}

export interface TableState {
  id: string;
  rows: number;
  columns: number;
  steps: number;
  /** Things that want a look. */
  looks: number;
  /** Rows that its first step took in from the source. */
  read?: number;
  /** How its own checks stand, where it has any and ran to its end. */
  checks?: { all: number; failed: number };
  stop?: StepStop;
}

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
  offers: readonly { check: NewCheck; text: string }[];
}

/** What is asked of a tally: the table as it was last run, and the last run but this one. */
export interface TallyAsked {
  tables: readonly FullTable[];
  tableId: string;
  lastRows: number | undefined;
  /** Checks that could be added are searched for too. */
  offers: boolean;
}

/** A step without its id. */
export type PlainStep = Omit<JobStep, 'id'>;

/** A table as it should come out, or some of its rows. */
export interface WantedTable {
  /** Blank where a column may have any name. */
  names: readonly string[];
  rows: readonly (readonly string[])[];
  /** All of its rows are there. */
  whole: boolean;
}

/** What is asked of a draft. */
export interface DraftAsked {
  source: string;
  /** The reading, and the steps behind it that the draft begins with. */
  given: readonly PlainStep[];
  /** Steps that are not to be proposed. */
  without: readonly PlainStep[];
  most: number;
  wanted?: WantedTable | undefined;
}

/** A method as it is proposed. */
export interface DraftView extends Pick<Draft, 'steps' | 'sureness' | 'why' | 'totals' | 'choices'> {
  /** The cell that the reason speaks of. */
  place?: DoubtPlace;
  /** Beside the finished table that was asked for. */
  likeness?: Pick<Likeness, 'share' | 'extra' | 'missing' | 'gaps'>;
}

/** The draft of the next report, as it would change a method. */
export interface NextDraftView {
  steps: DraftView['steps'];
  sureness: DraftView['sureness'];
  totals: DraftView['totals'];
  rows: number;
  columns: readonly string[];
  gone: readonly JobStep[];
  come: DraftView['steps'];
  changes: readonly StepChange[];
}

/** A job with the files that it read. */
export interface PastRun {
  job: Job;
  files: readonly { source: string; name: string; bytes: Uint8Array<ArrayBuffer> }[];
}

/** Files that come in one archive, and what is to be run on each of them. */
export interface ManyAsked {
  job: Job;
  tableId: string;
  source: string;
  file: NamedFile;
}

/** One file of many, as it is reported. */
export interface FileView {
  file: string;
  /** Undefined where it failed. */
  rows?: number;
  good?: boolean;
  text: string;
}

export interface ComparedView extends Omit<TablesCompared, 'added' | 'gone' | 'changed'> {
  columns: readonly string[];
  added: ComparedRows;
  gone: ComparedRows;
  changed: { count: number; rows: readonly { before: RowView; after: RowView; columns: readonly string[] }[] };
  rows: { before: number; after: number };
}

export interface ComparedRows {
  count: number;
  columns: readonly string[];
  rows: readonly RowView[];
}
