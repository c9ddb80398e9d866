import type { TableProfile } from '../glance/table-profile.ts';
import type { Table } from '../table/table.ts';
import type { Doubt } from './doubt.ts';

/** A step as a draft proposes it: a kind of the catalogue with its params, and why. */
export interface Proposal {
  kind: string;
  params: Record<string, unknown>;
  /** One line: what was seen. */
  why: string;
}

/** What a detector saw, with the steps that deal with it. No steps: that nothing is to be done is one of the choices. */
export interface Finding {
  steps: readonly Proposal[];
  /** How much speaks for it: about 1 for what is usual, up to 5 for what hardly happens by chance, below 0 for a stretch. */
  weight: number;
  /** What it gives, in a few words, beside other choices. */
  gives?: string;
  /** Figures of the report that it explains as sums, means or differences of others, of how many in the rows or columns that it takes for totals. */
  explained?: { fit: number; of: number };
  /** Why it may be otherwise, where nothing proves it. */
  doubt?: Doubt | undefined;
  /** Columns that sum others, by name: what they sum is of one unit. */
  sums?: readonly SumOf[];
}

export interface SumOf {
  name: string;
  of: readonly string[];
}

/** What the table came from, for detectors that look behind it. */
export interface DetectorInput {
  profile: TableProfile;
  /** The table as it was read. */
  raw: Table;
  /** Rows were left out, so that sums may have lost some of what they sum. */
  isSample: boolean;
  /** Kinds of the steps so far. */
  done: readonly string[];
  /** Rows of the table as it was read that are outer items without inner ones. */
  childless: ReadonlySet<number>;
  /** Column that tells sheets or files apart, if there is one. */
  within: string | undefined;
  /** What the rows above the header say, each as rowPattern gives it. */
  titles: ReadonlySet<string>;
  /** Columns that were found to sum others, and have been set aside. */
  sums: readonly SumOf[];
}

/** One detector: it only looks. */
export interface Detector {
  name: string;
  /** It also looks at a table whose columns have no names yet. */
  beforeHeader?: true;
  /** It sees leftovers of readings that only a draft can weigh against each other: nothing to suggest. */
  draftOnly?: true;
  /** Ways to go on, none where it sees nothing. */
  find(input: DetectorInput): readonly Finding[];
}
