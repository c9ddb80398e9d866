/** Characters by their bytes, in UTF-8 and every other encoding that keeps ASCII as it is. */
export const TAB = 9;
export const LINE = 10;
export const RETURN = 13;
export const SPACE = 32;
export const EXCLAMATION = 33;
export const QUOTE = 34;
export const APOSTROPHE = 39;
export const PLUS = 43;
export const COMMA = 44;
export const MINUS = 45;
export const POINT = 46;
export const SLASH = 47;
export const ZERO = 48;
export const NINE = 57;
export const COLON = 58;
export const LESS = 60;
export const EQUALS = 61;
export const GREATER = 62;
export const QUESTION = 63;
export const OPEN_LIST = 91;
export const BACKSLASH = 92;
export const CLOSE_LIST = 93;
export const OPEN = 123;
export const CLOSE = 125;

/** A text of ASCII as its bytes. */
export function ascii(text: string): Uint8Array {
  return Uint8Array.from(text, (letter) => letter.charCodeAt(0));
}

/** Whether these letters stand at a place. */
export function standsAt(bytes: Uint8Array, at: number, letters: Uint8Array): boolean {
  for (let k = 0; k < letters.length; k++) if (bytes[at + k] !== letters[k]) return false;
  return true;
}

/** A blank within a line or between two. */
export function isSpace(byte: number): boolean {
  return byte === SPACE || byte === LINE || byte === RETURN || byte === TAB;
}
