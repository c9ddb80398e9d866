import type { Notice } from '../kinds/step.ts';
import { invertMask, maskedRows, takeRows } from '../table/gather.ts';
import type { Field } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import type { ReadResult, Source } from './read-kind.ts';

/**
 * The result of a reading whose raw table is itself the report as received: one part, each cell in its own place.
 * @param comments rows that are no data: they stand in the report alone, on a pile
 * @param lines line of the file, from 0, on which each row begins
 */
export function gridResult(
  source: Source,
  fields: readonly Field[],
  rows: number,
  notices: readonly Notice[],
  lines?: Int32Array,
  comments: readonly number[] = [],
): ReadResult {
  const columns = fields.map((field) => field.column);
  const part = { name: source.name, rows, columns, displayed: [], merges: [], comments: [], hidden: false };
  const report = {
    format: 'text' as const,
    parts: [lines === undefined ? part : { ...part, lines }],
  };
  if (comments.length > 0) {
    const away = new Uint8Array(rows);
    for (const row of comments) away[row] = 1;
    const kept = maskedRows(invertMask(away));
    const table = takeRows({ rows, fields }, kept);
    return {
      report,
      table,
      places: { part: new Int32Array(kept.length), row: kept, columns: Int32Array.from(fields.keys()) },
      notices,
      aside: [{ part: 0, name: 'comments', mark: 'note', rows: Int32Array.from(comments) }],
    };
  }
  return {
    report,
    table: { rows, fields },
    places: { part: new Int32Array(rows), row: rowNumbers(rows), columns: Int32Array.from(fields.keys()) },
    notices,
  };
}
