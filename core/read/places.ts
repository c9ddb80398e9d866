import { NAME } from '../table/origin.ts';
import { PART_NAME, type Places } from './report.ts';

export interface PlaceInReport {
  part: number;
  /** NAME for the part's own name. */
  row: number;
  column: number;
}

/** Where a cell of a raw table stands in its report, or undefined where it stands nowhere. */
export function placeOfCell(places: Places, row: number, column: number): PlaceInReport | undefined {
  const part = places.part[row]!;
  const inPart = (places.ofPart?.[part] ?? places.columns)[column] ?? -1;
  if (inPart === PART_NAME) return { part, row: NAME, column: NAME };
  const at = places.cellRows?.[column]?.[row] ?? places.row[row]!;
  return inPart < 0 || at < 0 ? undefined : { part, row: at, column: inPart };
}

/** The cells of a raw table that stand at a place of its report. */
export function cellsAtPlace(places: Places, place: PlaceInReport): { row: number; column: number }[] {
  const columns = places.ofPart?.[place.part] ?? places.columns;
  const wanted = place.row === NAME ? PART_NAME : place.column;
  const found: { row: number; column: number }[] = [];
  columns.forEach((inPart, column) => {
    if (inPart !== wanted) return;
    const own = places.cellRows?.[column];
    for (let row = 0; row < places.part.length; row++) {
      if (places.part[row] !== place.part) continue;
      if (place.row === NAME || (own?.[row] ?? places.row[row]) === place.row) found.push({ row, column });
    }
  });
  return found;
}
