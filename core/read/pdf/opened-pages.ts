import { Opened } from '../opened.ts';
import { ReadFailure } from '../read-failure.ts';
import type { Source } from '../read-kind.ts';
import { type Page, pagesOf } from './page-words.ts';

/** Pages by the bytes that they were read from, or what went wrong with them. */
const opened = new Opened<readonly Page[] | ReadFailure>();

/** Reads the pages of a PDF, which takes a while, so that they are there when it is read. */
export async function openPages(bytes: Uint8Array, file: string): Promise<void> {
  if (opened.get(bytes) !== undefined) return;
  try {
    opened.set(bytes, await pagesOf(bytes, file));
  } catch (error) {
    if (!(error instanceof ReadFailure)) throw error;
    // Whoever reads it is told.
    opened.set(bytes, error);
  }
}

/** @throws ReadFailure */
export function openedPages(source: Source): readonly Page[] {
  const pages = opened.get(source.bytes);
  if (pages === undefined) throw new ReadFailure(source.name, `${source.name} has not been opened yet. Open it again.`);
  if (pages instanceof ReadFailure) throw pages;
  return pages;
}
