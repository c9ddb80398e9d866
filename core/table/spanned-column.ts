/** Text columns over runs of bytes, whose codes and texts are made when somebody looks at them. */
import type { ByteTexts } from './byte-dictionary.ts';
import type { TextColumn } from './column-types.ts';
import type { Spans } from './spans.ts';

// Beside the column and not in it, so that a copy with other codes can never hold them.
const held = new WeakMap<object, Spans>();
/** What gives a column its runs when they are asked for. */
const later = new WeakMap<object, () => Spans>();

/** The runs behind a text column that has not been looked at as a whole yet. */
export function spansOf(column: TextColumn): Spans | undefined {
  const make = later.get(column);
  if (make === undefined) return held.get(column);
  later.delete(column);
  const spans = make();
  held.set(column, spans);
  return spans;
}

/** Whether a column holds runs, without asking for them. */
export function holdsSpans(column: TextColumn): boolean {
  return held.has(column) || later.has(column);
}

/** A text column over runs of bytes: its codes and dictionary are made when they are first asked for. */
export function spannedColumn(spans: Spans): TextColumn {
  const column = emptySpanned();
  held.set(column, spans);
  return column;
}

/** The same over runs that are made when they are first asked for. */
export function spannedLater(make: () => Spans): TextColumn {
  const column = emptySpanned();
  later.set(column, make);
  return column;
}

function emptySpanned(): TextColumn {
  let made: { codes: Int32Array; texts: ByteTexts } | undefined;
  const column = { type: 'text', distinct: true } as TextColumn;
  const make = () => {
    if (made === undefined) {
      made = spansOf(column)!.toDictionary();
      bytesOf.set(column, made.texts);
      held.delete(column);
    }
    return made;
  };
  Object.defineProperty(column, 'codes', { enumerable: true, get: () => make().codes });
  Object.defineProperty(column, 'dictionary', { enumerable: true, get: () => make().texts.texts });
  return column;
}

/** The texts behind the codes of a column, where they came from bytes. */
const bytesOf = new WeakMap<TextColumn, ByteTexts>();

/** The texts of a column's dictionary that are not made yet; undefined where they are. Its codes are made for it. */
export function textsUnmade(column: TextColumn): ByteTexts | undefined {
  if (holdsSpans(column)) void column.codes;
  const texts = bytesOf.get(column);
  return texts?.memory === undefined ? undefined : texts;
}

/** How many texts stand in the dictionary of a column, which is not made for it. */
export function textCount(column: TextColumn): number {
  return textsUnmade(column)?.count ?? column.dictionary.length;
}

/** A text of a column's dictionary, which is not made for it as a whole. */
export function dictionaryText(column: TextColumn, code: number): string {
  return bytesOf.get(column)?.text(code) ?? column.dictionary[code]!;
}

/** A column of other cells over the same dictionary, which stays unmade if it is. */
export function withCodes(column: TextColumn, codes: Int32Array): TextColumn {
  return Object.assign(withoutCodes(column), { codes });
}

/** All of a column but its codes. */
export function withoutCodes(column: TextColumn): TextColumn {
  const { type, distinct } = column;
  const texts = textsUnmade(column);
  if (texts === undefined) return { type, dictionary: column.dictionary, distinct } as TextColumn;
  const other = { type, distinct } as TextColumn;
  Object.defineProperty(other, 'dictionary', { enumerable: true, get: () => texts.texts });
  bytesOf.set(other, texts);
  return other;
}
