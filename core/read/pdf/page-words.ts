/// <reference path="./library.d.ts" />
/** The words of the pages of a PDF (ISO 32000-2), each with where it stands. */

import type { PDFDocumentProxy, PDFPageProxy } from 'pdfjs-dist';
import { grouped } from '../../values/counted.ts';
import type { PageWord } from '../print.ts';
import { ReadFailure } from '../read-failure.ts';

export interface Page {
  width: number;
  height: number;
  words: readonly PageWord[];
  /** Words that stand in another direction than the rest, such as a mark across the page; they are in no line. */
  aslant: number;
}

/** Pages beyond these, and words beyond these on all of them, are those of no report. */
const MAX_PAGES = 5000;
const MAX_WORDS = 5_000_000;
/** Points; the largest pages that there are have 14,400. */
const FARTHEST = 100_000;

/**
 * @param progress share of the pages read
 * @throws ReadFailure when it is locked or damaged, or has too many pages
 */
export async function pagesOf(
  bytes: Uint8Array,
  file: string,
  progress: (done: number) => void = () => undefined,
): Promise<Page[]> {
  const pdf = await opened(bytes, file);
  try {
    if (pdf.numPages > MAX_PAGES) {
      throw new ReadFailure(
        file,
        `${file} has ${grouped(pdf.numPages)} pages; at most ${grouped(MAX_PAGES)} are read. Print the pages that are wanted into their own PDF, and give that.`,
      );
    }
    const pages: Page[] = [];
    let words = 0;
    for (let number = 1; number <= pdf.numPages; number++) {
      const page = await pageOf(pdf, number, file);
      pages.push(page);
      words += page.words.length;
      if (words > MAX_WORDS)
        throw new ReadFailure(file, `${file} holds more than ${grouped(MAX_WORDS)} words. Give fewer of its pages.`);
      progress(number / pdf.numPages);
    }
    return pages;
  } finally {
    await pdf.loadingTask.destroy();
  }
}

/** The library, which comes when the first PDF does. It runs in the worker that asks for it. */
async function library() {
  const own = globalThis as unknown as Record<string, unknown> & { console: { warn: unknown } };
  own['pdfjsWorker'] ??= await import('pdfjs-dist/legacy/build/pdf.worker.mjs');
  // What it draws with is not there outside of browsers, and nothing is drawn: it need not say so.
  for (const name of ['DOMMatrix', 'ImageData', 'Path2D']) own[name] ??= class {};
  const { warn } = own.console;
  own.console.warn = () => undefined;
  try {
    return await import('pdfjs-dist/legacy/build/pdf.mjs');
  } finally {
    own.console.warn = warn;
  }
}

async function opened(bytes: Uint8Array, file: string): Promise<PDFDocumentProxy> {
  const { getDocument, VerbosityLevel } = await library();
  const task = getDocument({
    // The library takes its bytes for itself: it gets a copy, which a slice of a Buffer is not.
    data: new Uint8Array(bytes),
    // Nothing is drawn, and nothing comes from outside: no fonts, no scripts.
    disableFontFace: true,
    useSystemFonts: false,
    isEvalSupported: false,
    useWorkerFetch: false,
    useWasm: false,
    stopAtErrors: false,
    verbosity: VerbosityLevel.ERRORS,
  });
  try {
    return await task.promise;
  } catch (error) {
    await task.destroy();
    if ((error as Error).name === 'PasswordException')
      throw new ReadFailure(
        file,
        `${file} is locked with a password. Print it into a PDF without one, or ask for it so.`,
      );
    throw new ReadFailure(
      file,
      `${file} is a PDF that cannot be read: ${(error as Error).message.replace(/\.$/, '')}. It may be damaged; ask for it again.`,
    );
  }
}

async function pageOf(pdf: PDFDocumentProxy, number: number, file: string): Promise<Page> {
  try {
    const page = await pdf.getPage(number);
    const content = await page.getTextContent();
    const isMono = (item: TextItem) => content.styles[item.fontName]?.fontFamily === 'monospace';
    const made = placed(page, content.items as TextItem[], isMono);
    page.cleanup();
    return made;
  } catch (error) {
    throw new ReadFailure(
      file,
      `Page ${number} of ${file} cannot be read: ${(error as Error).message.replace(/\.$/, '')}. Give the other pages without it.`,
    );
  }
}

interface TextItem {
  str: string;
  /** From the letters to the page, as PDF has it: [a b c d e f]. */
  transform: readonly number[];
  width: number;
  height: number;
  fontName: string;
}

/** Words where they stand, the page turned so that most of them read from left to right. */
function placed(page: PDFPageProxy, items: readonly TextItem[], isMono: (item: TextItem) => boolean): Page {
  const viewport = page.getViewport({ scale: 1 });
  const [a, b, c, d, e, f] = viewport.transform as [number, number, number, number, number, number];
  const runs = items
    .filter((item) => typeof item.str === 'string' && item.str.trim() !== '' && stands(item))
    .map((item) => {
      const [ia, ib, , , ie, iff] = item.transform as [number, number, number, number, number, number];
      return {
        text: item.str,
        x: a * ie + c * iff + e,
        y: b * ie + d * iff + f,
        // Quarter turns that its letters run in, by the page as it is shown.
        turn: quarterTurns(a * ia + c * ib, b * ia + d * ib),
        length: item.width,
        size: item.height || Math.hypot(ia, ib),
        isMono: isMono(item),
      };
    });
  const turn = usual(runs.map((run) => run.turn));
  const [width, height] = turn % 2 === 1 ? [viewport.height, viewport.width] : [viewport.width, viewport.height];
  const words: PageWord[] = [];
  let aslant = 0;
  for (const run of runs) {
    if (run.turn !== turn) {
      aslant += run.text.trim().split(/\s+/).length;
      continue;
    }
    const [left, baseline] = turned(run.x, run.y, turn, viewport.width, viewport.height);
    const shares = letterShares(run.text, run.isMono);
    for (const match of run.text.matchAll(/\S+/g)) {
      words.push({
        text: match[0],
        left: left + shares[match.index]! * run.length,
        right: left + shares[match.index + match[0].length]! * run.length,
        baseline,
        size: run.size,
      });
    }
  }
  return { width, height, words, aslant };
}

/** Damaged pages have words at no place at all. */
function stands({ transform, width, height }: TextItem): boolean {
  return [...transform, width, height].every((value) => Math.abs(value) < FARTHEST);
}

/** How wide letters of most fonts are, as shares of their size; only where words begin within a run depends on it. */
const WIDTHS: readonly (readonly [letters: RegExp, width: number])[] = [
  [/[\sijlI.,:;|!']/, 0.26],
  [/[frt()[\]/-]/, 0.32],
  [/[mwMW@%]/, 0.84],
  [/\p{Lu}/u, 0.68],
];
const USUAL_WIDTH = 0.55;

/** Where each letter of a run begins, and the last one ends, as shares of the run's length. */
function letterShares(text: string, isMono: boolean): number[] {
  const widthOf = (letter: string) =>
    isMono ? 1 : (WIDTHS.find(([letters]) => letters.test(letter))?.[1] ?? USUAL_WIDTH);
  const ends = [0];
  for (let k = 0; k < text.length; k++) ends.push(ends[k]! + widthOf(text[k]!));
  return ends.map((end) => end / ends.at(-1)!);
}

/** 0: to the right, 1: down, 2: to the left, 3: up; -1 for what stands aslant. */
function quarterTurns(x: number, y: number): number {
  const length = Math.hypot(x, y);
  if (Math.abs(y) < 0.05 * length) return x > 0 ? 0 : 2;
  if (Math.abs(x) < 0.05 * length) return y > 0 ? 1 : 3;
  return -1;
}

function usual(turns: readonly number[]): number {
  const counts = [0, 1, 2, 3].map((turn) => turns.filter((one) => one === turn).length);
  return counts.indexOf(Math.max(...counts));
}

/** A place of a page, once the page is turned back by a number of quarters. */
function turned(x: number, y: number, turn: number, width: number, height: number): [number, number] {
  switch (turn) {
    case 1:
      return [y, width - x];
    case 2:
      return [width - x, height - y];
    case 3:
      return [height - y, x];
    default:
      return [x, y];
  }
}
