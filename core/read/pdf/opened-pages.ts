import { OpenedSources } from '../opened.ts';
import type { Source } from '../read-kind.ts';
import { type Page, pagesOf } from './page-words.ts';

const pages = new OpenedSources<readonly Page[]>();

/** Reads the pages of a PDF, which takes a while, so that they are there when it is read. */
export function openPages(bytes: Uint8Array, file: string, progress: (done: number) => void): Promise<void> {
  return pages.open(bytes, () => pagesOf(bytes, file, progress));
}

/** @throws ReadFailure */
export function openedPages(source: Source): readonly Page[] {
  return pages.of(source);
}
