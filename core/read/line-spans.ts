import type { LineReader } from './line-reader.ts';
import { READING_WORDS } from './words.ts';

const WHOLE: LineReader = (line) => ({ spans: [{ from: 0, to: line.length, column: 0 }], fits: true });

/** How a reading of this kind takes a line apart. */
export function lineReader(kind: string, params: unknown): LineReader {
  const reading = READING_WORDS.get(kind);
  return reading?.lineSpans?.(reading.params.parse(params)) ?? WHOLE;
}
