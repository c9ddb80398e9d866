import { FormulaError } from './formula-error.ts';

export type TokenKind = 'number' | 'text' | 'name' | 'quoted' | 'symbol' | 'end';

export interface Token {
  kind: TokenKind;
  /** Decoded text: without quotes; names keep their case. */
  text: string;
  from: number;
  to: number;
}

const SYMBOLS = ['<>', '<=', '>=', '!=', '||', '(', ')', ',', '+', '-', '*', '/', '%', '<', '>', '='];

/** Tokens of a SQL expression (ISO/IEC 9075-2, 5.2), with an end token last. @throws FormulaError */
export function tokenize(source: string): Token[] {
  const tokens: Token[] = [];
  let at = 0;
  const push = (kind: TokenKind, text: string, from: number) => tokens.push({ kind, text, from, to: at });
  while (at < source.length) {
    const from = at;
    const rest = source.slice(at);
    const blanks = /^(?:\s+|--[^\n]*)/.exec(rest);
    if (blanks !== null) {
      at += blanks[0].length;
      continue;
    }
    const quote = source[at]!;
    if (quote === "'" || quote === '"') {
      const text = quoted(source, at, quote);
      at = text.to;
      push(quote === "'" ? 'text' : 'quoted', text.text, from);
      continue;
    }
    const number = /^(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?/.exec(rest);
    if (number !== null) {
      at += number[0].length;
      push('number', number[0], from);
      continue;
    }
    const name = /^[\p{L}_][\p{L}\p{N}_]*/u.exec(rest);
    if (name !== null) {
      at += name[0].length;
      push('name', name[0], from);
      continue;
    }
    const symbol = SYMBOLS.find((one) => rest.startsWith(one));
    if (symbol === undefined) throw new FormulaError(`'${quote}' has no meaning here`, at, at + 1);
    at += symbol.length;
    push('symbol', symbol === '!=' ? '<>' : symbol, from);
  }
  push('end', '', at);
  return tokens;
}

/** Text up to the closing quote; a doubled quote stands for one. */
function quoted(source: string, from: number, quote: string): { text: string; to: number } {
  let text = '';
  for (let at = from + 1; at < source.length; at++) {
    if (source[at] !== quote) {
      text += source[at];
    } else if (source[at + 1] === quote) {
      text += quote;
      at++;
    } else {
      return { text, to: at + 1 };
    }
  }
  throw new FormulaError(`The ${quote} that opens here is never closed`, from, source.length);
}
