import { grouped } from '../values/counted.ts';
import { FormulaError } from './formula-error.ts';
import { type Token, tokenize } from './tokens.ts';

/** The parts of an expression, each with its place in the text. */
export type Node = Placed &
  (
    | { node: 'literal'; type: 'number' | 'text' | 'boolean' | 'date' | 'time' | 'timestamp' | 'null'; text: string }
    | { node: 'column'; name: string; quoted: boolean }
    | { node: 'unary'; operator: 'not' | '-' | '+'; of: Node }
    | { node: 'binary'; operator: string; left: Node; right: Node }
    | { node: 'like'; of: Node; pattern: Node; escaped: Node | undefined; not: boolean; regex: boolean }
    | { node: 'in'; of: Node; items: Node[]; not: boolean }
    | { node: 'between'; of: Node; low: Node; high: Node; not: boolean }
    | { node: 'is'; of: Node; what: 'null' | 'true' | 'false' | 'unknown'; not: boolean }
    | { node: 'distinct'; left: Node; right: Node; not: boolean }
    | { node: 'case'; of: Node | undefined; whens: { when: Node; give: Node }[]; otherwise: Node | undefined }
    | { node: 'cast'; of: Node; type: string }
    | { node: 'call'; name: string; args: Node[] }
  );

export interface Placed {
  from: number;
  to: number;
}

const RESERVED = new Set(
  'and or not is null true false in between like like_regex case when then else end from for as escape distinct'.split(
    ' ',
  ),
);

/** Binding strength of the operators between two operands, loosest first. */
const STRENGTH: Record<string, number> = { '||': 6, '+': 6, '-': 6, '*': 7, '/': 7, '%': 7 };
const COMPARISONS = new Set(['=', '<>', '<', '<=', '>', '>=']);

/** @throws FormulaError with the place and what was expected */
export function parse(source: string): Node {
  return new Parser(tokenize(source)).whole();
}

/** Parts of an expression inside one another, and operators in it: beyond them the stack would be overrun. */
const MAX_DEPTH = 200;
const MAX_OPERATORS = 1000;

class Parser {
  private at = 0;
  private depth = 0;
  private operators = 0;

  constructor(private readonly tokens: readonly Token[]) {}

  whole(): Node {
    const first = this.peek();
    if (first.kind === 'end') throw new FormulaError('An expression is expected', 0, 0);
    const node = this.either();
    const rest = this.peek();
    if (rest.kind !== 'end') throw this.expected('an operator or the end');
    return node;
  }

  private peek(ahead = 0): Token {
    return this.tokens[Math.min(this.at + ahead, this.tokens.length - 1)]!;
  }

  private next(): Token {
    return this.tokens[this.at++]!;
  }

  private expected(what: string): FormulaError {
    const token = this.peek();
    return new FormulaError(`Expected ${what}`, token.from, token.to);
  }

  private isWord(word: string, ahead = 0): boolean {
    const token = this.peek(ahead);
    return token.kind === 'name' && token.text.toLowerCase() === word;
  }

  private isSymbol(symbol: string): boolean {
    const token = this.peek();
    return token.kind === 'symbol' && token.text === symbol;
  }

  private takeWord(word: string): boolean {
    if (!this.isWord(word)) return false;
    this.at++;
    return true;
  }

  private needWord(word: string): void {
    if (!this.takeWord(word)) throw this.expected(word);
  }

  private takeSymbol(symbol: string): boolean {
    if (!this.isSymbol(symbol)) return false;
    this.at++;
    return true;
  }

  private needSymbol(symbol: string): Token {
    if (!this.isSymbol(symbol)) throw this.expected(`'${symbol}'`);
    return this.next();
  }

  /** @throws FormulaError when it goes too deep */
  private inside(make: () => Node): Node {
    if (++this.depth > MAX_DEPTH) {
      const token = this.peek();
      throw new FormulaError(
        `More than ${MAX_DEPTH} nested parts: divide the expression into several steps`,
        token.from,
        token.to,
      );
    }
    const node = make();
    this.depth--;
    return node;
  }

  private binary(operator: string, left: Node, right: Node): Node {
    if (++this.operators > MAX_OPERATORS)
      throw new FormulaError(
        `More than ${grouped(MAX_OPERATORS)} operators: divide the expression over several steps`,
        right.from,
        right.to,
      );
    return { node: 'binary', operator, left, right, from: left.from, to: right.to };
  }

  private end(): number {
    return this.tokens[this.at - 1]!.to;
  }

  private either(): Node {
    return this.inside(() => {
      let left = this.both();
      while (this.takeWord('or')) left = this.binary('or', left, this.both());
      return left;
    });
  }

  private both(): Node {
    let left = this.negation();
    while (this.takeWord('and')) left = this.binary('and', left, this.negation());
    return left;
  }

  private negation(): Node {
    const token = this.peek();
    if (!this.takeWord('not')) return this.predicate();
    const of = this.inside(() => this.negation());
    return { node: 'unary', operator: 'not', of, from: token.from, to: of.to };
  }

  private predicate(): Node {
    let left = this.sum(0);
    for (;;) {
      const token = this.peek();
      if (token.kind === 'symbol' && COMPARISONS.has(token.text)) {
        this.at++;
        const right = this.sum(0);
        left = { node: 'binary', operator: token.text, left, right, from: left.from, to: right.to };
      } else if (this.isWord('is')) {
        left = this.is(left);
      } else {
        const not = this.isWord('not') && ['in', 'between', 'like', 'like_regex'].some((word) => this.isWord(word, 1));
        if (not) this.at++;
        if (this.takeWord('in')) left = this.isIn(left, not);
        else if (this.takeWord('between')) left = this.between(left, not);
        else if (this.takeWord('like')) left = this.like(left, not, false);
        else if (this.takeWord('like_regex')) left = this.like(left, not, true);
        else return left;
      }
    }
  }

  private is(of: Node): Node {
    this.next();
    const not = this.takeWord('not');
    for (const what of ['null', 'true', 'false', 'unknown'] as const) {
      if (this.takeWord(what)) return { node: 'is', of, what, not, from: of.from, to: this.end() };
    }
    if (!this.takeWord('distinct')) throw this.expected('null, true, false, unknown or distinct from');
    this.needWord('from');
    const right = this.sum(0);
    return { node: 'distinct', left: of, right, not, from: of.from, to: right.to };
  }

  private isIn(of: Node, not: boolean): Node {
    this.needSymbol('(');
    const items = [this.either()];
    while (this.takeSymbol(',')) items.push(this.either());
    this.needSymbol(')');
    return { node: 'in', of, items, not, from: of.from, to: this.end() };
  }

  private between(of: Node, not: boolean): Node {
    const low = this.sum(0);
    this.needWord('and');
    const high = this.sum(0);
    return { node: 'between', of, low, high, not, from: of.from, to: high.to };
  }

  private like(of: Node, not: boolean, regex: boolean): Node {
    const pattern = this.sum(0);
    const escaped = !regex && this.takeWord('escape') ? this.sum(0) : undefined;
    return { node: 'like', of, pattern, escaped, not, regex, from: of.from, to: this.end() };
  }

  private sum(least: number): Node {
    let left = this.signed();
    for (;;) {
      const token = this.peek();
      const strength = token.kind === 'symbol' ? STRENGTH[token.text] : undefined;
      if (strength === undefined || strength <= least) return left;
      this.at++;
      left = this.binary(token.text, left, this.sum(strength));
    }
  }

  private signed(): Node {
    const token = this.peek();
    for (const operator of ['-', '+'] as const) {
      if (!this.takeSymbol(operator)) continue;
      const of = this.inside(() => this.signed());
      return { node: 'unary', operator, of, from: token.from, to: of.to };
    }
    return this.operand();
  }

  private operand(): Node {
    const token = this.peek();
    const { from } = token;
    if (token.kind === 'number' || token.kind === 'text') {
      this.at++;
      return { node: 'literal', type: token.kind, text: token.text, from, to: token.to };
    }
    if (token.kind === 'quoted') {
      this.at++;
      return { node: 'column', name: token.text, quoted: true, from, to: token.to };
    }
    if (this.takeSymbol('(')) {
      const inner = this.either();
      this.needSymbol(')');
      return { ...inner, from, to: this.end() };
    }
    if (token.kind !== 'name') throw this.expected('a column, a value or a function');
    return this.named(token);
  }

  private named(token: Token): Node {
    const { from } = token;
    const word = token.text.toLowerCase();
    if (word === 'null' || word === 'true' || word === 'false') {
      this.at++;
      return { node: 'literal', type: word === 'null' ? 'null' : 'boolean', text: word, from, to: token.to };
    }
    if ((word === 'date' || word === 'time' || word === 'timestamp') && this.peek(1).kind === 'text') {
      this.at++;
      const text = this.next();
      return { node: 'literal', type: word, text: text.text, from, to: text.to };
    }
    if (word === 'case') return this.cases();
    const called = this.peek(1).kind === 'symbol' && this.peek(1).text === '(';
    if (called && word === 'cast') return this.cast();
    if (called) return this.call(word);
    if (RESERVED.has(word)) throw this.expected('a column, a value or a function');
    this.at++;
    return { node: 'column', name: token.text, quoted: false, from, to: token.to };
  }

  private cases(): Node {
    const { from } = this.next();
    const of = this.isWord('when') ? undefined : this.either();
    const whens: { when: Node; give: Node }[] = [];
    while (this.takeWord('when')) {
      const when = this.either();
      this.needWord('then');
      whens.push({ when, give: this.either() });
    }
    if (whens.length === 0) throw this.expected('when');
    const otherwise = this.takeWord('else') ? this.either() : undefined;
    this.needWord('end');
    return { node: 'case', of, whens, otherwise, from, to: this.end() };
  }

  private cast(): Node {
    const { from } = this.next();
    this.needSymbol('(');
    const of = this.either();
    this.needWord('as');
    const type = this.next();
    if (type.kind !== 'name') throw new FormulaError('Expected a type', type.from, type.to);
    this.takeWord('precision');
    const name = type.text.toLowerCase();
    // The size of a type, as in varchar(20) or decimal(12, 2): values are not cut to it.
    if (this.takeSymbol('(')) while (!this.takeSymbol(')')) if (this.next().kind === 'end') throw this.expected("')'");
    this.needSymbol(')');
    return { node: 'cast', of, type: name, from, to: this.end() };
  }

  /** A function, with the words that SQL puts between the arguments of a few. */
  private call(name: string): Node {
    const { from } = this.next();
    this.needSymbol('(');
    const args: Node[] = [];
    if (name === 'extract') {
      const field = this.next();
      args.push({ node: 'literal', type: 'text', text: field.text.toLowerCase(), from: field.from, to: field.to });
      this.needWord('from');
      args.push(this.either());
    } else if (name === 'position') {
      args.push(this.sum(0));
      this.needWord('in');
      args.push(this.either());
    } else if (name === 'trim') {
      return this.trim(from);
    } else if (!this.isSymbol(')')) {
      args.push(this.either());
      if (name === 'substring' && this.takeWord('from')) {
        args.push(this.either());
        if (this.takeWord('for')) args.push(this.either());
      }
      while (this.takeSymbol(',')) args.push(this.either());
    }
    this.needSymbol(')');
    return { node: 'call', name, args, from, to: this.end() };
  }

  private trim(from: number): Node {
    const side = (['both', 'leading', 'trailing'] as const).find((word) => this.takeWord(word));
    let characters: Node | undefined = this.isWord('from') ? undefined : this.either();
    let of = characters;
    if (this.takeWord('from')) of = this.either();
    else characters = undefined;
    if (this.takeSymbol(',')) characters = this.either();
    this.needSymbol(')');
    const args = characters === undefined ? [of!] : [of!, characters];
    const name = side === 'leading' ? 'ltrim' : side === 'trailing' ? 'rtrim' : 'trim';
    return { node: 'call', name, args, from, to: this.end() };
  }
}
