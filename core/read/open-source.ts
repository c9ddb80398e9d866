import { unpackAhead } from './archive.ts';
import { openPages } from './pdf/opened-pages.ts';
import { sniff } from './sniff.ts';

/**
 * Does what takes a library or the platform a while, so that a source can then be read at once: large entries of
 * archives are unpacked, pages are taken apart. Whoever sets a source calls it with the same bytes before.
 * @throws ReadFailure when the bytes are nothing that can be read
 */
export async function openSource(bytes: Uint8Array, file: string): Promise<void> {
  const format = sniff(bytes, file);
  if (format === 'pages') await openPages(bytes, file);
  else if (format !== 'text') await unpackAhead(bytes, file);
}
