import { type DelimitedSpec, type ExportSpec, ExportStopped } from '../formats/export-spec.ts';
import type { Column } from '../table/column.ts';
import { decoderOf } from '../table/decoder.ts';
import { spansOf } from '../table/spanned-column.ts';
import type { Spans } from '../table/spans.ts';
import type { Table } from '../table/table.ts';
import { cellText, textView } from '../values/cell-text.ts';
import { counted, few } from '../values/counted.ts';
import { numberText } from '../values/number-text.ts';
import { type PartForms, partCells, stopsAt } from './ready-cells.ts';
import { TextBytes } from './rows/text-bytes.ts';
import { writeRows } from './rows/write-rows.ts';
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
const BEGINS = stopsAt('=@\t\r+-').fill(0, 0x80);
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
  // A row of one blank cell would read back as no row at all.
  const forms = formsOf(chosen, quote, table.fields.length === 1 ? '""' : '');
  const cells = table.fields.map(({ column }, c) => ({
    front: c === 0 ? '' : chosen.delimiter,
    cells: partCells(column, forms),
  }));
  writeRows([...cells, { front: end }], { from: 0, to: table.rows }, out);
  return out.all();
}

function quoter({ delimiter, quoting }: DelimitedChoices): (text: string) => string {
  return (text) =>
    quoting === 'all' || text === '' || text.includes(delimiter) || /["\r\n]/.test(text)
      ? `"${text.replaceAll('"', '""')}"`
      : text;
}

function formsOf(
  { delimiter, decimal, encoding, guard, quoting, yesno }: DelimitedChoices,
  quote: (text: string) => string,
  blank: string,
): PartForms {
  const text = (one: string) => quote(guard ? guarded(one) : one);
  const words = yesno.split('/');
  const quotes = quoting === 'all' ? '"' : '';
  // No plain number is like a formula, so none is guarded.
  const arePlain = decimal === '.' && quote(OF_NUMBERS) === quotes + OF_NUMBERS + quotes;
  // A text that begins like a formula is looked at, and so is any that has its signs elsewhere.
  const stops = stopsAt(`${delimiter}"\r\n${guard ? '=@\t+-' : ''}`);
  return {
    blank,
    text,
    plain: encoding === 'utf-8' && quoting === 'needed' ? { stops, before: '', behind: '' } : undefined,
    number: (value) => quote(numberText(value, decimal)),
    aroundNumbers: arePlain ? { before: quotes, behind: quotes } : undefined,
    yesno: (value) => text(words[value ? 0 : 1]!),
  };
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
      const spans = column.type === 'text' ? spansOf(column) : undefined;
      own += spans === undefined ? formulasIn(column) : formulasInRuns(spans);
    }
    cells += own;
    return own > 0 ? [name] : [];
  });
  if (cells === 0) return undefined;
  return `${counted(cells, 'text')} in ${few(columns)} ${cells === 1 ? "begins like a formula and has a ' in front, so that no spreadsheet computes it" : "begin like a formula and have a ' in front, so that no spreadsheet computes them"}`;
}

function formulasIn(column: Column): number {
  const { codes, texts } = textView(column);
  const like = texts.map((text) => FORMULA.test(text));
  let count = 0;
  if (like.includes(true))
    codes.forEach((code, r) => {
      if (code >= 0 && like[code] && typeof typedCell(column, r) !== 'number') count++;
    });
  return count;
}

/** From the bytes, so that no column gets a dictionary for being looked at: few texts begin with a sign. */
function formulasInRuns(spans: Spans): number {
  let count = 0;
  const { bytes, starts, lengths } = spans.places;
  for (let r = 0; r < starts.length; r++) {
    const start = starts[r]!;
    if (start < 0 || lengths[r] === 0) continue;
    // What stands elsewhere has quotes inside, or may begin with any sign.
    if ((start >= bytes.length || BEGINS[bytes[start]!] === 1) && FORMULA.test(spans.text(r)!)) count++;
  }
  return count;
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
