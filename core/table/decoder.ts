/** The 32 characters in which windows-1252 differs from ISO-8859-1 (WHATWG Encoding, index windows-1252). */
const HIGH = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/** Some versions of Node take windows-1252 for ISO-8859-1. */
let mistaken: boolean | undefined;

export interface Decoder {
  decode(bytes: Uint8Array): string;
}

/**
 * @param encoding a WHATWG label
 * @throws RangeError for a label that is not known
 */
export function decoderOf(encoding: string): Decoder {
  const decoder = new TextDecoder(encoding, { ignoreBOM: true });
  if (decoder.encoding !== 'windows-1252') return decoder;
  mistaken ??= decoder.decode(Uint8Array.of(0x80)) !== '€';
  if (!mistaken) return decoder;
  return {
    decode: (bytes) =>
      decoder.decode(bytes).replace(/[\u0080-\u009f]/g, (character) => HIGH[character.charCodeAt(0) - 0x80]!),
  };
}
