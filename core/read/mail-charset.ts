/** The character sets that parts of a mail message declare (RFC 2045, 5; RFC 2046, 4.1.2). */

import type PostalMime from 'postal-mime';
import { decoderOf } from '../table/decoder.ts';

/** A part of a message, as the library keeps it while it reads. */
interface Part {
  content?: ArrayBuffer | null;
  contentType: { multipart: string | false; parsed: { value: string; params: Record<string, string | undefined> } };
}

/** What the library does with each part once its content is whole. */
interface PartCollector {
  collectNode(part: Part, ...rest: readonly unknown[]): Promise<void>;
}

const MEDIA = /^(?:image|audio|video|font)\//i;
/** Code pages of DOS, which the Encoding standard does not have. */
const DOS = /^(?:x-)?(?:cp|ibm|dos|oem|pc)?[-_ ]?(437|720|737|775|850|852|855|857|858|86[0-9]|874)$/i;

/**
 * Makes a reader of mail decode each text part and text attachment by the character set it declares. They become UTF-8
 * with a byte order mark. Parts that declare none, or one that does not fit, keep their bytes.
 */
export function decodeDeclared(reader: PostalMime): void {
  const collector = reader as unknown as PartCollector;
  const collect = collector.collectNode.bind(reader);
  collector.collectNode = async (part, ...rest) => {
    const { multipart, parsed } = part.contentType;
    const label = parsed.params.charset?.trim();
    if (!multipart && label && part.content && !MEDIA.test(parsed.value)) {
      const text = await decoded(new Uint8Array(part.content), label);
      if (text !== undefined) {
        const isBody = /^text\/(?:plain|html)$/i.test(parsed.value);
        part.content = new TextEncoder().encode(isBody ? text : `\ufeff${text}`).buffer;
        parsed.params.charset = 'utf-8';
      }
    }
    return collect(part, ...rest);
  };
}

/** Returns undefined where the bytes are binary or not valid in this character set. */
async function decoded(bytes: Uint8Array, label: string): Promise<string | undefined> {
  if (/^(?:utf-?(?:8|16|32)\w*|us-?ascii|ascii|binary)$/i.test(label) || isBinary(bytes)) return undefined;
  const dos = DOS.exec(label)?.[1];
  if (dos !== undefined && dos !== '866') {
    const { cptable } = await import('@e965/xlsx/dist/cpexcel.full.mjs');
    const characters = cptable[Number(dos)]?.dec;
    return characters && Array.from(bytes, (byte) => characters[byte] ?? '\ufffd').join('');
  }
  try {
    const text = decoderOf(label).decode(bytes);
    return text.includes('\ufffd') ? undefined : text;
  } catch {
    return undefined;
  }
}

/** Archives, workbooks and the like hold zeros near their beginning. */
function isBinary(bytes: Uint8Array): boolean {
  return bytes.subarray(0, 4096).includes(0);
}
