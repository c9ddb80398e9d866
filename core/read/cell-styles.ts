/** How cells of a workbook look, as its styles say (ISO/IEC 29500-1, 18.8): read only where someone asks. */
import { Parser } from 'htmlparser2';
import { decoderOf } from '../table/decoder.ts';
import { columnIndex } from '../table/table.ts';
import { archiveEntry } from './archive.ts';

export interface CellStyle {
  bold: boolean;
  italic: boolean;
  /** A fill of its own. */
  filled: boolean;
  borderAbove: boolean;
  borderBelow: boolean;
  /** Steps by which its text stands in. */
  indent: number;
  /** As the workbook writes it, where it is not one of those built in. */
  numberFormat: string | undefined;
}

/** Styles of the cells of one sheet: by column, for each row an index into styles or -1. */
export interface SheetStyles {
  styles: readonly CellStyle[];
  columns: readonly Int16Array[];
}

/** A workbook's styles; for sheets by their place among those that hold cells. Undefined where the file has none. */
export class BookStyles {
  private styles: readonly CellStyle[] | undefined;
  private readonly sheets = new Map<string, SheetStyles>();

  constructor(
    private readonly bytes: Uint8Array,
    private readonly file: string,
  ) {}

  /** Styles that the cells of the workbook may have. */
  all(): readonly CellStyle[] {
    this.styles ??= stylesOf(this.text('xl/styles.xml') ?? '');
    return this.styles;
  }

  /** @param name of the sheet */
  sheet(name: string, rows: number, columns: number): SheetStyles | undefined {
    const known = this.sheets.get(name);
    if (known !== undefined) return known;
    const path = this.pathOf(name);
    const text = path === undefined ? undefined : this.text(path);
    if (text === undefined) return undefined;
    const made = { styles: this.all(), columns: codesOf(text, rows, columns) };
    this.sheets.set(name, made);
    return made;
  }

  private text(entry: string): string | undefined {
    const bytes = archiveEntry(this.bytes, this.file, entry);
    return bytes === undefined ? undefined : decoderOf('utf-8').decode(bytes);
  }

  private pathOf(name: string): string | undefined {
    let relation: string | undefined;
    walk(this.text('xl/workbook.xml') ?? '', (tag, attributes) => {
      if (tag === 'sheet' && attributes['name'] === name) relation = attributes['r:id'];
    });
    let path: string | undefined;
    walk(this.text('xl/_rels/workbook.xml.rels') ?? '', (tag, attributes) => {
      if (tag === 'relationship' && attributes['id'] === relation) path = attributes['target'];
    });
    if (path === undefined || relation === undefined) return undefined;
    return path.startsWith('/') ? path.slice(1) : `xl/${path}`;
  }
}

function walk(
  xml: string,
  open: (tag: string, attributes: Record<string, string>) => void,
  close: (tag: string) => void = () => undefined,
): void {
  const plain = (name: string) => name.replace(/^x:/, '').toLowerCase();
  const parser = new Parser(
    {
      onopentag: (tag, attributes) =>
        open(
          plain(tag),
          Object.fromEntries(Object.entries(attributes).map(([name, value]) => [name.toLowerCase(), value])),
        ),
      onclosetag: (tag) => close(plain(tag)),
    },
    { xmlMode: true },
  );
  parser.end(xml);
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
  walk(
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

/** Cells are taken from the text of the sheet one by one: a million of them are no tree. */
function codesOf(xml: string, rows: number, columns: number): Int16Array[] {
  const codes = Array.from({ length: columns }, () => new Int16Array(rows).fill(-1));
  for (const [, attributes] of xml.matchAll(CELL)) {
    const place = /(?:^|\s)r="([A-Z]{1,3})(\d+)"/.exec(attributes!);
    const style = /(?:^|\s)s="(\d+)"/.exec(attributes!);
    if (place === null || style === null) continue;
    const row = Number(place[2]) - 1;
    const own = codes[columnIndex(place[1]!)];
    if (own !== undefined && row < rows) own[row] = Number(style[1]);
  }
  return codes;
}
