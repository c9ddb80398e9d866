/** How cells of a workbook look, as its styles say (ISO/IEC 29500-1, 18.8): read only where someone asks. */
import { columnIndex } from '../table/table.ts';
import { archiveEntry } from './archive.ts';
import { NotPlain } from './not-plain.ts';
import type { CellStyle, SheetStyles } from './report.ts';
import { scanCells, sheetData } from './sheet-xml/scan-cells.ts';
import { type Entries, sheetPaths, textOf } from './sheet-xml/sheet-paths.ts';
import { StyleCodes } from './sheet-xml/style-codes.ts';
import { walkTags } from './sheet-xml/walk-tags.ts';

/** A workbook's styles; for sheets by their place among those that hold cells. Undefined where the file has none. */
export class BookStyles {
  private styles: readonly CellStyle[] | undefined;
  private paths: ReadonlyMap<string, string> | undefined;
  private readonly sheets = new Map<string, SheetStyles>();

  constructor(
    private readonly bytes: Uint8Array,
    private readonly file: string,
  ) {}

  /** Styles that the cells of the workbook may have. */
  all(): readonly CellStyle[] {
    this.styles ??= stylesOf(textOf(this.entry('xl/styles.xml')));
    return this.styles;
  }

  /** @param name of the sheet */
  sheet(name: string, rows: number, columns: number): SheetStyles | undefined {
    const known = this.sheets.get(name);
    if (known !== undefined) return known;
    const entries: Entries = (path) => this.entry(path);
    this.paths ??= sheetPaths(entries);
    const path = this.paths.get(name);
    if (path === undefined) return undefined;
    const styles = this.all();
    let codes: readonly Int16Array[] | undefined;
    const made = {
      styles,
      // Which cell has which is searched for only where a style is of interest: the sheet is unpacked again for it.
      get columns() {
        codes ??= codesOf(entries(path) ?? new Uint8Array(), rows, columns);
        return codes;
      },
    };
    this.sheets.set(name, made);
    return made;
  }

  private entry(path: string): Uint8Array | undefined {
    return archiveEntry(this.bytes, this.file, path);
  }
}

function stylesOf(xml: string): CellStyle[] {
  const fonts: { bold: boolean; italic: boolean }[] = [];
  const fills: boolean[] = [];
  const borders: { above: boolean; below: boolean }[] = [];
  const formats = new Map<string, string>();
  const styles: CellStyle[] = [];
  const path: string[] = [];
  const inside = (tag: string) => path.includes(tag);
  const isOn = (value: string | undefined) => value === undefined || (value !== '0' && value !== 'false');
  walkTags(
    xml,
    (tag, attributes) => {
      if (tag === 'font' && inside('fonts')) fonts.push({ bold: false, italic: false });
      else if (tag === 'b' && inside('fonts')) fonts.at(-1)!.bold = isOn(attributes['val']);
      else if (tag === 'i' && inside('fonts')) fonts.at(-1)!.italic = isOn(attributes['val']);
      else if (tag === 'fill' && inside('fills')) fills.push(false);
      else if (tag === 'patternfill' && inside('fills'))
        fills[fills.length - 1] = !['none', 'gray125', undefined].includes(attributes['patterntype']);
      else if (tag === 'border' && inside('borders')) borders.push({ above: false, below: false });
      else if (tag === 'top' && inside('borders')) borders.at(-1)!.above = attributes['style'] !== undefined;
      else if (tag === 'bottom' && inside('borders')) borders.at(-1)!.below = attributes['style'] !== undefined;
      else if (tag === 'numfmt' && inside('numfmts'))
        formats.set(attributes['numfmtid'] ?? '', attributes['formatcode'] ?? '');
      else if (tag === 'xf' && inside('cellxfs')) {
        const font = fonts[Number(attributes['fontid'] ?? 0)];
        const border = borders[Number(attributes['borderid'] ?? 0)];
        styles.push({
          bold: font?.bold ?? false,
          italic: font?.italic ?? false,
          filled: fills[Number(attributes['fillid'] ?? 0)] ?? false,
          borderAbove: border?.above ?? false,
          borderBelow: border?.below ?? false,
          indent: 0,
          numberFormat: formats.get(attributes['numfmtid'] ?? ''),
        });
      } else if (tag === 'alignment' && inside('cellxfs'))
        styles.at(-1)!.indent = Number(attributes['indent'] ?? 0) || 0;
      path.push(tag);
    },
    () => path.pop(),
  );
  return styles;
}

const CELL = /<(?:x:)?c\s([^>]*)>/g;

function codesOf(bytes: Uint8Array, rows: number, columns: number): readonly Int16Array[] {
  const codes = new StyleCodes(rows, columns);
  try {
    const data = sheetData(bytes);
    if (data !== undefined) scanCells(bytes, data, codes);
    return codes.columns;
  } catch (error) {
    if (!(error instanceof NotPlain)) throw error;
  }
  for (const [, attributes] of textOf(bytes).matchAll(CELL)) {
    const place = /(?:^|\s)r="([A-Z]{1,3})(\d+)"/.exec(attributes!);
    const style = /(?:^|\s)s="(\d+)"/.exec(attributes!);
    if (place !== null && style !== null) codes.put(Number(place[2]) - 1, columnIndex(place[1]!), Number(style[1]));
  }
  return codes.columns;
}
