import type { Notice } from '../steps/step.ts';
import type { Field } from '../table/table.ts';
import { rowNumbers } from '../table/vectors.ts';
import type { ReadResult, Source } from './read-kind.ts';

/**
 * The result of a reading whose raw table is itself the report as received: one part, each cell in its own place.
 * @param lines line of the file, from 0, on which each row begins
 */
export function gridResult(
  source: Source,
  fields: readonly Field[],
  rows: number,
  notices: readonly Notice[],
  lines?: Int32Array,
): ReadResult {
  const columns = fields.map((field) => field.column);
  const part = { name: source.name, rows, columns, displayed: [], merges: [], comments: [], hidden: false };
  return {
    report: { format: 'text', parts: [lines === undefined ? part : { ...part, lines }] },
    table: { rows, fields },
    places: { part: new Int32Array(rows), row: rowNumbers(rows), columns: Int32Array.from(fields.keys()) },
    notices,
  };
}
