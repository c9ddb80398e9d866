/** One character that may be any, as _ in a pattern of LIKE. */
const ANY = null;

/**
 * LIKE of SQL (ISO/IEC 9075-2, 8.5): % stands for any text, _ for one character. The pieces between the % are found one
 * after the other from the left, which never has to go back.
 */
export class Like {
  /** Characters of the pieces between the % signs. */
  private readonly pieces: (string | null)[][] = [[]];

  /** @param escaped character before which % and _ stand for themselves */
  constructor(pattern: string, escaped?: string) {
    const own = [...pattern];
    for (let k = 0; k < own.length; k++) {
      const character = own[k]!;
      const last = this.pieces.at(-1)!;
      if (escaped !== undefined && character === escaped) last.push(own[++k] ?? '');
      else if (character === '%') this.pieces.push([]);
      else last.push(character === '_' ? ANY : character);
    }
  }

  test(text: string): boolean {
    const characters = [...text];
    const [first, ...rest] = this.pieces;
    if (!standsAt(first!, characters, 0)) return false;
    const last = rest.pop();
    if (last === undefined) return first!.length === characters.length;
    let at = first!.length;
    for (const piece of rest) {
      while (at + piece.length <= characters.length && !standsAt(piece, characters, at)) at++;
      at += piece.length;
    }
    const end = characters.length - last.length;
    return at <= end && standsAt(last, characters, end);
  }
}

function standsAt(piece: readonly (string | null)[], characters: readonly string[], at: number): boolean {
  return at + piece.length <= characters.length && piece.every((one, k) => one === ANY || one === characters[at + k]);
}
