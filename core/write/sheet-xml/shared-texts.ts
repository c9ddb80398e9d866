import { TextBytes } from '../rows/text-bytes.ts';

/** The texts of a workbook, each once (ISO/IEC 29500-1, 18.4.9). */
export class SharedTexts {
  private readonly indices = new Map<string, number>();

  index(text: string): number {
    let index = this.indices.get(text);
    if (index === undefined) {
      index = this.indices.size;
      this.indices.set(text, index);
    }
    return index;
  }

  bytes(): Uint8Array<ArrayBuffer> {
    const out = new TextBytes();
    out.add(
      `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" uniqueCount="${this.indices.size}">`,
    );
    for (const text of this.indices.keys())
      out.add(`<si><t${EDGED.test(text) ? ' xml:space="preserve"' : ''}>${escapeXml(text)}</t></si>`);
    out.add('</sst>');
    return out.all();
  }
}

/** Blanks that readers of XML may leave out. */
const EDGED = /^\s|\s$|[\t\n]|\s\s/;

// biome-ignore lint/suspicious/noControlCharactersInRegex: these are the characters that XML has no room for.
const UNFIT = /[\u0000-\u0008\u000b-\u001f\ufffe\uffff]/g;
const MARKED = /[&<>"]|_x[0-9a-f]{4}_/i;

/**
 * A text or attribute of Office Open XML. Characters that XML does not hold are written by their number, and texts that
 * read like such a number are escaped themselves (ISO/IEC 29500-1, 22.9.2.19: ST_Xstring).
 */
export function escapeXml(text: string): string {
  const plain = MARKED.test(text)
    ? text
        .replaceAll('&', '&amp;')
        .replaceAll('<', '&lt;')
        .replaceAll('>', '&gt;')
        .replaceAll('"', '&quot;')
        .replace(/_(?=x[0-9a-f]{4}_)/gi, '_x005F_')
    : text;
  return plain.replace(UNFIT, (character) => `_x${character.charCodeAt(0).toString(16).padStart(4, '0')}_`);
}
