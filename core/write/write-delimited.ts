import type { Table } from '../table/table.ts';
import { textView } from '../values/cell-text.ts';

/**
 * Delimited text by RFC 4180: comma, CRLF, cells quoted where they hold a delimiter, a quote or a line end. Unreadable
 * cells give their text. UTF-8 without a byte order mark.
 */
export function writeDelimited(table: Table, delimiter = ','): Uint8Array<ArrayBuffer> {
  const quoted = (text: string) => (needsQuotes(text, delimiter) ? `"${text.replaceAll('"', '""')}"` : text);
  const columns = table.fields.map((field) => {
    const { codes, texts } = textView(field.column);
    return { codes, texts: texts.map(quoted) };
  });
  const encoder = new TextEncoder();
  const pieces: Uint8Array[] = [];
  let text = `${table.fields.map((field) => quoted(field.name)).join(delimiter)}\r\n`;
  for (let r = 0; r < table.rows; r++) {
    let line = '';
    columns.forEach(({ codes, texts }, c) => {
      if (c > 0) line += delimiter;
      const code = codes[r]!;
      if (code >= 0) line += texts[code]!;
    });
    // A row of one blank cell would read back as no row at all.
    text += columns.length === 1 && line === '' ? '""\r\n' : `${line}\r\n`;
    if (text.length > 1 << 20) {
      pieces.push(encoder.encode(text));
      text = '';
    }
  }
  pieces.push(encoder.encode(text));
  return concatenate(pieces);
}

function needsQuotes(text: string, delimiter: string): boolean {
  return text === '' || text.includes(delimiter) || /["\r\n]/.test(text);
}

function concatenate(pieces: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    out.set(piece, at);
    at += piece.length;
  }
  return out;
}
