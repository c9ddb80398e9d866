/** A table in the hand of a detector, as a search gives it. For tests only. */
import { sightOf } from '../glance/sight.ts';
import { textColumn } from '../table/builder.ts';
import type { Table } from '../table/table.ts';
import type { Hand } from './finding.ts';

/** Read without names of its own, as cells and lines are. */
const POSITIONED: Table = { rows: 0, fields: [{ name: 'A', standing: 'position', column: textColumn([]) }] };

export function handOf(table: Table, more: Partial<Hand> = {}): Hand {
  return {
    sight: sightOf(table, more.raw?.decimal),
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
