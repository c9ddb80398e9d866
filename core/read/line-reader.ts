/** Where on a line a cell of the raw table stands. */
export interface LineSpan {
  from: number;
  to: number;
  column: number;
}

/** Where on a line the cells of its row stand, and whether the line fits what the reading expects. */
export type LineReader = (line: string) => { spans: readonly LineSpan[]; fits: boolean };
