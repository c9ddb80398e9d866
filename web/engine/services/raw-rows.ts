import type { Places, Report } from '../../../core/index.ts';

const rawRows = new WeakMap<Places, Int32Array[]>();

/** For each part of a report the raw row that each of its rows stands in, or -1. Made once for a reading. */
export function rawRowsOf(places: Places, report: Report): Int32Array[] {
  let found = rawRows.get(places);
  if (found === undefined) {
    found = report.parts.map((part) => new Int32Array(part.rows).fill(-1));
    for (let r = 0; r < places.part.length; r++) {
      const first = places.row[r]!;
      const part = found[places.part[r]!]!;
      if (places.height === undefined) part[first] = r;
      else part.fill(r, first, first + places.height[r]!);
    }
    rawRows.set(places, found);
  }
  return found;
}
