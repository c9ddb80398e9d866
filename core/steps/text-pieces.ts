/** Pieces of text as columns, with where each came from: shared by extract and split to columns. */

import type { Notice, StepResult } from '../kinds/step.ts';
import { Dictionary } from '../table/builder.ts';
import type { Table } from '../table/table.ts';
import { textView } from '../values/cell-text.ts';
import { counted, few } from '../values/counted.ts';
import { lookAt, withColumns } from './result.ts';

/**
 * One new column for each name, holding the piece at its place in what cut gives for each text.
 *
 * @param cut pieces of a text, null for a blank piece; undefined where the text does not fit
 */
export function piecesToColumns(
  input: Table,
  column: number,
  names: readonly string[],
  cut: (text: string) => readonly (string | null)[] | undefined,
  keep: boolean,
  notices: readonly Notice[] = [],
): StepResult {
  const { codes, texts } = textView(input.fields[column]!.column);
  const dictionaries = names.map(() => new Dictionary());
  const recodes = names.map(() => new Int32Array(texts.length).fill(-1));
  const misfit = new Uint8Array(texts.length);
  texts.forEach((text, code) => {
    const pieces = cut(text);
    if (pieces === undefined) {
      misfit[code] = 1;
      return;
    }
    names.forEach((_, n) => {
      const piece = pieces[n];
      if (piece !== undefined && piece !== null && piece !== '') recodes[n]![code] = dictionaries[n]!.code(piece);
    });
  });
  const misfits: number[] = [];
  const examples = new Set<string>();
  if (misfit.includes(1))
    for (let r = 0; r < codes.length; r++) {
      const code = codes[r]!;
      if (code < 0 || misfit[code] === 0) continue;
      misfits.push(r);
      examples.add(texts[code]!);
    }
  const added = names.map((name, n) => ({
    field: {
      name,
      nameOrigin: 'named' as const,
      column: {
        type: 'text' as const,
        codes: recoded(codes, recodes[n]!),
        dictionary: dictionaries[n]!.texts,
        distinct: true,
      },
    },
    origin: { cells: [{ role: 'value' as const, rows: { kind: 'same' as const }, column }], name: [] },
  }));
  const told = lookAt(
    misfits,
    keep ? 'after' : 'before',
    `${counted(misfits.length, 'cell')} did not fit: ${few([...examples])}`,
    keep ? input.fields[column]!.name : undefined,
  );
  return withColumns(input, column, added, keep ? new Set() : new Set([column]), [...notices, ...told]);
}

function recoded(codes: Int32Array, recode: Int32Array): Int32Array {
  const out = new Int32Array(codes.length);
  for (let r = 0; r < out.length; r++) out[r] = codes[r]! < 0 ? -1 : recode[codes[r]!]!;
  return out;
}
