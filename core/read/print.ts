/** What stands where on printed pages. */

/** In points from the upper left corner of the page as it is read. */
export interface PageWord {
  text: string;
  left: number;
  right: number;
  /** Where letters stand on. */
  baseline: number;
  /** Of the letters. */
  size: number;
}

/** Words on one baseline, from the left. */
export interface PageLine {
  baseline: number;
  /** Of its largest letters. */
  size: number;
  words: readonly PageWord[];
}

/** Printed pages, in points from their upper left corners. */
export interface Print {
  /** Where columns begin, but for the first. */
  cuts: readonly number[];
  pages: readonly PrintedPage[];
}

export interface PrintedPage {
  number: number;
  width: number;
  height: number;
  /** The row of the part that its first line is. */
  first: number;
  /** From the top; each is a row of the part. */
  lines: readonly PageLine[];
}

/** The page of a print that a row stands on. */
export function pageOfRow({ pages }: Print, row: number): PrintedPage {
  return pages.findLast((page) => page.first <= row) ?? pages[0]!;
}
