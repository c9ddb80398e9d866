import { Dictionary } from '../../table/builder.ts';
import type { Column } from '../../table/column.ts';
import { textView } from '../../values/cell-text.ts';

export interface MappedColumn {
  column: Column;
  /** Cells that read differently now. */
  changed: number;
}

/**
 * The column with every text, as it reads, mapped to another (null makes it blank). Each different text is mapped
 * once. A column in which nothing changes is given back as it is, so that numbers and dates stay what they are.
 */
export function mapTexts(column: Column, map: (text: string) => string | null): MappedColumn {
  const { codes, texts } = textView(column);
  const dictionary = new Dictionary();
  const recode = new Int32Array(texts.length);
  const differs = new Uint8Array(texts.length);
  texts.forEach((text, code) => {
    const next = map(text);
    differs[code] = next === text ? 0 : 1;
    recode[code] = next === null ? -1 : dictionary.code(next);
  });
  const out = new Int32Array(codes.length);
  let changed = 0;
  for (let r = 0; r < codes.length; r++) {
    const code = codes[r]!;
    if (code < 0) {
      out[r] = -1;
      continue;
    }
    out[r] = recode[code]!;
    changed += differs[code]!;
  }
  if (changed === 0) return { column, changed };
  return { column: { type: 'text', codes: out, dictionary: dictionary.texts, distinct: true }, changed };
}
