/** Words of pages as lines, and lines as text on a ruler, so that columns can be found as in any print-out. */

import type { PageLine, PageWord } from '../print.ts';
import type { Page } from './page-words.ts';

/** Share of the letters' size that baselines of one line may lie apart. */
const SAME_LINE = 0.35;

/** The lines of a page, from the top. */
export function linesOf({ words }: Page): PageLine[] {
  const lines: { baseline: number; size: number; words: PageWord[] }[] = [];
  for (const word of lowered(words)) {
    const last = lines.at(-1);
    if (last !== undefined && word.baseline - last.baseline <= SAME_LINE * Math.max(last.size, word.size)) {
      last.words.push(word);
      last.size = Math.max(last.size, word.size);
    } else {
      lines.push({ baseline: word.baseline, size: word.size, words: [word] });
    }
  }
  return lines.map((line) => ({ ...line, words: joined(line.words.toSorted((a, b) => a.left - b.left)) }));
}

/** A raised mark has smaller letters than its word, begins where the word ends, and is raised by less than its height. */
const RAISED = { size: 0.85, gap: 0.25, height: 0.8 };

/** The words by their baselines; a mark that is raised after a word stands on the word's line, as part of it. */
function lowered(words: readonly PageWord[]): PageWord[] {
  const sorted = words.toSorted((a, b) => a.baseline - b.baseline);
  const hosts = sorted.map((word, k) => {
    for (let next = k + 1; next < sorted.length; next++) {
      const host = sorted[next]!;
      const above = host.baseline - word.baseline;
      if (above > 4 * word.size) break;
      const isHost =
        word.size < RAISED.size * host.size &&
        above < RAISED.height * host.size &&
        Math.abs(word.left - host.right) < RAISED.gap * host.size;
      if (isHost) return host;
    }
    return undefined;
  });
  return sorted
    .map((word, k) => {
      const host = hosts[k];
      if (host === undefined || host.baseline === word.baseline) return word;
      return { ...word, baseline: host.baseline, left: host.right, right: host.right + word.right - word.left };
    })
    .sort((a, b) => a.baseline - b.baseline);
}

/** Share of the letters' size under which two pieces are one word, drawn in two. */
const SAME_WORD = 0.08;

function joined(words: readonly PageWord[]): PageWord[] {
  const out: PageWord[] = [];
  for (const word of words) {
    const last = out.at(-1);
    // The same letters twice in one place are drawn bold.
    if (last !== undefined && last.text === word.text && Math.abs(last.left - word.left) < SAME_WORD * word.size)
      continue;
    if (last === undefined || word.left - last.right > SAME_WORD * Math.max(last.size, word.size)) out.push(word);
    else out[out.length - 1] = { ...last, text: last.text + word.text, right: Math.max(last.right, word.right) };
  }
  return out;
}

export interface Ruler {
  /** Points that a character of the ruler stands for. */
  unit: number;
  /** All letters are equally wide, so that a blank is as wide as any. */
  isMono: boolean;
}

/** A ruler for lines: its characters are those of the print where all are equally wide, else half a letter. */
export function rulerOf(lines: readonly PageLine[]): Ruler {
  const widths: number[] = [];
  for (const line of lines)
    for (const word of line.words) {
      const width = (word.right - word.left) / word.text.length;
      if (word.text.length > 2 && width > 0) widths.push(width);
    }
  if (widths.length === 0) return { unit: 3, isMono: false };
  widths.sort((a, b) => a - b);
  const at = (share: number) => widths[Math.floor(share * (widths.length - 1))]!;
  const isMono = at(0.9) - at(0.1) < 0.02 * at(0.5);
  return { unit: isMono ? at(0.5) : Math.max(1, at(0.5) / 2), isMono };
}

/** Share of the letters' size that a blank between two words of one cell may be wide. */
const WORD_GAP = 0.5;

/** Whether two words that follow each other are spaced as in one text. @param share of the letters' size between them */
export function isNear(one: PageWord, next: PageWord, share = WORD_GAP): boolean {
  return next.left - one.right < share * next.size;
}

/**
 * A line as text on a ruler: each word as wide as it is printed, its letters drawn out. Where letters are of all
 * widths, the blanks within a cell are narrower than those between two, and are spaced as letters.
 */
export function rulerText({ words }: PageLine, { unit, isMono }: Ruler): string {
  let text = '';
  let last: PageWord | undefined;
  for (const word of words) {
    // Two words never touch, however narrow the space between them.
    const from = Math.max(Math.round(word.left / unit), text === '' ? 0 : text.length + 1);
    const width = Math.max(1, Math.round(word.right / unit) - from);
    const isOne = !isMono && last !== undefined && isNear(last, word);
    text = text.padEnd(from, isOne ? last!.text.at(-1)! : ' ');
    for (let k = 0; k < width; k++) text += word.text[Math.floor((k * word.text.length) / width)]!;
    last = word;
  }
  return text;
}

/** The text of words, a blank between them. */
export function wordsText(words: readonly PageWord[]): string {
  return words.map((word) => word.text).join(' ');
}
