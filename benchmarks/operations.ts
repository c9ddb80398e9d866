/** What an engine can be asked to do, and what came of it. */
export type Operations = Record<string, Operation>;

/** Gives the rows that came out. What it needs again each time is made before the clock starts. */
export type Operation = (() => number | Promise<number>) | { prepare(): void; run(): number };

export interface Measured {
  /** Median milliseconds by operation, and the rows that came out. */
  times: Record<string, { ms: number; rows: number }>;
  peakMb: number;
}
