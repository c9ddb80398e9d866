/** A small file and what a guess should find in it. */
export interface CorpusFile {
  name: string;
  bytes: Uint8Array;
  expect: {
    kind?: string;
    delimiter?: string;
    /** WHATWG label. */
    encoding?: string;
    /** For each cut the first and last character, from 0, at which it may stand. */
    cuts?: readonly (readonly [number, number])[];
    /** First row of the header, from 0, and its tiers. */
    header?: { row: number; tiers: number };
    /** Runs of the delimiter count as one. */
    runs?: boolean;
    comment?: string;
    /** Types of columns by their names, after the header. */
    types?: Readonly<Record<string, string>>;
    /** Columns that lines by pattern are taken apart into. */
    pieces?: readonly string[];
  };
}
