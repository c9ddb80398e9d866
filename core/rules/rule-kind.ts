import { z } from 'zod';
import type { Editor } from '../kinds/sentence.ts';
import { needColumn } from '../kinds/step.ts';
import type { Table } from '../table/table.ts';
import { flags } from '../table/vectors.ts';
import { textView } from '../values/cell-text.ts';

/** A rule without the word that says which kind it is. */
export type RuleParams<R> = Omit<R, 'test'>;

/** One kind of test on a row alone: all that the application knows of it. */
export interface RuleKind<R extends { test: string }> {
  schema: z.ZodType<R>;
  /** What the rule's editor calls it. */
  title: string;
  /** What it begins with, for the column and the text in hand. */
  start(column: string, text: string): RuleParams<R>;
  /** Params that are edited beside its column. */
  fields?: readonly { param: string; edit: Editor }[];
  /** It asks what other rows hold. */
  looksAround?: true;
  /** The rule in words, as part of a sentence. */
  text(rule: R): string;
  /**
   * 1 for each row that follows it.
   * @throws StepFailure when it names a column that is gone, or what it compares with is broken
   */
  mask(rule: R, table: Table): Uint8Array;
}

export function ruleSchema<T extends string, S extends z.ZodRawShape>(test: T, shape: S, about?: string) {
  const word = z.literal(test);
  return z.object({ test: about === undefined ? word : word.describe(about), ...shape });
}

/** 1 where the column's cell, as it reads, passes the test; each different text is tested once. */
export function viewMask(table: Table, column: string, test: (text: string) => boolean): Uint8Array {
  const { codes, texts } = textView(table.fields[needColumn(table, column)]!.column);
  const holds = flags(texts, (text) => test(text));
  const mask = new Uint8Array(table.rows);
  for (let r = 0; r < mask.length; r++) {
    const code = codes[r]!;
    mask[r] = code < 0 ? 0 : holds[code]!;
  }
  return mask;
}

export const columnText = (column: string) => column || 'a column';
