import { ascii } from '../ascii.ts';
import { NotPlain } from '../not-plain.ts';
import { CellBudget } from '../read-failure.ts';
import { BookTexts } from './book-texts.ts';
import { type SheetData, scanCells, sheetData } from './scan-cells.ts';
import { SheetCells } from './sheet-cells.ts';
import { SHARED_TEXTS, sheetPaths } from './sheet-paths.ts';

/** The cells of a workbook's sheets as far as the scanner understood them, and what is left for the library. */
export interface FastSheets {
  /** By name of the sheet. */
  cells: ReadonlyMap<string, SheetCells>;
  /** Names of sheets that hold cells in a form that the scanner does not know. */
  odd: readonly string[];
  /** Tells the formats of cells from the sheet in which the library was asked for them. */
  formatsFrom: { sheet: string; count: number } | undefined;
}

const FORMATS_A_ROW = 1000;

/** Which cell of the sheet that was asked tells a format: the second of two, since the library loads some at the first. */
export function formatCell(style: number): { row: number; column: number } {
  return { row: Math.floor(style / FORMATS_A_ROW), column: 2 * (style % FORMATS_A_ROW) + 1 };
}

/**
 * Takes the cells out of a workbook's files: the sheets it understood hold none afterwards, so that the library, which
 * is ten times slower, reads only what else they say.
 *
 * @param files by path; sheets and shared texts are replaced in it
 * @param progress told of the part done, 0 to 1; may throw to end it
 * @throws ReadFailure when a sheet reaches over more cells than there is room for
 */
export function takeCells(
  files: Map<string, Uint8Array>,
  fileName: string,
  progress?: (done: number) => void,
): FastSheets {
  const paths = sheetPaths((path) => files.get(path));
  const texts = new BookTexts();
  const cells = new Map<string, SheetCells>();
  const odd: string[] = [];
  const shared = files.get(SHARED_TEXTS);
  if (shared !== undefined && !attempt(() => texts.takeShared(shared)))
    return { cells, odd: [...paths.keys()], formatsFrom: undefined };
  const reach = new CellBudget(fileName);
  const sizes = [...paths.values()].map((path) => files.get(path)?.length ?? 0);
  const all = sizes.reduce((sum, size) => sum + size, 0);
  /** By path: two sheets may stand in one file. */
  const places = new Map<string, SheetData>();
  let before = 0;
  for (const [k, [name, path]] of [...paths].entries()) {
    const bytes = files.get(path);
    if (bytes === undefined) continue;
    const taken = new SheetCells(bytes, texts, (rows, columns) => reach.check(name, rows, columns));
    const from = before;
    const understood = attempt(() => {
      const data = sheetData(bytes);
      if (data === undefined) return;
      scanCells(bytes, data, taken, progress && ((done) => progress((from + done * sizes[k]!) / all)));
      cells.set(name, taken);
      places.set(path, data);
    });
    if (!understood) odd.push(name);
    reach.add(name, taken.rows, taken.columns);
    before += sizes[k]!;
  }
  texts.finish();
  const count = 1 + Math.max(-1, ...[...cells.values()].map((one) => one.highestStyle));
  const asked = [...cells.keys()][0];
  const askedPath = asked === undefined ? undefined : paths.get(asked);
  for (const [path, data] of places)
    files.set(path, withoutCells(files.get(path)!, data, path === askedPath ? count : 0));
  if (odd.length === 0 && shared !== undefined) files.set(SHARED_TEXTS, NO_TEXTS);
  return { cells, odd, formatsFrom: asked === undefined ? undefined : { sheet: asked, count } };
}

const NO_TEXTS = ascii('<sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"/>');

/** Whether the scanner understood it. */
function attempt(act: () => void): boolean {
  try {
    act();
    return true;
  } catch (error) {
    if (error instanceof NotPlain) return false;
    throw error;
  }
}

/** The sheet with a cell for each format instead of its cells, so that the library tells what the formats are. */
function withoutCells(bytes: Uint8Array, data: SheetData, formats: number): Uint8Array {
  const rows: string[] = [];
  for (let from = 0; from < formats; from += FORMATS_A_ROW) {
    const cells = [];
    for (let style = from; style < Math.min(formats, from + FORMATS_A_ROW); style++)
      cells.push(`<c s="${style}"><v>1</v></c>`.repeat(2));
    rows.push(`<row>${cells.join('')}</row>`);
  }
  const between = ascii(`<sheetData>${rows.join('')}</sheetData>`);
  const out = new Uint8Array(data.start + between.length + bytes.length - data.end);
  out.set(bytes.subarray(0, data.start));
  out.set(between, data.start);
  out.set(bytes.subarray(data.end), data.start + between.length);
  return out;
}
