import { readDelimitedWords } from './delimited/read-delimited.ts';
import { readPdfWords } from './pdf/read-pdf.ts';
import { readBlocksWords } from './read-blocks.ts';
import { readFilesWords } from './read-files.ts';
import { readFixedWidthWords } from './read-fixed-width.ts';
import type { AnyReadWords, ReadWords } from './read-kind.ts';
import { readNestedWords } from './read-nested.ts';
import { readPatternWords } from './read-pattern.ts';
import { readSheetsWords } from './read-sheets.ts';
import type { SourceFormat } from './sniff.ts';
import { readTablesWords } from './tables/read-tables.ts';

function listed<P extends { source: string }>(words: ReadWords<P>): AnyReadWords {
  return words as unknown as AnyReadWords;
}

/** What kinds of reading are called, ask and say, by their names. What they do stands in catalogue.ts. */
export const READING_WORDS: ReadonlyMap<string, AnyReadWords> = new Map(
  [
    listed(readSheetsWords),
    listed(readDelimitedWords),
    listed(readFixedWidthWords),
    listed(readPatternWords),
    listed(readBlocksWords),
    listed(readNestedWords),
    listed(readPdfWords),
    listed(readTablesWords),
    listed(readFilesWords((kind) => READING_WORDS.get(kind))),
  ].map((words) => [words.kind, words]),
);

/** Readings that a source of each format may have, the most likely first. */
export const READINGS_OF_FORMAT: Record<SourceFormat, readonly string[]> = {
  workbook: ['read-sheets'],
  text: ['read-delimited', 'read-fixed-width', 'read-pattern', 'read-blocks', 'read-nested'],
  page: ['read-sheets'],
  pages: ['read-pdf'],
  tables: ['read-tables'],
  files: ['read-files'],
};
