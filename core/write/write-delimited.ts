import { type DelimitedSpec, type ExportSpec, ExportStopped } from '../formats/export-spec.ts';
import { decoderOf } from '../table/decoder.ts';
import { spansOf } from '../table/spans.ts';
import type { Table } from '../table/table.ts';
import { cellText, countedText, textView } from '../values/cell-text.ts';
import { counted, few } from '../values/counted.ts';
import { numberText } from '../values/number-text.ts';
import { readyCells, TextBytes } from './ready-cells.ts';
import { typedCell } from './typed-cells.ts';

export type DelimitedChoices = Omit<DelimitedSpec, 'as' | 'unreadable'>;

/** RFC 4180: comma, CRLF, cells quoted where they must be; UTF-8 without a byte order mark. */
const STANDARD: DelimitedChoices = {
  delimiter: ',',
  decimal: '.',
  yesno: 'yes/no',
  quoting: 'needed',
  lineEnd: 'crlf',
  encoding: 'utf-8',
  bom: false,
  guard: false,
};

/** What a spreadsheet would take for a formula when it opens delimited text (OWASP, CSV injection), but for plain numbers. */
const FORMULA = /^(?:[=@\t\r]|[+-](?![\d\s.,]*%?$))/;
/** All signs of numbers: where these need no quotes, no number does. */
const OF_NUMBERS = '-+0123456789.eE';

/**
 * A table as delimited text. Unreadable cells give their text, an empty text is quoted so that it is not a blank.
 * @throws ExportStopped when the encoding has no place for a character
 */
export function writeDelimited(table: Table, choices: Partial<DelimitedChoices> = {}): Uint8Array<ArrayBuffer> {
  const chosen = { ...STANDARD, ...choices };
  const end = chosen.lineEnd === 'crlf' ? '\r\n' : '\n';
  const quote = quoter(chosen);
  const named = (name: string) => quote(chosen.guard ? guarded(name) : name);
  const out = new TextBytes(encoderOf(chosen.encoding, table));
  if (chosen.bom && chosen.encoding.startsWith('utf')) out.add('\ufeff');
  out.add(`${table.fields.map((field) => named(field.name)).join(chosen.delimiter)}${end}`);
  const columns = table.fields.map(({ column }) => {
    if (table.fields.length > 1) return columnWriter(column, table.rows, chosen, quote, out);
    const cell = delimitedCells(column, table.rows, chosen, quote);
    // A row of one blank cell would read back as no row at all.
    return (row: number) => out.add(cell(row) || '""');
  });
  for (let r = 0; r < table.rows; r++) {
    for (let c = 0; c < columns.length; c++) {
      if (c > 0) out.add(chosen.delimiter);
      columns[c]!(r);
    }
    out.add(end);
  }
  return out.all();
}

/** Writes the cells of a column: amounts, and cells that are still bytes of their source, without a text for each. */
function columnWriter(
  column: Table['fields'][number]['column'],
  rows: number,
  chosen: DelimitedChoices,
  quote: (text: string) => string,
  out: TextBytes,
): (row: number) => void {
  const spans = column.type === 'text' && out.isPlain && chosen.quoting === 'needed' ? spansOf(column) : undefined;
  const cells = spans === undefined ? delimitedCells(column, rows, chosen, quote) : undefined;
  if (cells !== undefined) {
    const isNumbers = (column.type === 'number' || column.type === 'whole') && out.isPlain;
    // No plain number is like a formula, so none is guarded.
    if (!isNumbers || chosen.decimal !== '.' || quote(OF_NUMBERS) !== OF_NUMBERS) return (row) => out.add(cells(row));
    const { values } = column;
    return (row) => {
      if (!out.amount(values[row]!)) out.add(cells(row));
    };
  }
  const stops = stopsOf(chosen);
  const starts = chosen.guard ? STARTS_FORMULA : undefined;
  const putPlain = (bytes: Uint8Array, from: number, to: number) => {
    if (starts?.[bytes[from]!] === 1) return false;
    for (let k = from; k < to; k++) if (stops[bytes[k]!] === 1) return false;
    out.putRun(bytes, from, to);
    return true;
  };
  return (row) => {
    if (spans!.at(row, putPlain) !== false) return;
    const text = spans!.text(row)!;
    out.add(quote(chosen.guard ? guarded(text) : text));
  };
}

/** 1 for each byte that a cell must be looked at as text for: what may want quotes, and what is not of ASCII. */
function stopsOf({ delimiter }: DelimitedChoices): Uint8Array {
  const stops = new Uint8Array(256).fill(1, 0x80);
  for (const sign of `${delimiter}"\r\n`) stops[sign.charCodeAt(0) & 0xff] = 1;
  return stops;
}

/** 1 for each byte with which a formula may begin. */
const STARTS_FORMULA = new Uint8Array(256);
for (const sign of '=@\t\r+-') STARTS_FORMULA[sign.charCodeAt(0)] = 1;

function quoter({ delimiter, quoting }: DelimitedChoices): (text: string) => string {
  return (text) =>
    quoting === 'all' || text === '' || text.includes(delimiter) || /["\r\n]/.test(text)
      ? `"${text.replaceAll('"', '""')}"`
      : text;
}

/** The cells of a column as they are written; '' for a blank. Each different text is made ready once. */
function delimitedCells(
  column: Table['fields'][number]['column'],
  rows: number,
  { decimal, guard, yesno }: DelimitedChoices,
  quote: (text: string) => string,
): (row: number) => string {
  const asNumber = (text: string) => quote(decimal === ',' ? text.replace('.', ',') : text);
  const asText = (text: string) => quote(guard ? guarded(text) : text);
  if (column.type === 'yesno' && yesno !== 'yes/no') {
    const [yes, no] = yesno.split('/') as [string, string];
    return (r) => {
      const cell = typedCell(column, r);
      return typeof cell === 'boolean' ? quote(cell ? yes : no) : quote(cellText(column, r) ?? '').replace(/^""$/, '');
    };
  }
  const plain = decimal === '.' && !guard;
  if (!plain && column.type !== 'text') {
    // Numbers and texts are treated otherwise, and the same characters can be either.
    const ready = (r: number) => {
      const text = cellText(column, r);
      return text === null ? '' : typeof typedCell(column, r) === 'number' ? asNumber(text) : asText(text);
    };
    return ready;
  }
  if (rows === 0) return () => '';
  // Words for yes and no are texts here, and all numbers read alike.
  return readyCells(column, {
    blank: '',
    text: asText,
    number: quote(OF_NUMBERS) === OF_NUMBERS ? (value) => numberText(value) : (value) => quote(numberText(value)),
    yesno: (value) => asText(countedText('yesno', value ? 1 : 0)),
  });
}

/** A text with a ' in front where a spreadsheet would take it for a formula. */
export function guarded(text: string): string {
  return FORMULA.test(text) ? `'${text}` : text;
}

/** Says which names and texts of a table an export guards, or undefined where it guards none. */
export function guardedText(table: Table, spec: ExportSpec): string | undefined {
  if (spec.as !== 'csv' || !spec.guard) return undefined;
  let cells = 0;
  const columns = table.fields.flatMap(({ name, column }) => {
    let own = FORMULA.test(name) ? 1 : 0;
    if (table.rows > 0 && (column.type === 'text' || column.type === 'received')) {
      const { codes, texts } = textView(column);
      const like = texts.map((text) => FORMULA.test(text));
      if (like.includes(true))
        codes.forEach((code, r) => {
          if (code >= 0 && like[code] && typeof typedCell(column, r) !== 'number') own++;
        });
    }
    cells += own;
    return own > 0 ? [name] : [];
  });
  if (cells === 0) return undefined;
  return `${counted(cells, 'text')} in ${few(columns)} ${cells === 1 ? "begins like a formula and has a ' in front, so that no spreadsheet computes it" : "begin like a formula and have a ' in front, so that no spreadsheet computes them"}`;
}

/** Undefined for UTF-8, in which text is written anyway. */
function encoderOf(encoding: DelimitedSpec['encoding'], table: Table): ((text: string) => Uint8Array) | undefined {
  if (encoding === 'utf-8') return undefined;
  if (encoding === 'utf-16le')
    return (text) => {
      const out = new Uint8Array(text.length * 2);
      const view = new DataView(out.buffer);
      for (let k = 0; k < text.length; k++) view.setUint16(k * 2, text.charCodeAt(k), true);
      return out;
    };
  const bytes = bytesOf(encoding);
  return (text) => {
    const out = new Uint8Array(text.length);
    for (let k = 0; k < text.length; k++) {
      const byte = bytes.get(text[k]!);
      if (byte === undefined) throw noPlace(table, encoding, bytes);
      out[k] = byte;
    }
    return out;
  };
}

/** For each character of an encoding of single bytes its byte (WHATWG Encoding). */
function bytesOf(encoding: string): Map<string, number> {
  const all = decoderOf(encoding).decode(Uint8Array.from({ length: 256 }, (_, byte) => byte));
  return new Map([...all].map((character, byte) => [character, byte]));
}

function noPlace(table: Table, encoding: string, bytes: ReadonlyMap<string, number>): ExportStopped {
  const missing = (text: string) => [...text].find((character) => !bytes.has(character));
  for (const { name, column } of table.fields) {
    const inName = missing(name);
    if (inName !== undefined)
      return new ExportStopped(`${encoding} has no place for ${inName} in the name ${name}. Choose UTF-8.`);
    for (let r = 0; r < table.rows; r++) {
      const character = missing(cellText(column, r) ?? '');
      if (character !== undefined)
        return new ExportStopped(`${encoding} has no place for ${character} in ${name}, row ${r + 1}. Choose UTF-8.`);
    }
  }
  return new ExportStopped(`${encoding} cannot hold this table. Choose UTF-8.`);
}
