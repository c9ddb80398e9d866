/** What is looked at on the bench, as the slices of its store hold it. */
import type { Job } from '../../../core/index.ts';
import type {
  ReportAddress,
  Selection,
  StepView,
  TableCell,
  TracedToReport,
  TracedToTable,
} from '../../engine/protocol.ts';
import type { FoundReport } from '../watch-store.ts';

export type Facing = 'report' | 'before';

/** A cell that a page goes to. Each is its own object, so going to the same cell again is a new journey. */
export type Journey = ({ on: 'report' } & ReportAddress) | ({ on: 'table' } & TableCell);

/** A page that was scrolled asks the other one to follow. */
export type Follow = { on: 'report'; part: number; row: number } | { on: 'table'; row: number };

/** What is in sight: which table, after which step, beside what. */
export interface PlaceSlice {
  /** The table on the bench, or undefined for the first. */
  table: string | undefined;
  /** Index of the selected step, or undefined for the last. */
  step: number | undefined;
  facing: Facing;
  /** The part of the report: a sheet or a file. */
  part: number;
  journey: Journey | undefined;
  follow: Follow | undefined;
  /** Another table, with nothing selected and nothing lit. */
  showTable(table: string | undefined, more?: { step?: number; part?: number }): void;
  /** The table after a step; what was selected and lit in another table is no longer. */
  showStep(step: number | undefined): void;
  face(facing: Facing): void;
  showPart(part: number): void;
  goTo(journey: Journey): void;
  bring(follow: Follow): void;
}

/** What is selected on the table; only one thing at a time. */
export interface SelectionSlice {
  selection: Selection | undefined;
  /** The column that is glanced at. */
  glance: string | undefined;
  /** While a blank of a sentence asks for columns, a column of the sheet that is clicked on goes to it. */
  takeColumn: { take(name: string): void; step: number } | undefined;
  select(selection: Selection | undefined): void;
  glanceAt(column: string | undefined): void;
  askForColumns(ask: SelectionSlice['takeColumn']): void;
}

/** Rows that a notice speaks of, on the table after or before the step, and the one to go to. */
export interface Noticed {
  of: 'before' | 'after';
  cells: readonly TableCell[];
  goTo: TableCell;
}

/** What is lit, and what the foot says of it. */
export interface LightSlice {
  /** Cells lit by what is pointed at: where it came from, or where it went. */
  litReport: readonly TracedToReport[];
  litTable: readonly TracedToTable[];
  /** What the foot says of the pointed cell. */
  saying: { text: string; of: string } | undefined;
  /** Rows of the report that a rule would take in. */
  litRows: readonly { part: number; row: number }[];
  noticed: Noticed | undefined;
  light(lit: Partial<Pick<LightSlice, 'litReport' | 'litTable' | 'saying'>>): void;
  lightRows(rows: LightSlice['litRows']): void;
  /** Nothing is lit any more; a notice stays until something else is looked at. */
  dark(): void;
  notice(noticed: Noticed | undefined): void;
}

/** Something that is looked at before it is taken; only one at a time stands over the bench. */
export type Dialog =
  /** Tables are put together by a step of a kind, one to come or one that is there. */
  | { as: 'combine'; kind: string; step?: number }
  /** A file before a source takes it; where it was found in a place that is watched, with all that was found there. */
  | { as: 'next report'; source: string; file: File; arrived?: true; sighted?: readonly FoundReport[] }
  /** Files that a method runs on one by one: the job as it was when they were given. */
  | { as: 'many files'; job: Job; table: string; source: string; file: File };

/** A step that is looked at before it is taken: what it would give, or why it would stop. */
export interface Preview {
  label: string;
  at: number;
  view?: StepView;
  stop?: string;
}

export interface AskedSlice {
  preview: Preview | undefined;
  dialog: Dialog | undefined;
  finding: boolean;
  tryOut(preview: Preview | undefined): void;
  ask(dialog: Dialog | undefined): void;
  find(on: boolean): void;
}

export interface ViewState extends PlaceSlice, SelectionSlice, LightSlice, AskedSlice {
  /** The first table after its last step, nothing selected, nothing lit: how the bench begins. */
  refresh(): void;
}
