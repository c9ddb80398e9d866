/** Where rows of delimited text end, without reading them. */

import { LINE, RETURN } from '../ascii.ts';
import type { DelimitedForm } from './tokenize.ts';

/**
 * Behind the last row that ends with a line feed in these bytes, which begin with a row. Quotes count as the tokenizer
 * counts them: they open a cell where they stand first in it.
 *
 * @returns 0 where no row ends, or the form has what only reading tells: runs, brackets, comments, signs of several bytes
 */
export function endOfRows(bytes: Uint8Array, form: DelimitedForm): number {
  if (form.brackets !== null) return 0;
  const quote = form.quote === null || form.quote === '' ? -1 : signOf(form.quote);
  if (quote === undefined) return 0;
  if (quote < 0 || !bytes.includes(quote)) return bytes.lastIndexOf(LINE) + 1;
  const delimiter = signOf(form.delimiter);
  if (delimiter === undefined || form.runs || holds(bytes, form.comment)) return 0;
  let end = 0;
  let at = 0;
  for (;;) {
    const open = bytes.indexOf(quote, at);
    const last = bytes.lastIndexOf(LINE, open < 0 ? bytes.length : open);
    if (last >= at) end = last + 1;
    if (open < 0) return end;
    const before = open === 0 ? LINE : bytes[open - 1];
    if (before !== delimiter && before !== LINE && before !== RETURN) {
      at = open + 1;
      continue;
    }
    let close = open + 1;
    for (; close < bytes.length; close++) {
      if (bytes[close] !== quote) continue;
      if (bytes[close + 1] !== quote) break;
      close++;
    }
    if (close >= bytes.length) return end;
    at = close + 1;
  }
}

/** The byte of a sign of one ASCII character. */
function signOf(sign: string): number | undefined {
  return sign.length === 1 && sign.charCodeAt(0) < 0x80 ? sign.charCodeAt(0) : undefined;
}

function holds(bytes: Uint8Array, comment: string | null): boolean {
  const [sign] = comment ?? '';
  return sign !== undefined && (signOf(sign) === undefined || bytes.includes(signOf(sign)!));
}
