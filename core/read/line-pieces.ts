/** A template for lines out of one sample line and the stretches of it that were named. */
import { compileTemplate } from '../values/template.ts';

export interface Piece {
  /** Characters of the sample, from 0; to is behind the last. */
  from: number;
  to: number;
  name: string;
}

/** Share of the lines that must have a word for it to be a fixed word of the template. */
const FIXED = 0.8;

/**
 * What is named becomes a piece, what lines share stays as it is, and what differs from line to line is read over.
 *
 * @param pieces need not be in order; one that lies over another takes its place
 * @returns a template in the form of compileTemplate
 */
export function templateOfPieces(sample: string, pieces: readonly Piece[], lines: readonly string[]): string {
  const sorted = standing(pieces);
  const exact = fill(sample, sorted, (literal) => literal);
  const filled = lines.filter((line) => line.trim() !== '');
  const candidates = [exact, fill(sample, sorted, (literal) => openWords(literal, filled))];
  const counts = candidates.map((template) => matching(template, filled));
  // The plain one is easier to read, and is taken where it reads as many lines.
  return counts[0]! >= counts[1]! ? candidates[0]! : candidates[1]!;
}

/** Later pieces push out those they lie over. */
function standing(pieces: readonly Piece[]): Piece[] {
  const kept: Piece[] = [];
  for (const piece of pieces.toReversed()) {
    if (kept.every((one) => piece.to <= one.from || piece.from >= one.to)) kept.push(piece);
  }
  return kept.sort((a, b) => a.from - b.from);
}

function fill(sample: string, pieces: readonly Piece[], literal: (text: string) => string): string {
  let out = '';
  let at = 0;
  for (const piece of pieces) {
    out += literal(sample.slice(at, piece.from));
    // Two pieces that touch need something between them: the second is read with the first.
    if (out.endsWith('}')) out = out.replace(/\{[^{}]*\}$/, '');
    out += `{${piece.name}}`;
    at = piece.to;
  }
  const rest = literal(sample.slice(at));
  return (out + (rest.startsWith('{}') && out.endsWith('}') ? rest.slice(2) : rest)).replaceAll('}{}', '}');
}

/** Figures, and words that other lines do not have, become {}; signs between them stay. */
function openWords(text: string, lines: readonly string[]): string {
  const share = (word: string) => lines.filter((line) => line.includes(word)).length / Math.max(1, lines.length);
  return text
    .replace(/[\p{L}\p{N}]+(?:[.:'’/-][\p{L}\p{N}]+)*/gu, (word) =>
      !/\p{N}/u.test(word) && share(word) >= FIXED ? word : '{}',
    )
    .replace(/\{\}(?:[ ]+\{\})+/g, '{}');
}

function matching(template: string, lines: readonly string[]): number {
  try {
    const { test } = compileTemplate(template);
    return lines.reduce((count, line) => count + Number(test(line.trimEnd())), 0);
  } catch {
    return -1;
  }
}
