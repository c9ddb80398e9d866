import { unpackAhead } from './archive.ts';
import { openPages } from './pdf/opened-pages.ts';
import { ReadFailure } from './read-failure.ts';
import { openFiles } from './read-files.ts';
import { type SourceFormat, sniff } from './sniff.ts';
import { openTables } from './tables/opened-tables.ts';

/**
 * Does what takes a library or the platform a while, so that a source can then be read at once: large entries of
 * archives are unpacked, pages are taken apart. Whoever sets a source calls it with the same bytes before. What goes
 * wrong is told when the source is read.
 */
export async function openSource(bytes: Uint8Array, file: string): Promise<void> {
  const format = formatOf(bytes, file);
  if (format === 'pages') await openPages(bytes, file);
  else if (format === 'tables') await openTables(bytes, file);
  else if (format === 'files') {
    await unpackAhead(bytes, file);
    for (const one of openFiles({ name: file, bytes })) await openSource(one.bytes, one.name);
  } else if (format !== undefined && format !== 'text') await unpackAhead(bytes, file);
}

function formatOf(bytes: Uint8Array, file: string): SourceFormat | undefined {
  try {
    return sniff(bytes, file);
  } catch (error) {
    if (error instanceof ReadFailure) return undefined;
    throw error;
  }
}
