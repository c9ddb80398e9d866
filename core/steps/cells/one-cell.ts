import { StepFailure } from '../../kinds/step.ts';
import { countedColumn, textColumn } from '../../table/builder.ts';
import type { Column } from '../../table/column.ts';
import { compilePatterns, readText } from '../../values/convert.ts';
import { NumberForm } from '../../values/number-text.ts';

/**
 * A column of one cell that can stand beside those of another column: the text read as its type.
 * @throws StepFailure when the text is no value of that type
 */
export function oneCell(column: Column, text: string, name: string): Column {
  if (column.type === 'text') return textColumn([text]);
  const type = column.type === 'received' ? 'number' : column.type;
  const { value, reason } = readText(text, {
    type,
    number: NumberForm.parse({}),
    patterns: compilePatterns(type, undefined, 'any', 1950),
  });
  if (reason === undefined) return countedColumn(type, [value]);
  if (column.type === 'received') return textColumn([text]);
  throw new StepFailure(`'${text}' cannot stand in ${name}, which holds ${type}: ${reason}.`, name);
}
