/**
 * Regular expressions (ECMAScript) that a user wrote, matched in bounded time.
 *
 * The engine of the language backtracks: `^(a+)+$` on 40 letters never ends. A pattern is read first to see how its
 * work may grow with the text. Where it stays small the engine of the language matches; where it may not, an engine
 * whose work grows in step with the text (RE2) takes the same pattern. Patterns that only the first can match (they
 * look ahead or back) are matched up to a length and refused beyond it.
 */

import { type AST, RegExpParser, visitRegExpAST } from '@eslint-community/regexpp';
import { RE2JS } from 're2js';
import { grouped } from './counted.ts';
import { brief, escapeRegExp } from './text.ts';

/** Steps of backtracking that may be spent on one text. */
const MAX_STEPS = 200_000;
/** The same for patterns that no other engine can match. */
const MAX_STEPS_ALONE = 50_000_000;
/** Repeats up to this many are looked at one by one, more as if they had no end. */
const FEW_REPEATS = 4;

/** Characters of a pattern. */
const MAX_CHARACTERS = 10_000;

export interface PatternMatch {
  /** The whole match, then the groups; undefined where a group took no part. */
  groups: (string | undefined)[];
  from: number;
  to: number;
}

export class Pattern {
  /** Names of the groups from the first on; undefined where a group has none. */
  readonly names: readonly (string | undefined)[];
  private readonly native: RegExp;
  private readonly global: RegExp;
  private readonly longest: number;
  /** The pattern in the syntax of the other engine, or undefined where it cannot be said there. */
  private readonly translated: string | undefined;
  private other: RE2JS | undefined;

  /**
   * @param trouble makes the error that is thrown
   * @throws what trouble makes, for a pattern that cannot be read or whose time cannot be bounded
   */
  constructor(
    private readonly source: string,
    private readonly ignoreCase = false,
    private readonly trouble: (message: string) => Error = (message) => new Error(message),
  ) {
    const flags = ignoreCase ? 'iu' : 'u';
    if (source.length > MAX_CHARACTERS)
      throw trouble(
        `The pattern ${brief(source)} has ${grouped(source.length)} characters; at most ${grouped(MAX_CHARACTERS)} are read`,
      );
    try {
      this.native = new RegExp(source, flags);
      this.global = new RegExp(source, `g${flags}`);
      // Compiled when it is first used: one that is too large fails there.
      this.native.test('');
    } catch (error) {
      throw trouble(`The pattern ${brief(source)} cannot be used: ${brief((error as Error).message)}`);
    }
    const read = new RegExpParser().parsePattern(source, 0, source.length, { unicode: true });
    this.names = groupNames(read);
    const power = read.alternatives.reduce((most, one) => Math.max(most, powerOf(one)), 0);
    const fixed = read.alternatives.every((one) => isStart(one.elements[0]));
    const growth = power === 0 ? 0 : power + (fixed ? 0 : 1);
    this.translated = translate(read, ignoreCase);
    const steps = this.translated === undefined ? MAX_STEPS_ALONE : MAX_STEPS;
    this.longest =
      growth <= 1 ? Number.POSITIVE_INFINITY : growth === Number.POSITIVE_INFINITY ? 0 : steps ** (1 / growth);
    if (this.longest === 0 && this.translated === undefined) {
      throw trouble(
        `The pattern ${brief(source)} repeats a repetition and also looks ahead or back: it might never end. Write it without the one or the other`,
      );
    }
  }

  test(text: string): boolean {
    if (text.length <= this.longest) return this.native.test(text);
    return this.linear(text).matcher(text).find();
  }

  exec(text: string): PatternMatch | null {
    if (text.length <= this.longest) {
      const match = this.native.exec(text);
      return match === null ? null : { groups: [...match], from: match.index, to: match.index + match[0].length };
    }
    const matcher = this.linear(text).matcher(text);
    return matcher.find() ? matchOf(matcher) : null;
  }

  /** Every match is replaced. @param by text, with $1, $<name>, $& and $$ as in ECMAScript, or a function */
  replace(text: string, by: string | (() => string)): string {
    if (text.length <= this.longest) {
      return typeof by === 'string' ? text.replace(this.global, by) : text.replace(this.global, by);
    }
    const matcher = this.linear(text).matcher(text);
    let out = '';
    let at = 0;
    while (matcher.find()) {
      const match = matchOf(matcher);
      out += text.slice(at, match.from) + (typeof by === 'string' ? this.expanded(by, match) : by());
      at = match.to;
    }
    return out + text.slice(at);
  }

  private expanded(by: string, { groups }: PatternMatch): string {
    return by.replace(/\$(?:(\$)|(&)|(\d\d?)|<([^>]*)>)/g, (all, dollar, whole, number, name) => {
      if (dollar !== undefined) return '$';
      if (whole !== undefined) return groups[0]!;
      if (name !== undefined) {
        const index = this.names.indexOf(name);
        return this.names.every((one) => one === undefined) ? all : index < 0 ? '' : (groups[index + 1] ?? '');
      }
      const index = Number(number);
      if (index > 0 && index < groups.length) return groups[index] ?? '';
      // $12 with fewer groups is $1 and a 2.
      const first = Number(number[0]);
      return first > 0 && first < groups.length ? (groups[first] ?? '') + number.slice(1) : all;
    });
  }

  private linear(text: string): RE2JS {
    if (this.translated === undefined) {
      throw this.trouble(
        `The pattern ${brief(this.source)} looks ahead or back, and a text of ${grouped(text.length)} characters would take it too long. Write it without, or cut the text first`,
      );
    }
    this.other ??= RE2JS.compile(this.translated, this.ignoreCase ? RE2JS.CASE_INSENSITIVE : 0);
    return this.other;
  }
}

function matchOf(matcher: ReturnType<RE2JS['matcher']>): PatternMatch {
  const count = matcher.groupCount();
  const groups = Array.from({ length: count + 1 }, (_, k) => matcher.group(k) ?? undefined);
  return { groups, from: matcher.start(), to: matcher.end() };
}

function groupNames(pattern: AST.Pattern): (string | undefined)[] {
  const names: (string | undefined)[] = [];
  visitRegExpAST(pattern, { onCapturingGroupEnter: (group) => void names.push(group.name ?? undefined) });
  return names;
}

function isStart(element: AST.Element | undefined): boolean {
  if (element?.type === 'Group' || element?.type === 'CapturingGroup')
    return element.alternatives.every((one) => isStart(one.elements[0]));
  return element?.type === 'Assertion' && element.kind === 'start';
}

/** The work of backtracking grows at most with this power of the text's length; infinite where there is no such power. */
function powerOf(node: AST.Alternative | AST.Element): number {
  switch (node.type) {
    case 'Alternative':
      return node.elements.reduce((sum, element) => sum + powerOf(element), 0);
    case 'Group':
    case 'CapturingGroup':
      return Math.max(0, ...node.alternatives.map(powerOf));
    case 'Assertion':
      return 'alternatives' in node ? Math.max(0, ...node.alternatives.map(powerOf)) : 0;
    case 'Quantifier': {
      if (node.max <= 1) return powerOf(node.element);
      if (node.max <= FEW_REPEATS) return powerOf(node.element) * node.max;
      return isChoice(node.element) ? Number.POSITIVE_INFINITY : 1;
    }
    default:
      return 0;
  }
}

/** It may match the same text in more than one way. */
function isChoice(node: AST.Element): boolean {
  switch (node.type) {
    case 'Group':
    case 'CapturingGroup':
      return node.alternatives.length > 1 || node.alternatives.some((one) => one.elements.some(isChoice));
    case 'Quantifier':
      return node.min !== node.max || isChoice(node.element);
    case 'Assertion':
      return 'alternatives' in node;
    case 'Backreference':
      return true;
    default:
      return false;
  }
}

const SPACES =
  '\\t\\n\\v\\f\\r \\x{a0}\\x{1680}\\x{2000}-\\x{200a}\\x{2028}\\x{2029}\\x{202f}\\x{205f}\\x{3000}\\x{feff}';
const LINE_ENDS = '\\n\\r\\x{2028}\\x{2029}';

class Untranslatable extends Error {}

/** The pattern in the syntax of RE2 with the meaning of ECMAScript, or undefined where that cannot be said. */
function translate(pattern: AST.Pattern, ignoreCase: boolean): string | undefined {
  try {
    const source = pattern.alternatives.map(alternative).join('|');
    RE2JS.compile(source, ignoreCase ? RE2JS.CASE_INSENSITIVE : 0);
    return source;
  } catch {
    return undefined;
  }
}

function alternative(node: AST.Alternative): string {
  return node.elements.map(element).join('');
}

function element(node: AST.Element): string {
  switch (node.type) {
    case 'Character':
      return character(node.value);
    case 'CharacterSet':
      return node.kind === 'any' ? `[^${LINE_ENDS}]` : characterSet(node, false);
    case 'CharacterClass':
      return characterClass(node);
    case 'Group':
      if (node.modifiers !== null) throw new Untranslatable();
      return `(?:${node.alternatives.map(alternative).join('|')})`;
    case 'CapturingGroup':
      return `(${node.alternatives.map(alternative).join('|')})`;
    case 'Quantifier': {
      const most = node.max === Number.POSITIVE_INFINITY ? '' : String(node.max);
      return `(?:${element(node.element)}){${node.min},${most}}${node.greedy ? '' : '?'}`;
    }
    case 'Assertion':
      if (node.kind === 'start') return '\\A';
      if (node.kind === 'end') return '\\z';
      if (node.kind === 'word') return node.negate ? '\\B' : '\\b';
      throw new Untranslatable();
    default:
      throw new Untranslatable();
  }
}

function character(code: number): string {
  return code < 128 ? escapeRegExp(String.fromCharCode(code)).replace('\\/', '/') : `\\x{${code.toString(16)}}`;
}

function characterClass(node: AST.CharacterClass): string {
  const inside = node.elements.map((one) => {
    if (one.type === 'Character') return inClass(one.value);
    if (one.type === 'CharacterClassRange') return `${inClass(one.min.value)}-${inClass(one.max.value)}`;
    if (one.type === 'CharacterSet') return characterSet(one as AST.EscapeCharacterSet, true);
    throw new Untranslatable();
  });
  // RE2 has no empty class: [] matches nothing, [^] everything.
  if (inside.length === 0) return node.negate ? '[\\x{0}-\\x{10ffff}]' : '[^\\x{0}-\\x{10ffff}]';
  return `[${node.negate ? '^' : ''}${inside.join('')}]`;
}

function inClass(code: number): string {
  return `\\x{${code.toString(16)}}`;
}

function characterSet(
  node: AST.EscapeCharacterSet | AST.UnicodePropertyCharacterSet | AST.CharacterSet,
  inside: boolean,
): string {
  if (node.kind === 'property') {
    const name = node.value ?? node.key;
    return `\\${node.negate ? 'P' : 'p'}{${name}}`;
  }
  if (node.kind === 'any') throw new Untranslatable();
  const of = node.kind === 'digit' ? '0-9' : node.kind === 'word' ? 'A-Za-z0-9_' : SPACES;
  if (!inside) return `[${node.negate ? '^' : ''}${of}]`;
  if (!node.negate) return of;
  if (node.kind === 'space') throw new Untranslatable();
  return node.kind === 'digit' ? '\\D' : '\\W';
}
