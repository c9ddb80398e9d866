import type { ColumnBrief } from '../../engine/protocol.ts';

/** What the editors of a step may choose from. */
export interface SentenceContext {
  /** Columns of the table before the step. */
  columns: readonly ColumnBrief[];
  /** Sheets of the source. */
  sheets: readonly string[];
  /** The other tables of the job. */
  tables: readonly { id: string; name: string }[];
}
