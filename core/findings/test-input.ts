/** A table in the hand of a detector, as a search gives it. For tests only. */
import { profileTable } from '../glance/table-profile.ts';
import { textColumn } from '../table/builder.ts';
import type { Table } from '../table/table.ts';
import type { DetectorInput } from './finding.ts';

/** Read without column names, as cells and lines are. */
const POSITIONED: Table = { rows: 0, fields: [{ name: 'A', nameOrigin: 'position', column: textColumn([]) }] };

export function detectorInput(table: Table, more: Partial<DetectorInput> = {}): DetectorInput {
  return {
    profile: profileTable(table, more.raw?.decimal),
    raw: POSITIONED,
    isSample: false,
    done: [],
    childless: new Set(),
    within: undefined,
    titles: new Set(),
    sums: [],
    ...more,
  };
}
