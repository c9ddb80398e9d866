import { brief } from '../values/text.ts';

/** Something is wrong in the text of an expression, from one character up to another (counted from 0). */
export class FormulaError extends Error {
  override name = 'FormulaError';
  constructor(
    message: string,
    readonly from: number,
    readonly to: number,
  ) {
    super(brief(message));
  }
}

/** The message with the place in words, and the text around it. */
export function placedMessage(error: FormulaError, text: string): string {
  const near = text.slice(error.from, Math.max(error.to, error.from + 1)).trim();
  const where = near === '' ? 'at the end' : `at character ${error.from + 1} ('${brief(near)}')`;
  return `${error.message}, ${where}.`;
}
