import type { SumOf } from '../../findings/finding.ts';
import type { TableProfile } from '../../glance/table-profile.ts';
import type { MethodRun } from '../../run/run.ts';
import type { Table } from '../../table/table.ts';

/** What a sceptical colleague would point at in a finished table. Its sentence is made in messages.ts. */
export type Remark =
  /** Nearly all texts of a column read as another kind. */
  | { code: 'reads-as'; column: string; as: 'number' | 'date'; share: number }
  /** Whole numbers that are days as workbooks count them, beside a column of dates. */
  | { code: 'serial-days'; column: string; beside: string }
  /** Cells that repeat the names of columns: a header that was left in. */
  | { code: 'header-in-rows'; column: string; rows: number }
  /** Page numbers and drawn lines as values. */
  | { code: 'furniture-in-rows'; column: string; text: string }
  /** Texts of a print-out that a cut divides. */
  | { code: 'cut-texts'; column: string; next: string; text: string }
  /** Two names with a gap between them stand over one column. */
  | { code: 'two-names'; column: string }
  /** A column in front is blank between rows in which it is filled. */
  | { code: 'gaps-in-keys'; column: string; rows: number }
  /** Labels were carried, and the first rows have none. */
  | { code: 'unlabelled-rows'; column: string; rows: number }
  /** Each label covers one row. */
  | { code: 'label-per-row'; column: string }
  /** A label says that it is a total. */
  | { code: 'total-in-labels'; column: string; text: string; labels: number }
  /** Labels that stand in a row with more than themselves. */
  | { code: 'label-with-more'; column: string; text: string }
  /** Labels were found by where they stand, and nothing names them. */
  | { code: 'labels-unproven'; column: string }
  /** Totals that were set aside each name a group that no column of the table says. */
  | { code: 'groups-in-totals'; text: string; names: number }
  /** Names that became values are no periods: they may be measures, the more so under a tier of periods. */
  | { code: 'measures-as-rows'; column: string; names: readonly string[]; tiers: number }
  /** Periods or figures are still names of columns. */
  | { code: 'values-as-names'; names: readonly string[] }
  /** Names that number one stem, or look like the values below them. */
  | { code: 'numbered-names'; names: readonly string[] }
  /** Rows that were set aside look like those that were kept. */
  | { code: 'aside-like-rows'; pile: string; rows: number }
  /** A line that was set aside names a value that differs from place to place. */
  | { code: 'unused-pair'; text: string }
  /** Lines that were set aside as parts of the page say something else each time, beyond the number of the page. */
  | { code: 'page-heads-differ'; text: string }
  /** The only text of a row was dropped with the blanks beside it. */
  | { code: 'text-dropped'; column: string; text: string; rows: number }
  /** Rows of a report of several lines each, taken apart by where they stand. */
  | { code: 'one-row-left' }
  /** Figures with a unit or a footnote mark are texts. */
  | { code: 'figures-with-marks'; column: string; text: string }
  /** A sign stands for the value above it, or for none. */
  | { code: 'signs-as-values'; column: string; text: string }
  /** Sentences that are built alike hold several values. */
  | { code: 'texts-of-one-form'; column: string; text: string }
  /** Rows of a code may be groups or sums of the rows whose codes go on it. */
  | { code: 'nested-codes'; column: string; text: string }
  /** A line above the tables differs from sheet to sheet and is set aside. */
  | { code: 'titles-differ'; text: string }
  /** Several columns hold the same in every row, or one column twice. */
  | { code: 'twin-columns'; column: string; other: string };

export interface ReviewInput {
  table: Table;
  profile: TableProfile;
  /** The whole run: the reading first. */
  run: MethodRun;
  /** Columns that sum others, by the names before they went down. */
  sums: readonly SumOf[];
}

/** Looks at one thing in a finished table. */
export interface Reviewer {
  code: Remark['code'];
  look(input: ReviewInput): readonly Remark[];
}
