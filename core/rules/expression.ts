import type { z } from 'zod';
import { type CompiledFormula, compileFormula } from '../formula/compile.ts';
import { FormulaError, placedMessage } from '../formula/formula-error.ts';
import { expressionText } from '../kinds/param-marks.ts';
import { StepFailure } from '../kinds/step.ts';
import type { Table } from '../table/table.ts';
import { type RuleKind, ruleSchema } from './rule-kind.ts';

const schema = ruleSchema('expression', { text: expressionText() });

export const expression = {
  schema,
  title: 'a condition holds',
  start: (column) => ({ text: `"${column}" is not null` }),
  fields: [{ param: 'text', edit: { as: 'text', label: 'Text', optional: true, blank: '' } }],
  text: ({ text }) => text || 'an expression holds',
  mask: ({ text }, table) => conditionMask(text, table),
} satisfies RuleKind<z.infer<typeof schema>>;

/**
 * 1 where a SQL condition is true.
 * @throws StepFailure with the place of what is wrong, or the first row in which it cannot be determined
 */
export function conditionMask(text: string, table: Table): Uint8Array {
  const { mask, failed } = formulaOf(text, table).mask();
  const first = failed.entries().next().value;
  if (first !== undefined)
    throw new StepFailure(`The condition ${text} cannot be checked in row ${first[0] + 1}: ${first[1]}.`);
  return mask;
}

/** The compiled expression. @throws StepFailure with the place of what is wrong */
export function formulaOf(text: string, table: Table): CompiledFormula {
  try {
    return compileFormula(text, table);
  } catch (error) {
    if (error instanceof FormulaError) throw new StepFailure(placedMessage(error, text));
    throw error;
  }
}
