/** What an engine can be asked to do, and what came of it. */
export type Operations = Record<string, () => number | Promise<number>>;

export interface Measured {
  /** Median milliseconds by operation, and the rows that came out. */
  times: Record<string, { ms: number; rows: number }>;
  peakMb: number;
}
