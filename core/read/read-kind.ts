import type { z } from 'zod';
import type { Phrase } from '../kinds/sentence.ts';
import type { Context, Mark, Notice } from '../kinds/step.ts';
import type { Table } from '../table/table.ts';
import type { UnpackBudget } from './archive.ts';
import type { LineReader } from './line-reader.ts';
import type { Places, Report } from './report.ts';

/** A source's bytes, and what has been read of them already. */
export interface Source {
  name: string;
  bytes: Uint8Array;
  /** Kept by readings whose report does not depend on their params. */
  report?: Report;
  /** The files of an archive, once they are unpacked. */
  files?: readonly Source[];
  /** What it may still unpack to, which a file in an archive shares with the archive. */
  room?: UnpackBudget;
}

export interface ReadResult {
  report: Report;
  table: Table;
  places: Places;
  notices: readonly Notice[];
  /** Rows of the report that are no rows of the table, and why. */
  aside?: readonly ReadPile[];
}

export interface ReadPile {
  part: number;
  name: string;
  mark: Mark;
  /** Rows of the part, ascending. */
  rows: Int32Array;
}

/**
 * sheet: rows of cells, of which a range can be read. delimited: rows, under the choice of what divides them. ruler:
 * lines under a ruler. template: lines, under one that is taken apart by pointing. lines: lines or rows as they are.
 * outline: the paths of nested text. page: printed pages, under a ruler.
 */
export type LeftPage = 'sheet' | 'delimited' | 'ruler' | 'template' | 'lines' | 'outline' | 'page';

/** What a kind of reading is called, asks and says. It is always the first step of a table that starts from a source. */
export interface ReadWords<P extends { source: string }> {
  kind: string;
  title: string;
  /** How it is called among the ways to read a source of its format; undefined where there is no other. */
  tab?: string;
  /** What stands on the left page for it. */
  page: LeftPage;
  params: z.ZodType<P>;
  /** How it reads the source, in at most seven words. */
  headline(params: P): string;
  /** sourceName: what the source is called in the job. */
  sentence(params: P, sourceName: string): Phrase[];
  /** How it takes a line apart; a kind that reads by lines as a whole takes it whole. */
  lineSpans?(params: P): LineReader;
}

/** What a kind of reading does. */
export interface ReadWork<P extends { source: string }> {
  /** Sensible params for this source. @throws ReadFailure */
  start(sourceId: string, source: Source): P;
  /** @throws ReadFailure, StepFailure */
  read(source: Source, params: P, context: Context): ReadResult;
}

export type ReadKind<P extends { source: string }> = ReadWords<P> & ReadWork<P>;

export type AnyReadKind = ReadKind<{ source: string }>;
export type AnyReadWords = ReadWords<{ source: string }>;

/** Words and work together. A page that imports the words alone is not given what the work needs. */
export function readKind<P extends { source: string }>(words: ReadWords<P>, work: ReadWork<P>): ReadKind<P> {
  return { ...words, ...work };
}
