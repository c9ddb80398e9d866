import { takeRows } from '../table/gather.ts';
import type { Table } from '../table/table.ts';
import { intVector } from '../table/vectors.ts';
import { cellText } from '../values/cell-text.ts';
import { compileFormula } from './compile.ts';
import { FormulaError } from './formula-error.ts';

/** What an expression gives in the first rows, or what is wrong with it and where in its text. */
export interface FormulaTrial {
  first: readonly string[];
  trouble?: { message: string; from: number; to: number };
}

/** Tries an expression on the first rows of a table. */
export function tryFormula(table: Table, text: string, rows = 5): FormulaTrial {
  if (text.trim() === '') return { first: [] };
  const few = takeRows(
    table,
    intVector(Math.min(rows, table.rows), (row) => row),
  );
  try {
    const column = compileFormula(text, few).column();
    return { first: Array.from({ length: few.rows }, (_, row) => cellText(column, row) ?? '') };
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error;
    return { first: [], trouble: { message: error.message, from: error.from, to: error.to } };
  }
}
