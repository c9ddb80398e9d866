import { fixedSpans, readFixedWidth } from './read-fixed-width.ts';
import { patternSpans, readPattern } from './read-pattern.ts';
import type { LineSpan } from './text-lines.ts';

/** Where on a line the cells of its row stand, and whether the line fits what the reading expects. */
export type LineReader = (line: string) => { spans: readonly LineSpan[]; fits: boolean };

const WHOLE: LineReader = (line) => ({ spans: [{ from: 0, to: line.length, column: 0 }], fits: true });

/** How a reading of this kind takes a line apart; a kind that reads by lines as a whole takes it whole. */
export function lineReader(kind: string, params: unknown): LineReader {
  if (kind === readFixedWidth.kind) return fixedSpans(readFixedWidth.params.parse(params) as never);
  if (kind === readPattern.kind) return patternSpans(readPattern.params.parse(params) as never);
  return WHOLE;
}
