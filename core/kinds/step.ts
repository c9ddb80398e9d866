import type { z } from 'zod';
import type { Origin } from '../table/origin.ts';
import type { Table } from '../table/table.ts';
import { mostAlike } from '../values/likeness.ts';
import { brief, MAX_TOLD } from '../values/text.ts';
import type { StepEffect } from './headline.ts';
import type { Phrase } from './sentence.ts';

/** What a row of the report is; a pile carries the mark of the rows on it. */
export type Mark = 'title' | 'header' | 'label' | 'data' | 'total' | 'note' | 'repeat' | 'blank' | 'other';

/** Rows taken out of the table and kept. */
export interface Pile {
  name: string;
  mark: Mark;
  /** Rows of the step's input, ascending. */
  rows: Int32Array;
  /** Whole columns of the step's input, ascending, where columns are set aside and not rows. */
  columns?: readonly number[];
}

/** What a step has to say of what it did. */
export interface Notice {
  /** told: for the record. look: wants a look. */
  severity: 'info' | 'warning';
  text: string;
  /** It says that the step found nothing to do. */
  idle?: true;
  /** What it tells of, where a draft asks: outer items of nested text without inner ones. */
  about?: 'childless';
  /** The rows it speaks of, in the step's input (before) or output (after). */
  rows?: { of: 'before' | 'after'; rows: Int32Array };
  /** The column it speaks of, by name in that table. */
  column?: string;
}

export interface StepResult {
  table: Table;
  origin: Origin;
  aside: readonly Pile[];
  notices: readonly Notice[];
}

export interface Context {
  /** Tells how much is done, from 0 to 1. Throws Cancelled when the run is no longer wanted. */
  progress(done: number): void;
  /** Name of the table that the step belongs to. */
  name: string;
  /** The end result of another table that the kind's others() named. @throws StepFailure when it has none */
  other(tableId: string): OtherTable;
}

export interface OtherTable {
  name: string;
  table: Table;
}

/** What a kind of step is called, asks and says: all that a page needs of it. */
export interface StepDescriptor<P> {
  /** Stable name, as it stands in job files. */
  kind: string;
  title: string;
  /** One line of what it is for. */
  summary: string;
  /** Words people use for it, beside its title. */
  searchTerms: readonly string[];
  params: z.ZodType<P>;
  /** What a kind does with another table, as on the map. A kind without it reads none. */
  otherTableVerb?: string;
  /** It says itself which rows, columns or texts go, or puts others in their place: what it takes out is not lost. */
  drops?: true;
  /** It looks at one row at a time and at nothing else of the table, so that it can run piece by piece. */
  rowByRow?: true;
  /** It changes how a table reads and not what it says: it is kept behind a method that is drafted again. */
  presentation?: true;
  /** What it did to this report, in at most seven words. */
  headline(params: P, did: StepEffect): string;
  /** nameOf: what another table of the job is called. */
  sentence(params: P, nameOf?: (tableId: string) => string): Phrase[];
}

/** What a kind of step does. Pure: the same input and params give the same result. */
export interface StepImplementation<P> {
  /** Sensible params for this table, given the columns in hand (names, may be empty). */
  start(table: Table, columns: readonly string[]): P;
  /** @throws StepFailure where it has to stop */
  run(input: Table, params: P, context: Context): StepResult;
}

/** One kind of step: all that the application knows of it. */
export type StepKind<P> = StepDescriptor<P> & StepImplementation<P>;

/** Words and work together. A page that imports the words alone is not given what the work needs. */
export function stepKind<P>(words: StepDescriptor<P>, work: StepImplementation<P>): StepKind<P> {
  return { ...words, ...work };
}

/** A step could not run at all. The steps before it still stand. */
export class StepFailure extends Error {
  override name = 'StepFailure';
  constructor(
    message: string,
    /** The column it speaks of, if any. */
    readonly column?: string,
    /** A name that is there and most like the one that is not. */
    readonly alike?: string,
  ) {
    super(brief(message, MAX_TOLD));
  }
}

/** A step that ran over its time and was stopped: it stays off until it is changed, or wanted once more. */
export class StepDisabled extends StepFailure {
  constructor(
    message: string,
    /** What tells the step from others. */
    readonly key: string,
  ) {
    super(message);
  }
}

/** The run is no longer wanted. */
export class Cancelled extends Error {
  override name = 'Cancelled';
}

/** What stops a step that names a column which is not there. */
export function missingColumn(name: string, names: readonly string[]): StepFailure {
  const alike = mostAlike(name, names);
  const shown = names.slice(0, 12).join(', ') + (names.length > 12 ? ` and ${names.length - 12} more` : '');
  const hint = alike === undefined ? '' : ` Did you mean ${alike}?`;
  return new StepFailure(`There is no column ${name}. The columns are ${shown || 'none'}.${hint}`, name, alike);
}

/** Index of a named column. @throws StepFailure naming what is there */
export function needColumn(table: Table, name: string): number {
  const index = table.fields.findIndex((field) => field.name === name);
  if (index < 0)
    throw missingColumn(
      name,
      table.fields.map((field) => field.name),
    );
  return index;
}
