/**
 * Templates with named pieces in braces: 'HU-{Number}/{Part}'.
 *
 * A piece takes as little as it can; a space stands for any run of spaces; {} skips text. A piece may say what
 * it holds: {Time:time} a time as logs write it, {Host:word} no spaces, {Size:number} digits. Matched by hand, piece by
 * piece and from the left, so that the work grows in step with the text whatever the template says.
 */
import { timeAt } from './log-time.ts';

export type PieceKind = 'any' | 'word' | 'number' | 'time';

export interface PieceSpan {
  /** Characters from 0; to is behind the last. */
  from: number;
  to: number;
}

export interface Template {
  /** Names of the pieces, in order; pieces that are read over have none. */
  names: string[];
  /** Where each named piece stands in a text, or null where the text does not fit. */
  spans(text: string): PieceSpan[] | null;
  /** What each named piece holds, or null where the text does not fit. */
  exec(text: string): string[] | null;
  test(text: string): boolean;
}

interface Piece {
  name: string;
  kind: PieceKind;
  /** What follows it, up to the next piece; runs of spaces are one space. */
  behind: string;
}

const KINDS = new Set<string>(['word', 'number', 'time']);
const NUMBER = /[+-]?\d+(?:[.,]\d+)*/y;

/** @throws Error when a brace is never closed, a name stands twice, or two pieces touch with nothing between them */
export function compileTemplate(template: string): Template {
  const { front, pieces } = parse(template);
  const names = pieces.flatMap((piece) => (piece.name === '' ? [] : [piece.name]));
  const spans = (text: string): PieceSpan[] | null => {
    const start = literalAt(front, text, 0);
    if (start < 0) return null;
    if (pieces.length === 0) return start === text.length ? [] : null;
    const found: PieceSpan[] = [];
    let at = start;
    for (let k = 0; k < pieces.length; k++) {
      const piece = pieces[k]!;
      const last = k === pieces.length - 1;
      const span = take(piece, last, pieces[k + 1], text, at);
      if (span === undefined) return null;
      if (piece.name !== '') found.push({ from: at, to: span.to });
      at = span.next;
    }
    return found;
  };
  return {
    names,
    spans,
    exec: (text) => spans(text)?.map(({ from, to }) => text.slice(from, to)) ?? null,
    test: (text) => spans(text) !== null,
  };
}

function parse(template: string): { front: string; pieces: Piece[] } {
  const pieces: Piece[] = [];
  let literal = '';
  let front: string | undefined;
  const close = () => {
    const plain = literal.replace(/\s+/g, ' ');
    literal = '';
    if (front === undefined) front = plain;
    else pieces.at(-1)!.behind = plain;
  };
  for (let at = 0; at < template.length; ) {
    if (template[at] !== '{') {
      literal += template[at++];
      continue;
    }
    const end = template.indexOf('}', at);
    if (end < 0) throw new Error(`The { at character ${at + 1} of ${template} is never closed`);
    if (pieces.length > 0 && literal === '')
      throw new Error(`Two pieces touch at character ${at + 1} of ${template}: put what stands between them`);
    close();
    const piece = pieceOf(template.slice(at + 1, end).trim());
    if (piece.name !== '' && pieces.some((one) => one.name === piece.name))
      throw new Error(`The piece ${piece.name} stands twice in ${template}`);
    pieces.push(piece);
    at = end + 1;
  }
  close();
  return { front: front!, pieces };
}

function pieceOf(text: string): Piece {
  const colon = text.lastIndexOf(':');
  const kind = text.slice(colon + 1).trim();
  if (colon >= 0 && KINDS.has(kind)) return { name: text.slice(0, colon).trim(), kind: kind as PieceKind, behind: '' };
  return { name: text, kind: 'any', behind: '' };
}

/** Where a piece that begins at a character ends, and where what follows it ends; undefined where it does not fit. */
function take(
  piece: Piece,
  last: boolean,
  next: Piece | undefined,
  text: string,
  at: number,
): { to: number; next: number } | undefined {
  if (piece.kind === 'time' || piece.kind === 'number') {
    const to = piece.kind === 'time' ? timeAt(text, at) : numberAt(text, at);
    const behind = to < 0 ? -1 : literalAt(piece.behind, text, to);
    return behind < 0 || (last && behind !== text.length) ? undefined : { to, next: behind };
  }
  const found = last ? literalAtEnd(piece.behind, text, at) : nextLiteral(piece.behind, text, at, next);
  if (found === undefined) return undefined;
  return piece.kind === 'word' && (found.to === at || /\s/.test(text.slice(at, found.to))) ? undefined : found;
}

function numberAt(text: string, at: number): number {
  NUMBER.lastIndex = at;
  return NUMBER.test(text) ? NUMBER.lastIndex : -1;
}

/** The first place from a character on where the literal stands, with what the next piece must hold behind it. */
function nextLiteral(
  literal: string,
  text: string,
  from: number,
  next: Piece | undefined,
): { to: number; next: number } | undefined {
  const first = literal[0]!;
  for (let at = from; at < text.length; ) {
    if (first === ' ') while (at < text.length && !isSpace(text, at)) at++;
    else at = text.indexOf(first, at);
    if (at < 0 || at >= text.length) return undefined;
    const end = literalAt(literal, text, at);
    if (end >= 0 && begins(next, text, end)) return { to: at, next: end };
    // A run of spaces that leads nowhere is passed as a whole.
    if (first === ' ') while (at < text.length && isSpace(text, at)) at++;
    else at++;
  }
  return undefined;
}

function begins(piece: Piece | undefined, text: string, at: number): boolean {
  if (piece?.kind === 'time') return timeAt(text, at) >= 0;
  return piece?.kind === 'number' ? numberAt(text, at) >= 0 : true;
}

/** Where a literal that begins at a character ends, or -1; each space of it takes a whole run. */
function literalAt(literal: string, text: string, from: number): number {
  let at = from;
  for (let k = 0; k < literal.length; k++) {
    if (literal[k] !== ' ') {
      if (text[at] !== literal[k]) return -1;
      at++;
      continue;
    }
    if (!isSpace(text, at)) return -1;
    while (isSpace(text, at)) at++;
  }
  return at;
}

/** The same from the end of the text backwards, no further than a character. */
function literalAtEnd(literal: string, text: string, least: number): { to: number; next: number } | undefined {
  let at = text.length;
  for (let k = literal.length - 1; k >= 0; k--) {
    if (literal[k] !== ' ') {
      if (at <= least || text[at - 1] !== literal[k]) return undefined;
      at--;
      continue;
    }
    if (at <= least || !isSpace(text, at - 1)) return undefined;
    while (at > least && isSpace(text, at - 1)) at--;
  }
  return { to: at, next: text.length };
}

function isSpace(text: string, at: number): boolean {
  const code = text.charCodeAt(at);
  return code === 32 || (code >= 9 && code <= 13) || code === 0xa0 || (code > 0xff && /\s/.test(text[at]!));
}
