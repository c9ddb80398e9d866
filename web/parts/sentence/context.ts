import type { FormulaTrial, PatternedType, PatternFit } from '../../../core/index.ts';
import type { ColumnBrief } from '../../engine/protocol.ts';

/** What the editors of a step may choose from. */
export interface SentenceContext {
  /** Columns of the table before the step. */
  columns: readonly ColumnBrief[];
  /** Sheets of the source. */
  sheets: readonly string[];
  /** The other tables of the job. */
  tables: readonly { id: string; name: string }[];
  /** Sets of steps that the job keeps. */
  sets: readonly { id: string; name: string }[];
  /** While it is given, a column clicked on in the sheet goes to it. */
  picking(take: ((name: string) => void) | undefined): void;
  /** Questions about the table before the step. */
  ask: {
    formula(text: string): Promise<FormulaTrial>;
    patterns(columns: readonly string[], type: PatternedType): Promise<PatternFit[]>;
  };
}
