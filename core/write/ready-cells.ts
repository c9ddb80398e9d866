import { type Column, Tag } from '../table/column.ts';
import { cellText, textView } from '../values/cell-text.ts';
import { typedCell } from './typed-cells.ts';

/** How the cells of a format read, by what they hold. */
export interface CellForms {
  blank: string;
  /** Texts, dates and times, and what could not be read. */
  text(text: string): string;
  number(value: number): string;
  yesno(value: boolean): string;
}

/** The cells of a column as they are written; each different text is made ready once. */
export function readyCells(column: Column, forms: CellForms): (row: number) => string {
  const textOf = (text: string | null) => (text === null ? forms.blank : forms.text(text));
  const told = (row: number) => {
    const cell = typedCell(column, row);
    if (typeof cell === 'number') return forms.number(cell);
    return typeof cell === 'boolean' ? forms.yesno(cell) : textOf(cell);
  };
  const memo = (texts: readonly string[]) => {
    const made = new Array<string | undefined>(texts.length);
    return (code: number) => {
      made[code] ??= forms.text(texts[code]!);
      return made[code];
    };
  };
  if (column.type === 'text') {
    const { codes, texts } = textView(column);
    const made = memo(texts);
    return (row) => (codes[row]! < 0 ? forms.blank : made(codes[row]!));
  }
  if (column.type === 'received') {
    const made = memo(column.dictionary);
    return (row) => (column.tags[row] === Tag.text ? made(column.values[row]!) : told(row));
  }
  if (column.type === 'number' || column.type === 'whole')
    return (row) => {
      const value = column.values[row]!;
      return Number.isNaN(value) ? textOf(cellText(column, row)) : forms.number(value);
    };
  return told;
}

/** Text is turned to bytes in pieces of about so many characters: no limit of one string is met. */
const PIECE = 1 << 20;

const UTF8 = new TextEncoder();

/** Collects text as bytes. */
export class TextBytes {
  private readonly pieces: Uint8Array[] = [];
  private text = '';

  constructor(private readonly encode: (text: string) => Uint8Array = (text) => UTF8.encode(text)) {}

  add(text: string): void {
    this.text += text;
    if (this.text.length > PIECE) this.flush();
  }

  /** All that was added. */
  bytes(): Uint8Array<ArrayBuffer> {
    this.flush();
    return concatenate(this.pieces);
  }

  private flush(): void {
    this.pieces.push(this.encode(this.text));
    this.text = '';
  }
}

/** All pieces in one. */
export function concatenate(pieces: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  return out;
}
